namespace Walkdown.Core.Acceptance;

/// <summary>Probes sent to the device and answers received.</summary>
/// <param name="RoundTripsMs">Milliseconds of the last probes in the order sent, up to 2,000, null for a lost one; absent where the tester
/// only counts.</param>
/// <param name="Received">Probes that came back.</param>
/// <param name="Sent">Probes sent.</param>
public sealed record ProbesValue(int Sent, int Received, ImmutableArray<double?>? RoundTripsMs = null) : ReadingValue;
