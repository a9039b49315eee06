using Walkdown.Core.Measures;

namespace Walkdown.Core.Catalogues;

/// <summary>A limit as data: the number, and where it comes from.</summary>
public sealed record LimitEntry
{
    /// <summary>Id; never renamed.</summary>
    public required string Id { get; init; }

    /// <summary>Least, in its unit; null: none.</summary>
    public double? Min { get; init; }

    /// <summary>Greatest, in its unit; null: none.</summary>
    public double? Max { get; init; }

    /// <summary>Unit of both.</summary>
    public required Unit Unit { get; init; }

    /// <summary>Where it comes from.</summary>
    public required string Source { get; init; }

    /// <summary>The number still has to be held against the text of its source: a mark for who edits limits, never printed.</summary>
    public bool Verify { get; init; }

    /// <summary>What it is for.</summary>
    public required string Purpose { get; init; }
}
