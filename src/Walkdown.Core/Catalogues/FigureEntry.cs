namespace Walkdown.Core.Catalogues;

/// <summary>A figure a limit function or an expectation works with.</summary>
public sealed record FigureEntry
{
    /// <summary>Id; never renamed.</summary>
    public required string Id { get; init; }

    /// <summary>The figure, in the unit that its id names.</summary>
    public required double Value { get; init; }

    /// <summary>Where it comes from.</summary>
    public required string Source { get; init; }

    /// <summary>The number still has to be held against the text of its source: a mark for who edits limits, never printed.</summary>
    public bool Verify { get; init; }
}
