using System.Collections.Immutable;
using System.Text.Json;
using BenchmarkDotNet.Attributes;
using BenchmarkDotNet.Configs;
using BenchmarkDotNet.Jobs;
using BenchmarkDotNet.Running;
using BenchmarkDotNet.Toolchains.InProcess.Emit;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;
using Walkdown.Crew;

namespace Walkdown.Bench;

/// <summary>Planning and judging one Card with every row read, one repair and a retest of what it voided.</summary>
[MemoryDiagnoser]
public class JudgeBenchmark
{
    private static readonly Catalogue Catalogue = Catalogue
        .Read(Catalogue.Shipped, Reports.Texts.Shipped("en").Keys.ToHashSet())
        .Catalogue!;
    private readonly CardFacts _facts = Facts(WorkScope.Former);
    private readonly CardFacts _whole = Facts(WorkScope.Whole);
    private readonly JudgedCard _judged;
    private readonly CardFacts _after;

    public JudgeBenchmark()
    {
        _judged = JudgedCard.Of(_whole, Catalogue);
        _after = _whole with
        {
            Readings = _whole.Readings.Add(_whole.Readings[^1] with { Id = Guid.CreateVersion7(), Sequence = long.MaxValue }),
        };
        Console.WriteLine($"| rows of the whole Card: {_judged.Card.Rows.Length}, due: {_judged.Card.Rows.Count(r => r.Required)} |");
    }

    public static void Run() =>
        BenchmarkRunner.Run<JudgeBenchmark>(
            DefaultConfig.Instance.AddJob(Job.ShortRun.WithToolchain(new InProcessEmitToolchain(TimeSpan.FromMinutes(2), true)))
        );

    [Benchmark]
    public int Plan() => CheckPlan.For(_facts, Catalogue).Rows.Length;

    [Benchmark]
    public Verdict PlanAndJudge() => Card.Judge(_facts, Catalogue).Verdict.Verdict;

    /// <summary>A Card that covers the whole job, every row of it taken twice.</summary>
    [Benchmark]
    public Verdict PlanAndJudgeWhole() => Card.Judge(_whole, Catalogue).Verdict.Verdict;

    /// <summary>The same after one more reading.</summary>
    [Benchmark]
    public Verdict OneReadingOfWhole() => _judged.At(_after).Card.Verdict.Verdict;

    private static CardFacts Facts(WorkScope scope)
    {
        var run = Guid.CreateVersion7();
        var by = Guid.CreateVersion7();
        var meter = new Instrument(
            Guid.CreateVersion7(),
            "Meter",
            "M-1",
            [new(Unit.Ohm, new(1)), new(Unit.Metre, new(2)), new(Unit.Volt, new(1))],
            new(2026, 1, 1),
            new(2027, 1, 1),
            [],
            []
        );
        var unit = new UnitFacts(Guid.CreateVersion7(), "TH1", null, DateTimeOffset.UnixEpoch);
        var start = new DateTimeOffset(2026, 10, 14, 9, 0, 0, TimeSpan.Zero);
        var readings = ImmutableArray.CreateBuilder<Reading>();
        var plain = new CardFacts
        {
            Place = new PlaceFacts(
                Guid.CreateVersion7(),
                "CC-07",
                "Roof edge",
                "Concourse",
                "dome-varifocal",
                "Tarn D4Z",
                [],
                null,
                null,
                null,
                null,
                null,
                null
            ),
            Unit = unit,
            Runs =
            [
                new RunFacts(
                    run,
                    "CC-07",
                    LinkConfiguration.PermanentLink,
                    new(60, Origin.Planned),
                    new(24, Origin.Planned),
                    new(ConductorMaterial.SolidCopper, Origin.Planned),
                    false,
                    new(20, Origin.Assumed),
                    0,
                    24,
                    WiringScheme.T568B,
                    new PortFacts(Guid.CreateVersion7(), "K2", 7, new(54, Origin.Planned), 1000)
                ),
            ],
            TimeZone = scope.IsFormer ? "UTC" : "Europe/London",
            Heads = scope.IsFormer ? [] : [new HeadFacts(Guid.CreateVersion7(), 1)],
            Channels = scope.IsFormer ? [] : [new ChannelFacts(Guid.CreateVersion7(), "R-1", 1)],
            Practice = new Practice(DecisionRule.Guarded, WiringScheme.T568B) { Scope = scope },
            Instruments = [meter],
            Now = start.AddHours(4),
        };
        for (var round = 0; round < 2; round++)
            foreach (var row in CheckPlan.For(plain, Catalogue).Rows)
            {
                if (row.Check.Entry == EntryKind.Derived)
                    continue;
                ReadingValue value = row.Check.Entry switch
                {
                    EntryKind.Items => new ItemsValue([.. row.Check.Items.Select(i => new ItemSaid(i.Id, ItemState.Fitted))]),
                    EntryKind.Form => new FormValue([
                        new FormLine([
                            .. row.Check.Fields.Select(f => new FieldSaid(
                                f.Id,
                                f.Entry is FieldEntry.Number or FieldEntry.Count ? 12 : null,
                                f.Entry == FieldEntry.Word ? f.Words[0]
                                    : f.Entry == FieldEntry.Text ? "Ina"
                                    : null
                            )),
                        ]),
                    ]),
                    EntryKind.YesNo => new YesNoValue(true),
                    EntryKind.Choice => new ChoiceValue(row.Check.Choices.Contains("1000") ? "1000" : row.Check.Choices[0]),
                    EntryKind.Light => new ChoiceValue("green-steady"),
                    EntryKind.List => new ListValue([]),
                    EntryKind.Text => new TextValue("3.6.0"),
                    EntryKind.Probes => new ProbesValue(4000, 4000),
                    EntryKind.Counters => new CountersValue(new(0, 0), new(9_000_000, 0), 3600),
                    EntryKind.Zones => GoodAnswers.Zones,
                    EntryKind.Week => new WeekValue(WeekHours.All),
                    EntryKind.WireMap => new WireMapValue(
                        [.. Enumerable.Range(1, 8).Select(p => ImmutableArray.Create(p))],
                        MapReadAt.FarUnit
                    ),
                    _ => new NumberValue(
                        row.Check.Unit switch
                        {
                            Unit.Metre => 59.5,
                            Unit.Ohm => row.Check.Id.Value == "cable.unbalance" ? 0.05 : 10.1,
                            Unit.Nanosecond => 327,
                            Unit.Watt => 12,
                            Unit.Second => 60,
                            Unit.Count => 0,
                            _ => 52.5,
                        },
                        row.Check.Unit
                    ),
                };
                readings.Add(
                    new Reading(
                        Guid.CreateVersion7(),
                        row.Key,
                        unit.Id,
                        value,
                        row.Key.Under,
                        meter.Id,
                        ReadingSource.Tester,
                        by,
                        start.AddMinutes(readings.Count),
                        start,
                        readings.Count + 1
                    )
                );
            }
        var work = new Act
        {
            Id = Guid.CreateVersion7(),
            By = by,
            At = start.AddMinutes(10.5),
            Sequence = 11,
            ActKind = "re-crimp",
            On = new Subject(SubjectKind.Run, run),
            End = CableEnd.Far,
        };
        return plain with { Readings = readings.ToImmutable(), Events = [work] };
    }
}
