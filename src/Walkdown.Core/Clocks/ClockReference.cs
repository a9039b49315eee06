using Walkdown.Core.Measures;

namespace Walkdown.Core.Clocks;

/// <summary>Our clock against a server of time.</summary>
/// <param name="Server">Its address.</param>
/// <param name="OffsetSeconds">Positive: the server is ahead of us.</param>
/// <param name="UncertaintySeconds">No path hides more; with what the server says it may be off by itself.</param>
/// <param name="Stratum">Steps from a clock that is a reference by itself.</param>
public sealed record ClockReference(string Server, double OffsetSeconds, double UncertaintySeconds, int Stratum)
{
    /// <summary>What was read against our clock, against the server instead: our own error falls out, both uncertainties add.</summary>
    public (double OffsetSeconds, double UncertaintySeconds) Of(double offsetSeconds, double uncertaintySeconds) =>
        (offsetSeconds - OffsetSeconds, uncertaintySeconds + UncertaintySeconds);

    /// <summary>Our own clock against the limit: it is what every device is read against.</summary>
    public Outcome Ours(double limitSeconds) => ClockDifference.Of(-OffsetSeconds, UncertaintySeconds, 0, 0, limitSeconds).Outcome;
}
