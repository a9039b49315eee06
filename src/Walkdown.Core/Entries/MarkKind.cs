namespace Walkdown.Core.Entries;

/// <summary>What many Cards are marked as at once.</summary>
public enum MarkKind
{
    /// <summary>Held up by somebody.</summary>
    Blocked,

    /// <summary>Put off by choice.</summary>
    SetAside,

    /// <summary>Free again.</summary>
    Free,

    /// <summary>Restarted.</summary>
    Restarted,
}
