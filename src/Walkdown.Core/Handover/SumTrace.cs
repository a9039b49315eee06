using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;

namespace Walkdown.Core.Handover;

/// <summary>How a number of the report that is no reading came about: a count, a share, a budget.</summary>
/// <param name="Of">What is counted, such as <c>cards-refused</c>, <c>readings-typed</c>, <c>source</c>.</param>
/// <param name="Subject">The source it is about; empty where it is about the whole job.</param>
/// <param name="Value">The number as it is printed.</param>
/// <param name="Steps">How it came about, in order.</param>
public sealed record SumTrace(string Of, string Subject, Message Value, ImmutableArray<TraceStep> Steps)
{
    private const string Grant = "IEEE 802.3, 33 and 145",
        Ohm = "Ohm's law";

    private const string OfCards = "cards-";

    /// <summary>Whether a Card is one of those that make up a sum.</summary>
    public static bool Makes(string of, CountedCard card) =>
        of switch
        {
            "faults" => card.OpenFaults > 0,
            "pictures" => card.Pictures > 0,
            _ => !card.Cancelled && of == OfCards + Codes.Of(card.Verdict),
        };

    /// <summary>How many Cards have which Verdict, their open Faults and their pictures, in the order in which the report prints
    /// them.</summary>
    public static ImmutableArray<SumTrace> Counts(IReadOnlyCollection<CountedCard> cards)
    {
        var sums = ImmutableArray.CreateBuilder<SumTrace>();
        foreach (var verdict in new[] { Verdict.Accepted, Verdict.AcceptedWithNote, Verdict.Refused, Verdict.Open })
        {
            var of = OfCards + Codes.Of(verdict);
            var these = cards.Where(c => Makes(of, c)).ToList();
            sums.Add(
                Count(
                    of,
                    these.Count,
                    new("sum.cards", Text(these.Count), Text(cards.Count(c => !c.Cancelled)), "@verdict." + Codes.Of(verdict)),
                    [.. these.Select(c => Counted(c.Label))]
                )
            );
        }
        sums.Add(Added("faults", c => c.OpenFaults));
        sums.Add(Added("pictures", c => c.Pictures));
        return sums.ToImmutable();

        SumTrace Added(string of, Func<CountedCard, int> number)
        {
            var these = cards.Where(c => Makes(of, c)).ToList();
            return Count(
                of,
                these.Sum(number),
                new("sum." + of, Text(these.Sum(number)), Text(these.Count)),
                [.. these.Select(c => Counted($"{c.Label} {Text(number(c))}"))]
            );
        }
    }

    /// <summary>Readings, those that were withdrawn among them.</summary>
    /// <param name="readBy">By the name of who took them.</param>
    /// <param name="all">All of them.</param>
    /// <param name="withdrawn">Those taken back.</param>
    public static SumTrace Readings(int all, int withdrawn, IEnumerable<(string Name, int Readings)> readBy) =>
        Count(
            "readings",
            all,
            new("sum.readings", Text(all), Text(withdrawn), Text(all - withdrawn)),
            [.. readBy.Select(r => Counted($"{r.Name} {Text(r.Readings)}"))]
        );

    /// <summary>Shares of the readings that stand, by where they come from.</summary>
    public static ImmutableArray<SumTrace> Shares(Honesty honesty) =>
        [
            .. new[]
            {
                ("tester", honesty.Tester),
                ("typed", honesty.Typed),
                ("imported", honesty.Imported),
                ("simulated", honesty.Simulated),
            }
                .Where(s => s.Item2 > 0)
                .Select(s => new SumTrace(
                    "readings-" + s.Item1,
                    "",
                    new("sum.percent", Text(Percent(s.Item2, honesty.Readings))),
                    [
                        new(
                            TraceKind.Sum,
                            new("sum.share", Text(s.Item2), Text(honesty.Readings), Text(Percent(s.Item2, honesty.Readings))),
                            []
                        ),
                    ]
                )),
        ];

    /// <summary>A share as it is printed, whole percent.</summary>
    public static int Percent(int count, int of) => of == 0 ? 0 : (int)Math.Round(100.0 * count / of);

