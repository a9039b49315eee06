using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;

namespace Walkdown.Core.Aiming;

/// <summary>What the view that was agreed for a head makes its Card expect.</summary>
internal static class AgreedViews
{
    /// <summary>The view of the row's head; null where none was agreed.</summary>
    private static PlannedView? Of(RowContext c) => c.Key.On.Kind == SubjectKind.Head ? c.Facts.AgreedView(c.Key.On.Id) : null;

    /// <summary>The tilt that was agreed.</summary>
    internal static Expectation Tilt(RowContext c)
    {
        if (Of(c) is not { Design: var view })
            return Expecting.None("expect.agreed-tilt", "expect.none.no-view");
        var off = c.Catalogue.Figure("view.tilt-off");
        return Expecting.Of("expect.agreed-tilt", new Estimate([TiltOf(view, off)], static v => v[0]), Unit.Degree);
    }

    /// <summary>Where the agreed view looks, degrees from north clockwise; null where nobody said.</summary>
    internal static double? Bearing(RowContext c) => Of(c)?.Design.AzimuthDeg is { } azimuth ? (azimuth % 360 + 360) % 360 : null;

    /// <summary>The height of the lens that was agreed, the highest head's; null where none was.</summary>
    internal static Expectation? Height(RowContext c)
    {
        PlannedView? highest = null;
        foreach (var head in c.Facts.Heads)
            if (c.Facts.AgreedView(head.Id) is { } view && !(highest?.Design.HeightMetres >= view.Design.HeightMetres))
                highest = view;
        return highest is null
            ? null
            : Expecting.Of(
                "expect.agreed-height",
                new Estimate([HeightOf(highest.Design, c.Catalogue.Figure("view.height-off"))], static v => v[0]),
                Unit.Metre
            );
    }

    /// <summary>Pixels to a metre at the first target.</summary>
    internal static Expectation Detail(RowContext c)
    {
        if (Of(c) is not { Design: { Targets: [var target, ..] } view })
            return Expecting.None("expect.agreed-detail", "expect.none.no-view");
        var (tilt, height) = (TiltOf(view, c.Catalogue.Figure("view.tilt-off")), HeightOf(view, c.Catalogue.Figure("view.height-off")));
        var percent = c.Catalogue.Figure("view.field-percent");
        var field = EstimateInput.Around(
            "term.field",
            view.HorizontalDeg,
            view.HorizontalDeg * percent / 100,
            Unit.Degree,
            Origin.Planned,
            new("from.agreed-view", Message.Number(percent) + " %")
        );
        return Expecting.Of(
            "expect.agreed-detail",
            new Estimate(
                [height, tilt, field],
                v =>
                    PixelDensity
                        .At(
                            view.PixelsWide,
                            Math.Clamp(v[2], 0.1, 179),
                            Math.Max(0, v[0]),
                            target.HeightMetres,
                            Math.Max(0.01, target.GroundMetres),
                            Math.Clamp(v[1], -90, 90)
                        )
                        .PerMetreTilted
            ),
            Unit.PixelPerMetre
        );
    }

    /// <summary>The detail that the first target needs.</summary>
    internal static void DetailLimit(RowContext c, List<Limit> into)
    {
        if (Of(c) is { Design.Targets: [var target, ..] })
            into.Add(
                new Limit(
                    "detail.agreed",
                    DetailLevels.PerMetre(target.Level),
                    null,
                    Unit.PixelPerMetre,
                    DetailLevels.EditionOf(target.Level) == DetailEdition.Edition2014 ? "IEC 62676-4:2014" : "IEC 62676-4, edition of 2025",
                    "the view that was agreed",
                    c.Catalogue.LimitSet.Edition
                )
            );
    }

    /// <summary>Tilts at which all that the view must show is in the picture.</summary>
    internal static void TiltLimit(RowContext c, List<Limit> into)
    {
        if (Of(c) is not { Design: var view })
            return;
        var figures = ViewFigures.Of(view with { Use = null }, DetailEdition.Edition2014);
        if (figures.TiltLeast is null && figures.TiltMost is null)
            return;
        into.Add(
            new Limit(
                "tilt.agreed",
                figures.TiltLeast is { } least ? Math.Round(least, 1) : null,
                figures.TiltMost is { } most ? Math.Round(most, 1) : null,
                Unit.Degree,
                "calculated from the view that was agreed",
                "everything agreed is in the picture",
                c.Catalogue.LimitSet.Edition
            )
        );
    }

    private static EstimateInput TiltOf(ViewDesign view, double off) =>
        new(
            "term.tilt",
            view.TiltDeg,
            view.TiltDeg - off,
            view.TiltDeg + off,
            Unit.Degree,
            Origin.Planned,
            new("from.agreed-view", Message.Number(off) + "\u00b0")
        );

    private static EstimateInput HeightOf(ViewDesign view, double off) =>
        EstimateInput.Around(
            "term.height",
            view.HeightMetres,
            off,
            Unit.Metre,
            Origin.Planned,
            new("from.agreed-view", Message.Number(off) + " m")
        );
}
