using Walkdown.Core.Acceptance;
using Walkdown.Core.Aiming;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Fixing;

/// <summary>Limits of how and where a device is fixed.</summary>
internal static class FixingLimits
{
    /// <summary>Each tilt limit belongs to a purpose: the mechanics, the infrared, the analytics. They are intersected; where they exclude
    /// each other that is said.</summary>
    internal static void TiltWindow(RowContext c, List<Limit> into)
    {
        if (c.Model is { } model && (model.TiltLeast is not null || model.TiltGreatest is not null))
            into.Add(
                new Limit(
                    "tilt.model",
                    model.TiltLeast,
                    model.TiltGreatest,
                    Unit.Degree,
                    "the model's template",
                    "the mount's own stops",
                    c.Catalogue.LimitSet.Edition
                )
            );
        if (c.Has("infrared"))
            into.Add(
                new Limit(
                    "tilt.infrared",
                    c.Catalogue.Figure("tilt.infrared-least"),
                    null,
                    Unit.Degree,
                    c.Catalogue.FigureSource("tilt.infrared-least"),
                    "built-in infrared must not light rim, wall or sky",
                    c.Catalogue.LimitSet.Edition
                )
            );
        if (c.Has("analytics"))
            into.Add(
                new Limit(
                    "tilt.analytics",
                    null,
                    c.Catalogue.Figure("tilt.analytics-most"),
                    Unit.Degree,
                    c.Catalogue.FigureSource("tilt.analytics-most"),
                    "analytics want people upright",
                    c.Catalogue.LimitSet.Edition
                )
            );
        AgreedViews.TiltLimit(c, into);
    }

    /// <summary>Short of the stops on either side: at a stop the last degree is missing when somebody aims again.</summary>
    internal static void PanWindow(RowContext c, List<Limit> into)
    {
        if (c.Model?.Stops is { } stops)
            into.Add(
                new Limit(
                    "pan.stops",
                    stops.PanLeast + c.Catalogue.Figure("pan.spare"),
                    stops.PanGreatest - c.Catalogue.Figure("pan.spare"),
                    Unit.Degree,
                    "the model's template",
                    "clear of its stops, with something left to aim by",
                    c.Catalogue.LimitSet.Edition
                )
            );
    }

    /// <summary>How far the picture may be turned belongs to what it is for: people judge by the horizon, a reader of plates does
    /// not.</summary>
    internal static void RollWindow(RowContext c, List<Limit> into)
    {
        var figure =
            c.Has("plates") ? "roll.plates"
            : c.Has("roll-tolerant") ? "roll.tolerant"
            : "roll.horizon";
        var most = c.Catalogue.Figure(figure);
        into.Add(
            new Limit(
                figure,
                -most,
                most,
                Unit.Degree,
                c.Catalogue.FigureSource(figure),
                "level enough for what it is for",
                c.Catalogue.LimitSet.Edition
            )
        );
    }

    /// <summary>Around where the agreed view looks. It goes on beyond north, as 350 to 370 degrees.</summary>
    internal static void BearingWindow(RowContext c, List<Limit> into)
    {
        if (AgreedViews.Bearing(c) is not { } planned)
            return;
        var most = c.Catalogue.Figure("bearing.off");
        into.Add(
            new Limit(
                "bearing.agreed",
                planned - most,
                planned + most,
                Unit.Degree,
                c.Catalogue.FigureSource("bearing.off"),
                "the front looks where the agreed view does",
                c.Catalogue.LimitSet.Edition
            )
        );
    }

    /// <summary>What is left of the cable at the device.</summary>
    internal static void Slack(RowContext c, List<Limit> into)
    {
        if (c.Model?.SlackMetres is { } least)
            into.Add(
                new Limit(
                    "slack.model",
                    least,
                    null,
                    Unit.Metre,
                    "the model's template",
                    "it can be taken down, and its plug made once more",
                    c.Catalogue.LimitSet.Edition
                )
            );
    }

    internal static void HeightWindow(RowContext c, List<Limit> into)
    {
        if (c.Model is { } model && (model.HeightLeastMetres is not null || model.HeightGreatestMetres is not null))
            into.Add(
                new Limit(
                    "height.model",
                    model.HeightLeastMetres,
                    model.HeightGreatestMetres,
                    Unit.Metre,
                    "the model's template",
                    "what the model is made for",
                    c.Catalogue.LimitSet.Edition
                )
            );
        if (c.Has("analytics"))
            into.Add(
                new Limit(
                    "height.analytics",
                    c.Catalogue.Figure("height.analytics-least"),
                    null,
                    Unit.Metre,
                    c.Catalogue.FigureSource("height.analytics-least"),
                    "analytics need a view from above",
                    c.Catalogue.LimitSet.Edition
                )
            );
    }
}
