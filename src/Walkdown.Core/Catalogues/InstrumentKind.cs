using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Catalogues;

/// <summary>A kind of instrument with what its data sheet promises.</summary>
public sealed record InstrumentKind
{
    /// <summary>Id; never renamed.</summary>
    public required string Id { get; init; }

    /// <summary>What it measures, how well.</summary>
    public ImmutableArray<InstrumentFunction> Functions { get; init; } = [];

    /// <summary>The tools of a check (<see cref="CheckDefinition.Tools"/>) that it is; empty: nobody said.</summary>
    public ImmutableArray<string> Tools { get; init; } = [];

    /// <summary>Held against what is measured, like a tape: a check that wants it is read with no other kind.</summary>
    public bool ByHand { get; init; }

    /// <summary>Code of its words.</summary>
    public string TextKey => "instrument." + Id;
}
