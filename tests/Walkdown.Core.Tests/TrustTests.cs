using System.Collections.Immutable;
using System.Text.Json;
using CsCheck;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;

namespace Walkdown.Core.Tests;

/// <summary>No way is left in which a healthy-looking Card is wrong.</summary>
public sealed class TrustTests
{
    private static readonly CheckKey VoltsOff = Facts.Key("power.volts-at-device", "", Condition.InfraredOff),
        VoltsOn = Facts.Key("power.volts-at-device", "", Condition.InfraredOn);

    /// <summary>The shipped catalogue, with more in place of what ships.</summary>
    private static (Catalogue? Catalogue, ImmutableArray<CatalogueProblem> Problems) With(string json) =>
        Catalogue.Read([.. Catalogue.Shipped, ("own.json", json)], Facts.Texts);

    private const string Unclassed = """
        { "overrides": true,
          "kinds": [{ "id": "bare", "features": ["camera", "cable", "poe"], "speedMbps": 1000,
                        "wattsInfraredOff": 5, "wattsInfraredOn": 9 }],
          "texts": { "en": { "kind.bare": "Bare camera" } } }
        """;

    private static Facts Bare()
    {
        var facts = new Facts().With(f => f with { Place = f.Place with { Kind = "bare", Model = "" } });
        facts.Read(Facts.Key("cable.label"), new YesNoValue(true));
        facts.Read(Facts.Key("cable.wire-map"), Facts.Straight);
        facts.Read(Facts.Key("cable.length"), new NumberValue(59.8, Unit.Metre));
        foreach (var pair in Cabling.PinPair.All)
            facts.Read(Facts.Key("cable.loop-resistance", pair.ToString()), new NumberValue(10.1, Unit.Ohm));
        facts.Read(Facts.Key("link.speed"), new ChoiceValue("1000"));
        return facts;
    }

    [Fact]
    public void WhatNothingJudgesIsNotInAndKeepsTheCardOpenUntilANamedPersonJudgesIt()
    {
        var catalogue = With(Unclassed).Catalogue!;
        var facts = Bare();
        var key = Facts.Key("power.volts-at-device");
        var volts = facts.Read(key, new NumberValue(3, Unit.Volt));
        CardRow Row() => Card.Judge(facts.Now, catalogue).Rows.Single(r => r.Key == key);
        Assert.Equal(State.NotJudged, Row().State);
        Assert.Equal(["because.no-limit", "missing.power-class"], Row().Because.Select(m => m.Code));
        var card = Card.Judge(facts.Now, catalogue);
        Assert.Equal((Verdict.Open, "verdict.not-judged.one"), (card.Verdict.Verdict, card.Verdict.Because[0].Code));
        Ruling Said(Guid id, DateTimeOffset at, long n, RulingSays says, Guid of) =>
            new()
            {
                Id = id,
                By = Facts.Ina,
                At = at,
                Sequence = n,
                Key = key,
                Of = of,
                Says = says,
                RuledBy = "Odile Farrow",
                Reason = "the maker says 3 V",
            };
        facts.Add((id, at, n) => Said(id, at, n, RulingSays.In, volts));
        Assert.Equal(
            (State.In, RulingSays.In, Verdict.AcceptedWithNote),
            (Row().State, Row().Ruling!.Says, Card.Judge(facts.Now, catalogue).Verdict.Verdict)
        );
        Assert.Contains(
            Handover.CardExceptions.Of(Card.Judge(facts.Now, catalogue)),
            e => e is { Kind: Handover.ExceptionKind.ByEye, Who: "Odile Farrow" }
        );
        // It holds for that reading alone.
        var next = facts.Read(key, new NumberValue(4, Unit.Volt));
        Assert.Equal((State.NotJudged, null), (Row().State, Row().Ruling));
        facts.Add((id, at, n) => Said(id, at, n, RulingSays.Out, next));
        Assert.Equal((State.Out, Verdict.Refused), (Row().State, Card.Judge(facts.Now, catalogue).Verdict.Verdict));
        // Once the class is known the limit judges, and nobody's eye.
        facts.With(f => f with { Place = f.Place with { PowerClass = 4 } });
        Assert.Equal((State.Out, true), (Row().State, Row().Ruling is null && Row().Window is not null));
    }

