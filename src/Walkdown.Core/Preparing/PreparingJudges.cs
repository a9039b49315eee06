using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Preparing;

/// <summary>What is said before anybody climbs.</summary>
internal static class PreparingJudges
{
    private static readonly (string Way, string Figure)[] Reaches =
    [
        ("floor", "way.floor-most"),
        ("steps", "way.steps-most"),
        ("ladder", "way.ladder-most"),
    ];

    /// <summary>The way up against what the place allows: how high the camera hangs, and what was said of footing, reach and hands
    /// (CAPABILITIES C08). What it rests on was said at <c>before.access</c>; nobody asked is nothing known, and says so.</summary>
    internal static Judged WayUp(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var judged = ChoiceJudges.Choice(c, value, window, accuracy, takenAt);
        var way = ((ChoiceValue)value).Choice;
        var because = judged.Because.ToBuilder();
        var state = judged.State;
        var place = new Subject(SubjectKind.Place, c.Facts.Place.Id);
        var height = c.Counting.Number(KnownChecks.Height, place) ?? c.Facts.Place.HeightMetres;
        foreach (var (of, figure) in Reaches)
            if (of == way && height is { } high && c.Catalogue.Figure(figure) is var most && high > most)
                Out(new("way.too-high", Message.Number(high, 1), Message.Number(most, 1), Instead(high)));
        if (way is "steps" or "ladder")
        {
            if (c.Counting.Value(KnownChecks.Access, place) is not ListValue access)
                because.Add(new("way.access-not-said"));
            else
            {
                if (access.Marked.Contains("footing"))
                    Out(new("way.no-footing", Instead(double.PositiveInfinity)));
                if (access.Marked.Contains("over-reach"))
                    Out(new("way.over-reach", Instead(double.PositiveInfinity)));
                if (access.Marked.Contains("hand-too-few"))
                {
                    if (way == "ladder")
                        Out(new("way.nobody-foots-it"));
                    else
                        because.Add(new("way.alone"));
                }
                if (access.Marked.Contains("roadway") || access.Marked.Contains("water-edge"))
                    because.Add(new("way.edge"));
            }
        }
        return judged with { State = state, Because = because.ToImmutable() };

        void Out(Message why)
        {
            state = State.Out;
            because.Insert(0, why);
        }

        // What stands on its own feet higher up; a tile comes down to the floor.
        string Instead(double high) =>
            string.Join(
                ", ",
                c.Row.Good.Select(g => g.Word)
                    .Where(w =>
                        w != way && !Reaches.Any(r => r.Way == w && (double.IsInfinity(high) || high > c.Catalogue.Figure(r.Figure)))
                    )
                    .Select(w => "@choice.before.method." + w)
            );
    }
}
