using Walkdown.Core.Measures;

namespace Walkdown.Core.Cabling;

/// <summary>Length of a twisted pair by delay, and what temperature and cords take off the limit (ISO/IEC 11801-1, TIA-568;
/// docs/calculations.md, A).</summary>
public static class CableLength
{
    private const double SpeedOfLight = 299_792_458;

    /// <summary>A length after temperature: extra loss in percent, the length left in metres.</summary>
    public readonly record struct Derated(double ExtraLossPercent, double LengthMetres, bool OutsideRatedTemperature);

    /// <summary>Cords against the fixed cable, metres.</summary>
    public readonly record struct CordAllowance(double Derating, double AllowedMetres, double EquivalentFixedMetres, bool InLimit);

    /// <summary>Delays of the pairs, nanoseconds.</summary>
    public readonly record struct Skew(double LargestDelayNs, double SkewNs, bool DelayInLimit, bool SkewInLimit);

    /// <summary>Longest run at a temperature for a limit given at 20 C. No gain in the cold.</summary>
    public static Derated DerateForTemperature(double lengthAt20Metres, double temperatureC, bool screened)
    {
        Require.Positive(lengthAt20Metres, "length_at_20_c_m", 1000);
        Require.Number(temperatureC, "temperature_c", -40, 75);
        var k =
            temperatureC <= 20 ? 0
            : screened ? 0.002 * (temperatureC - 20)
            : 0.004 * (Math.Min(temperatureC, 40) - 20) + 0.006 * Math.Max(0, temperatureC - 40);
        return new Derated(100 * k, lengthAt20Metres / (1 + k), temperatureC is < -20 or > 60);
    }

    /// <summary>Cords allowed beside a fixed length: C = (102 - H)/(1 + D).</summary>
    public static CordAllowance CordsAllowed(double fixedMetres, int cordGaugeAwg, double cordsTotalMetres)
    {
        Require.Number(fixedMetres, "fixed_length_m", 0, 102);
        Require.Number(cordsTotalMetres, "cords_total_m", 0);
        var derating = cordGaugeAwg switch
        {
            22 or 23 or 24 => 0.2,
            26 => 0.5,
            _ => throw new BadInputException(BadInputReason.UnknownValue, "cord_gauge_awg"),
        };
        var allowed = (102 - fixedMetres) / (1 + derating);
        return new CordAllowance(
            derating,
            allowed,
            fixedMetres + (1 + derating) * cordsTotalMetres,
            Decision.AtMost(cordsTotalMetres, allowed) && Decision.AtMost(fixedMetres, 90)
        );
    }

    /// <summary>Length in metres from a delay; a reflection takes the way twice.</summary>
    public static double FromDelayMetres(double velocityPercent, double delayNs, bool roundTrip)
    {
        Require.Number(velocityPercent, "velocity_of_propagation_percent", 30, 99);
        Require.Number(delayNs, "delay_ns", 0);
        return velocityPercent / 100 * SpeedOfLight * delayNs * 1e-9 / (roundTrip ? 2 : 1);
    }

    /// <summary>Velocity of propagation in percent of light's, and whether a cable can have it (50 to 90).</summary>
    public static (double Percent, bool Plausible) VelocityFromKnownLength(double knownMetres, double delayNs, bool roundTrip)
    {
        Require.Positive(knownMetres, "known_length_m");
        Require.Positive(delayNs, "delay_ns");
        var percent = 100 * knownMetres / (SpeedOfLight * delayNs * 1e-9 / (roundTrip ? 2 : 1));
        return (percent, percent is >= 50 and <= 90);
    }

    /// <summary>Largest delay and skew of the pairs against the limits at 10 MHz.</summary>
    public static Skew DelaySkew(IReadOnlyCollection<double> pairDelaysNs, LinkConfiguration configuration)
    {
        if (pairDelaysNs.Count == 0)
            throw new BadInputException(BadInputReason.Empty, "pair_delays_ns");
        foreach (var delay in pairDelaysNs)
            Require.Number(delay, "pair_delays_ns", 0);
        var (maxDelay, maxSkew) = configuration == LinkConfiguration.Channel ? (555.0, 50.0) : (498.0, 44.0);
        double largest = pairDelaysNs.Max(),
            skew = largest - pairDelaysNs.Min();
        return new Skew(largest, skew, Decision.AtMost(largest, maxDelay), Decision.AtMost(skew, maxSkew));
    }
}
