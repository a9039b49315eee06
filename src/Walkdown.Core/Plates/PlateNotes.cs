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
        DriveRecord record,
        ImmutableArray<TrialPass> passes,
        ImmutableArray<TrialCount> counts,
        PlateList? taken,
        PlateMatch? match,
        ImmutableArray<TrialList> lists
    )
    {
        if (record.Design is not { } design)
            return [];
        var told = ImmutableArray.CreateBuilder<Message>();
        if (record.Outdated > 0)
            told.Add(Number("drive.outdated", record.Outdated));
        if (passes.IsEmpty)
            return told.ToImmutable();
        if (match is null || taken is null)
            return [.. told, new("drive.no-list")];
        var list = lists[0];
        Clock(told, match, list);
        if (list.From == PlateListFrom.CameraPage)
            told.Add(new("drive.page-forgets"));
        Rule(told, design, passes, match);
        Slips(told, passes);
        Worse(told, counts);
        Lines(told, design, list);
        if (design.Rule is null && design.IntervalSeconds > 0 && match.Found is null && passes.All(p => p.Outcome != PassOutcome.Hidden))
            told.Add(new("drive.rule-unknown"));
        if (record.Twice > 0)
            told.Add(Number("drive.twice", record.Twice));
        if (passes.Any(p => p.IsNight is null))
            told.Add(new("drive.no-place"));
        // Ticked off without a network, it may have passed before the list was taken: what was read in its place was not kept then.
        if (record.Passed.Count(p => p.Sequence > taken.Sequence) is > 0 and var late && match.Clock is not null)
            told.Add(Number("drive.after-list", late));
        return told.ToImmutable();
    }

    /// <summary>One of a thing is said otherwise than many.</summary>
    private static Message Number(string code, int n, params ReadOnlySpan<string> more) =>
        new(n == 1 ? code + ".one" : code, [Message.Number(n), .. more]);

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
            told.Add(Number("drive.hidden", hidden, Message.Number(match.Rule.Seconds, 0)));
        if (passes.Count(p => p.Outcome == PassOutcome.Unclear) is > 0 and var unclear)
            told.Add(Number("drive.unclear", unclear));
    }

    private static void Lines(ImmutableArray<Message>.Builder told, DriveDesign design, TrialList list)
    {
        if (list.Doubles > 0)
            told.Add(Number("drive.doubles", list.Doubles));
        if (list.OthersAgain > 0)
            told.Add(Number("drive.others-again", list.OthersAgain));
        if (list.Unticked > 0)
            told.Add(Number("drive.unticked", list.Unticked));
        if (design.IsAlone && list.Others > 0)
            told.Add(Number("drive.no-plates", list.Others));
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
    private static void Worse(ImmutableArray<Message>.Builder told, ImmutableArray<TrialCount> counts)
    {
        // The first two are all of them.
        var (right, counted) = (counts[0].Right + counts[1].Right, counts[0].Counted + counts[1].Counted);
        foreach (var some in counts)
        {
            var (others, rest) = (right - some.Right, counted - some.Counted);
            if (some.Counted > 0 && rest > 0 && Wilson.Interval(some.Right, some.Counted).High < Wilson.Interval(others, rest).Low)
                told.Add(
                    new(
                        some.Of.Code.Replace("drive.of.", "drive.worse.", StringComparison.Ordinal),
                        [.. new[] { some.Right, some.Counted, others, rest }.Select(n => Message.Number(n)), .. some.Of.Args]
                    )
                );
        }
    }
}
