using Walkdown.Core.Aiming;
using Walkdown.Core.Focusing;
using Walkdown.Core.Measures;
using Walkdown.Core.Nights;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Entries;

/// <summary>A figure as it was kept and as it is read in the same picture now.</summary>
/// <param name="Name">Of the input, with its unit in it.</param>
/// <param name="Was">As kept.</param>
/// <param name="Now">Null: nothing can be read any more.</param>
/// <param name="IsSame">To what was kept of it.</param>
public sealed record AgainFigure(string Name, double Was, double? Now, bool IsSame);

/// <summary>A measurement made once more in the picture that was kept of it.</summary>
/// <param name="Figures">By name; empty where it cannot be made again.</param>
/// <param name="Why">Why it cannot; null: it can.</param>
public sealed record MeasuredAgain(ImmutableArray<AgainFigure> Figures, Message? Why)
{
    /// <summary>Figures are kept in four places, touched points in two.</summary>
    private const double Kept = 0.000051,
        Touched = 0.001;

    /// <param name="evidence">As kept.</param>
    /// <param name="picture">The kept picture; null: it was erased, or cannot be read.</param>
    /// <param name="agreed">The picture of the view that was agreed then; null: none.</param>
    public static MeasuredAgain Of(ReadingEvidence evidence, GreyRaster? picture, GreyRaster? agreed)
    {
        if (evidence.Algorithm.Length == 0)
            return Not("again.person");
        if (
            evidence.AlgorithmVersion
            != evidence.Algorithm switch
            {
                AimLook.Algorithm => AimLook.AlgorithmVersion,
                AimTouch.Algorithm => AimTouch.AlgorithmVersion,
                FocusLook.Algorithm => FocusLook.AlgorithmVersion,
                NightLook.Algorithm => NightLook.AlgorithmVersion,
                _ => -1,
            }
        )
            return Not("again.other-edition");
        return evidence.Algorithm switch
        {
            AimTouch.Algorithm => OfTouch(evidence.Inputs),
            NightLook.Algorithm => Not("again.several"),
            _ when picture is null => Not("again.no-picture"),
            FocusLook.Algorithm => OfFocus(evidence, picture),
            _ when agreed is null => Not("again.no-agreed"),
            _ => OfAim(evidence.Inputs, picture, agreed),
        };
    }

    private static MeasuredAgain Not(string code) => new([], new(code));

    private static MeasuredAgain OfTouch(ImmutableSortedDictionary<string, double> inputs)
    {
        double? In(string name) => inputs.TryGetValue(name, out var value) ? value : null;
        if (
            (In(EvidenceMark.Wide), In(EvidenceMark.High), In("measured")) is not ({ } w, { } h, { } was)
            || (In("x1_px"), In("y1_px"), In("x2_px"), In("y2_px")) is not ({ } x, { } y, { } u, { } v)
        )
            return Not("again.too-old");
        var touch = new AimTouch(
            In("target_length_m") is not null ? TouchedThing.Length
                : In("is_upright") == 1 ? TouchedThing.Upright
                : TouchedThing.Horizon,
            new(x / w, y / h),
            new(u / w, v / h),
            In("target_length_m"),
            In("target_length_uncertainty_m") ?? 0
        );
        if (touch.Refuse() is not null)
            return Not("again.too-old");
        var now = touch.Measure((int)w, (int)h, (int)(In("recorded_wide_px") ?? w)).Value.Value;
        return new([new("measured", was, now, Math.Abs(now - was) <= 0.02 + Math.Abs(was) * Touched)], null);
    }

    private static MeasuredAgain OfFocus(ReadingEvidence evidence, GreyRaster picture)
    {
        if (
            evidence.Region is not { } region
            || picture.Width < FocusSpots.LeastWide
            || picture.Height < FocusSpots.LeastHigh
            || region.X + region.Width > picture.Width
            || region.Y + region.Height > picture.Height
        )
            return Not("again.too-old");
        var target = new PictureShare(
            (region.X + region.Width / 2 + 0.0) / picture.Width,
            (region.Y + region.Height / 2 + 0.0) / picture.Height
        );
        var now = FocusSpots.Of(picture, target).ToDictionary(s => $"detail_{s.Spot}", s => s.Detail);
        now["mtf50_cycles_per_pixel"] = EdgeNear.Of(picture, region)?.Mtf50;
        return Held(evidence.Inputs, now);
    }

    private static MeasuredAgain OfAim(ImmutableSortedDictionary<string, double> inputs, GreyRaster picture, GreyRaster agreed)
    {
        if (
            !inputs.TryGetValue("agreed_horizontal_deg", out var field)
            || !inputs.TryGetValue("agreed_tilt_deg", out var tilt)
            || field is not (> 0 and < 180)
        )
            return Not("again.too-old");
        var hand = (inputs.GetValueOrDefault(EvidenceMark.HandOff), inputs.GetValueOrDefault(EvidenceMark.HandRoll));
        var now = AimLook.Of(new(agreed, field, tilt), picture, new(1, 1), hand: hand).Measured;
        return Held(
            inputs,
            new()
            {
                ["pan_deg"] = now?.PanDeg,
                ["tilt_deg"] = now?.TiltDeg,
                ["roll_deg"] = now?.RollDeg,
                ["off_deg"] = now?.OffDeg,
                ["uncertainty_deg"] = now?.UncertaintyDeg,
            }
        );
    }

    private static MeasuredAgain Held(ImmutableSortedDictionary<string, double> was, Dictionary<string, double?> now) =>
        new(
            [
                .. now.Where(n => was.ContainsKey(n.Key))
                    .OrderBy(n => n.Key, StringComparer.Ordinal)
                    .Select(n => new AgainFigure(
                        n.Key,
                        was[n.Key],
                        n.Value,
                        n.Value is { } figure && Math.Abs(figure - was[n.Key]) <= Kept + 1e-9 * Math.Abs(was[n.Key])
                    )),
            ],
            null
        );
}
