using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;

namespace Walkdown.Core.Plates;

/// <summary>A plate reader as it stands and is set, and the lane before it.</summary>
/// <param name="PlateMetres">Width of the plates that are to be read.</param>
/// <param name="CameraMetres">Of the lens above the road.</param>
/// <param name="MountedMetres">Of the plate above the road.</param>
/// <param name="AheadMetres">From the camera along the travel to where plates are read.</param>
/// <param name="AsideMetres">From the camera across to the middle of the lane.</param>
/// <param name="PixelsWide">Of the picture.</param>
/// <param name="FieldDeg">Of the picture, across.</param>
/// <param name="ExposureMs">The longest that it takes by itself, by night above all.</param>
/// <param name="FramesPerSecond">That are looked at.</param>
/// <param name="ZoneMetres">Of the zone that is read in, along the travel.</param>
/// <param name="Kmh">The fastest that is expected, whatever is posted.</param>
public sealed record PlateSetting(
    double PlateMetres,
    double CameraMetres,
    double MountedMetres,
    double AheadMetres,
    double AsideMetres,
    int PixelsWide,
    double FieldDeg,
    double ExposureMs,
    double FramesPerSecond,
    double ZoneMetres,
    double Kmh
)
{
    /// <summary>Figures of the limit set that it is held against.</summary>
    internal static readonly ImmutableArray<string> Figures =
    [
        "plates.angle-most",
        "plates.width-least",
        "plates.blur-most",
        "plates.frames-least",
    ];

    /// <summary>The row of a Card.</summary>
    public static readonly CheckId Row = new("plates.geometry");

    /// <summary>Where to begin: what is agreed of its view, what its model has, and what is usual; only where it is read and how it is set
    /// has to be measured.</summary>
    /// <param name="facts">Of the Card.</param>
    /// <param name="catalogue">In force.</param>
    public static PlateSetting Begin(CardFacts facts, Catalogue catalogue)
    {
        var view =
            facts.Heads.Select(h => facts.AgreedView(h.Id)).OfType<PlannedView>().FirstOrDefault()?.Design
            ?? ViewProposal.Of(facts.Place, ViewRules.Of(facts, catalogue));
        // Beside its axis a target says how far aside the lane is; on it, the camera is turned to the lane.
        var target = view.Targets.FirstOrDefault();
        var aside = target is { AsideMetres: not 0 } ? target.AsideMetres : ViewProposal.PlateAside;
        var away = target is null ? ViewProposal.PlateAhead : Math.Round(AheadOf(target, aside), 1);
        return new(
            0.52,
            view.HeightMetres,
            ViewProposal.PlateHeight,
            Math.Clamp(away, 0.5, 150),
            Math.Clamp(aside, -50, 50),
            view.PixelsWide,
            Math.Clamp(Math.Round(view.HorizontalDeg, 1), 0.5, 170),
            1,
            Math.Max(1, catalogue.Figure("stream.frames-plates")),
            3,
            30
        );
    }

    /// <summary>How far along a lane, which lies so far aside, something is that a view must show.</summary>
    internal static double AheadOf(ViewTarget target, double asideMetres) =>
        Math.Sqrt(Math.Max(0.25, Math.Pow(double.Hypot(target.GroundMetres, target.AsideMetres), 2) - asideMetres * asideMetres));

    /// <summary>As the row of a Card that counts says, else where to begin.</summary>
    /// <param name="facts">Of the Card.</param>
    /// <param name="catalogue">In force.</param>
    public static PlateSetting Now(CardFacts facts, Catalogue catalogue) =>
        new CountingReadings(facts, catalogue).Value(Row, new Subject(SubjectKind.Place, facts.Place.Id))
            is FormValue { Lines: [var line, ..] }
        && Of(line) is { } said
            ? said
            : Begin(facts, catalogue);

    /// <summary>As a line of the row.</summary>
    public FormLine Line() =>
        new([
            new("plate", PlateMetres),
            new("camera", CameraMetres),
            new("mounted", MountedMetres),
            new("ahead", AheadMetres),
            new("aside", AsideMetres),
            new("pixels", PixelsWide),
            new("field", FieldDeg),
            new("exposure", ExposureMs),
            new("frames", FramesPerSecond),
            new("zone", ZoneMetres),
            new("speed", Kmh),
        ]);

    /// <summary>Why it cannot be, and which figure; null where it can.</summary>
    public (Message Why, string Field)? Refuse(CheckDefinition check)
    {
        foreach (var said in Line().Said)
            if (
                check.Fields.FirstOrDefault(f => f.Id == said.Field)?.Plausible is { } may
                && !(said.Number >= may.Min && said.Number <= may.Max)
            )
                return (
                    new("drive.outside", $"@field.plates.geometry.{said.Field}", Message.Number(may.Min), Message.Number(may.Max)),
                    said.Field
                );
        return null;
    }

    /// <summary>As a line of the row says; null where it is not whole.</summary>
    public static PlateSetting? Of(FormLine line)
    {
        double? N(string field) => line.Of(field)?.Number;
        return
            N("plate") is { } plate
            && N("camera") is { } camera
            && N("mounted") is { } mounted
            && N("ahead") is > 0 and { } ahead
            && N("aside") is { } aside
            && N("pixels") is { } pixels
            && N("field") is { } field
            && N("exposure") is { } exposure
            && N("frames") is { } frames
            && N("zone") is { } zone
            && N("speed") is { } kmh
            ? new(plate, camera, mounted, ahead, aside, (int)pixels, field, exposure, frames, zone, kmh)
            : null;
    }

    /// <summary>What a plate is in the picture then, and whether that is enough.</summary>
    /// <param name="figure">Of the limit set.</param>
    public PlateSeen Seen(Func<string, double> figure)
    {
        var (most, least, blurMost, wanted) = (
            figure("plates.angle-most"),
            figure("plates.width-least"),
            figure("plates.blur-most"),
            (int)Math.Ceiling(figure("plates.frames-least"))
        );
        var geometry = PlateGeometry.Of(
            PixelsWide,
            FieldDeg,
            PlateMetres,
            CameraMetres,
            MountedMetres,
            AheadMetres,
            AsideMetres,
            most,
            least
        );
        var blur = MotionBlur.Of(geometry.PixelsPerMetre, Kmh, ExposureMs / 1000, geometry.CombinedDeg, blurMost);
        var frames = FramesInZone.Of(ZoneMetres, Kmh, FramesPerSecond, wanted);
        static string N(double value, int decimals = 0) => Message.Number(value, decimals);
        var (wrong, right) = (new List<Message>(), new List<Message>());
        (geometry.IsPlateSmall ? wrong : right).Add(
            new(
                geometry.IsPlateSmall ? "plates.small" : "plates.width",
                N(geometry.PlatePixels),
                N(least),
                // So narrow a field would do: the plate's share of the picture only grows by it.
                N(NarrowestDeg(geometry.PlatePixels, least), 1)
            )
        );
        (geometry.IsAngleHigh ? wrong : right).Add(
            new(
                geometry.IsAngleHigh ? "plates.angle-high" : "plates.angle",
                N(geometry.CombinedDeg, 1),
                N(most),
                N(geometry.HorizontalDeg, 1),
                N(geometry.VerticalDeg, 1),
                N(AheadFor(most), 1)
            )
        );
        (blur.IsWithin ? right : wrong).Add(
            new(
                blur.IsWithin ? "plates.sharp" : "plates.blur",
                N(blur.Pixels, 1),
                N(blurMost, 1),
                N(Kmh),
                blur.LongestSeconds is { } longest ? "1/" + N(Math.Ceiling(1 / longest)) : ""
            )
        );
        (frames.IsEnough ? right : wrong).Add(
            new(frames.IsEnough ? "plates.frames" : "plates.few-frames", N(frames.AtLeast), N(wanted), N(Kmh), N(frames.HighestKmPerHour))
        );
        return new(geometry, blur, frames, [.. wrong], [.. right]);
    }

    /// <summary>The field at which a plate has the pixels that it needs.</summary>
    private double NarrowestDeg(double pixels, double least) =>
        2 * Angle.Deg(Math.Atan(Angle.Tan(FieldDeg / 2) * Math.Min(1, pixels / Math.Max(1, least))));

    /// <summary>So far ahead the same place beside the lane is no more turned than it may be.</summary>
    private double AheadFor(double mostDeg) => double.Hypot(AsideMetres, CameraMetres - MountedMetres) / Angle.Tan(mostDeg);
}

/// <summary>What a plate is in the picture.</summary>
/// <param name="Geometry">How it is met.</param>
/// <param name="Blur">At the fastest.</param>
/// <param name="Frames">At the fastest.</param>
/// <param name="Wrong">What is not enough, with its mend.</param>
/// <param name="Right">What is.</param>
public sealed record PlateSeen(
    PlateGeometry Geometry,
    MotionBlur Blur,
    FramesInZone Frames,
    ImmutableArray<Message> Wrong,
    ImmutableArray<Message> Right
)
{
    /// <summary>Nothing is wrong.</summary>
    public bool IsGood => Wrong.IsEmpty;
}
