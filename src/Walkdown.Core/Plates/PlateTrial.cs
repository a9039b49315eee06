using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Links;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Plates;

/// <summary>
/// A test drive before a plate reader: what was planned, what passed, what the list has of it, how often it was read right and how sure
/// that is.
/// </summary>
public sealed record PlateTrial
{
    /// <summary>The row of passes by day.</summary>
    public static readonly CheckId Day = new("plates.trial");

    /// <summary>The row of passes by night.</summary>
    public static readonly CheckId Night = new("plates.trial-night");

    /// <summary>Id of the limit that both are held against.</summary>
    public const string Limit = "plates.read-rate";

    /// <summary>The drive; null: none was agreed.</summary>
    public DriveDesign? Design { get; init; }

    /// <summary>The drive planned; null: none was agreed.</summary>
    public DrivePlan? Plan { get; init; }

    /// <summary>Percent that is asked.</summary>
    public required double RequiredPercent { get; init; }

    /// <summary>It is dark now; null: nobody can say.</summary>
    public bool? IsDark { get; init; }

    /// <summary>So many more passes are wanted in this light: of the plan, and once a list says how they were read, until the rate is
    /// shown; null: there is no plan, or it is shown that the rate is not reached.</summary>
    public int? Left { get; init; }

    /// <summary>The next of them; null: none is wanted.</summary>
    public PlannedPass? Next { get; init; }

    /// <summary>When it may come at the earliest; null: at once.</summary>
    public DateTimeOffset? NextFrom { get; init; }

    /// <summary>What passed, in order of time.</summary>
    public required ImmutableArray<TrialPass> Passes { get; init; }

    /// <summary>The last list, line by line, around the passes.</summary>
    public required ImmutableArray<TrialLine> Lines { get; init; }

    /// <summary>The lists, the last one first.</summary>
    public required ImmutableArray<TrialList> Lists { get; init; }

    /// <summary>The same-plate rule that the last list was judged by; null: no list.</summary>
    public RepeatFit? Rule { get; init; }

    /// <summary>By day, then by night, then all that were told apart.</summary>
    public required ImmutableArray<TrialCount> Counts { get; init; }

    /// <summary>What is to be known, what is to be done about it first.</summary>
    public required ImmutableArray<Message> Told { get; init; }

    /// <summary>What the rows of the Card would be told.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public ImmutableArray<(CheckId Check, FormValue Value)> Values { get; init; } = [];

    /// <param name="facts">Of the Card.</param>
    /// <param name="catalogue">In force.</param>
    public static PlateTrial Of(CardFacts facts, Catalogue catalogue) => Of(new DriveRecord(facts, catalogue), facts.Now, catalogue);

    /// <param name="record">Of the Card.</param>
    /// <param name="now">The moment that it is told at.</param>
    /// <param name="catalogue">In force.</param>
    public static PlateTrial Of(DriveRecord record, DateTimeOffset now, Catalogue catalogue)
    {
        var required = Math.Clamp(catalogue.LimitSet.Limits.FirstOrDefault(l => l.Id == Limit)?.Min ?? 95, 1, 99.9);
        var plan = record.Design is { } design ? DrivePlan.Of(design, required) : null;
        var outcomes = record.Passed.Select(_ => new Outcome(PassOutcome.NoList, null, null)).ToArray();
        var matches = Matched(record, outcomes);
        ImmutableArray<TrialPass> passes = [.. record.Passed.Select((p, i) => PassOf(p, i + 1, outcomes[i], record.Dark(p.PassedAt)))];
        var counts = CountsOf(passes, required);
        var isDark = record.Dark(now);
        var here = passes.Where(p => (p.IsNight ?? false) == (isDark ?? false)).ToArray();
        var left = plan is null ? null : LeftOf(plan, here, counts[isDark == true ? 1 : 0]);
        var next = left > 0 ? plan!.After(here.Length) : null;
        var own = next is null ? null : passes.LastOrDefault(p => p.Vehicle == next.Vehicle);
        var last = matches.IsEmpty ? null : matches[^1];
        ImmutableArray<TrialList> lists = [.. matches.Reverse().Select(m => ListOf(m, record.ChangedAt))];
        return new()
        {
            Design = record.Design,
            Plan = plan,
            RequiredPercent = required,
            IsDark = isDark,
            Left = left,
            Next = next,
            NextFrom = next?.AfterOwnSeconds > 0 ? own?.At.AddSeconds(next.AfterOwnSeconds) : null,
            Passes = passes,
            Lines = last is null ? [] : LinesOf(last, record.ChangedAt),
            Lists = lists,
            Rule = last?.Match.Rule,
            Counts = counts,
            Told = PlateNotes.Of(record, passes, counts, last?.List, last?.Match, lists),
            Values = ValuesOf(passes),
        };
    }

