using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>A field of a form as one kind of device has it.</summary>
/// <param name="Field">As the catalogue says it.</param>
/// <param name="Name">The code of its words.</param>
/// <param name="Good">Words that are right here; empty: none is asked for.</param>
/// <param name="Limit">What its number must keep; null: nothing.</param>
internal sealed record AskedField(FormField Field, string Name, ImmutableArray<string> Good, Limit? Limit);

/// <summary>One row that the Card will have.</summary>
public sealed record PlannedRow(CheckKey Key, CheckDefinition Check, bool Required)
{
    private string? _id;

    /// <summary>The key in one word.</summary>
    public string Id => _id ??= Key.ToString();

    /// <summary>The check as devices of this kind and these features have it.</summary>
    internal Outline.Entry Entry { get; init; } = null!;

    /// <summary>Another row, work or a day may make it due (<see cref="CheckDefinition.DueWhen"/>).</summary>
    internal bool MayBeDue => Entry.MayBeDue;

    internal CompiledCheck Compiled => Entry.Compiled;

    /// <summary>Items of its list that the device has.</summary>
    internal ImmutableArray<CheckItem> Items => Entry.Items;

    /// <summary>The same as a Card shows them.</summary>
    internal ImmutableArray<CardItem> CardItems => Entry.CardItems;

    /// <summary>Fields of its form that the device has.</summary>
    internal ImmutableArray<AskedField> Fields => Entry.Fields;

    /// <summary>Words of its choice that are right here, of each part.</summary>
    internal ImmutableArray<GoodWord> Good => Entry.Good;
}
