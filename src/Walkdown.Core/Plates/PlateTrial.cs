using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Clocks;
using Walkdown.Core.Links;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Plates;

/// <summary>A pass that was driven, and what became of it.</summary>
/// <param name="Id">Of its entry.</param>
/// <param name="Number">From 1, in order of time.</param>
/// <param name="Vehicle">Who drove.</param>
/// <param name="Plate">That it has.</param>
/// <param name="At">When it passed.</param>
/// <param name="IsNight">It was dark; null: nobody can say when it is dark here.</param>
/// <param name="Kmh">How fast; null: not said.</param>
/// <param name="Lane">Where; null: not said.</param>
/// <param name="Way">Which way.</param>
/// <param name="Outcome">What became of it.</param>
/// <param name="Read">What was written down; null: nothing, or what cannot be shown.</param>
/// <param name="OffSeconds">That its record came late.</param>
/// <param name="Slips">Characters that are wrong.</param>
public sealed record TrialPass(
    Guid Id,
    int Number,
    string Vehicle,
    string Plate,
    DateTimeOffset At,
    bool? IsNight,
    double? Kmh,
    string? Lane,
    TravelWay Way,
    PassOutcome Outcome,
    string? Read,
    double? OffSeconds,
    ImmutableArray<PlateSlip> Slips
);

/// <summary>Passes of one sort, counted.</summary>
/// <param name="Of">Code of what they have in common: <c>drive.of.day</c>, or <c>drive.of.vehicle</c> and the like with its name.</param>
/// <param name="Passes">Driven.</param>
/// <param name="Counted">Of them say something of the reader.</param>
/// <param name="Right">Read right.</param>
/// <param name="Misread">Written down wrong.</param>
/// <param name="Missed">Not written down.</param>
/// <param name="Hidden">By the same-plate rule, or too near to its end to tell.</param>
/// <param name="Rate">With its interval; null: nothing counts yet.</param>
/// <param name="More">So many more, all right, would show what is asked; 0: it is shown, null: it is shown that it does not.</param>
public sealed record TrialCount(
    Message Of,
    int Passes,
    int Counted,
    int Right,
    int Misread,
    int Missed,
    int Hidden,
    ReadRate? Rate,
    int? More
);

/// <summary>A list beside the drive.</summary>
/// <param name="Id">Of its entry.</param>
/// <param name="From">Where it comes from.</param>
/// <param name="Name">Of the recorder or the file.</param>
/// <param name="TakenAt">When it was taken.</param>
/// <param name="Records">Lines that it has.</param>
/// <param name="Own">Of them of own vehicles.</param>
/// <param name="Doubles">That write the same pass down again.</param>
/// <param name="Unticked">Of own vehicles when nobody ticked them off.</param>
/// <param name="Others">Of somebody else, or no plate at all.</param>
/// <param name="Clock">Of the list against the roadside's; null: they cannot be brought together.</param>
/// <param name="MeasuredAheadSeconds">As the clock was asked; null: it was not.</param>
public sealed record TrialList(
    Guid Id,
    PlateListFrom From,
    string Name,
    DateTimeOffset TakenAt,
    int Records,
    int Own,
    int Doubles,
    int Unticked,
    int Others,
    ListClock? Clock,
    double? MeasuredAheadSeconds
);

