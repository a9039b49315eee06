namespace Walkdown.Core.Cabling;

/// <summary>What is wrong with a map; several can be.</summary>
public enum WireMapClass
{
    /// <summary>Nothing.</summary>
    StraightThrough,

    /// <summary>The ends follow two schemes.</summary>
    T568aT568bMixTwoPairCrossover,

    /// <summary>A crossover of all four pairs.</summary>
    FullGigabitCrossover,

    /// <summary>Rolled: in reverse order.</summary>
    Rolled,

    /// <summary>A conductor does not arrive.</summary>
    Open,

    /// <summary>Conductors are joined.</summary>
    Short,

    /// <summary>The two of a pair are exchanged.</summary>
    ReversedPair,

    /// <summary>Two pairs are exchanged.</summary>
    TransposedPairs,

    /// <summary>Conductors of several pairs are exchanged.</summary>
    CrossedConductors,

    /// <summary>Right pins, wrong twists.</summary>
    SplitPair,

    /// <summary>Only two pairs are fitted.</summary>
    TwoPairCable,

    /// <summary>The shield does not arrive.</summary>
    ShieldOpen,

    /// <summary>A shield where none is planned.</summary>
    ShieldPresentNotExpected,

    /// <summary>A conductor arrives on the shield.</summary>
    ConductorOnShield,

    /// <summary>A conductor is joined to the shield.</summary>
    ShortToShield,

    /// <summary>Another run's label.</summary>
    LabelMismatch,
}
