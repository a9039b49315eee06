namespace Walkdown.Core.Acceptance;

/// <summary>What a row is about.</summary>
public enum SubjectKind
{
    /// <summary>A place on the plan.</summary>
    Place,

    /// <summary>The unit that hangs there.</summary>
    Unit,

    /// <summary>A head of it.</summary>
    Head,

    /// <summary>A run.</summary>
    Run,

    /// <summary>A port.</summary>
    Port,

    /// <summary>A recorder's channel.</summary>
    Channel,
}
