using System.Collections.Immutable;
using System.Text.Json;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;
using Walkdown.Core.Recording;
using Walkdown.Core.Topics;
using Walkdown.Crew;

namespace Walkdown.Core.Tests;

/// <summary>One entry after another gives the same Card as all of them at once; and the map of what leans on what is whole.</summary>
public sealed class IncrementalTests
{
    private static readonly (string Kind, string Model, bool Supply, bool Shared)[] Devices =
    [
        ("dome-varifocal", "Tarn D4Z", false, false),
        ("bullet", "Skerry B4", false, false),
        ("pan-tilt-zoom", "", false, false),
        ("dome-varifocal", "Tarn D4Z", true, false),
        ("multi-head", "", false, true),
    ];

    private static Facts Device(int which, Random random)
    {
        var (kind, model, supply, shared) = Devices[which % Devices.Length];
        return new Facts().With(f =>
            f with
            {
                Place = f.Place with { Kind = kind, Model = model, HeightMetres = random.Next(2) == 0 ? 3.2 : null },
                Heads = [new(Guid.NewGuid(), 1)],
                Channels = [new(Guid.NewGuid(), "R-1", 4, "2.1")],
                Runs = [f.Runs[0] with { Shared = shared, CordsMetres = random.Next(2) * 6 }],
                Practice = f
                    .Practice.Taking("unexpected", random.Next(2) == 0 ? "refuses" : "noted")
                    .Taking("scheme", random.Next(2) == 0 ? "far-end" : "own"),
                Supply = supply
                    ? new SupplyFacts(
                        Guid.NewGuid(),
                        "PSU-1",
                        SupplyRange.V12Dc,
                        new(12.6, Origin.Planned),
                        0,
                        5,
                        null,
                        null,
                        new(18),
                        20,
                        [new(f.Place.Id, f.Place.Label, kind, model, 20, 4, 9)]
                    )
                    : null,
            }
        );
    }

    private static ReadingValue Value(PlannedRow row, Random random)
    {
        var good = random.Next(3) > 0;
        return row.Check.Entry switch
        {
            EntryKind.YesNo => new YesNoValue(good),
            EntryKind.Choice => new ChoiceValue(row.Check.Choices[random.Next(row.Check.Choices.Length)]),
            EntryKind.Light => new ChoiceValue(good ? "green-steady" : "off"),
            EntryKind.List => new ListValue(
                good || row.Check.Items.IsEmpty ? [] : [row.Check.Items[random.Next(row.Check.Items.Length)].Id]
            ),
            EntryKind.Text => new TextValue(good ? "3.6.0" : "1.0"),
            EntryKind.Probes => new ProbesValue(4000, good ? 4000 : 3700),
            EntryKind.Counters => new CountersValue(new(0, 0), new(9_000_000, good ? 0 : 4000), 3600),
            EntryKind.Zones => good ? GoodAnswers.Zones : new ZonesValue([GoodAnswers.Zones.Zones[1]]),
            EntryKind.Week => new WeekValue(good ? WeekHours.All : []),
            EntryKind.WireMap => good ? Facts.Straight : Facts.Map(1, 2, 3, 4, 5, 6, 0, 8),
            _ => new NumberValue(
                row.Check.Unit switch
                {
                    Unit.Metre => good ? 55 + random.Next(10) : 140,
                    Unit.Ohm => row.Check.Id.Value == "cable.unbalance" ? 0.05 : 9 + random.Next(20) / 4.0,
                    Unit.Nanosecond => 320 + random.Next(60),
                    Unit.Watt => 4 + random.Next(14),
                    Unit.Second => 60,
                    Unit.Count => random.Next(3),
                    _ => good ? 52.5 : 12.1,
                },
                row.Check.Unit
            ),
        };
    }

