using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Aiming;

/// <summary>View, focus and the picture at night.</summary>
internal static class AimingTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Limits =
        [
            new("detail-window", Unit.PixelPerMetre, DetailWindow) { Missing = "missing.detail" },
            new("aim-off", Unit.Degree, AimOff),
        ],
        Expectations = [new("agreed-tilt", Unit.Degree, AgreedViews.Tilt), new("agreed-detail", Unit.PixelPerMetre, AgreedViews.Detail)],
        Figures = ["wait.dusk", "view.tilt-off", "view.field-percent", "view.height-off", "aim.off", .. MountingRule.Figures],
    };

    /// <summary>How far the axis may be from the agreed one.</summary>
    private static void AimOff(RowContext c, List<Limit> into) =>
        into.Add(
            new Limit(
                "aim.off",
                null,
                c.Catalogue.Figure("aim.off"),
                Unit.Degree,
                c.Catalogue.FigureSource("aim.off"),
                "the view that was agreed",
                c.Catalogue.LimitSet.Edition
            )
        );

    /// <summary>Pixels to a metre that the purpose asks for.</summary>
    private static void DetailWindow(RowContext c, List<Limit> into)
    {
        Add("analytics", "detail.analytics", "analytics must tell a person");
        Add("plates", "detail.plates", "a plate must be read");
        AgreedViews.DetailLimit(c, into);

        void Add(string feature, string figure, string purpose)
        {
            if (c.Has(feature))
                into.Add(
                    new Limit(
                        figure,
                        c.Catalogue.Figure(figure),
                        null,
                        Unit.PixelPerMetre,
                        c.Catalogue.FigureSource(figure),
                        purpose,
                        c.Catalogue.LimitSet.Edition
                    )
                );
        }
    }
}
