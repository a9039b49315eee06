namespace Walkdown.Core.Measures;

/// <summary>Why a value was refused. A refused calculation gives no number and no verdict.</summary>
public enum BadInputReason
{
    /// <summary>Missing.</summary>
    Missing,

    /// <summary>No number.</summary>
    NotANumber,

    /// <summary>No whole number.</summary>
    NotAnInteger,

    /// <summary>Too small.</summary>
    BelowMinimum,

    /// <summary>Too large.</summary>
    AboveMaximum,

    /// <summary>Not one of those that there are.</summary>
    UnknownValue,

    /// <summary>Contradicts another.</summary>
    Inconsistent,

    /// <summary>Empty.</summary>
    Empty,
}
