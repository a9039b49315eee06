namespace Walkdown.Core.Register;

/// <summary>The sign before the decimals in a file's texts. Unknown: nothing in the file shows it.</summary>
public enum DecimalSign
{
    /// <summary>Nothing tells.</summary>
    Unknown,

    /// <summary>A point.</summary>
    Point,

    /// <summary>A comma.</summary>
    Comma,
}
