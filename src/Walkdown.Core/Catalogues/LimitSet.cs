namespace Walkdown.Core.Catalogues;

/// <summary>Limits and figures of one edition.</summary>
public sealed record LimitSet
{
    /// <summary>The edition's name.</summary>
    public required string Edition { get; init; }

    /// <summary>Limits.</summary>
    public ImmutableArray<LimitEntry> Limits { get; init; } = [];

    /// <summary>Figures that functions need.</summary>
    public ImmutableArray<FigureEntry> Figures { get; init; } = [];
}