    /// <summary>Something that somebody enters, of every sort there is.</summary>
    private static void Enter(Facts facts, Random random)
    {
        var rows = CheckPlan.For(facts.Now, Facts.Shipped).Rows;
        var row = rows[random.Next(rows.Length)];
        // Some of it from before each head was asked: then it was said of the place.
        var key =
            row.Key.On.Kind == SubjectKind.Head && random.Next(3) == 0
                ? row.Key with
                {
                    On = new(SubjectKind.Place, facts.Now.Place.Id, row.Key.On.Part),
                }
                : row.Key;
        T Any<T>(ImmutableArray<T> of) => of[random.Next(of.Length)];
        switch (random.Next(19))
        {
            case 0:
                facts.Work(Any(["re-crimp", "camera-moved", "update-started", "updated", "restarted", "supply-changed"]), CableEnd.Far);
                break;
            case 1 when !facts.Now.Readings.IsEmpty:
                facts.Add((id, at, n) => New<Withdrawal>(id, at, n, Any(facts.Now.Readings).Id));
                break;
            case 2 when !facts.Now.Events.IsEmpty:
                facts.Add((id, at, n) => New<Withdrawal>(id, at, n, Any(facts.Now.Events).Id));
                break;
            case 3:
                facts.Add(
                    (id, at, n) =>
                        new Exemption
                        {
                            Id = id,
                            By = Facts.Ina,
                            At = at,
                            Sequence = n,
                            Key = key,
                            Reason = "no such part",
                        }
                );
                break;
            case 4:
                facts.Add(
                    (id, at, n) =>
                        new Concession
                        {
                            Id = id,
                            By = Facts.Ina,
                            At = at,
                            Sequence = n,
                            Key = key,
                            AllowedBy = "Odile Farrow",
                            Reason = "accepted",
                            Until = random.Next(2) == 0 ? new DateOnly(2026, 10, 13) : null,
                        }
                );
                break;
            case 5:
                facts.Add(
                    (id, at, n) =>
                        new Note
                        {
                            Id = id,
                            By = Facts.Ina,
                            At = at,
                            Sequence = n,
                            Key = random.Next(2) == 0 ? key : null,
                            Text = "seen",
                        }
                );
                break;
            case 6 when !facts.Now.Readings.IsEmpty && Any(facts.Now.Readings) is var of:
                facts.Add(
                    (id, at, n) =>
                        new Ruling
                        {
                            Id = id,
                            By = Facts.Ina,
                            At = at,
                            Sequence = n,
                            Key = of.Key,
                            Of = of.Id,
                            Says = (RulingSays)random.Next(3),
                            RuledBy = "Ina Solberg",
                            Reason = "looked at it",
                        }
                );
                break;
            case 7:
                facts.Raise(key, (Severity)random.Next(3));
                break;
            case 8 when !facts.Now.Faults.IsEmpty:
                facts.Add(
                    (id, at, n) =>
                        new FaultEnd
                        {
                            Id = id,
                            By = Facts.Ina,
                            At = at,
                            Sequence = n,
                            FaultId = Any(facts.Now.Faults).Id,
                            Reason = "raised by a slip",
                        }
                );
                break;
            case 9:
                facts.Add(
                    (id, at, n) =>
                        new Block
                        {
                            Id = id,
                            By = Facts.Ina,
                            At = at,
                            Sequence = n,
                            BlockedBy = "terminal",
                            Reason = "lane closed",
                        }
                );
                break;
            case 18:
                facts.Add(
                    (id, at, n) =>
                        new PlatePassed
                        {
                            Id = id,
                            By = Facts.Ina,
                            At = at,
                            Sequence = n,
                            Vehicle = "A",
                            Plate = "46-TH-1207",
                        }
                );
                break;
            default:
                facts.Read(key, Value(row, random), instrument: random.Next(8) == 0 ? Facts.OldMeter.Id : null);
                break;
        }
    }

    private static CardEvent New<T>(Guid id, DateTimeOffset at, long n, Guid of) =>
        new Withdrawal
        {
            Id = id,
            By = Facts.Ina,
            At = at,
            Sequence = n,
            Of = of,
            Reason = "a slip",
        };

    private static string Text(Card card) => JsonSerializer.Serialize(card, CoreJson.Options);

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void EntryAfterEntryGivesTheCardThatAllOfThemGiveAtOnce(int seed)
    {
        for (var device = 0; device < Devices.Length; device++)
        {
            var random = new Random(seed * 100 + device);
            var facts = Device(device, random);
            var judged = JudgedCard.Of(facts.Now, Facts.Shipped);
            for (var n = 0; n < 60; n++)
            {
                Enter(facts, random);
                judged = judged.At(facts.Now);
                // Now and then somebody reads old attempts, now and then nobody does for a while.
                if (random.Next(5) == 0)
                    Assert.Equal(Text(Card.Judge(facts.Now, Facts.Shipped)), Text(judged.Card));
            }
            Assert.Equal(Text(Card.Judge(facts.Now, Facts.Shipped)), Text(judged.Card));
        }
    }

