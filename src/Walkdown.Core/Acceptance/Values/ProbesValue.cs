using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Probes sent to the device and answers received.</summary>
/// <param name="RoundTripsMs">Milliseconds of the last probes in the order sent, up to 2,000, null for a lost one; absent where the tester
/// only counts.</param>
/// <param name="Received">Probes that came back.</param>
/// <param name="Sent">Probes sent.</param>
public sealed record ProbesValue(int Sent, int Received, ImmutableArray<double?>? RoundTripsMs = null) : ReadingValue
{
    /// <inheritdoc/>
    public override bool Suits(EntryKind entry) => entry == EntryKind.Probes;

    /// <inheritdoc/>
    public override Message? Refuse(CheckDefinition check)
    {
        if (Sent is < 1 or > 1_000_000)
            return new Message("reading.probes-sent");
        if (Received < 0 || Received > Sent)
            return new Message(
                "reading.probes-received",
                Received.ToString(CultureInfo.InvariantCulture),
                Sent.ToString(CultureInfo.InvariantCulture)
            );
        return
            RoundTripsMs is { } trips
            && (
                trips.Length > Math.Min(Sent, 2000)
                || trips.Length == Sent && trips.Count(t => t is not null) != Received
                || trips.Any(t => t is not (null or (>= 0 and <= 600_000)))
            )
            ? new Message("reading.probes-trips")
            : null;
    }
}
