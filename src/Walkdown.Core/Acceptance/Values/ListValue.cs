using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Items of a list that are the exception: missing from a pack, in the way of the work, not confirmed. Empty: all is
/// well.</summary>
public sealed record ListValue(ImmutableArray<string> Marked) : ReadingValue
{
    /// <inheritdoc/>
    public override bool Suits(EntryKind entry) => entry == EntryKind.List;

    /// <inheritdoc/>
    public override Message? Refuse(CheckDefinition check) =>
        Marked.FirstOrDefault(m => check.Items.All(i => i.Id != m)) is { } unknown ? new Message("reading.unknown-item", Short(unknown))
        : Marked.Distinct().Count() != Marked.Length ? new Message("reading.item-twice")
        : null;

    /// <summary>By content.</summary>
    public bool Equals(ListValue? other) => other is not null && Marked.AsSpan().SequenceEqual(other.Marked.AsSpan());

    /// <summary>By how many are marked.</summary>
    public override int GetHashCode() => Marked.Length;

    /// <inheritdoc/>
    public override IEnumerable<string> Words() => Marked;
}
