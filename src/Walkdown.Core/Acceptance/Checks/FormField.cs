using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>What a field of a form takes.</summary>
public enum FieldEntry
{
    /// <summary>A number in the field's unit.</summary>
    Number,

    /// <summary>A whole number of things counted.</summary>
    Count,

    /// <summary>One of the field's words.</summary>
    Word,

    /// <summary>A few words, such as a name.</summary>
    Text,
}

/// <summary>One field of a check that asks for several at once. Its words: <c>field.CHECK.ID</c>, of its words
/// <c>field.CHECK.ID.WORD</c>.</summary>
public sealed record FormField
{
    /// <summary>Id within its check; never renamed.</summary>
    public required string Id { get; init; }

    /// <summary>What it takes.</summary>
    public required FieldEntry Entry { get; init; }

    /// <summary>Unit of its number.</summary>
    public Unit Unit { get; init; }

    /// <summary>What a number may be at all; anything outside is a slip.</summary>
    public PlausibleRange? Plausible { get; init; }

    /// <summary>Its words.</summary>
    public ImmutableArray<string> Words { get; init; } = [];

    /// <summary>Words that are right; empty: its word is only told.</summary>
    public ImmutableArray<GoodWord> Good { get; init; } = [];

    /// <summary>Id in the limit set of what its number must keep; null: no limit of its own.</summary>
    public string? Limit { get; init; }

    /// <summary>It may be left out.</summary>
    public bool Optional { get; init; }

    /// <summary>Where it is asked.</summary>
    public Rule Applies { get; init; } = new();
}

/// <summary>How many lines a form takes, and how far apart.</summary>
public sealed record FormLines
{
    /// <summary>Fewest.</summary>
    public int Least { get; init; } = 1;

    /// <summary>Most.</summary>
    public int Most { get; init; } = 1;

    /// <summary>The figure of the limit set that says how many seconds lie between two lines at least; null: each at its own
    /// time.</summary>
    public string? SecondsApart { get; init; }
}