    [Theory]
    [InlineData("power.poe-class", "4")]
    [InlineData("link.speed", "1000")]
    public void AChoiceWithNothingToHoldItAgainstIsNotJudged(string check, string choice)
    {
        var (catalogue, problems) = With(Unclassed.Replace(", \"speedMbps\": 1000", "", StringComparison.Ordinal));
        Assert.Empty(problems);
        var facts = Bare().With(f => f with { Runs = [f.Runs[0] with { Port = null }] });
        facts.Read(Facts.Key(check), new ChoiceValue(choice));
        Assert.Equal(State.NotJudged, Card.Judge(facts.Now, catalogue!).Rows.Single(r => r.Key == Facts.Key(check)).State);
    }

    /// <summary>docs/calculations.md, W: 54 V stated, 20.4 W by model, 83 m planned, 24 AWG, 20 degrees assumed, two pairs, no
    /// contacts.</summary>
    private static Facts Example(double wattsOff = 20.4) =>
        new Facts().With(f =>
            f with
            {
                Place = f.Place with { WattsInfraredOff = wattsOff, WattsInfraredOn = wattsOff, PowerClass = 4 },
                Runs = [f.Runs[0] with { LengthMetres = new(83, Origin.Planned), TemperatureC = new(20, Origin.Assumed) }],
                Instruments =
                [
                    Facts.Meter with
                    {
                        Functions = [new(Unit.Volt, new(0, 0, null, 0.68)), new(Unit.Metre, new(0, 0, null, 2.6)), new(Unit.Ohm, new(1))],
                    },
                ],
            }
        );

    [Fact]
    public void TheIntervalOfTheExampleComesOutAsWritten()
    {
        var expected = Example().Row(VoltsOff.Check.Value, "", Condition.InfraredOff).Expected!;
        Assert.Equal(
            (51.22, 49.36, 52.73),
            (Math.Round(expected.Value!.Value.Value, 2), Math.Round(expected.Between!.Low, 2), Math.Round(expected.Between.High, 2))
        );
        Assert.Equal(["0.5 V", "4.08 W", "12.45 m", "10 K"], expected.From.Select(t => t.PlusMinus));
        Assert.Equal(["half.source", "half.draw", "half.planned", "half.temperature-assumed"], expected.From.Select(t => t.HalfFrom!.Code));
        // A measured length narrows it.
        var facts = Example();
        facts.Read(Facts.Key("cable.length"), new NumberValue(80, Unit.Metre));
        var narrower = facts.Row(VoltsOff.Check.Value, "", Condition.InfraredOff).Expected!.Between!;
        Assert.Equal((49.96, 52.56), (Math.Round(narrower.Low, 2), Math.Round(narrower.High, 2)));
    }

    [Fact]
    public void AReadingThatIsInAndUnexpectedSaysSoAndWhatWouldExplainIt()
    {
        var facts = Example();
        facts.Read(VoltsOff, new NumberValue(48, Unit.Volt));
        var row = facts.Row(VoltsOff.Check.Value, "", Condition.InfraredOff);
        Assert.Equal((State.In, "unexpected.reads"), (row.State, row.Unexpected[0].Code));
        facts.Read(VoltsOff, new NumberValue(45, Unit.Volt));
        row = facts.Row(VoltsOff.Check.Value, "", Condition.InfraredOff);
        Assert.Equal(State.In, row.State);
        // A loop of 19.85 ohm would; 57.9 W the class does not give, and 48.2 V no source of class 4.
        Assert.Equal(["unexpected.reads", "unexpected.loop", "unexpected.length"], row.Unexpected.Select(m => m.Code));
        Assert.Equal(["19.9", "7"], row.Unexpected[1].Args);
        Assert.Equal(1, facts.Card.Unexpected);
        // 48.68 V meets the interval from 49.36 V with a wider meter: nothing is unexpected then.
        facts.With(f => f with { Instruments = [Facts.Meter with { Functions = [new(Unit.Volt, new(0, 0, null, 5))] }] });
        Assert.Empty(facts.Row(VoltsOff.Check.Value, "", Condition.InfraredOff).Unexpected);
    }

