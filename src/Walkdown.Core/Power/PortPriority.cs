namespace Walkdown.Core.Power;

/// <summary>Who loses power last.</summary>
public enum PortPriority
{
    /// <summary>Last of all.</summary>
    Critical,

    /// <summary>Later.</summary>
    High,

    /// <summary>First.</summary>
    Low,
}
