namespace Walkdown.Core.Cabling;

/// <summary>What else is known when a map is analysed.</summary>
public sealed record WireMapContext
{
    /// <summary>A shield is planned.</summary>
    public bool ShieldExpected { get; init; }

    /// <summary>Couples found twisted together, near pins; null when no pair test was made.</summary>
    public IReadOnlyList<(int A, int B)>? TwistedPairsNear { get; init; }

    /// <summary>Label that the far unit should show; null: not known.</summary>
    public string? ExpectedRemoteLabel { get; init; }

    /// <summary>Label that it shows; null: not read.</summary>
    public string? FoundRemoteLabel { get; init; }

    /// <summary>Both ends cross pairs over by themselves.</summary>
    public bool AutoCrossover { get; init; } = true;

    /// <summary>Metres from the near end by near pin.</summary>
    public IReadOnlyDictionary<int, double>? OpenDistanceMetres { get; init; }

    /// <summary>Metres; null: not known.</summary>
    public double? RunLengthMetres { get; init; }

    /// <summary>Where somebody worked last; null: nowhere.</summary>
    public CableEnd? LastWorkedEnd { get; init; }
}
