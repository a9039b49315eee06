namespace Walkdown.Core.Sealing;

/// <summary>ErasedElsewhere: all that is left is as it was sealed, and another key than the pack's says what was taken out; who trusts that
/// key may trust the pack.</summary>
public enum SealOutcome
{
    /// <summary>As it was sealed.</summary>
    Untouched,

    /// <summary>Altered since.</summary>
    Altered,

    /// <summary>Sealed by another key.</summary>
    OtherKey,

    /// <summary>Not sealed.</summary>
    NotSealed,

    /// <summary>Not to be read.</summary>
    Unreadable,

    /// <summary>Parts were erased lawfully elsewhere.</summary>
    ErasedElsewhere,
}
