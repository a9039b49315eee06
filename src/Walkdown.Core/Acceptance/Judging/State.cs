namespace Walkdown.Core.Acceptance;

/// <summary>State of a row. Stale: it was read, and what came after voids the reading. NotJudged: it was read, and nothing says what is
/// right.</summary>
public enum State
{
    /// <summary>Inside the limits with the whole accuracy band.</summary>
    In,

    /// <summary>The band lies across a limit.</summary>
    TooClose,

    /// <summary>Outside.</summary>
    Out,

    /// <summary>Nobody read it.</summary>
    NotTaken,

    /// <summary>Read, and voided since.</summary>
    Stale,

    /// <summary>Not applicable here, with a reason.</summary>
    NotApplicable,

    /// <summary>Read, and nothing says what is right.</summary>
    NotJudged,
}