    /// <summary>Before a list the plan says how many; with one the rate does, and what passed since is on its way.</summary>
    private static int? LeftOf(DrivePlan plan, TrialPass[] here, TrialCount count)
    {
        var open = here.Count(p => p.Outcome == PassOutcome.NoList);
        return open == here.Length ? Math.Max(0, plan.Passes.Length - here.Length)
            : count.More is { } more ? Math.Max(0, more - open)
            : null;
    }

    /// <summary>A list with the passes that it covers, by their place.</summary>
    private sealed record OneMatch(PlateList List, PlateMatch Match, ImmutableArray<int> Passes)
    {
        /// <summary>A line's moment by our clock.</summary>
        public DateTimeOffset At(PlateLine line) => line.At.AddSeconds(-(Match.Clock?.AheadSeconds ?? List.AheadSeconds ?? 0));
    }

    private readonly record struct Outcome(PassOutcome What, string? Read, double? OffSeconds);

    /// <summary>Lists of the reader as it is now; each pass has its outcome by the last one that covers it.</summary>
    private static ImmutableArray<OneMatch> Matched(DriveRecord record, Outcome[] outcomes)
    {
        var matches = ImmutableArray.CreateBuilder<OneMatch>();
        foreach (var list in record.Lists.Where(l => !(l.At < record.ChangedAt)))
        {
            // What passed after the list was taken cannot be in it.
            ImmutableArray<int> covered =
            [
                .. Enumerable
                    .Range(0, outcomes.Length)
                    .Where(i => record.Passed[i].PassedAt <= list.At && !(record.Passed[i].PassedAt < list.Covers)),
            ];
            if (record.Match(list.Lines, [.. covered.Select(i => record.Passed[i])], list.AheadSeconds) is not { } match)
                continue;
            matches.Add(new(list, match, covered));
            // A list that cannot be brought together with the passes takes nothing from one that could.
            for (var k = 0; k < covered.Length; k++)
                if (match.Passes[k] is { Outcome: not PassOutcome.NoList } pass)
                    outcomes[covered[k]] = new(pass.Outcome, pass.Line is { } line ? list.Lines[line].Text : null, pass.OffSeconds);
        }
        return matches.ToImmutable();
    }

    private static TrialPass PassOf(PlatePassed p, int number, Outcome outcome, bool? isNight) =>
        new(
            p.Id,
            number,
            p.Vehicle,
            p.Plate,
            p.PassedAt,
            isNight,
            p.Kmh,
            p.Lane,
            p.Way,
            outcome.What,
            outcome.Read,
            outcome.OffSeconds,
            outcome is (PassOutcome.Misread, { } read, _) ? PlateText.Slips(PlateText.Folded(p.Plate), PlateText.Folded(read)) : []
        );

    /// <summary>What was written down before the reader was changed is of another reader, as it were.</summary>
    private static TrialList ListOf(OneMatch of, DateTimeOffset? changedAt)
    {
        var (list, match, _) = of;
        int[] now = [.. Enumerable.Range(0, list.Lines.Length).Where(i => !(of.At(list.Lines[i]) < changedAt))];
        int Count(LineFate fate) => now.Count(i => match.Lines[i] == fate);
        return new(
            list.Id,
            list.From,
            list.Name,
            list.At,
            now.Length,
            now.Count(i => list.Lines[i].Text is not null),
            Count(LineFate.Double),
            Count(LineFate.Unticked),
            Count(LineFate.Other),
            Again([.. now.Select(i => list.Lines[i])]),
            match.Clock,
            list.AheadSeconds
        );
    }

