namespace Walkdown.Core.Acceptance;

/// <summary>How much a Fault weighs.</summary>
public enum Severity
{
    /// <summary>It forbids acceptance by itself.</summary>
    Critical,

    /// <summary>It has to be repaired.</summary>
    Major,

    /// <summary>It is remarked.</summary>
    Minor,
}
