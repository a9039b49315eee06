using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>A Card, planned and judged.</summary>
/// <param name="Hold">What forbids power-off and configuration just now, such as an update that runs.</param>
/// <param name="Rows">Its rows, in order.</param>
/// <param name="Legs">Legs of the signal path.</param>
/// <param name="Verdict">What it comes to.</param>
/// <param name="Faults">Faults with their standing.</param>
/// <param name="Acts">Work done, in order.</param>
/// <param name="NextRow">The row to take next; null: none is due.</param>
/// <param name="Taken">Rows that are taken.</param>
/// <param name="Total">Rows in all.</param>
/// <param name="Rule">How a value is held against its limits.</param>
/// <param name="LimitEdition">Edition of the limits that judged it.</param>
/// <param name="Blocked">What holds it up; null: nothing.</param>
public sealed record Card(
    ImmutableArray<CardRow> Rows,
    ImmutableArray<LegSummary> Legs,
    CardVerdict Verdict,
    ImmutableArray<FaultOnCard> Faults,
    ImmutableArray<Act> Acts,
    string? NextRow,
    int Taken,
    int Total,
    DecisionRule Rule,
    string LimitEdition,
    Block? Blocked,
    Message? Hold
)
{
    /// <summary>Rows whose reading is unexpected and not explained.</summary>
    public int Unexpected { get; init; }

    /// <summary>When something can be done here again, where all that is left to be taken waits; null: it can be done now, or nobody
    /// knows yet.</summary>
    public DateTimeOffset? WaitsUntil { get; init; }

    /// <summary>Code of what the first of them waits for, where all that is left to be taken waits.</summary>
    public string? WaitsFor { get; init; }

    /// <summary>When what can be done here now no longer can, such as at dawn; null: nothing of it ends.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public DateTimeOffset? WaitsEnds { get; init; }

    /// <summary>The next moment at which a wait of any row begins or ends; null: none is known.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    internal DateTimeOffset? WaitsChangeAt { get; init; }

    /// <summary>The worst row, that a Fault is proposed for: out before too close, and of these the one furthest beyond its limit; null
    /// where none is failing that nobody has conceded.</summary>
    public string? WorstRow { get; init; }

    /// <summary>Tools and small parts for the rows that are due and can be taken now, the most wanted first.</summary>
    public ImmutableArray<string> Tools { get; init; } = [];

    /// <summary>Cautions that a row taken at this Stop has said in full already.</summary>
    public ImmutableArray<string> CautionsSaid { get; init; } = [];

    /// <summary>Entries on record that cannot be read any more: the Card cannot be accepted before somebody has looked.</summary>
    public int Unreadable { get; init; }

    /// <summary>The cause that explains most of its rows; null where none explains more than one.</summary>
    public CardCause? MostLikely { get; init; }

    /// <summary>Plans and judges the Card. With <see cref="CheckPlan.For"/> the only door into judgement.</summary>
    public static Card Judge(CardFacts facts, Catalogue catalogue) => new CardJudge(facts, catalogue).Judge();

    /// <summary>Numbers of a check that count, with their rows.</summary>
    public static IEnumerable<(CheckKey Key, double Value)> NumbersOf(CardFacts facts, Catalogue catalogue, CheckId check)
    {
        var counting = new CountingReadings(facts, catalogue);
        foreach (var key in facts.Readings.Where(r => r.Key.Check == check).Select(r => facts.KeyNow(r.Key, catalogue)).Distinct())
            if (counting.Counts(key)?.Value is NumberValue number)
                yield return (key, number.Value);
    }

    /// <summary>Judges a value as if it were the newest reading of a row; nothing is kept.</summary>
    /// <param name="seen">A picture was taken for it.</param>
    /// <param name="facts">What it is judged from.</param>
    /// <param name="catalogue">What it is judged by.</param>
    /// <param name="key">Which row.</param>
    /// <param name="value">The value.</param>
    /// <param name="found">Conditions found.</param>
    /// <param name="instrumentId">What it would be read with; null: nothing of the Kit.</param>
    public static Foretold Preview(
        CardFacts facts,
        Catalogue catalogue,
        CheckKey key,
        ReadingValue value,
        Condition found,
        Guid? instrumentId,
        bool seen = false
    ) => Foretold.Of(new CardJudge(facts, catalogue).Preview(key, value, found, instrumentId, seen));
}
