namespace Walkdown.Core.Handover;

/// <summary>What a step of a number's history is.</summary>
public enum TraceKind
{
    /// <summary>What was read.</summary>
    Reading,

    /// <summary>How sure it is.</summary>
    Accuracy,

    /// <summary>What was expected.</summary>
    Expected,

    /// <summary>One limit.</summary>
    Limit,

    /// <summary>All limits together.</summary>
    Window,

    /// <summary>How it was decided.</summary>
    Decision,

    /// <summary>A sum.</summary>
    Sum,
}
