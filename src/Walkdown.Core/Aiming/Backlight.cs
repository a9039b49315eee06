using Walkdown.Core.Measures;

namespace Walkdown.Core.Aiming;

/// <summary>What light behind a subject asks of a camera (docs/calculations.md, L). A lux meter stands in for luminance, good to about
/// 20 %.</summary>
/// <param name="ContrastDb">Bright against subject; negative: the subject is the brighter.</param>
/// <param name="UsableDb">Of the camera's range, less a margin; it may be negative.</param>
/// <param name="SpareDb">What is left; 0 is enough.</param>
/// <param name="Verdict">What that means.</param>
public sealed record Backlight(double ContrastDb, double UsableDb, double SpareDb, BacklightVerdict Verdict)
{
    /// <param name="brightLux">Of the bright side, above 0.</param>
    /// <param name="subjectLux">On the subject, above 0.</param>
    /// <param name="rangeDb">That the camera's sheet states, at least 0.</param>
    /// <param name="marginDb">Taken off it, at least 0 (practice: 6).</param>
    public static Backlight Of(double brightLux, double subjectLux, double rangeDb, double marginDb = 6)
    {
        var contrast = 20 * Math.Log10(Require.Positive(brightLux, "bright_lux") / Require.Positive(subjectLux, "subject_lux"));
        var usable = Require.Number(rangeDb, "wide_dynamic_range_db", 0) - Require.Number(marginDb, "margin_db", 0);
        var spare = usable - Math.Abs(contrast);
        return new(
            contrast,
            usable,
            spare,
            spare >= -1e-9 ? BacklightVerdict.Ok
                : contrast > 0 ? BacklightVerdict.Backlit
                : BacklightVerdict.FrontLitTooStrong
        );
    }
}

/// <summary>What light behind a subject means.</summary>
public enum BacklightVerdict
{
    /// <summary>The camera can do it.</summary>
    Ok,

    /// <summary>The subject is too dark before it.</summary>
    Backlit,

    /// <summary>The subject is too bright before the dark.</summary>
    FrontLitTooStrong,
}
