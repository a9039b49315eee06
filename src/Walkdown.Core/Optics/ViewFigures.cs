using Walkdown.Core.Measures;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Optics;

/// <summary>What a planned view gives at one target.</summary>
/// <param name="Target">Which.</param>
/// <param name="PixelsPerMetre">There, by the camera's own tilt; null: it is behind the camera.</param>
/// <param name="NeedPerMetre">Asked for.</param>
/// <param name="SparePerMetre">Above it; negative: missing; null where nothing is seen.</param>
/// <param name="Level">The highest level that it reaches; null: none.</param>
/// <param name="IsTopIn">Its top is in the picture.</param>
/// <param name="IsFootIn">Its foot is in the picture.</param>
/// <param name="IsAcrossIn">It is between the picture's sides.</param>
/// <param name="ScreenPercent">Of the picture's height that it fills; null: it has no height, or is behind.</param>
public sealed record TargetFigures(
    ViewTarget Target,
    double? PixelsPerMetre,
    double NeedPerMetre,
    double? SparePerMetre,
    DetailLevel? Level,
    bool IsTopIn,
    bool IsFootIn,
    bool IsAcrossIn,
    double? ScreenPercent
)
{
    /// <summary>All of it is in the picture, with the detail that was asked for.</summary>
    public bool Holds => IsTopIn && IsFootIn && IsAcrossIn && SparePerMetre >= -1e-9;
}

/// <summary>What a purpose asks of the tilt.</summary>
/// <param name="What">Purpose, with its figures.</param>
/// <param name="Least">At least; null: open.</param>
/// <param name="Most">At most; null: open.</param>
/// <param name="Holds">The tilt that is planned does.</param>
/// <param name="Spare">To the nearer end, degrees; negative: beyond it; null: both are open.</param>
public sealed record TiltNeed(Message What, double? Least, double? Most, bool Holds, double? Spare)
{
    internal static TiltNeed Of(double tilt, Message what, double? least, double? most)
    {
        double? spare =
            least is { } l && most is { } m ? Math.Min(tilt - l, m - tilt)
            : least is { } low ? tilt - low
            : most is { } high ? high - tilt
            : null;
        return new(what, least, most, spare is null or >= -1e-9, spare);
    }
}

/// <summary>As far as a level of detail holds along the axis on the ground.</summary>
/// <param name="Level">Which.</param>
/// <param name="PerMetre">Asks for.</param>
/// <param name="FromMetres">From here, in view.</param>
/// <param name="ToMetres">To here, in view.</param>
/// <param name="FromHalf">The picture shows so much of the ground to either side there, metres.</param>
/// <param name="ToHalf">And so much there.</param>
public sealed record DetailBand(DetailLevel? Level, double PerMetre, double FromMetres, double ToMetres, double FromHalf, double ToHalf);

