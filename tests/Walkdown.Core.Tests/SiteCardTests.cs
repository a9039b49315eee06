using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Tests;

/// <summary>Cards on a real site: held up, built otherwise, read by instruments that drift, tried on the bench first.</summary>
public sealed class SiteCardTests
{
    private static Guid Hold(Facts facts, bool aside = false) =>
        facts.Add(
            (id, at, sequence) =>
                new Block
                {
                    Id = id,
                    By = Facts.Ina,
                    At = at,
                    Sequence = sequence,
                    BlockedBy = "Harbour office",
                    Reason = "no entry",
                    SetAside = aside,
                }
        );

    [Fact]
    public void WhatIsHeldUpStaysOpenAndSaysWhyUntilItIsFree()
    {
        var facts = new Facts();
        var hold = Hold(facts);
        Assert.Equal("Harbour office", facts.Card.Blocked?.BlockedBy);
        Assert.Equal(Verdict.Open, facts.Card.Verdict.Verdict);
        Assert.Contains(new Message("verdict.blocked", "Harbour office", "no entry"), facts.Card.Verdict.Because);
        facts.Add(
            (id, at, sequence) =>
                new BlockEnd
                {
                    Id = id,
                    By = Facts.Ina,
                    At = at,
                    Sequence = sequence,
                    Of = hold,
                }
        );
        Assert.Null(facts.Card.Blocked);
        Hold(facts, aside: true);
        Assert.Contains(new Message("verdict.set-aside", "no entry"), facts.Card.Verdict.Because);
    }

    [Fact]
    public void AHindranceChangesNoVerdictThatWasReached()
    {
        var facts = new Facts().Healthy();
        Hold(facts);
        Assert.Equal(Verdict.Accepted, facts.Card.Verdict.Verdict);
    }

    [Fact]
    public void AnAccuracyIsTakenFromTheRangeOfTheReading()
    {
        var meter = Facts.Meter with
        {
            Functions = [new(Unit.Volt, new(1, 2, 0.1)), new(Unit.Volt, new(0.5, 2, 0.01), 60), new(Unit.Volt, new(0.5, 2, 0.001), 6)],
        };
        Assert.Equal(0.001, meter.AccuracyAt(Unit.Volt, 5.9)!.Resolution);
        Assert.Equal(0.01, meter.AccuracyAt(Unit.Volt, -53)!.Resolution);
        Assert.Equal(0.1, meter.AccuracyAt(Unit.Volt, 61)!.Resolution);
        Assert.Null(meter.AccuracyAt(Unit.Watt, 1));
    }

    [Fact]
    public void BetweenTheLastCheckThatWasInAndTheFirstThatWasOutNothingCounts()
    {
        var at = Facts.Start;
        FieldCheck Check(double reading, int minute) => new(Unit.Ohm, 10, reading, at.AddMinutes(minute));
        var meter = Facts.Meter with { Checks = [Check(10.05, 0), Check(11, 60), Check(10, 120)] };
        Assert.False(meter.InDoubt(Unit.Ohm, at.AddMinutes(-5)));
        Assert.True(meter.InDoubt(Unit.Ohm, at.AddMinutes(30)));
        Assert.True(meter.InDoubt(Unit.Ohm, at.AddMinutes(90)));
        Assert.False(meter.InDoubt(Unit.Ohm, at.AddMinutes(130)));
        Assert.False(meter.InDoubt(Unit.Volt, at.AddMinutes(30)));
    }

    [Fact]
    public void AReadingInDoubtIsKeptAndDoesNotCount()
    {
        var facts = new Facts().Healthy();
        Assert.Equal(Verdict.Accepted, facts.Card.Verdict.Verdict);
        facts.With(f => f with { Instruments = [Facts.Meter with { Checks = [new(Unit.Ohm, 10, 12, Facts.Start.AddHours(4))] }] });
        var row = facts.Row("cable.loop-resistance", "1-2");
        Assert.Equal(State.Stale, row.State);
        Assert.Equal(Standing.InstrumentInDoubt, row.Attempts.Single().Standing);
        Assert.Equal(Verdict.Open, facts.Card.Verdict.Verdict);
        Assert.Equal(State.In, facts.Row("cable.length").State);
    }

    [Fact]
    public void ANewCalibrationLeavesWhatWasReadUnderTheOneBefore()
    {
        var facts = new Facts().Healthy();
        facts.With(f => f with { Instruments = [Facts.Meter with { CalibratedOn = new(2026, 11, 1), CalibrationDue = new(2027, 11, 1) }] });
        Assert.Equal(State.Stale, facts.Row("cable.length").State);
        facts.With(f => f with { Instruments = [f.Instruments[0] with { Earlier = [new(new(2026, 3, 2), new(2026, 10, 31), "C-1")] }] });
        Assert.Equal(State.In, facts.Row("cable.length").State);
    }

    [Fact]
    public void ALengthThatNobodyGaveIsNotExpectedButMeasured()
    {
        var facts = new Facts().With(f => f with { Runs = [f.Runs[0] with { LengthMetres = new(50, Origin.Assumed) }] });
        Assert.Equal("expect.none.no-length", facts.Row("cable.length").Expected!.WhyNone!.Code);
        Assert.Equal("expect.none.no-length", facts.Row("cable.loop-resistance", "1-2").Expected!.WhyNone!.Code);
        Assert.DoesNotContain(facts.Row("cable.length").Window!.Parts, p => p.Id == "agree.length");
        facts.Read(Facts.Key("cable.length"), new NumberValue(59.8, Unit.Metre));
        Assert.Equal(State.In, facts.Row("cable.length").State);
        Assert.NotNull(facts.Row("cable.loop-resistance", "1-2").Expected!.Value);
    }

