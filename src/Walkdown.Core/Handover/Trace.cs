using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Handover;

/// <summary>Why a row says what it says: every number with its formula, its inputs and their origin, its limits and their source.</summary>
public sealed record Trace(CheckKey Key, State State, ImmutableArray<TraceStep> Steps)
{
    /// <summary>Traces a row as it was judged.</summary>
    /// <param name="instruments">Of the job, for the accuracy.</param>
    /// <param name="row">The row.</param>
    /// <param name="rule">How it was decided.</param>
    public static Trace Of(CardRow row, DecisionRule rule, IReadOnlyCollection<Instrument> instruments)
    {
        var steps = ImmutableArray.CreateBuilder<TraceStep>();
        var d = row.Check.Decimals + 2;
        var unit = "@unit." + Codes.Of(row.Check.Unit);
        var counts = row.Counting;
        var number = (counts?.Value as NumberValue)?.Value;
        var instrument = instruments.FirstOrDefault(i => i.Id == counts?.InstrumentId);
        if (counts is not null)
        {
            var by = instrument is null
                ? new Term("trace.no-instrument", "", Origin.Measured)
                : new Term("trace.instrument", $"{instrument.Name}, {instrument.Serial}", Origin.Measured);
            steps.Add(
                new(
                    TraceKind.Reading,
                    number is { } v ? new Message("trace.reading", Message.Number(v, d), unit) : new Message("trace.seen"),
                    [by, new Term("trace.source", "@source." + Codes.Of(counts.Source), Origin.Measured)]
                )
            );
        }
        if (number is { } value && counts is not null)
        {
            if (instrument?.AccuracyAt(row.Check.Unit, value) is { } a)
                steps.Add(
                    new(
                        TraceKind.Accuracy,
                        new(
                            "trace.accuracy",
                            Message.Number(a.PercentOfReading, 4),
                            Message.Number(Math.Abs(value), d),
                            Message.Number(a.Counts, 4),
                            Message.Number(a.Resolution ?? 0, 6),
                            Message.Number(a.Absolute, 6),
                            Message.Number(a.HalfWidthAt(value), d),
                            unit
                        ),
                        []
                    )
                );
            else
                steps.Add(new(TraceKind.Accuracy, new("trace.no-accuracy"), []));
        }
        if (row.Expected is { } expected)
        {
            if (expected.WhyNone is { } none)
                steps.Add(new(TraceKind.Expected, none, expected.From));
            else if (expected.Value is { } q)
                steps.Add(
                    new(
                        TraceKind.Expected,
                        expected.PlusMinus is { } pm
                            ? new("trace.expected", "@" + expected.Method, Message.Number(q.Value, d), Message.Number(pm, d), unit)
                            : new("trace.expected-exact", "@" + expected.Method, Message.Number(q.Value, d), unit),
                        expected.From
                    )
                );
            if (expected.Between is { } between)
                steps.Add(
                    new(TraceKind.Expected, new("trace.between", Message.Number(between.Low, d), Message.Number(between.High, d), unit), [])
                );
        }
        if (row.Window is { } window)
        {
            foreach (var part in window.Parts)
                steps.Add(
                    new(
                        TraceKind.Limit,
                        (part.Min, part.Max) switch
                        {
                            ({ } min, { } max) => new("trace.limit.between", Message.Number(min, d), Message.Number(max, d), unit),
                            ({ } min, _) => new("trace.limit.least", Message.Number(min, d), unit),
                            (_, { } max) => new("trace.limit.most", Message.Number(max, d), unit),
                            _ => new("trace.limit.none"),
                        },
                        [new Term("trace.protects", part.Purpose, Origin.Planned)],
                        part.Source,
                        part.Edition
                    )
                );
            if (window.Parts.Length > 1)
                steps.Add(
                    new(
                        TraceKind.Window,
                        window.Empty
                            ? new("trace.window.empty")
                            : new(
                                "trace.window",
                                window.Min is { } least ? Message.Number(least, d) : "\u2013",
                                window.Max is { } most ? Message.Number(most, d) : "\u2013",
                                unit
                            ),
                        []
                    )
                );
            if (number is { } read && counts is not null)
            {
                var half = rule == DecisionRule.Guarded ? counts.HalfWidth ?? 0 : 0;
                steps.Add(
                    new(
                        TraceKind.Decision,
                        new(
                            "trace.decision." + Codes.Of(rule),
                            Message.Number(read - half, d),
                            Message.Number(read + half, d),
                            "@state." + Codes.Of(counts.State),
                            unit
                        ),
                        []
                    )
                );
                if (counts.Spare is { } spare)
                    steps.Add(
                        new(
                            TraceKind.Decision,
                            new(
                                "trace.spare",
                                Message.Number(spare.Value, d),
                                unit,
                                spare.Nearest == NearestLimit.Min ? "@trace.nearest.min" : "@trace.nearest.max"
                            ),
                            []
                        )
                    );
            }
        }
        foreach (var unexpected in row.Unexpected)
            steps.Add(new(TraceKind.Expected, unexpected, []));
        if (row.Ruling is { } ruling)
            steps.Add(
                new(
                    TraceKind.Decision,
                    new("report.ruling." + Codes.Of(ruling.Says), Message.Said(ruling.RuledBy), Message.Said(ruling.Reason)),
                    []
                )
            );
        if (row.State == State.NotJudged)
            foreach (var missing in row.Because)
                steps.Add(new(TraceKind.Decision, missing, []));
        if (number is null && counts is not null)
            steps.Add(new(TraceKind.Decision, new("trace.decided", "@state." + Codes.Of(row.State)), []));
        return new Trace(row.Key, row.State, steps.ToImmutable());
    }
}
