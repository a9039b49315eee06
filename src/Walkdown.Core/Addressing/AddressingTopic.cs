using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Addressing;

/// <summary>Addresses, logins and resets.</summary>
internal static class AddressingTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Judges = [new("left-as", SettingsLeft.Judge, EntryKind.Form)],
        Limits = [new("reset-hold", Unit.Second, ResetHold) { AsksFor = ["reset-long"] }],
        Figures = ["reset.short-least", "reset.short-most", "reset.long-least", "reset.long-most"],
    };

    /// <summary>How long a reset button is held: as the model's sheet says, else by the school that the job follows.</summary>
    private static void ResetHold(RowContext c, List<Limit> into)
    {
        if (c.Model?.Reset is { } way)
        {
            into.Add(
                new Limit(
                    "reset.model",
                    way.LeastSeconds,
                    way.MostSeconds,
                    Unit.Second,
                    "the model's template",
                    "a reset that takes, and a button that lasts",
                    c.Catalogue.LimitSet.Edition
                )
            );
            return;
        }
        var school = c.Has("reset-long") ? "reset.long" : "reset.short";
        into.Add(
            new Limit(
                school,
                c.Catalogue.Figure(school + "-least"),
                c.Catalogue.Figure(school + "-most"),
                Unit.Second,
                c.Catalogue.FigureSource(school + "-least"),
                "a reset that takes, and a button that lasts",
                c.Catalogue.LimitSet.Edition
            )
        );
    }
}