    /// <summary>The budget of a switch or injector: what it can give, what is asked of it, what is left.</summary>
    /// <param name="ratedWatts">As it is written on it; null where nobody knows.</param>
    /// <param name="drawPercent">How far a planned draw may be off, percent; null where that is not asked.</param>
    /// <param name="budget">The budget.</param>
    /// <param name="name">The source's name.</param>
    /// <param name="reservePercent">Held back, percent.</param>
    public static SumTrace Budget(string name, double? ratedWatts, double reservePercent, SourceBudget budget, double? drawPercent = null)
    {
        var steps = ImmutableArray.CreateBuilder<TraceStep>();
        if (ratedWatts is { } rated && budget.UsableWatts is { } usable)
            steps.Add(
                new(
                    TraceKind.Limit,
                    reservePercent > 0
                        ? new("sum.source.usable", Watts(rated), Message.Number(reservePercent, 1), Watts(usable))
                        : new("sum.source.whole", Watts(usable)),
                    [
                        new Term("sum.rated", Watts(rated) + " W", Origin.Planned),
                        .. reservePercent > 0
                            ? [new Term("sum.reserve", Message.Number(reservePercent, 1) + " %", Origin.Planned)]
                            : ImmutableArray<Term>.Empty,
                    ]
                )
            );
        else
            steps.Add(new(TraceKind.Limit, new("sum.source.unknown"), []));
        steps.Add(
            new(
                TraceKind.Sum,
                new("sum.source.asked", Text(budget.InOrder.Length), Watts(budget.ByDraw.DemandWatts)),
                [
                    .. budget.InOrder.Select(p => new Term(
                        "sum.port",
                        $"{Text(p.Port)} {p.Label} {Watts(p.DrawWatts)} W",
                        p.Origin,
                        Off(p) is > 0 and var off ? Watts(off) + "\u00a0W" : null
                    )),
                ]
            )
        );
        if (drawPercent is { } percent && budget.InOrder.Sum(Off) is > 0 and var all)
            steps.Add(
                new(
                    TraceKind.Expected,
                    new(
                        "sum.source.between",
                        Message.Number(percent),
                        Watts(budget.ByDraw.DemandWatts - all),
                        Watts(budget.ByDraw.DemandWatts + all)
                    ),
                    []
                )
            );
        if (budget is { UsableWatts: { } gives, ByDraw.LeftWatts: { } left })
            steps.Add(new(TraceKind.Decision, new("sum.source.left", Watts(gives), Watts(budget.ByDraw.DemandWatts), Watts(left)), []));
        if (budget.UsableWatts is not null)
            steps.Add(
                new(
                    TraceKind.Decision,
                    budget.ByDraw.Refused.IsEmpty
                        ? new("sum.source.all-fed")
                        : new("sum.source.dropped", string.Join(", ", budget.ByDraw.Refused)),
                    [],
                    Grant
                )
            );
        return new SumTrace("source", name, Left(budget.ByDraw.LeftWatts, budget.ByDraw.DemandWatts, "W"), steps.ToImmutable());

        double Off(PortShare p) => drawPercent is { } share && p.Origin is Origin.Planned or Origin.AsBuilt ? p.DrawWatts * share / 100 : 0;
    }

    /// <summary>The budget of a low-voltage supply, ampere.</summary>
    public static SumTrace Budget(string name, SupplyFacts supply, SupplyRun run, double derating)
    {
        var steps = ImmutableArray.CreateBuilder<TraceStep>();
        if (supply.RatedAmperes is { } rated && run.Loading is { } loading)
            steps.Add(
                new(
                    TraceKind.Limit,
                    new("sum.supply.usable", Amperes(rated), Message.Number(derating), Amperes(loading.UsableAmperes)),
                    [new Term("sum.rated", Amperes(rated) + " A", Origin.Planned)]
                )
            );
        else if (supply.RatedAmperes is null)
            steps.Add(new(TraceKind.Limit, new("sum.source.unknown"), []));
        if (run is { Solved: true, SupplyAmperes: { } asked })
        {
            // A constant power draws more ampere the fewer volts reach it; both stand beside each device.
            steps.Add(
                new(
                    TraceKind.Sum,
                    new("sum.supply.asked", Text(supply.Taps.Length), Amperes(asked)),
                    [
                        .. supply.Taps.Select(
                            (tap, i) =>
                                new Term(
                                    "",
                                    $"{tap.Label} {Watts(run.Watts[i]!.Value)} W / {Message.Number(run.Volts[i], 2)} V",
                                    Origin.Planned
                                )
                        ),
                    ],
                    Ohm
                )
            );
            if (run.Loading is { } l)
                steps.Add(
                    new(
                        TraceKind.Decision,
                        new("sum.supply.left", Amperes(l.UsableAmperes), Amperes(asked), Amperes(l.HeadroomAmperes)),
                        []
                    )
                );
        }
        else
            steps.Add(
                new(
                    TraceKind.Sum,
                    new("sum.supply.unsolved"),
                    [
                        .. supply.Taps.Select(
                            (tap, i) =>
                                new Term(
                                    "",
                                    tap.Label + (run.Watts[i] is { } w ? $" {Watts(w)} W" : ""),
                                    run.Watts[i] is null ? Origin.Assumed : Origin.Planned
                                )
                        ),
                    ],
                    Ohm
                )
            );
        if (run is { Solved: true, Limit: { } limit })
            steps.Add(
                new(
                    TraceKind.Decision,
                    run.OutOfRange.IsEmpty
                        ? new("sum.supply.in")
                        : new("sum.supply.out", string.Join(", ", run.OutOfRange.Select(i => supply.Taps[i].Label))),
                    [],
                    limit.Source,
                    limit.Edition
                )
            );
        return new SumTrace("source", name, Left(run.Loading?.HeadroomAmperes, run.SupplyAmperes, "A"), steps.ToImmutable());
    }

    private static Message Left(double? left, double? asked, string unit) =>
        left is { } known ? new("sum.left", Rounded(known), unit)
        : asked is { } sum ? new("sum.asked", Rounded(sum), unit)
        : new("sum.unknown");

    private static SumTrace Count(string of, int count, Message what, ImmutableArray<Term> from) =>
        new(of, "", new("sum.count", Text(count)), [new(TraceKind.Sum, what, from)]);

    private static Term Counted(string value) => new("", value, Origin.Measured);

    private static string Text(int number) => number.ToString(CultureInfo.InvariantCulture);

    private static string Watts(double value) => Message.Number(value, 1);

    private static string Amperes(double value) => Message.Number(value, 3);

    private static string Rounded(double value) => Message.Number(value, 2);
}
