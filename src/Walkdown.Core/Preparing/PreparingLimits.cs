using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Preparing;

/// <summary>Limits of what is done before anybody climbs.</summary>
internal static class PreparingLimits
{
    internal static void BoxSession(RowContext c, List<Limit> into)
    {
        if (c.Model?.BoxSessionMinutes is { } most)
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