/// <summary>A line of the list as it may be shown: own vehicles with their text, others without.</summary>
/// <param name="At">By our clock, once the clocks are brought together.</param>
/// <param name="Text">Of an own vehicle; null: somebody else's.</param>
/// <param name="Fate">What became of it.</param>
/// <param name="Pass">The number of its pass; null: none.</param>
public sealed record TrialLine(DateTimeOffset At, string? Text, LineFate Fate, int? Pass);

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

    /// <summary>Dusk is over for a camera when the sun is so far under the horizon, degrees (docs/calculations.md, M).</summary>
    private const double DarkDeg = -4;

    /// <summary>The drive; null: none was agreed.</summary>
    public DriveDesign? Design { get; init; }

    /// <summary>The drive planned; null: none was agreed.</summary>
    public DrivePlan? Plan { get; init; }

    /// <summary>Percent that is asked.</summary>
    public required double RequiredPercent { get; init; }

    /// <summary>It is dark now; null: nobody can say.</summary>
    public bool? IsDark { get; init; }

    /// <summary>The next pass of the plan in this light; null: all were driven, or there is no plan.</summary>
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

    /// <summary>Whether a Card is of a plate reader.</summary>
    public static bool IsReader(CardFacts facts, Catalogue catalogue) => CheckPlan.FeaturesOf(facts, catalogue).Contains("plates");

    /// <summary>The drive that was agreed last; null: none.</summary>
    public static PlateDrive? LastDrive(CardFacts facts) => Standing<PlateDrive>(facts).LastOrDefault();

    /// <summary>Passes further apart than this are of two visits.</summary>
    private static readonly TimeSpan Apart = TimeSpan.FromHours(3);

    /// <summary>When the first pass of the last visit was: the list from there on is asked for, and no more of who else drove here; null:
    /// none
    /// yet.</summary>
    public static DateTimeOffset? VisitBegan(CardFacts facts)
    {
        DateTimeOffset? began = null;
        foreach (var pass in Standing<PlatePassed>(facts).OrderByDescending(p => p.PassedAt))
        {
            if (began - pass.PassedAt > Apart)
                break;
            began = pass.PassedAt;
        }
        return began;
    }

    /// <summary>Entries of a sort that nobody took back.</summary>
    internal static IEnumerable<T> Standing<T>(CardFacts facts)
        where T : CardEvent
    {
        var taken = facts.Events.OfType<Withdrawal>().Select(w => w.Of).ToHashSet();
        return facts.Events.OfType<T>().Where(e => !taken.Contains(e.Id));
    }

    /// <summary>Makes what may be kept of a list: own vehicles' texts as they are, and those that nearly are; every other plate becomes a
    /// mark
    /// that tells equal plates of this list apart, of a secret that is thrown away.</summary>
    /// <param name="vehicles">Own.</param>
    /// <param name="lines">As they came.</param>
    /// <param name="secret">Made for this list alone.</param>
    public static ImmutableArray<PlateLine> Kept(
        ImmutableArray<TestVehicle> vehicles,
        IEnumerable<(DateTimeOffset At, string Text)> lines,
        ReadOnlySpan<byte> secret
    )
    {
        string[] own = [.. vehicles.Select(v => PlateText.Folded(v.Plate))];
        var kept = ImmutableArray.CreateBuilder<PlateLine>();
        foreach (var (at, text) in lines)
        {
            var read = PlateText.Folded(text);
            if (read.Length is > 0 and <= PlateText.Longest && own.Any(o => PlateText.Distance(o, read) <= PlateText.MostSlips(o)))
                kept.Add(new(at, text.Trim(), null));
            else
            {
                var bytes = System.Text.Encoding.UTF8.GetBytes(read.Length > 0 ? read : text);
                kept.Add(new(at, null, Convert.ToHexStringLower(System.Security.Cryptography.HMACSHA256.HashData(secret, bytes))[..12]));
            }
        }
        return kept.ToImmutable();
    }

    /// <param name="facts">Of the Card.</param>
    /// <param name="catalogue">In force.</param>
    public static PlateTrial Of(CardFacts facts, Catalogue catalogue)
    {
        var required = Math.Clamp(catalogue.LimitSet.Limits.FirstOrDefault(l => l.Id == Limit)?.Min ?? 95, 1, 99.9);
        var design = LastDrive(facts)?.Design;
        var plan = design is null ? null : DrivePlan.Of(design, required);
        var (passed, twice) = Once([.. Standing<PlatePassed>(facts).OrderBy(p => p.PassedAt).ThenBy(p => p.Sequence)]);
        var dark = Darkness(facts);
        var (outcomes, matches) = design is null ? ([], []) : Matched(facts, design, passed);
        ImmutableArray<TrialPass> passes = [.. passed.Select((p, i) => PassOf(p, i, outcomes, dark))];
        var isDark = dark(facts.Now);
        var (next, from) = NextOf(plan, passes, isDark, design);
        var lists = matches.Reverse().Select(m => ListOf(m.List, m.Match)).ToImmutableArray();
        return new()
        {
            Design = design,
            Plan = plan,
            RequiredPercent = required,
            IsDark = isDark,
            Next = next,
            NextFrom = from,
            Passes = passes,
            Lines = matches.IsEmpty ? [] : LinesOf(matches[^1]),
            Lists = lists,
            Rule = matches.IsEmpty ? null : matches[^1].Match.Rule,
            Counts = CountsOf(passes, required),
            Told = design is null ? [] : PlateNotes.Of(design, passes, matches.IsEmpty ? null : matches[^1].Match, lists, twice),
            Values = ValuesOf(passes),
        };
    }

    /// <summary>No vehicle passes twice within this, seconds: two people ticked the same pass off, or one thumb twice.</summary>
    private const double Same = 4;

    private static (PlatePassed[] Passed, int Twice) Once(PlatePassed[] all)
    {
        var last = new Dictionary<string, DateTimeOffset>();
        PlatePassed[] once =
        [
            .. all.Where(p =>
            {
                var isSame = last.TryGetValue(p.Vehicle, out var before) && (p.PassedAt - before).TotalSeconds < Same;
                if (!isSame)
                    last[p.Vehicle] = p.PassedAt;
                return !isSame;
            }),
        ];
        return (once, all.Length - once.Length);
    }

    private sealed record OneMatch(PlateList List, PlateMatch Match, ImmutableArray<int> Passes);

    private readonly record struct Outcome(PassOutcome What, string? Read, double? OffSeconds);

    /// <summary>Each pass by the last list that covers it.</summary>
    private static (Outcome[] Outcomes, ImmutableArray<OneMatch> Matches) Matched(CardFacts facts, DriveDesign design, PlatePassed[] passed)
    {
        var outcomes = new Outcome[passed.Length];
        Array.Fill(outcomes, new(PassOutcome.NoList, null, null));
        var matches = ImmutableArray.CreateBuilder<OneMatch>();
        foreach (var list in Standing<PlateList>(facts))
        {
            // What passed after the list was taken cannot be in it.
            ImmutableArray<int> covered =
            [
                .. Enumerable.Range(0, passed.Length).Where(i => passed[i].PassedAt <= list.At && !(passed[i].PassedAt < list.Covers)),
            ];
            if (covered.IsEmpty && list.Lines.IsEmpty)
                continue;
            var start = passed.Length > 0 ? passed[0].PassedAt : list.At;
            var match = PlateMatch.Of(
                [.. covered.Select(i => new PlateMoment(PlateText.Folded(passed[i].Plate), (passed[i].PassedAt - start).TotalSeconds))],
                [.. list.Lines.Select(l => new PlateMoment(l.Text is null ? null : PlateText.Folded(l.Text), (l.At - start).TotalSeconds))],
                design.IntervalSeconds,
                design.Rule,
                list.AheadSeconds,
                design.IsAlone,
                [.. design.Vehicles.Select(v => PlateText.Folded(v.Plate))]
            );
            matches.Add(new(list, match, covered));
            // A list that cannot be brought together with the passes takes nothing from one that could.
            if (match.Clock is not null || match.Passes.Any(p => p.Outcome != PassOutcome.NoList))
                for (var k = 0; k < covered.Length; k++)
                    outcomes[covered[k]] = new(
                        match.Passes[k].Outcome,
                        match.Passes[k].Line is { } line ? list.Lines[line].Text : null,
                        match.Passes[k].OffSeconds
                    );
        }
        return (outcomes, matches.ToImmutable());
    }

    private static TrialPass PassOf(PlatePassed p, int i, Outcome[] outcomes, Func<DateTimeOffset, bool?> dark)
    {
        var (outcome, read, off) = i < outcomes.Length ? outcomes[i] : new(PassOutcome.NoList, null, null);
        return new(
            p.Id,
            i + 1,
            p.Vehicle,
            p.Plate,
            p.PassedAt,
            dark(p.PassedAt),
            p.Kmh,
            p.Lane,
            p.Way,
            outcome,
            read,
            off,
            outcome == PassOutcome.Misread && read is not null ? PlateText.Slips(PlateText.Folded(p.Plate), PlateText.Folded(read)) : []
        );
    }

    private static TrialList ListOf(PlateList list, PlateMatch match) =>
        new(
            list.Id,
            list.From,
            list.Name,
            list.At,
            list.Lines.Length,
            list.Lines.Count(l => l.Text is not null),
            match.Lines.Count(f => f == LineFate.Double),
            match.Lines.Count(f => f == LineFate.Unticked),
            match.Lines.Count(f => f == LineFate.Other),
            match.Clock,
            list.AheadSeconds
        );

    private static ImmutableArray<TrialLine> LinesOf(OneMatch of)
    {
        var ahead = of.Match.Clock?.AheadSeconds ?? of.List.AheadSeconds ?? 0;
        var passOf = new Dictionary<int, int>();
        for (var k = 0; k < of.Passes.Length; k++)
            if (of.Match.Passes[k].Line is { } line)
                passOf[line] = of.Passes[k] + 1;
        return
        [
            .. of
                .List.Lines.Select((l, i) => (Line: l, i))
                .Where(l => of.Match.Lines[l.i] != LineFate.Other)
                .Select(l => new TrialLine(
                    l.Line.At.AddSeconds(-ahead),
                    l.Line.Text,
                    of.Match.Lines[l.i],
                    passOf.TryGetValue(l.i, out var pass) ? pass : null
                )),
        ];
    }

    private static Func<DateTimeOffset, bool?> Darkness(CardFacts facts) =>
        facts.Site.Where(facts.TimeZone) is var (latitude, longitude, _)
            ? at => Sun.At(latitude, longitude, at).ElevationDeg <= DarkDeg
            : _ => null;

    private static (PlannedPass? Next, DateTimeOffset? From) NextOf(
        DrivePlan? plan,
        ImmutableArray<TrialPass> passes,
        bool? isDark,
        DriveDesign? design
    )
    {
        if (plan is null)
            return (null, null);
        var driven = passes.Count(p => p.IsNight == isDark);
        if (driven >= plan.Passes.Length)
            return (null, null);
        var next = plan.Passes[driven];
        var own = passes.LastOrDefault(p => p.Vehicle == next.Vehicle);
        var interval = design!.IntervalSeconds;
        // What comes early on purpose comes when it is planned; any other not before its plate would be written down again.
        var after =
            passes.IsEmpty ? (DateTimeOffset?)null
            : next.FindsRule ? passes[^1].At.AddSeconds(next.GapSeconds)
            : own is not null && interval > 0 ? own.At.AddSeconds(1.1 * interval + 5)
            : null;
        return (next, after);
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
