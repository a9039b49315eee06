using Walkdown.Core.Acceptance;
using Walkdown.Core.Links;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Plates;

/// <summary>What a drive and its list say beyond the count: what to look at, and what to do first.</summary>
internal static class PlateNotes
{
    /// <summary>The clock of a list is further off than this: the plate and the video beside it are of two moments (practice).</summary>
    private const double ClockSeconds = 2;

    /// <summary>A slip that comes so often is no chance (practice).</summary>
    private const int Often = 2;

    public static ImmutableArray<Message> Of(
        DriveDesign design,
        ImmutableArray<TrialPass> passes,
        PlateMatch? match,
        ImmutableArray<TrialList> lists,
        int twice
    )
    {
        var told = ImmutableArray.CreateBuilder<Message>();
        if (passes.IsEmpty)
            return [];
        if (match is null || lists.IsEmpty)
            return [new("drive.no-list")];
        var list = lists[0];
        Clock(told, match, list);
        if (list.From == PlateListFrom.CameraPage)
            told.Add(new("drive.page-forgets"));
        Rule(told, design, passes, match);
        Slips(told, passes);
        Worse(told, passes);
        Lines(told, design, list);
        if (design.Rule is null && design.IntervalSeconds > 0 && match.Found is null && passes.All(p => p.Outcome != PassOutcome.Hidden))
            told.Add(new("drive.rule-unknown"));
        if (twice > 0)
            told.Add(new(twice == 1 ? "drive.twice.one" : "drive.twice", Message.Number(twice)));
        if (passes.Any(p => p.IsNight is null))
            told.Add(new("drive.no-place"));
        var away = passes.Count(p => p.Outcome == PassOutcome.NoList);
        if (away > 0 && match.Clock is not null)
            told.Add(new("drive.after-list", Message.Number(away)));
        return told.ToImmutable();
    }

    private static void Clock(ImmutableArray<Message>.Builder told, PlateMatch match, TrialList list)
    {
        if (match.Clock is not { } clock)
        {
            told.Add(
                list.Records == 0 ? new("drive.list-empty", Message.Said(list.Name))
                : list.Own == 0 ? new("drive.list-not-ours", Message.Said(list.Name), Message.Number(list.Records))
                : new("drive.clock-lost")
            );
            return;
        }
        if (!clock.IsSure)
            told.Add(new("drive.clock-unsure", Message.Number(clock.AheadSeconds, 0)));
        // Of two that agree the one that was measured is nearer: in the other is a thumb.
        else if (
            (
                list.MeasuredAheadSeconds is { } asked && Math.Abs(asked - clock.AheadSeconds) <= ListClock.Within
                    ? asked
                    : clock.AheadSeconds
            )
                is var ahead
            && Math.Abs(ahead) > ClockSeconds + clock.SpreadSeconds
        )
            told.Add(new(ahead > 0 ? "drive.clock-ahead" : "drive.clock-behind", Time(Math.Abs(ahead))));
    }

    /// <summary>Seconds as somebody says them: 12 s, or 1:00:04.</summary>
    private static string Time(double seconds) =>
        seconds < 120
            ? Message.Number(seconds, 1) + " s"
            : TimeSpan.FromSeconds(Math.Round(seconds)).ToString("c", CultureInfo.InvariantCulture);

    private static void Rule(ImmutableArray<Message>.Builder told, DriveDesign design, ImmutableArray<TrialPass> passes, PlateMatch match)
    {
        var hidden = passes.Count(p => p.Outcome == PassOutcome.Hidden);
        if (match.Found is { } found)
            told.Add(
                new(
                    found.FromSeconds <= 0 ? "drive.rule-none"
                        : found.IsOpen ? "drive.rule-longer"
                        : "drive.rule-other",
                    "@drive.rule." + Codes.Of(found.Rule),
                    Message.Number(found.FromSeconds, 0),
                    Message.Number(found.ToSeconds, 0),
                    Message.Number(design.IntervalSeconds, 0)
                )
            );
        else if (hidden > 0)
            told.Add(new(hidden == 1 ? "drive.hidden.one" : "drive.hidden", Message.Number(hidden), Message.Number(match.Rule.Seconds, 0)));
        if (passes.Count(p => p.Outcome == PassOutcome.Unclear) is > 0 and var unclear)
            told.Add(new("drive.unclear", Message.Number(unclear)));
    }

