using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Preparing;

/// <summary>Limits of what is done before anybody climbs.</summary>
internal static class PreparingLimits
{
    /// <summary>By how warm it is, where the sheet says so and somebody has read it; else one figure for all.</summary>
    internal static void BoxSession(RowContext c, List<Limit> into)
    {
        var ambient = c.Counting.Number(KnownChecks.Ambient, new Subject(SubjectKind.Place, c.Facts.Place.Id));
        if (c.Model is { BoxCurve: { IsEmpty: false } curve } && ambient is { } warm)
            into.Add(
                new Limit(
                    "box-session.ambient",
                    null,
                    BoxCurve.MinutesAt(curve, warm),
                    Unit.Minute,
                    "the model's template",
                    "powered in its box it overheats, the warmer the sooner",
                    c.Catalogue.LimitSet.Edition
                )
            );
        else if (c.Model?.BoxSessionMinutes is { } most)
            into.Add(
                new Limit(
                    "box-session",
                    null,
                    most,
                    Unit.Minute,
                    "the model's template",
                    "powered in its box it overheats",
                    c.Catalogue.LimitSet.Edition
                )
            );
    }
}
