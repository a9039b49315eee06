using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;

namespace Walkdown.Core.Entries;

/// <summary>An entry at the door: the Card as it is and as it is judged, and the entry's place in the order.</summary>
/// <param name="Judged">The Card before it.</param>
/// <param name="Sequence">Its number in the journal.</param>
/// <param name="At">When it was done, by the server's clock.</param>
/// <param name="ReceivedAt">When it came.</param>
public sealed record EntryContext(JudgedCard Judged, long Sequence, DateTimeOffset At, DateTimeOffset ReceivedAt)
{
    /// <summary>What the Card is judged from.</summary>
    public CardFacts Facts => Judged.Facts;

    /// <summary>The Card before the entry.</summary>
    public Card Card => Judged.Card;

    /// <summary>The catalogue in force.</summary>
    public Catalogue Catalogue => Judged.Catalogue;

    /// <summary>The answer that the entry cites; null where the server kept none such for this place.</summary>
    public Observation? Heard { get; init; }

    /// <summary>The unit of <see cref="EntryNeeds.UnitSerial"/> hangs somewhere at this moment.</summary>
    public bool UnitHangs { get; init; }

    /// <summary>Pictures of the place that stand, by id, with the hash of their file; empty where none is needed.</summary>
    public ImmutableDictionary<Guid, string> Pictures { get; init; } = ImmutableDictionary<Guid, string>.Empty;

    /// <summary>The planned row of an id; null where the Card has none such.</summary>
    public PlannedRow? Row(string? id) => Judged.Row(id);

    /// <summary>The judged row of a key that was planned.</summary>
    public CardRow RowOf(CheckKey key) => Card.Rows.First(r => r.Key == key);
}
