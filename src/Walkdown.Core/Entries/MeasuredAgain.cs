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
/// <param name="Figures">By name; where it cannot be made again as they were kept, or none.</param>
/// <param name="Why">Why it cannot; null: it can.</param>
public sealed record MeasuredAgain(ImmutableArray<AgainFigure> Figures, Message? Why)
{
    /// <summary>Figures are kept in four places; touched points in two, which moves what is between them by a share, and may round what
    /// they say the other way.</summary>
    private const double Kept = 0.000051,
        Touched = 0.001;

    /// <param name="evidence">As kept.</param>
    /// <param name="picture">The kept picture; null: it was erased, or cannot be read.</param>
    /// <param name="agreed">The picture of the view that was agreed then; null: none.</param>
    /// <param name="byDay">The picture by day that one of the night was held against; null: none.</param>
    public static MeasuredAgain Of(ReadingEvidence evidence, GreyRaster? picture, GreyRaster? agreed, GreyRaster? byDay = null)
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
                SwayMeasure.Algorithm => SwayMeasure.AlgorithmVersion,
                _ => -1,
            }
        )
            return Not("again.other-edition");
        return evidence.Algorithm switch
        {
            AimTouch.Algorithm => OfTouch(evidence.Inputs, picture),
            NightLook.Algorithm when evidence.Inputs.Any(i => IsOfOne(i.Key)) => OfNight(evidence, picture, byDay),
            NightLook.Algorithm or SwayMeasure.Algorithm => AsKept("again.several", evidence.Inputs),
            _ when picture is null => Not("again.no-picture"),
            FocusLook.Algorithm => OfFocus(evidence, picture),
            _ when agreed is null => Not("again.no-agreed"),
            _ => OfAim(evidence.Inputs, picture, agreed),
        };
    }

    private static MeasuredAgain Not(string code) => new([], new(code));

    /// <summary>What was told then stays to be seen, though nothing tells it again.</summary>
    private static MeasuredAgain AsKept(string code, IEnumerable<KeyValuePair<string, double>> inputs) =>
        new([.. inputs.Where(i => !EvidenceMark.IsOfPicture(i.Key)).Select(i => new AgainFigure(i.Key, i.Value, null, false))], new(code));

    private static MeasuredAgain OfTouch(ImmutableSortedDictionary<string, double> inputs, GreyRaster? picture)
    {
        if (EvidenceMark.SizeOf(inputs) is not var (wide, high) || AimTouch.Of(inputs, wide, high) is not { } touch)
            return Not("again.too-old");
        if (touch.IsLight)
            return picture is null
                ? Not("again.no-picture")
                : Held(
                    inputs.Where(i => i.Key is TouchedLight.WhiteInput or TouchedLight.BurntInput),
                    TouchedLight.Of(touch, picture, null, null, null).Inputs()
                );
        if (!inputs.ContainsKey(AimTouch.Measured))
            return Not("again.too-old");
        if (touch.Thing == TouchedThing.Target)
            return AsKept("again.by-plan", inputs.Where(i => i.Key == AimTouch.Measured));
        var recorded = inputs.TryGetValue(AimTouch.Recorded, out var pixels) ? (int)pixels : wide;
        return Held(
            inputs.Where(i => i.Key == AimTouch.Measured),
            touch.Inputs(wide, high, recorded),
            Math.Pow(10, -touch.Places) + Kept,
            Touched
        );
    }

    private static bool IsOfOne(string input) => input.StartsWith(NightLook.OfOne, StringComparison.Ordinal);

    /// <summary>What its last picture alone gave.</summary>
    private static MeasuredAgain OfNight(ReadingEvidence evidence, GreyRaster? picture, GreyRaster? byDay) =>
        picture is null ? Not("again.no-picture")
        : TargetOf(evidence, picture) is not { } target ? Not("again.too-old")
        : Held(evidence.Inputs.Where(i => IsOfOne(i.Key)), NightLook.Alone(picture, byDay, target));

    /// <summary>The middle of the part that was measured; null: it does not lie in the picture.</summary>
    private static PictureShare? TargetOf(ReadingEvidence evidence, GreyRaster picture) =>
        evidence.Region is { } region && region.X + region.Width <= picture.Width && region.Y + region.Height <= picture.Height
            ? region.Middle(picture.Width, picture.Height)
            : null;

    private static MeasuredAgain OfFocus(ReadingEvidence evidence, GreyRaster picture)
    {
        if (TargetOf(evidence, picture) is not { } target)
            return Not("again.too-old");
        return Held(
            evidence.Inputs.Where(i => FocusLook.IsOfOne(i.Key)),
            new FocusRun(target).Next(picture).Inputs().Where(i => FocusLook.IsOfOne(i.Key))
        );
    }

    private static MeasuredAgain OfAim(ImmutableSortedDictionary<string, double> inputs, GreyRaster picture, GreyRaster agreed)
    {
        if (
            !inputs.TryGetValue(AimMeasure.AgreedField, out var field)
            || !inputs.TryGetValue(AimMeasure.AgreedTilt, out var tilt)
            || field is not (> 0 and < 180)
        )
            return Not("again.too-old");
        var hand = (inputs.GetValueOrDefault(EvidenceMark.HandOff), inputs.GetValueOrDefault(EvidenceMark.HandRoll));
        double? bend = inputs.TryGetValue(AimMeasure.BendGiven, out var given) ? given : null;
        return Held(
            inputs.Where(i => !EvidenceMark.IsOfPicture(i.Key)),
            AimLook.Of(new(agreed, field, tilt), picture, new(1, 1), hand: hand, bend: bend).Measured?.Inputs(field, tilt)
                ?? ImmutableSortedDictionary<string, double>.Empty
        );
    }

    /// <summary>What was kept against what is read now: a figure that is not read any more is not the same, one that was not kept is no
    /// figure.</summary>
    private static MeasuredAgain Held(
        IEnumerable<KeyValuePair<string, double>> was,
        IEnumerable<KeyValuePair<string, double>> now,
        double step = Kept,
        double share = 1e-9
    )
    {
        var read = now.ToDictionary(n => n.Key, n => n.Value);
        return new(
            [
                .. was.OrderBy(w => w.Key, StringComparer.Ordinal)
                    .Select(w =>
                        read.TryGetValue(w.Key, out var figure)
                            ? new AgainFigure(w.Key, w.Value, figure, Math.Abs(figure - w.Value) <= step + share * Math.Abs(w.Value))
                            : new AgainFigure(w.Key, w.Value, null, false)
                    ),
            ],
            null
        );
    }
}
