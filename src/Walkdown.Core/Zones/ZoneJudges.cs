using Walkdown.Core.Acceptance;
using Walkdown.Core.Links;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Zones;

/// <summary>Zones as they are drawn, and as somebody walked through them.</summary>
internal static class ZoneJudges
{
    /// <summary>A zone of which so much rings for nobody is as good as not drawn; from a tenth on that is told.</summary>
    private const double MostlyCovered = 0.5;
    private const double PartlyCovered = 0.1;

    /// <summary>
    /// Out where one reaches beyond the own ground by more than its limit, where another one takes most of it away, or where nothing is
    /// watched at all; not judged where nobody has drawn the own ground.
    /// </summary>
    public static Judged Drawn(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var plan = ZonePlan.Of(((ZonesValue)value).Zones);
        static string Percent(double share) => Message.Number(share * 100, 1);
        if (plan.Watched.IsEmpty)
            return new(State.Out, null, null, [new("zones.nothing-watched")]);
        var because = ImmutableArray.CreateBuilder<Message>();
        var isOut = false;
        double? worst = null;
        foreach (var zone in plan.Watched)
        {
            var name = Message.Said(zone.Name);
            if (zone.Covered >= MostlyCovered)
            {
                isOut = true;
                because.Add(new("zones.covered", name, Percent(zone.Covered)));
            }
            else if (zone.Covered >= PartlyCovered)
                because.Add(new("zones.partly", name, Percent(zone.Covered)));
            if (zone.OffGround is not { } off)
                continue;
            worst = Math.Max(worst ?? 0, off);
            if (window?.Max is { } most && off * 100 > most + 1e-9)
            {
                isOut = true;
                because.Add(new("zones.off-ground", name, Percent(off), Message.Number(most)));
            }
        }
        because.Add(new("zones.watching", Message.Number(plan.Watched.Length), Percent(plan.Watching)));
        if (plan.Twice > 0.01)
            because.Add(new("zones.twice", Percent(plan.Twice)));
        if (plan.Blackened > 0)
            because.Add(new("zones.blackened", Percent(plan.Blackened)));
        if (isOut)
            return new(State.Out, SpareOf(), null, because.ToImmutable());
        if (!plan.HasGround)
            return new(State.NotJudged, null, null, [new("zones.no-ground"), .. because]);
        if (window?.Max is null)
            return new(State.NotJudged, null, null, [.. because, new("because.no-limit")]);
        return new(State.In, SpareOf(), null, because.ToImmutable());

        Spare? SpareOf() =>
            worst is { } share && window?.Max is { } most
                ? new(most - share * 100, null, most > 0 ? (most - share * 100) / most : null, NearestLimit.Max)
                : null;
    }

    /// <summary>
    /// Walks, one press each: inside it should ring, outside not. Each share is held against its limit by its Wilson interval: in where
    /// even the least that rang inside is enough and even the most that rang outside is not too much; out where one cannot be any more;
    /// else more walks.
    /// </summary>
    public static Judged Walked(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var lines = ((FormValue)value).Lines;
        int Count(string word) => lines.Count(l => l.Of("walk")?.Word == word);
        var (rang, missed, silent, wrong) = (Count("inside-rang"), Count("inside-silent"), Count("outside-silent"), Count("outside-rang"));
        var because = ImmutableArray.CreateBuilder<Message>();
        because.Add(Told("inside", rang, rang + missed));
        because.Add(Told("outside", wrong, wrong + silent));
        // How far apart the walks lay says whether the camera had time to fall silent again.
        var times = lines.Select(l => l.At).OfType<DateTimeOffset>().Order().ToList();
        if (times.Count > 1)
            because.Add(
                new(
                    "walks.apart",
                    Message.Number(times.Zip(times.Skip(1), (a, b) => (b - a).TotalSeconds).Min(), 0),
                    Message.Number((times[^1] - times[0]).TotalMinutes, 0)
                )
            );
        if (window?.Min is not { } least)
            return new(State.NotJudged, null, null, [.. because, new("because.no-limit")]);
        var (inside, outside) = (Wilson.Reaches(rang, rang + missed, least), Wilson.Reaches(silent, silent + wrong, least));
        if (inside == false || outside == false)
            return new(State.Out, null, null, because.ToImmutable());
        if (inside == true && outside == true)
            return new(State.In, null, null, because.ToImmutable());
        because.Add(
            new(
                "walks.more",
                Message.Number(Wilson.MoreToReach(rang, rang + missed, least)),
                Message.Number(Wilson.MoreToReach(silent, silent + wrong, least)),
                Message.Number(least)
            )
        );
        return new(State.TooClose, null, null, because.ToImmutable());

        static Message Told(string side, int rings, int all)
        {
            if (all == 0)
                return new($"walks.{side}-none");
            var (low, high) = Wilson.Interval(rings, all);
            return new(
                $"walks.{side}",
                Message.Number(rings),
                Message.Number(all),
                Message.Number(low * 100, 0),
                Message.Number(high * 100, 0)
            );
        }
    }
}
