using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Acceptance;

/// <summary>Judges that any topic may use: a number against its window, a yes, a list, a version.</summary>
internal static class GeneralJudges
{
    internal static Judged Window(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset _)
    {
        var number = ((NumberValue)value).Value;
        // Nothing says what is right: that is no "in".
        if (window is null)
            return new(
                State.NotJudged,
                null,
                accuracy?.HalfWidthAt(number),
                [new Message("because.no-limit"), .. Registry.MissingFor(c.Check)]
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
    internal static Limit? Decisive(LimitWindow window, Spare spare) =>
        spare.Nearest switch
        {
            NearestLimit.Min => window.Parts.LastOrDefault(p => p.Min == window.Min),
            NearestLimit.Max => window.Parts.LastOrDefault(p => p.Max == window.Max),
            _ => null,
        };

    /// <summary>Read, and nothing says what is right: with what is missing.</summary>
    internal static Judged NotJudged(params ImmutableArray<Message> because) => new(State.NotJudged, null, null, because);

    internal static Judged YesNo(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt) =>
        new(((YesNoValue)value).Yes ? State.In : State.Out, null, null, []);
}