    private static void Lines(ImmutableArray<Message>.Builder told, DriveDesign design, TrialList list)
    {
        if (list.Doubles > 0)
            told.Add(new(list.Doubles == 1 ? "drive.doubles.one" : "drive.doubles", Message.Number(list.Doubles)));
        if (list.Unticked > 0)
            told.Add(new(list.Unticked == 1 ? "drive.unticked.one" : "drive.unticked", Message.Number(list.Unticked)));
        if (design.IsAlone && list.Others > 0)
            told.Add(new(list.Others == 1 ? "drive.no-plates.one" : "drive.no-plates", Message.Number(list.Others)));
    }

    /// <summary>The characters that go wrong again and again, and what is read beside the plate.</summary>
    private static void Slips(ImmutableArray<Message>.Builder told, ImmutableArray<TrialPass> passes)
    {
        var slips = passes.SelectMany(p => p.Slips).ToList();
        string[] often =
        [
            .. slips
                .Where(s => s is { Own: not null, Read: not null })
                .CountBy(s => (s.Own, s.Read))
                .Where(s => s.Value >= Often)
                .OrderByDescending(s => s.Value)
                .Take(3)
                .Select(s => $"{s.Key.Own} \u2192 {s.Key.Read} ({Message.Number(s.Value)})"),
        ];
        if (often.Length > 0)
            told.Add(new("drive.slips", string.Join(", ", often)));
        if (slips.Count(s => s.Own is null && s.AtEnd) is >= Often and var emblems)
            told.Add(new("drive.emblem", Message.Number(emblems)));
        if (slips.Count(s => s.Read is null && s.AtEnd) is >= Often and var cut)
            told.Add(new("drive.cut", Message.Number(cut)));
    }

    /// <summary>A sort of pass that is read worse than all others, beyond what the counts leave open.</summary>
    private static void Worse(ImmutableArray<Message>.Builder told, ImmutableArray<TrialPass> passes)
    {
        TrialPass[] counted = [.. passes.Where(p => p.Outcome is PassOutcome.Read or PassOutcome.Misread or PassOutcome.Missed)];
        (string Code, Func<TrialPass, string?> Of)[] sorts =
        [
            ("drive.of.night", p => p.IsNight == true ? "" : null),
            ("drive.of.vehicle", p => Message.Said(p.Vehicle)),
            ("drive.of.speed", p => p.Kmh is { } kmh ? Message.Number(kmh) : null),
            ("drive.of.lane", p => p.Lane is { } lane ? Message.Said(lane) : null),
            ("drive.of.way", p => "@drive.way." + Codes.Of(p.Way)),
        ];
        foreach (var (code, of) in sorts)
        foreach (var group in counted.Where(p => of(p) is not null).GroupBy(p => of(p)!))
        {
            TrialPass[] rest = [.. counted.Except(group)];
            if (rest.Length == 0)
                continue;
            int Right(IEnumerable<TrialPass> some) => some.Count(p => p.Outcome == PassOutcome.Read);
            var (own, others) = (Wilson.Interval(Right(group), group.Count()), Wilson.Interval(Right(rest), rest.Length));
            if (own.High < others.Low)
                told.Add(
                    new(
                        "drive.worse",
                        code == "drive.of.night" ? "@drive.of.night" : group.Key,
                        Message.Number(Right(group)),
                        Message.Number(group.Count()),
                        Message.Number(Right(rest)),
                        Message.Number(rest.Length)
                    )
                );
        }
    }
}
