namespace Walkdown.Core.Cabling;

/// <summary>Whether a label is the one expected.</summary>
public enum LabelState
{
    /// <summary>Nobody asked.</summary>
    NotChecked,

    /// <summary>It could not be read.</summary>
    NotRead,

    /// <summary>It is.</summary>
    Match,

    /// <summary>It is another.</summary>
    Mismatch,
}
