namespace Walkdown.Core.Power;

/// <summary>Who starts when power comes back.</summary>
public enum StartStageKind
{
    /// <summary>Recorders.</summary>
    Recorders,

    /// <summary>What is in the cabinet.</summary>
    Cabinet,

    /// <summary>Monitors.</summary>
    Monitors,

    /// <summary>Cameras.</summary>
    Cameras,
}
