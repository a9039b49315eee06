namespace Walkdown.Core.Acceptance;

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
}
