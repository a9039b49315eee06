using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>A part and how it was found.</summary>
public enum ItemState
{
    /// <summary>Fitted as it is meant.</summary>
    Fitted,

    /// <summary>Needed and not there, or not as it is meant.</summary>
    Missing,

    /// <summary>Not needed at this place.</summary>
    NotNeeded,

    /// <summary>Something else in its place: what, and why.</summary>
    Substituted,
}

/// <summary>What was said of one item.</summary>
/// <param name="Item">Its id within the check.</param>
/// <param name="State">How it was found.</param>
/// <param name="By">What is in its place, where something is.</param>
/// <param name="Why">Why it is not needed, or was substituted.</param>
public sealed record ItemSaid(string Item, ItemState State, string? By = null, string? Why = null);

/// <summary>A state for each item of a list: seals, lanyards, screws.</summary>
public sealed record ItemsValue(ImmutableArray<ItemSaid> Items) : ReadingValue
{
    /// <summary>Longest text of what is in its place, or why.</summary>
    public const int Longest = 200;

    /// <inheritdoc/>
    public override bool Suits(EntryKind entry) => entry == EntryKind.Items;

    /// <inheritdoc/>
    public override Message? Refuse(CheckDefinition check)
    {
        if (Items.IsDefaultOrEmpty)
            return new Message("reading.items-empty");
        foreach (var said in Items)
        {
            if (said is null || check.Items.FirstOrDefault(i => i.Id == said.Item) is not { } item)
                return new Message("reading.unknown-item", Short(said?.Item ?? ""));
            if (!Enum.IsDefined(said.State))
                return new Message("reading.item-state", "@item." + item.Id);
            if (said.By?.Length > Longest || said.Why?.Length > Longest)
                return new Message("reading.item-long", "@item." + item.Id, Message.Number(Longest));
            if (said.State == ItemState.Substituted && (string.IsNullOrWhiteSpace(said.By) || string.IsNullOrWhiteSpace(said.Why)))
                return new Message("reading.item-substituted", "@item." + item.Id);
            if (said.State == ItemState.NotNeeded && item.Out && string.IsNullOrWhiteSpace(said.Why))
                return new Message("reading.item-not-needed", "@item." + item.Id);
        }
        return Items.DistinctBy(i => i.Item).Count() != Items.Length ? new Message("reading.item-twice") : null;
    }

    /// <summary>What was said of an item; null: nothing.</summary>
    public ItemSaid? Of(string item) => Items.FirstOrDefault(i => i.Item == item);

    /// <summary>By content.</summary>
    public bool Equals(ItemsValue? other) => other is not null && Items.AsSpan().SequenceEqual(other.Items.AsSpan());

    /// <summary>By how many there are.</summary>
    public override int GetHashCode() => Items.Length;

    /// <inheritdoc/>
    public override IEnumerable<string> Words() => Items.Select(i => i.Item + ":" + Codes.Of(i.State));
}
