using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Entries;

/// <summary>What came of an entry at the door: what it adds, or the refusal in a technician's words. One of the two.</summary>
public sealed record EntryDecision
{
    private EntryDecision() { }

    /// <summary>Why not; null where it is taken.</summary>
    public Message? Refused { get; private init; }

    /// <summary>The member of the request that the refusal is about.</summary>
    public string? Field { get; private init; }

    /// <summary>Readings that are added.</summary>
    public ImmutableArray<Reading> Readings { get; private init; } = [];

    /// <summary>What is added of other sorts.</summary>
    public ImmutableArray<CardEvent> Events { get; private init; } = [];

    /// <summary>Faults that are raised.</summary>
    public ImmutableArray<FaultRecord> Faults { get; private init; } = [];

    /// <summary>Words added to Faults.</summary>
    public ImmutableArray<FaultWord> FaultWords { get; private init; } = [];

    /// <summary>The unit that hangs from now on; null where it is the one before.</summary>
    public UnitSwap? Swap { get; init; }

    /// <summary>Nothing is taken.</summary>
    /// <param name="code">Of the sentence.</param>
    /// <param name="field">The member of the request.</param>
    public static EntryDecision Refuse(string code, string? field) => Refuse(new Message(code), field);

    /// <inheritdoc cref="Refuse(string, string?)"/>
    public static EntryDecision Refuse(Message why, string? field) => new() { Refused = why, Field = field };

    /// <summary>A reading is added.</summary>
    public static EntryDecision Of(Reading reading) => new() { Readings = [reading] };

    /// <summary>Something is added that is no reading.</summary>
    public static EntryDecision Of(CardEvent added) => new() { Events = [added] };

    /// <summary>A Fault is raised.</summary>
    public static EntryDecision Of(FaultRecord fault) => new() { Faults = [fault] };

    /// <summary>A word is added to a Fault.</summary>
    public static EntryDecision Of(FaultWord word) => new() { FaultWords = [word] };
}
