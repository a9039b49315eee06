using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Entries;

/// <summary>What a source of measurements answered, as the server heard and kept it: readings cite it.</summary>
/// <param name="Source">What kind of source it is.</param>
/// <param name="Serial">Of who answered; empty where it gave none.</param>
/// <param name="At">When it answered, by the server's clock.</param>
/// <param name="Values">Values by the row that they are for.</param>
/// <param name="Id">Its id.</param>
public sealed record Observation(
    Guid Id,
    ReadingSource Source,
    string Serial,
    DateTimeOffset At,
    IReadOnlyDictionary<string, ReadingValue> Values
)
{
    /// <summary>The instrument of the Kit that answered, by its serial number; null where the Kit has none such: then no accuracy is
    /// known.</summary>
    public Guid? InstrumentOf(CardFacts facts) => InstrumentOf(facts, Serial);

    /// <inheritdoc cref="InstrumentOf(CardFacts)"/>
    public static Guid? InstrumentOf(CardFacts facts, string serial) =>
        serial.Length == 0 ? null : facts.Instruments.FirstOrDefault(i => Register.Labels.Same(i.Serial, serial))?.Id;
}