    [Fact]
    public void ALoopThatWasReadAndAgreesTakesThePathOffTheList()
    {
        var facts = Example();
        foreach (var pair in Cabling.PinPair.All)
            facts.Read(Facts.Key("cable.loop-resistance", pair.ToString()), new NumberValue(13.98, Unit.Ohm));
        facts.Read(VoltsOff, new NumberValue(45, Unit.Volt));
        Assert.Equal(
            ["unexpected.reads", "unexpected.behind-test-point"],
            facts.Row(VoltsOff.Check.Value, "", Condition.InfraredOff).Unexpected.Select(m => m.Code)
        );
    }

    [Fact]
    public void UnderThePracticeThatSaysSoAnUnexpectedReadingRefusesUntilItIsExplained()
    {
        var facts = new Facts().Healthy();
        var odd = facts.Read(VoltsOff, new NumberValue(47, Unit.Volt));
        Assert.Equal((Verdict.Accepted, 1), (facts.Card.Verdict.Verdict, facts.Card.Unexpected));
        Assert.Contains(facts.Card.Verdict.Because, m => m.Code == "verdict.unexpected.one");
        facts.With(f => f with { Practice = f.Practice.Taking("unexpected", "refuses") });
        Assert.Equal((Verdict.Refused, "verdict.unexpected-refuses.one"), (facts.Card.Verdict.Verdict, facts.Card.Verdict.Because[0].Code));
        facts.Add(
            (id, at, n) =>
                new Ruling
                {
                    Id = id,
                    By = Facts.Ina,
                    At = at,
                    Sequence = n,
                    Key = VoltsOff,
                    Of = odd,
                    Says = RulingSays.Explained,
                    RuledBy = "Ina Rask",
                    Reason = "switch set to 50 V",
                }
        );
        Assert.Equal(
            (Verdict.Accepted, 0, State.In),
            (facts.Card.Verdict.Verdict, facts.Card.Unexpected, facts.Row(VoltsOff.Check.Value, "", Condition.InfraredOff).State)
        );
    }

    [Fact]
    public void EndsOfAnEstimateHoldEveryCombinationOfItsInputs() =>
        Gen.Select(Gen.Double[40, 57], Gen.Double[1, 25], Gen.Double[5, 120], Gen.Double[0, 1])
            .Array[1, 4]
            .Sample(some =>
            {
                foreach (var (source, watts, metres, at) in some)
                {
                    EstimateInput In(double middle, double half) =>
                        EstimateInput.Around("x", middle, half, Unit.None, Origin.Planned, new("x"));
                    var estimate = new Estimate(
                        [In(source, 0.5), In(watts, watts / 5), In(metres, metres * 0.15)],
                        x => Power.DeviceVoltage.Solve(x[0], x[1], x[2] * 0.0842)
                    );
                    if (estimate.Ends() is not { } ends)
                        continue;
                    double[] inside = [.. estimate.Inputs.Select(i => i.Low + at * (i.High - i.Low))];
                    var value = Power.DeviceVoltage.Solve(inside[0], inside[1], inside[2] * 0.0842) ?? 0;
                    Assert.InRange(value, ends.Low - 1e-9, ends.High + 1e-9);
                    Assert.InRange(estimate.Middle!.Value, ends.Low, ends.High);
                    // What explains a reading, put in, gives that reading.
                    var read = estimate.Middle.Value - 1;
                    if (estimate.Explain(2, read, 0, 500) is { } by)
                        Assert.Equal(read, Power.DeviceVoltage.Solve(source, watts, by.Value * 0.0842)!.Value, 1e-6);
                }
            });

