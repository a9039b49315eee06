using Walkdown.Core.Measures;

namespace Walkdown.Core.Coax;

/// <summary>Classes of coax with a centre of solid copper; one of steel is for antennas.</summary>
public enum CoaxKind
{
    /// <summary>RG-59 class.</summary>
    Rg59,

    /// <summary>RG-6 class.</summary>
    Rg6,

    /// <summary>RG-11 class.</summary>
    Rg11,
}

/// <summary>Forms of video over coax.</summary>
public enum VideoFormat
{
    /// <summary>Composite.</summary>
    Composite,

    /// <summary>Analogue high definition, 1 megapixel.</summary>
    AnalogueHd1Mp,

    /// <summary>2 megapixels.</summary>
    AnalogueHd2Mp,

    /// <summary>5 megapixels.</summary>
    AnalogueHd5Mp,

    /// <summary>8 megapixels.</summary>
    AnalogueHd8Mp,
}

/// <summary>What coax of a length does to video (docs/calculations.md, E). Its tables are starting values: the cable's sheet comes
/// first.</summary>
public static class CoaxCable
{
    private static readonly double[] Megahertz = [5, 10, 100];

    private static readonly Dictionary<CoaxKind, (double[] DbPer100M, double ShieldOhmPer100M, double[] Reach)> Sheets = new()
    {
        [CoaxKind.Rg59] = ([2.5, 3.5, 11.2], 0.85, [300, 500, 300, 250, 200]),
        [CoaxKind.Rg6] = ([1.6, 2.3, 6.9], 0.60, [450, 700, 500, 350, 300]),
        [CoaxKind.Rg11] = ([1.1, 1.5, 4.8], 0.40, [600, 900, 650, 450, 400]),
    };

    /// <summary>Loss of a run at a frequency.</summary>
    /// <param name="DbPer100Metres">Of the cable.</param>
    /// <param name="LossDb">Of the run.</param>
    /// <param name="LevelFraction">What of the volts arrives, 0 to 1.</param>
    public readonly record struct Loss(double DbPer100Metres, double LossDb, double LevelFraction);

    /// <summary>Between the points of the table in a straight line on logarithmic paper, outside it with the root of the
    /// frequency.</summary>
    /// <exception cref="BadInputException">A frequency not above 0 or over 3,000 MHz, or a negative length.</exception>
    public static Loss LossOf(CoaxKind cable, double megahertz, double metres)
    {
        Require.Positive(megahertz, "frequency_mhz", 3000);
        Require.Number(metres, "run_length_m", 0);
        var points = Sheets[cable].DbPer100M;
        double per100;
        if (megahertz <= Megahertz[0])
            per100 = points[0] * Math.Sqrt(megahertz / Megahertz[0]);
        else if (megahertz >= Megahertz[^1])
            per100 = points[^1] * Math.Sqrt(megahertz / Megahertz[^1]);
        else
        {
            var i = megahertz < Megahertz[1] ? 0 : 1;
            var share = Math.Log(megahertz / Megahertz[i]) / Math.Log(Megahertz[i + 1] / Megahertz[i]);
            per100 = points[i] * Math.Pow(points[i + 1] / points[i], share);
        }
        var loss = per100 * metres / 100;
        return new(per100, loss, Math.Pow(10, -loss / 20));
    }

    /// <summary>Ohm of a run's shield.</summary>
    public static double ShieldOhms(CoaxKind cable, double metres) => Sheets[cable].ShieldOhmPer100M * metres / 100;

    /// <summary>How far a form reaches on a cable.</summary>
    /// <param name="LongestMetres">Of this form.</param>
    /// <param name="SpareMetres">Negative: too long.</param>
    /// <param name="InLimit">At the limit too.</param>
    /// <param name="Reaching">Every form that reaches the run's end.</param>
    public sealed record Reach(double LongestMetres, double SpareMetres, bool InLimit, ImmutableArray<VideoFormat> Reaching);

    /// <summary>A form over a run.</summary>
    /// <exception cref="BadInputException">A negative length.</exception>
    public static Reach ReachOf(VideoFormat format, CoaxKind cable, double metres)
    {
        Require.Number(metres, "run_length_m", 0);
        var reach = Sheets[cable].Reach;
        var longest = reach[(int)format];
        return new(
            longest,
            longest - metres,
            Decision.AtMost(metres, longest),
            [.. Enum.GetValues<VideoFormat>().Where(f => Decision.AtMost(metres, reach[(int)f]))]
        );
    }
}
