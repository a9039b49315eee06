using Walkdown.Core.Measures;

namespace Walkdown.Core.Aiming;

/// <summary>How a camera should hang for a use (docs/calculations.md, L), by figures of the limit set.</summary>
/// <param name="MinHeightMetres">At least so high.</param>
/// <param name="MaxHeightMetres">At most so high.</param>
/// <param name="MinTiltDeg">At least so steep.</param>
/// <param name="MaxTiltDeg">At most so steep.</param>
/// <param name="MinPixelsPerMetre">At least so much detail.</param>
public sealed record MountingRule(
    double MinHeightMetres,
    double MaxHeightMetres,
    double MinTiltDeg,
    double MaxTiltDeg,
    double MinPixelsPerMetre
)
{
    /// <summary>A line that is guarded, people counted from above, faces, number plates.</summary>
    public static readonly ImmutableArray<string> Purposes = ["analytics", "counting", "faces", "plates"];

    /// <summary>Figures of the limit set that rules are made of.</summary>
    internal static IEnumerable<string> Figures =>
        Purposes.SelectMany(p => new[] { $"height.{p}-least", $"height.{p}-most", $"tilt.{p}-least", $"tilt.{p}-most", $"detail.{p}" });

    /// <summary>Of a purpose.</summary>
    /// <param name="purpose">One of <see cref="Purposes"/>.</param>
    /// <param name="figure">Of the limit set, by its id.</param>
    public static MountingRule Of(string purpose, Func<string, double> figure) =>
        new(
            figure($"height.{purpose}-least"),
            figure($"height.{purpose}-most"),
            figure($"tilt.{purpose}-least"),
            figure($"tilt.{purpose}-most"),
            figure($"detail.{purpose}")
        );

    /// <summary>What a mounting breaks, and what lies too near a limit to say.</summary>
    /// <param name="Failed">Broken.</param>
    /// <param name="TooClose">Too near to say.</param>
    public sealed record Judged(ImmutableArray<MountingFault> Failed, ImmutableArray<MountingSide> TooClose)
    {
        /// <summary>Of it all.</summary>
        public Outcome Outcome =>
            !Failed.IsEmpty ? Outcome.Out
            : !TooClose.IsEmpty ? Outcome.TooClose
            : Outcome.In;
    }

    /// <summary>A mounting against the rule.</summary>
    /// <param name="heightMetres">At least 0.</param>
    /// <param name="tiltDeg">Under the horizon, -90 to 90.</param>
    /// <param name="perMetre">Pixels to a metre, at least 0; null: not known, so not judged.</param>
    /// <param name="heightOff">The height may be off by so much.</param>
    /// <param name="tiltOff">The tilt may be off by so much.</param>
    public Judged Judge(double heightMetres, double tiltDeg, double? perMetre, double heightOff = 0, double tiltOff = 0)
    {
        Require.Number(heightMetres, "camera_height_m", 0);
        Require.Number(tiltDeg, "tilt_deg", -90, 90);
        Require.Number(heightOff, "height_accuracy_m", 0);
        Require.Number(tiltOff, "tilt_accuracy_deg", 0);
        if (perMetre is { } given)
            Require.Number(given, "pixels_per_m", 0);
        var failed = ImmutableArray.CreateBuilder<MountingFault>();
        var close = ImmutableArray.CreateBuilder<MountingSide>();
        Side(
            heightMetres,
            heightOff,
            MinHeightMetres,
            MaxHeightMetres,
            MountingFault.HeightLow,
            MountingFault.HeightHigh,
            MountingSide.Height
        );
        Side(tiltDeg, tiltOff, MinTiltDeg, MaxTiltDeg, MountingFault.TiltLow, MountingFault.TiltHigh, MountingSide.Tilt);
        if (perMetre is { } density && density < MinPixelsPerMetre - 1e-9 * MinPixelsPerMetre)
            failed.Add(MountingFault.PixelDensityLow);
        return new(failed.ToImmutable(), close.ToImmutable());

        void Side(double value, double off, double min, double max, MountingFault low, MountingFault high, MountingSide side)
        {
            if (value + off < min - 1e-9)
                failed.Add(low);
            else if (value - off > max + 1e-9)
                failed.Add(high);
            else if (value - off < min - 1e-9 || value + off > max + 1e-9)
                close.Add(side);
        }
    }
}

/// <summary>What a mounting breaks.</summary>
public enum MountingFault
{
    /// <summary>Too low.</summary>
    HeightLow,

    /// <summary>Too high.</summary>
    HeightHigh,

    /// <summary>Not steep enough.</summary>
    TiltLow,

    /// <summary>Too steep.</summary>
    TiltHigh,

    /// <summary>Too little detail.</summary>
    PixelDensityLow,
}

/// <summary>What lies too near its limit to say.</summary>
public enum MountingSide
{
    /// <summary>The height.</summary>
    Height,

    /// <summary>The tilt.</summary>
    Tilt,
}