    [Fact]
    public void AReadingBelongsToTheUnitThatHungThereWhenItWasTaken()
    {
        var (first, second) = (
            new UnitFacts(Guid.NewGuid(), "TH-A", null, Facts.Start.AddDays(-1), Facts.Start.AddMinutes(30)),
            new UnitFacts(Guid.NewGuid(), "TH-B", null, Facts.Start.AddMinutes(30))
        );
        var facts = new Facts().With(f => f with { Unit = second, Units = [first, second] });
        // Taken before the swap, sent after it: whoever kept it thought that the new one hung there.
        facts.Read(VoltsOff, new NumberValue(53.1, Unit.Volt));
        Assert.Equal(
            (State.Stale, Standing.UnitGone),
            (
                facts.Row(VoltsOff.Check.Value, "", Condition.InfraredOff).State,
                facts.Row(VoltsOff.Check.Value, "", Condition.InfraredOff).Attempts[0].Standing
            )
        );
        facts.With(f => f with { Units = [first with { Until = Facts.Start }, second with { From = Facts.Start }] });
        Assert.Equal(State.In, facts.Row(VoltsOff.Check.Value, "", Condition.InfraredOff).State);
        // Between two units nobody's hung there; before the first that is on record, that first one did.
        Assert.Null(
            (facts.Now with { Units = [first with { Until = Facts.Start }, second with { From = Facts.Start.AddHours(1) }] }).UnitAt(
                Facts.Start.AddMinutes(5)
            )
        );
        Assert.Equal(first.Id, facts.Now.UnitAt(Facts.Start.AddYears(-1))!.Id);
    }

    [Fact]
    public void OneBadValueSpoilsOneRow()
    {
        var bad = Facts.Meter with { Id = Guid.NewGuid(), Functions = [new(Unit.Volt, new(1, 0, -1))] };
        var facts = new Facts().Healthy().With(f => f with { Instruments = [.. f.Instruments, bad] });
        facts.Read(VoltsOn, new NumberValue(52.2, Unit.Volt), instrument: bad.Id);
        var row = facts.Row(VoltsOn.Check.Value, "", Condition.InfraredOn);
        Assert.Equal((State.NotJudged, "because.cannot-judge"), (row.State, row.Because[0].Code));
        Assert.All(facts.Card.Rows.Where(r => r.Required && r.Key != VoltsOn), r => Assert.Equal(State.In, r.State));
        // A length that no cable has, a value that cannot be read, and one of another kind.
        foreach (
            var spoilt in new Func<CardFacts, CardFacts>[]
            {
                f => f with { Runs = [f.Runs[0] with { LengthMetres = new(1e308, Origin.Planned) }] },
                f => f with { Runs = [f.Runs[0] with { GaugeAwg = new(-5, Origin.Planned) }] },
                f => f with { Readings = f.Readings.SetItem(0, f.Readings[0] with { Value = new UnreadableValue() }) },
                f => f with { Readings = f.Readings.SetItem(0, f.Readings[0] with { Value = new NumberValue(1, Unit.Volt) }) },
                f =>
                    f with
                    {
                        Place = f.Place with { SpeedMbps = 5000 },
                        Runs = [f.Runs[0] with { Port = f.Runs[0].Port! with { SpeedMbps = 5000 } }],
                    },
            }
        )
        {
            var card = new Facts().Healthy().With(spoilt).Card;
            Assert.NotEqual(Verdict.Accepted, card.Verdict.Verdict);
            Assert.Contains(card.Rows, r => r.State == State.In);
        }
    }

    [Fact]
    public void AnEntryThatCannotBeReadKeepsTheCardOpenAndIsCounted()
    {
        var facts = new Facts().Healthy();
        facts.Add(
            (id, at, n) =>
                new UnreadableEvent
                {
                    Id = id,
                    By = Facts.Ina,
                    At = at,
                    Sequence = n,
                }
        );
        Assert.Equal((Verdict.Open, 1), (facts.Card.Verdict.Verdict, facts.Card.Unreadable));
    }