    [Fact]
    public void TheBenchIsAskedForOnlyWhereTheJobBeginsThere()
    {
        var facts = new Facts();
        Assert.DoesNotContain(facts.Card.Rows, r => r.Check.Id.Value == "bench.works");
        facts.With(f => f with { Practice = f.Practice.Taking("first-try", "bench") });
        Assert.Equal(Condition.Bench, facts.Card.Rows.Single(r => r.Check.Id.Value == "bench.works").Key.Under);
    }

    [Fact]
    public void AChangeSaysWhatItDoesToACardAndNothingWhereItDoesNothing()
    {
        var facts = new Facts().Healthy();
        Assert.Null(ChangeImpact.Between(facts.Card, facts.Card));
        var bench = Core.Acceptance.Card.Judge(
            ChangeImpact.Under(facts.Now, facts.Now.Practice.Taking("first-try", "bench")),
            Facts.Shipped
        );
        Assert.Equal(new ChangeImpact(Verdict.Accepted, Verdict.Open, 3, 0, 0), ChangeImpact.Between(facts.Card, bench));
        Assert.Equal(new ChangeImpact(Verdict.Open, Verdict.Accepted, 0, 3, 0), ChangeImpact.Between(bench, facts.Card));
        var schemeA = ChangeImpact.Under(facts.Now, facts.Now.Practice with { Scheme = Core.Cabling.WiringScheme.T568A });
        Assert.Equal(Core.Cabling.WiringScheme.T568A, schemeA.Runs[0].Scheme);
        Assert.Equal(
            Core.Cabling.WiringScheme.T568B,
            ChangeImpact.Under(facts.Now with { Runs = [facts.Now.Runs[0] with { OwnScheme = true }] }, schemeA.Practice).Runs[0].Scheme
        );
    }

    [Fact]
    public void AMixOfSchemesIsMendedByTheJobsOwnSchool()
    {
        var facts = new Facts();
        facts.Read(Facts.Key("cable.wire-map"), Facts.Map(3, 6, 1, 4, 5, 2, 7, 8));
        Message Says() => facts.Row("cable.wire-map").Causes.First(c => c.Id == "two-schemes").Evidence;
        Assert.Equal(new Message("evidence.two-schemes", "@scheme.T568B"), Says());
        facts.With(f => f with { Practice = f.Practice.Taking("scheme", "far-end") });
        Assert.Equal("evidence.two-schemes.match", Says().Code);
        facts.With(f => f with { Runs = [f.Runs[0] with { OwnScheme = true }] });
        Assert.Equal("evidence.two-schemes", Says().Code);
    }

    [Fact]
    public void AModelKnowsMoreThanItsKindAndLessThanThePlace()
    {
        var terms = new Facts().Row("power.volts-at-device", "", Condition.InfraredOn).Expected!.From;
        Assert.Contains(terms, t => t is { Name: "term.draw", Value: "17.9 W", Origin: Origin.Planned });
        var own = new Facts()
            .With(f => f with { Place = f.Place with { WattsInfraredOn = 12 } })
            .Row("power.volts-at-device", "", Condition.InfraredOn)
            .Expected!.From;
        Assert.Contains(own, t => t is { Name: "term.draw", Value: "12 W", Origin: Origin.Planned });
        var other = new Facts()
            .With(f => f with { Place = f.Place with { Model = "Nobody's" } })
            .Row("power.volts-at-device", "", Condition.InfraredOn)
            .Expected!.From;
        Assert.Contains(other, t => t is { Name: "term.draw", Value: "18.2 W", Origin: Origin.Assumed });
    }

    [Fact]
    public void TheOwnFileTakesThePlaceOfWhatShipsAndOthersDoNot()
    {
        const string Kind = """
            { "overrides": OVER, "edition": 3, "kinds": [{ "id": "bullet", "features": ["camera"] }],
              "limits": [{ "id": "length.channel", "max": 80, "unit": "metre", "source": "house rule", "purpose": "spare" }],
              "texts": {} }
            """;
        var own = Catalogue.Read(Catalogue.Shipped.Append(("own.json", Kind.Replace("OVER", "true"))), Facts.Texts);
        Assert.Empty(own.Problems);
        Assert.Equal(80, own.Catalogue!.Limit("length.channel")!.Max);
        Assert.EndsWith("own edition 3", own.Catalogue.LimitSet.Edition);
        Assert.Equal(["camera"], own.Catalogue.Kind("bullet")!.Features);
        var dropped = Catalogue.Read(Catalogue.Shipped.Append(("dropped.json", Kind.Replace("OVER", "false"))), Facts.Texts);
        Assert.Contains(dropped.Problems, p => p.What.Contains("stands twice", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("""{ "models": [{ "id": "M", "kind": "nothing" }] }""", "no kind")]
    [InlineData("""{ "models": [{ "id": "M", "kind": "bullet", "tiltLeast": 50, "tiltGreatest": 20 }] }""", "least tilt")]
    [InlineData("""{ "models": [{ "id": "M", "kind": "bullet", "unknown": ["colour"] }] }""", "no figure")]
    [InlineData("""{ "limits": [{ "id": "l", "unit": "metre", "source": "s", "purpose": "p" }] }""", "least or a greatest")]
    [InlineData(
        """{ "limits": [{ "id": "l", "min": 5, "max": 1, "unit": "metre", "source": "s", "purpose": "p" }] }""",
        "above the greatest"
    )]
    public void ACatalogueThatCannotBeIsNamed(string json, string says) =>
        Assert.Contains(
            Catalogue.Read(Catalogue.Shipped.Append(("own.json", json)), Facts.Texts).Problems,
            p => p.What.Contains(says, StringComparison.Ordinal)
        );
}
