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

    /// <summary>Another row, work or a day may make it due (<see cref="CheckDefinition.DueWhen"/>).</summary>
    internal bool MayBeDue { get; init; }

    internal CompiledCheck Compiled { get; init; } = null!;

    /// <summary>Items of its list that the device has.</summary>
    internal ImmutableArray<CheckItem> Items { get; init; } = [];

    /// <summary>The same as a Card shows them.</summary>
    internal ImmutableArray<CardItem> CardItems { get; init; } = [];

    /// <summary>Fields of its form that the device has.</summary>
    internal ImmutableArray<AskedField> Fields { get; init; } = [];
}
