using Walkdown.Core.Cabling;
using Walkdown.Core.Links;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>One reading against its row.</summary>
internal sealed record Judged(State State, Spare? Spare, double? HalfWidth, ImmutableArray<Message> Because, WireMapAnalysis? Map = null);

/// <summary>Core's closed registry of judges.</summary>
internal static class Judges
{
    public delegate Judged Judge(RowContext context, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt);

    public static readonly IReadOnlyDictionary<string, Judge> All = new Dictionary<string, Judge>
    {
        ["window"] = Window,
        ["yes-no"] = YesNo,
        ["list"] = ListJudges.List,
        ["version"] = ListJudges.Version,
        ["wire-map"] = CableJudges.Map,
        ["loop"] = CableJudges.Loop,
        ["delay"] = CableJudges.Delay,
        ["tone"] = CableJudges.Tone,
        ["scheme"] = CableJudges.Scheme,
        ["feed"] = PowerJudges.Feed,
        ["poe-class"] = PowerJudges.GrantedClass,
        ["mode-switch"] = PowerJudges.ModeSwitch,
        ["poe-volts"] = PowerJudges.PoeVolts,
        ["supply-volts"] = PowerJudges.SupplyVolts,
        ["boot"] = PowerJudges.Boot,
        ["link-speed"] = LinkJudges.Speed,
        ["duplex"] = LinkJudges.Duplex,
        ["probes"] = LinkJudges.Probes,
        ["counters"] = LinkJudges.Counters,
        ["light"] = LinkJudges.Light,
        ["port-role"] = LinkJudges.PortRole,
    };

    /// <summary>Ways of entering that each judge understands.</summary>
    public static readonly IReadOnlyDictionary<string, ImmutableArray<EntryKind>> Entries = new Dictionary<
        string,
        ImmutableArray<EntryKind>
    >
    {
        ["window"] = [EntryKind.Number],
        ["loop"] = [EntryKind.Number],
        ["delay"] = [EntryKind.Number],
        ["poe-volts"] = [EntryKind.Number],
        ["supply-volts"] = [EntryKind.Number],
        ["boot"] = [EntryKind.Number],
        ["yes-no"] = [EntryKind.YesNo],
        ["list"] = [EntryKind.List],
        ["version"] = [EntryKind.Text],
        ["wire-map"] = [EntryKind.WireMap],
        ["probes"] = [EntryKind.Probes],
        ["counters"] = [EntryKind.Counters],
        ["light"] = [EntryKind.Light],
        ["tone"] = [EntryKind.Choice],
        ["scheme"] = [EntryKind.Choice],
        ["feed"] = [EntryKind.Choice],
        ["poe-class"] = [EntryKind.Choice],
        ["mode-switch"] = [EntryKind.Choice],
        ["link-speed"] = [EntryKind.Choice],
        ["duplex"] = [EntryKind.Choice],
        ["port-role"] = [EntryKind.Choice],
    };

    internal static Judged Window(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset _)
    {
        var number = ((NumberValue)value).Value;
        // Nothing says what is right: that is no "in".
        if (window is null)
            return new(
                State.NotJudged,
                null,
                accuracy?.HalfWidthAt(number),
                [new Message("because.no-limit"), .. LimitFunctions.MissingFor(c.Check)]
            );
        if (window.Empty)
            return new(
                State.NotJudged,
                null,
                accuracy?.HalfWidthAt(number),
                [new Message("because.limits-exclude-each-other", [.. window.Parts.Select(p => p.Source)])]
            );
        var decided = Decision.Decide(number, window.Min, window.Max, accuracy, c.Facts.Practice.Rule);
        var state = decided.Outcome switch
        {
            Outcome.In => State.In,
            Outcome.Out => State.Out,
            _ => State.TooClose,
        };
        var because = ImmutableArray.CreateBuilder<Message>();
        if (decided.InstrumentCannotDecide)
            because.Add(new Message("because.instrument-cannot-decide"));
        if (state != State.In && Decisive(window, decided.Spare) is { } part)
            because.Add(new Message("because.limit", part.Purpose, part.Source));
        if (accuracy is null && c.Facts.Practice.Rule == DecisionRule.Guarded)
            because.Add(new Message("because.no-accuracy"));
        return new(state, decided.Spare, decided.HalfWidth, because.ToImmutable());
    }

    /// <summary>The limit that the reading is nearest to.</summary>
    private static Limit? Decisive(LimitWindow window, Spare spare) =>
        spare.Nearest switch
        {
            NearestLimit.Min => window.Parts.LastOrDefault(p => p.Min == window.Min),
            NearestLimit.Max => window.Parts.LastOrDefault(p => p.Max == window.Max),
            _ => null,
        };

    /// <summary>Read, and nothing says what is right: with what is missing.</summary>
    internal static Judged NotJudged(params ImmutableArray<Message> because) => new(State.NotJudged, null, null, because);

    private static Judged YesNo(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt) =>
        new(((YesNoValue)value).Yes ? State.In : State.Out, null, null, []);
}