    [Fact]
    public void AWithdrawalThatWasTakenBackTakesNothingBack()
    {
        var facts = new Facts().Healthy();
        var reading = facts.Now.Readings.Last(r => r.Key == VoltsOn).Id;
        Withdrawal Back(Guid id, DateTimeOffset at, long n, Guid of) =>
            new()
            {
                Id = id,
                By = Facts.Ina,
                At = at,
                Sequence = n,
                Of = of,
                Reason = "slip",
            };
        var first = facts.Add((id, at, n) => Back(id, at, n, reading));
        Assert.NotEqual(State.In, facts.Row(VoltsOn.Check.Value, "", Condition.InfraredOn).State);
        facts.Add((id, at, n) => Back(id, at, n, first));
        Assert.Equal(State.In, facts.Row(VoltsOn.Check.Value, "", Condition.InfraredOn).State);
    }

    [Theory]
    [InlineData("America/New_York", "2026-11-20T01:00:00Z", true)]
    [InlineData("Pacific/Auckland", "2026-11-19T19:00:00Z", false)]
    [InlineData("UTC", "2026-11-19T23:59:00Z", true)]
    public void AnInstrumentIsInCalibrationUntilItsDayEndsAtTheSite(string zone, string taken, bool counts)
    {
        var at = DateTimeOffset.Parse(taken, System.Globalization.CultureInfo.InvariantCulture);
        var due = Facts.Meter with { CalibrationDue = new DateOnly(2026, 11, 19) };
        var facts = new Facts().With(f => f with { TimeZone = zone, Instruments = [due], Now = at.AddHours(1) });
        facts.Read(VoltsOff, new NumberValue(53.1, Unit.Volt));
        facts.With(f => f with { Readings = [f.Readings[0] with { TakenAt = at }], Unit = f.Unit! with { From = at.AddDays(-2) } });
        Assert.Equal(counts ? State.In : State.Stale, facts.Row(VoltsOff.Check.Value, "", Condition.InfraredOff).State);
    }

    [Fact]
    public void AFaultCanAlwaysBeEndedAndNeverByAWordAgainstAReading()
    {
        var facts = new Facts().Healthy();
        facts.Read(VoltsOn, new NumberValue(30, Unit.Volt));
        var fault = facts.Raise(VoltsOn);
        Assert.Equal((true, false), (facts.Card.Faults.Single().Open, facts.Card.Faults.Single().MayEnd));
        facts.Add(
            (id, at, n) =>
                new Exemption
                {
                    Id = id,
                    By = Facts.Ina,
                    At = at,
                    Sequence = n,
                    Key = VoltsOn,
                    Reason = "no infrared fitted",
                }
        );
        Assert.Equal((Verdict.Refused, true), (facts.Card.Verdict.Verdict, facts.Card.Faults.Single().MayEnd));
        facts.Add(
            (id, at, n) =>
                new FaultEnd
                {
                    Id = id,
                    By = Facts.Ina,
                    At = at,
                    Sequence = n,
                    FaultId = fault,
                    Reason = "the row does not apply",
                }
        );
        Assert.Equal(
            (Verdict.Accepted, false, "the row does not apply"),
            (facts.Card.Verdict.Verdict, facts.Card.Faults.Single().Open, facts.Card.Faults.Single().Ended!.Reason)
        );
    }

    [Theory]
    [InlineData(
        """
            { "checks": [{ "id": "own.x", "version": 1, "section": "power", "leg": "power",
              "entry": "number", "unit": "volt", "per": "place", "judge": "yes-no" }] }
            """,
        "judges YesNo"
    )]
    [InlineData(
        """
            { "checks": [{ "id": "own.x", "version": 1, "section": "link", "leg": "link",
              "entry": "choice", "choices": ["fast"], "per": "run", "judge": "link-speed" }] }
            """,
        "is no speed"
    )]
    [InlineData(
        """
            { "checks": [{ "id": "own.x", "version": 1, "section": "power", "leg": "power",
              "entry": "choice", "choices": ["nine"], "per": "run", "judge": "poe-class" }] }
            """,
        "is no power class"
    )]
    [InlineData("""{ "kinds": [{ "id": "own-kind", "speedMbps": 5000 }] }""", "5000 Mb/s is no speed")]
    [InlineData("""{ "models": [{ "id": "Own", "kind": "bullet", "speedMbps": 5000 }] }""", "5000 Mb/s is no speed")]
    [InlineData("""{ "models": [{ "id": "Own", "kind": "bullet", "wattsInfraredOn": -3 }] }""", "watts are above 0")]
    [InlineData("""{ "kinds": [null] }""", "null")]
    [InlineData("""{ "checks": null }""", "")]
    public void WhatJudgementCannotBearIsRefusedAtTheDoor(string json, string says)
    {
        var (catalogue, problems) = With(json);
        Assert.Null(catalogue);
        Assert.Contains(problems, p => p.What.Contains(says, StringComparison.Ordinal));
    }