    /// <summary>Others that were written down again within moments: so long somebody waits before a barrier.</summary>
    private static int Again(PlateLine[] lines) =>
        lines
            .Where(l => l.Mark is not null)
            .GroupBy(l => l.Mark)
            .Sum(of => of.Zip(of.Skip(1)).Count(pair => (pair.Second.At - pair.First.At).TotalSeconds <= PlateMatch.Moments));

    private static ImmutableArray<TrialLine> LinesOf(OneMatch of, DateTimeOffset? changedAt)
    {
        var passOf = new Dictionary<int, int>();
        for (var k = 0; k < of.Passes.Length; k++)
            if (of.Match.Passes[k].Line is { } line)
                passOf[line] = of.Passes[k] + 1;
        return
        [
            .. of
                .List.Lines.Select((l, i) => (Line: l, i, At: of.At(l)))
                .Where(l => of.Match.Lines[l.i] != LineFate.Other && !(l.At < changedAt))
                .Select(l => new TrialLine(l.At, l.Line.Text, of.Match.Lines[l.i], passOf.TryGetValue(l.i, out var pass) ? pass : null)),
        ];
    }

    private static ImmutableArray<TrialCount> CountsOf(ImmutableArray<TrialPass> passes, double required)
    {
        var counts = ImmutableArray.CreateBuilder<TrialCount>();
        counts.Add(Count(new("drive.of.day"), passes.Where(p => p.IsNight != true)));
        counts.Add(Count(new("drive.of.night"), passes.Where(p => p.IsNight == true)));
        By("drive.of.vehicle", p => Message.Said(p.Vehicle));
        By("drive.of.speed", p => p.Kmh is { } kmh ? Message.Number(kmh) : null);
        By("drive.of.lane", p => p.Lane is { } lane ? Message.Said(lane) : null);
        By("drive.of.way", p => "@drive.way." + Codes.Of(p.Way));
        return counts.ToImmutable();

        void By(string code, Func<TrialPass, string?> what)
        {
            var groups = passes.Where(p => what(p) is not null).GroupBy(p => what(p)!).ToList();
            // One sort alone is all of them, and is counted already.
            if (groups.Count > 1)
                foreach (var group in groups.OrderBy(g => g.Key.Length).ThenBy(g => g.Key, StringComparer.Ordinal))
                    counts.Add(Count(new(code, group.Key), group));
        }

        TrialCount Count(Message of, IEnumerable<TrialPass> some)
        {
            TrialPass[] all = [.. some];
            int Of(PassOutcome outcome) => all.Count(p => p.Outcome == outcome);
            var (right, wrong, missed) = (Of(PassOutcome.Read), Of(PassOutcome.Misread), Of(PassOutcome.Missed));
            var counted = right + wrong + missed;
            return new(
                of,
                all.Length,
                counted,
                right,
                wrong,
                missed,
                Of(PassOutcome.Hidden) + Of(PassOutcome.Unclear),
                counted == 0 ? null : ReadRate.Of(counted, right, required),
                Wilson.Reaches(right, counted, required) == false ? null : Wilson.MoreToReach(right, counted, required)
            );
        }
    }

    private static ImmutableArray<(CheckId, FormValue)> ValuesOf(ImmutableArray<TrialPass> passes)
    {
        var values = ImmutableArray.CreateBuilder<(CheckId, FormValue)>();
        foreach (var (check, isNight) in new[] { (Day, false), (Night, true) })
        {
            ImmutableArray<FormLine> lines =
            [
                .. passes
                    .Where(p => (p.IsNight ?? false) == isNight && p.Outcome != PassOutcome.NoList)
                    .TakeLast(DrivePlan.Most)
                    .Select(p => new FormLine([new("outcome", null, Word(p.Outcome)), new("vehicle", null, p.Vehicle)], p.At)),
            ];
            if (!lines.IsEmpty)
                values.Add((check, new(lines)));
        }
        return values.ToImmutable();

        static string Word(PassOutcome outcome) =>
            outcome switch
            {
                PassOutcome.Read => "hit",
                PassOutcome.Misread => "wrong",
                PassOutcome.Missed => "miss",
                _ => "hidden",
            };
    }
}
