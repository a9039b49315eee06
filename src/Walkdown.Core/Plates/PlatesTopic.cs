using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Plates;

/// <summary>Plates, read.</summary>
internal static class PlatesTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Figures = PlateSetting.Figures,
        Judges = [new("plate-geometry", Geometry, EntryKind.Form)],
    };

    /// <summary>Out where a plate is too small, too much turned, too much smeared or too seldom seen; each with its mend.</summary>
    private static Judged Geometry(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        if (PlateSetting.Of(((FormValue)value).Lines[0]) is not { } setting)
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, "plate")));
        var seen = setting.Seen(c.Catalogue.Figure);
        return new(seen.IsGood ? State.In : State.Out, null, null, [.. seen.Wrong, .. seen.Right]);
    }
}