    [Fact]
    public void EveryShippedCheckSaysWhatAnOutOfItDoes()
    {
        foreach (var (name, json) in Catalogue.Shipped)
        {
            using var document = JsonDocument.Parse(
                json,
                new JsonDocumentOptions { CommentHandling = JsonCommentHandling.Skip, AllowTrailingCommas = true }
            );
            if (document.RootElement.TryGetProperty("checks", out var checks))
                Assert.All(checks.EnumerateArray(), c => Assert.True(c.TryGetProperty("ifOut", out _), $"{name}: {c.GetProperty("id")}"));
        }
    }

    /// <summary>The database's rule (SQLite's NOCASE): A to Z without case, and nothing else.</summary>
    [Fact]
    public void LabelsAreToldApartAsTheDatabaseDoes()
    {
        Assert.True(Labels.Same("cc-07", "CC-07"));
        Assert.False(Labels.Same("\u00c4-1", "\u00e4-1"));
        Gen.String.Sample(text =>
            Assert.True(
                Labels.Same(text, Labels.Fold(text)) && Labels.Comparer.GetHashCode(text) == Labels.Comparer.GetHashCode(Labels.Fold(text))
            )
        );
        Gen.Select(Gen.String[0, 6], Gen.String[0, 6])
            .Sample((a, b) => Assert.Equal(Labels.Same(a, b), Labels.Comparer.Compare(a, b) == 0));
    }

    [Fact]
    public void ErrorsBetweenTwoLooksAreNeverBelowNothing()
    {
        Assert.Equal(6, new CountersValue(new(100, uint.MaxValue - 2), new(200, 3), 60).ErrorsBetween());
        Assert.Null(new CountersValue(new(4_000_000_000, 9), new(5, 0), 60).ErrorsBetween());
    }

    [Fact]
    public void AnInstrumentWhoseFunctionsCannotBeIsRefusedByPosition()
    {
        Assert.Null(Instrument.BadFunction([new(Unit.Volt, new(1, 2, 0.1))]));
        foreach (
            var bad in new[]
            {
                new Accuracy(1, 0, -1),
                new Accuracy(1, 3),
                new Accuracy(-1),
                new Accuracy(double.NaN),
                new Accuracy(1, 0, null, double.PositiveInfinity),
            }
        )
            Assert.Equal(1, Instrument.BadFunction([new(Unit.Volt, new(1)), new(Unit.Volt, bad)]));
        Assert.Equal(0, Instrument.BadFunction([new(Unit.None, new(1))]));
    }

    [Fact]
    public void WhatWasShownHasAnotherFingerprintAsSoonAsAnythingIsOther()
    {
        var card = new Handover.ShownCard(Guid.NewGuid(), Verdict.Accepted, 0, 0, 9, 9, false);
        var all = new[] { card, card with { Id = Guid.NewGuid() } };
        var shown = Handover.ShownDigest.Of(all, "{}", "1");
        Assert.Equal(shown, Handover.ShownDigest.Of(all.Reverse(), "{}", "1"));
        foreach (
            var other in new[]
            {
                card with
                {
                    Verdict = Verdict.Open,
                },
                card with
                {
                    OpenFaults = 1,
                },
                card with
                {
                    Taken = 8,
                },
                card with
                {
                    Unexpected = 1,
                },
                card with
                {
                    Cancelled = true,
                },
            }
        )
            Assert.NotEqual(shown, Handover.ShownDigest.Of([other, all[1]], "{}", "1"));
        Assert.NotEqual(shown, Handover.ShownDigest.Of(all, "{ }", "1"));
        Assert.NotEqual(shown, Handover.ShownDigest.Of(all, "{}", "2"));
    }
}