    [Fact]
    public void AnotherDayOrAnotherDesignIsJudgedWhole()
    {
        var facts = new Facts().Healthy();
        facts.Read(Facts.Key("link.speed"), new ChoiceValue("100"));
        facts.Add(
            (id, at, n) =>
                new Concession
                {
                    Id = id,
                    By = Facts.Ina,
                    At = at,
                    Sequence = n,
                    Key = Facts.Key("link.speed"),
                    AllowedBy = "Odile Farrow",
                    Reason = "until the trench is dug",
                    Until = DateOnly.FromDateTime(facts.Now.Now.Date),
                }
        );
        var judged = JudgedCard.Of(facts.Now, Facts.Shipped);
        Assert.Equal(Verdict.AcceptedWithNote, judged.Card.Verdict.Verdict);
        var tomorrow = judged.At(facts.Now with { Now = facts.Now.Now.AddDays(1) });
        Assert.Equal(Verdict.Refused, tomorrow.Card.Verdict.Verdict);
        var colder = judged.At(facts.Now with { Runs = [facts.Now.Runs[0] with { GaugeAwg = new(26, Origin.AsBuilt) }] });
        Assert.NotEqual(Text(judged.Card), Text(colder.Card));
        Assert.Equal(Text(Card.Judge(colder.Facts, Facts.Shipped)), Text(colder.Card));
    }

    /// <summary>Reads along while Cards are judged: a function that looks at another check's readings without saying so would leave rows
    /// as they were when they are not.</summary>
    [Fact]
    public void EveryCheckSaysWhatItLeansOn()
    {
        var looked = new HashSet<(string Check, string At)>();
        var unsaid = new SortedSet<string>();
        for (var seed = 0; seed < 60; seed++)
        {
            var random = new Random(seed);
            var facts = Device(seed, random);
            for (var n = 0; n < 80; n++)
                Enter(facts, random);
            var said = JsonSerializer.Serialize(
                new CardJudge(
                    facts.Now,
                    Facts.Shipped,
                    watch: (row, check) =>
                    {
                        if (check == row.Check.Id && row.Check.Judge != "delay")
                            return;
                        looked.Add((row.Check.Id.Value, check.Value));
                        // Collected, not asserted here: what throws while judging spoils its row and is not heard.
                        if (check != row.Check.Id && !row.Compiled.LeansOn.Contains(check))
                            unsaid.Add($"{row.Check.Id} looks at {check} and does not say so in its LeansOn");
                    }
                ).Judge(),
                CoreJson.Options
            );
            Assert.NotEmpty(said);
        }
        Assert.Empty(unsaid);
        // What is said and never looked at would judge more than it must.
        Assert.Contains(("cable.loop-resistance", "cable.length"), looked);
        Assert.Contains(("power.volts-at-device", "power.watts-at-device"), looked);
        Assert.Contains(("cable.tone", "cable.wire-map"), looked);
        Assert.Contains(("power.watts-at-port", "cable.loop-resistance"), looked);
    }

    [Fact]
    public void WhatATopicRegistersIsUsedAndLeansOnChecksThatThereAre()
    {
        var checks = Facts.Shipped.Checks;
        var limits = checks
            .SelectMany(c => c.Limits)
            .Where(l => l.StartsWith("fn:", StringComparison.Ordinal))
            .Select(l => l[3..])
            .ToHashSet();
        Assert.All(Registry.Limits.Keys, name => Assert.Contains(name, limits));
        Assert.All(Registry.Judges.Keys, name => Assert.Contains(name, checks.Select(c => c.Judge)));
        Assert.All(Registry.Expectations.Keys, name => Assert.Contains(name, checks.Select(c => c.Expect)));
        Assert.All(Registry.Evidence.Keys, name => Assert.Contains(name, Facts.Shipped.Causes.Select(c => c.Evidence)));
        Assert.All(
            Registry.Topics.SelectMany(t =>
                t.Judges.SelectMany(j => j.LeansOn)
                    .Concat(t.Limits.SelectMany(l => l.LeansOn))
                    .Concat(t.Expectations.SelectMany(e => e.LeansOn))
                    .Concat(t.Evidence.SelectMany(e => e.LeansOn))
            ),
            check => Assert.True(Facts.Shipped.CheckById.ContainsKey(check), check.Value)
        );
    }
}