/// <summary>What a planned view gives, all from its figures (docs/calculations.md, K and L).</summary>
/// <param name="VerticalDeg">Height of its field.</param>
/// <param name="Ground">What it sees of the ground.</param>
/// <param name="AxisMetres">Where the lens's axis meets the ground; null: it does not.</param>
/// <param name="Bands">Detail along the ground, near to far, as far as is drawn.</param>
/// <param name="Reaches">As far as each level holds along the axis on the ground.</param>
/// <param name="Targets">Each.</param>
/// <param name="Tilts">What each purpose asks of the tilt.</param>
/// <param name="TiltLeast">All of them together; null: open.</param>
/// <param name="TiltMost">All of them together; null: open.</param>
/// <param name="Sharp">What is sharp; one at most.</param>
/// <param name="InfraredMetres">As far as the light reaches along the ground; null: it does not, or there is none.</param>
/// <param name="Notes">What is wrong, or is to be known.</param>
public sealed record ViewFigures(
    double VerticalDeg,
    Coverage.Seen Ground,
    double? AxisMetres,
    ImmutableArray<DetailBand> Bands,
    ImmutableArray<LevelReach> Reaches,
    ImmutableArray<TargetFigures> Targets,
    ImmutableArray<TiltNeed> Tilts,
    double? TiltLeast,
    double? TiltMost,
    ImmutableArray<Pinhole.Sharp> Sharp,
    double? InfraredMetres,
    ImmutableArray<Message> Notes
)
{
    /// <summary>Lenses wider than this bend lines: measure with a target.</summary>
    private const double Pinholes = 90;

    /// <summary>No tilt holds for all.</summary>
    public bool IsTiltImpossible => TiltLeast > TiltMost;

    /// <summary>All that was asked for holds.</summary>
    public bool Holds => Targets.All(t => t.Holds) && Tilts.All(t => t.Holds) && Ground.IsInView;

    /// <param name="view">One that is not refused.</param>
    /// <param name="edition">Whose levels are meant by the reaches.</param>
    /// <param name="rules">What the device itself asks for; null: nothing is known of it.</param>
    public static ViewFigures Of(ViewDesign view, DetailEdition edition, ViewRules? rules = null)
    {
        var (tall, height, tilt) = (view.VerticalDeg, view.HeightMetres, view.TiltDeg);
        var ground = Coverage.Of(height, tilt, tall);
        ImmutableArray<TargetFigures> targets = [.. view.Targets.Select(t => At(view, t))];
        var tilts = Needs(view, targets, rules);
        var least = tilts.Max(t => t.Least);
        var most = tilts.Min(t => t.Most);
        ImmutableArray<Pinhole.Sharp> sharp = view.Focus is { } f
            ? [Pinhole.SharpAround(f.FocalMm, f.FNumber, f.FocusMetres, f.PixelMicrons)]
            : [];
        double? reach = view.InfraredMetres is { } r && r > height ? Math.Sqrt(r * r - height * height) : null;
        return new(
            tall,
            ground,
            tilt > 0 ? height / Tan(tilt) : null,
            BandsOf(view, edition, ground),
            [
                .. DetailLevels
                    .Of(edition)
                    .Select(l => new LevelReach(l.Level, l.PerMetre, view.FocalPixels / l.PerMetre, GroundFor(view, l.PerMetre))),
            ],
            targets,
            tilts,
            least,
            most,
            sharp,
            reach,
            NotesOf(view, ground, targets, least, most, rules, sharp)
        );
    }

    /// <summary>Where on the ground a density is left along the axis; null: nowhere before the camera.</summary>
    private static double? GroundFor(ViewDesign view, double perMetre)
    {
        var depth = view.FocalPixels / perMetre;
        if (Cos(view.TiltDeg) < 1e-6)
            return null;
        var at = (depth - view.HeightMetres * Sin(view.TiltDeg)) / Cos(view.TiltDeg);
        return at >= 0 ? at : null;
    }

    internal static TargetFigures At(ViewDesign view, ViewTarget target)
    {
        var need = DetailLevels.PerMetre(target.Level);
        // Where it is nearest to the side, a target's top: what looks down sees less across up there.
        var depth = view.DepthMetres(target.GroundMetres, target.HeightMetres);
        double? density = depth > 0 ? view.FocalPixels / depth : null;
        var tall = view.VerticalDeg / 2;
        bool Upright(double height)
        {
            var down = Deg(Math.Atan2(view.HeightMetres - height, target.GroundMetres));
            return Math.Abs(down - view.TiltDeg) <= tall + 1e-9;
        }
        var across = depth > 0 && Math.Abs(Deg(Math.Atan2(target.AsideMetres, depth))) <= view.HorizontalDeg / 2 + 1e-9;
        return new(
            target,
            density,
            need,
            density - need,
            density is { } d ? DetailLevels.Reached(DetailLevels.EditionOf(target.Level), d).Level : null,
            Upright(target.HeightMetres),
            Upright(0),
            across,
            density is { } seen && target.HeightMetres > 0
                ? PixelDensity.OnScreen(seen, target.HeightMetres, view.PixelsHigh).Percent
                : null
        );
    }

    private static ImmutableArray<DetailBand> BandsOf(ViewDesign view, DetailEdition edition, Coverage.Seen ground)
    {
        if (ground.NearMetres is not { } near)
            return [];
        // A horizon has no end: as far as the lowest level holds is as far as anything is drawn.
        var lowest = GroundFor(view, DetailLevels.Of(edition)[0].PerMetre) ?? 0;
        var end = ground.FarMetres ?? Math.Max(lowest, near + 1);
        var from = Math.Max(0, near);
        var bands = ImmutableArray.CreateBuilder<DetailBand>();
        foreach (var line in DetailLevels.Of(edition).Reverse())
        {
            var to = Math.Min(end, GroundFor(view, line.PerMetre) ?? 0);
            if (to <= from + 1e-6)
                continue;
            bands.Add(Band(line.Level, line.PerMetre, to));
            from = to;
        }
        if (end > from + 1e-6)
            bands.Add(Band(null, 0, end));
        return bands.ToImmutable();

        DetailBand Band(DetailLevel? level, double perMetre, double to) =>
            new(level, perMetre, from, to, HalfAt(view, from), HalfAt(view, to));
    }

    /// <summary>Metres of the ground to either side of the axis that the picture shows at a distance.</summary>
    private static double HalfAt(ViewDesign view, double groundMetres) =>
        Tan(view.HorizontalDeg / 2) * Math.Max(0, view.DepthMetres(groundMetres, 0));

    private static ImmutableArray<TiltNeed> Needs(ViewDesign view, ImmutableArray<TargetFigures> targets, ViewRules? rules)
    {
        var (height, half, tilt) = (view.HeightMetres, view.VerticalDeg / 2, view.TiltDeg);
        var needs = ImmutableArray.CreateBuilder<TiltNeed>();
        if (view.Use is { } use && rules?.Mounting(use) is { } rule)
            needs.Add(TiltNeed.Of(tilt, new("view.tilt.use", "@view.use." + use), rule.MinTiltDeg, rule.MaxTiltDeg));
        if (rules?.InfraredLeastDeg is { } infrared)
            needs.Add(TiltNeed.Of(tilt, new("view.tilt.infrared"), infrared, null));
        if (view.NearMetres is { } near)
            needs.Add(TiltNeed.Of(tilt, new("view.tilt.near", Message.Number(near, 1)), Deg(Math.Atan2(height, near)) - half, null));
        foreach (var target in targets.Select(t => t.Target))
        {
            // Its top under the upper edge, its foot above the lower one.
            var top = Deg(Math.Atan2(height - target.HeightMetres, target.GroundMetres));
            var foot = Deg(Math.Atan2(height, target.GroundMetres));
            needs.Add(
                TiltNeed.Of(
                    tilt,
                    new("view.tilt.target", Message.Said(target.Name), Message.Number(target.GroundMetres, 1)),
                    foot - half,
                    top + half
                )
            );
        }
        if (rules?.Model is { TiltLeast: not null } or { TiltGreatest: not null })
            needs.Add(TiltNeed.Of(tilt, new("view.tilt.model"), rules.Model.TiltLeast, rules.Model.TiltGreatest));
        return needs.ToImmutable();
    }

    private static ImmutableArray<Message> NotesOf(
        ViewDesign view,
        Coverage.Seen ground,
        ImmutableArray<TargetFigures> targets,
        double? least,
        double? most,
        ViewRules? rules,
        ImmutableArray<Pinhole.Sharp> sharp
    )
    {
        var notes = ImmutableArray.CreateBuilder<Message>();
        if (!ground.IsInView)
            notes.Add(new("view.note.sky"));
        else if (ground.HorizonInView)
            notes.Add(new("view.note.horizon"));
        if (view.Targets.IsEmpty)
            notes.Add(new("view.note.no-target"));
        foreach (var t in targets)
        {
            var name = Message.Said(t.Target.Name);
            if (t.PixelsPerMetre is null)
                notes.Add(new("view.note.behind", name));
            else if (!t.IsTopIn || !t.IsFootIn)
                notes.Add(
                    new(
                        t.IsTopIn ? "view.note.foot-out"
                            : t.IsFootIn ? "view.note.top-out"
                            : "view.note.out",
                        name
                    )
                );
            else if (!t.IsAcrossIn)
                notes.Add(new("view.note.aside", name));
            if (t.SparePerMetre is { } spare && spare < -1e-9)
                notes.Add(
                    new(
                        "view.note.detail",
                        name,
                        Message.Number(t.PixelsPerMetre!.Value, 0),
                        Message.Number(t.NeedPerMetre, 1),
                        Message.Number(Narrower(view, t), 1)
                    )
                );
            if (sharp is [{ } s] && (t.Target.GroundMetres < s.NearMetres || t.Target.GroundMetres > s.FarMetres))
                notes.Add(new("view.note.blurred", name, Message.Number(s.NearMetres, 1)));
        }
        if (least > most)
            notes.Add(new("view.note.no-tilt", Message.Number(least.Value, 1), Message.Number(most.Value, 1)));
        if (view.Use is { } use && rules?.Mounting(use) is { } rule)
        {
            if (view.HeightMetres < rule.MinHeightMetres - 1e-9 || view.HeightMetres > rule.MaxHeightMetres + 1e-9)
                notes.Add(
                    new(
                        "view.note.height",
                        "@view.use." + use,
                        Message.Number(rule.MinHeightMetres, 1),
                        Message.Number(rule.MaxHeightMetres, 1)
                    )
                );
            if (targets.Length > 0 && targets[0].PixelsPerMetre < rule.MinPixelsPerMetre)
                notes.Add(new("view.note.use-detail", "@view.use." + use, Message.Number(rule.MinPixelsPerMetre, 0)));
        }
        var model = rules?.Model;
        if (model?.Lens is { WidestDeg: { } widest } lens)
        {
            var narrowest = lens.NarrowestDeg ?? widest;
            if (view.HorizontalDeg > widest + 0.5 || view.HorizontalDeg < narrowest - 0.5)
                notes.Add(new("view.note.lens", Message.Number(narrowest, 1), Message.Number(widest, 1)));
        }
        if (model is { HeightLeastMetres: not null } or { HeightGreatestMetres: not null })
            if (view.HeightMetres < model.HeightLeastMetres || view.HeightMetres > model.HeightGreatestMetres)
                notes.Add(new("view.note.model-height", Span(model.HeightLeastMetres), Span(model.HeightGreatestMetres)));
        if (view.HorizontalDeg > Pinholes)
            notes.Add(new("view.note.wide", Message.Number(Pinholes)));
        return notes.ToImmutable();

        static string Span(double? metres) => metres is { } m ? Message.Number(m, 1) : "\u2013";
    }

    /// <summary>The field that would give a target the detail it needs.</summary>
    private static double Narrower(ViewDesign view, TargetFigures target)
    {
        var depth = view.FocalPixels / target.PixelsPerMetre!.Value;
        return 2 * Deg(Math.Atan(view.PixelsWide / 2.0 / (target.NeedPerMetre * depth)));
    }
}
