using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Diagnosis;
using Walkdown.Core.Measures;
using static Walkdown.Core.Tests.Facts;

namespace Walkdown.Core.Tests;

public sealed class CardTests
{
    [Fact]
    public void AFreshCardIsOpenAndAsksForTheLabelFirst()
    {
        var card = new Facts().Card;
        Assert.Equal(Verdict.Open, card.Verdict.Verdict);
        Assert.Equal(10, card.Rows.Count(row => row.Required));
        Assert.Equal(10, card.Total);
        Assert.Equal(Key("cable.label").ToString(), card.NextRow);
        Assert.All(card.Rows, row => Assert.Equal(State.NotTaken, row.State));
    }

    [Fact]
    public void AHealthyRunIsAccepted()
    {
        var card = new Facts().Healthy().Card;
        Assert.Equal(Verdict.Accepted, card.Verdict.Verdict);
        Assert.Equal("verdict.all-in", Assert.Single(card.Verdict.Because).Code);
    }

    /// <summary>A number that nobody knows the accuracy of is in by itself alone: the Card is noted, and says so, until an instrument is
    /// named or the simple rule was chosen.</summary>
    [Fact]
    public void AReadingOfUnknownAccuracyIsNoted()
    {
        var facts = new Facts().Healthy();
        facts.With(f =>
            f with
            {
                Readings = [.. f.Readings.Select(r => r.Key.Check.Value == "cable.length" ? r with { InstrumentId = null } : r)],
            }
        );
        Assert.Equal(Verdict.AcceptedWithNote, facts.Card.Verdict.Verdict);
        Assert.Equal("verdict.no-accuracy.one", Assert.Single(facts.Card.Verdict.Because).Code);
        Assert.Equal(State.In, facts.Row("cable.length").State);
        facts.With(f => f with { Practice = f.Practice with { Rule = DecisionRule.Simple } });
        Assert.Equal(Verdict.Accepted, facts.Card.Verdict.Verdict);
        facts.With(f => f with { Practice = f.Practice with { Rule = DecisionRule.Guarded } });
        facts.Read(Key("cable.length"), new NumberValue(59.9, Unit.Metre));
        Assert.Equal(Verdict.Accepted, facts.Card.Verdict.Verdict);
    }

    [Fact]
    public void AMissingReadingKeepsItOpen()
    {
        var facts = new Facts().Healthy();
        facts.With(f => f with { Readings = f.Readings.RemoveAt(0) });
        Assert.Equal(Verdict.Open, facts.Card.Verdict.Verdict);
        Assert.Equal("verdict.not-taken.one", Assert.Single(facts.Card.Verdict.Because).Code);
    }

    [Fact]
    public void TooCloseKeepsItOpenUntilANamedPersonConcedes()
    {
        var facts = new Facts().Healthy();
        facts.Read(Key("power.volts-at-device", "", Condition.InfraredOn), new NumberValue(42.9, Unit.Volt));
        Assert.Equal(State.TooClose, facts.Row("power.volts-at-device", "", Condition.InfraredOn).State);
        Assert.Equal(Verdict.Open, facts.Card.Verdict.Verdict);
        facts.Add(
            (id, at, n) =>
                new Concession
                {
                    Id = id,
                    By = Ina,
                    At = at,
                    Sequence = n,
                    Key = Key("power.volts-at-device", "", Condition.InfraredOn),
                    AllowedBy = "Odile Farrow",
                    Reason = "No infrared at night here.",
                }
        );
        Assert.Equal(Verdict.AcceptedWithNote, facts.Card.Verdict.Verdict);

        // A concession covers the reading that was seen, not a later one.
        facts.Read(Key("power.volts-at-device", "", Condition.InfraredOn), new NumberValue(30, Unit.Volt));
        Assert.Equal(Verdict.Refused, facts.Card.Verdict.Verdict);
    }

    [Fact]
    public void WorkMakesReadingsStaleAndARetestCounts()
    {
        var facts = new Facts().Healthy();
        facts.Work("re-crimp", CableEnd.Far);
        Assert.Equal(State.Stale, facts.Row("cable.wire-map").State);
        Assert.Equal(State.Stale, facts.Row("link.speed").State);
        Assert.Equal(State.In, facts.Row("cable.length").State);
        Assert.Equal("stale.voided", facts.Row("cable.wire-map").Because[0].Code);
        Assert.Equal(Verdict.Open, facts.Card.Verdict.Verdict);
        facts.Read(Key("cable.wire-map"), Straight);
        Assert.Equal(State.In, facts.Row("cable.wire-map").State);
        Assert.Equal(2, facts.Row("cable.wire-map").Attempts.Length);
    }

    [Fact]
    public void WithdrawnWorkVoidsNothing()
    {
        var facts = new Facts().Healthy();
        var work = facts.Work("re-crimp", CableEnd.Far);
        facts.Add(
            (id, at, n) =>
                new Withdrawal
                {
                    Id = id,
                    By = Ina,
                    At = at,
                    Sequence = n,
                    Of = work,
                    Reason = "slip",
                }
        );
        Assert.Equal(Verdict.Accepted, facts.Card.Verdict.Verdict);
    }

    [Fact]
    public void AWithdrawnReadingGivesWayToTheOneBefore()
    {
        var facts = new Facts().Healthy();
        var slip = facts.Read(Key("cable.length"), new NumberValue(598, Unit.Metre));
        Assert.Equal(State.Out, facts.Row("cable.length").State);
        facts.Add(
            (id, at, n) =>
                new Withdrawal
                {
                    Id = id,
                    By = Ina,
                    At = at,
                    Sequence = n,
                    Of = slip,
                    Reason = "slip",
                }
        );
        Assert.Equal(State.In, facts.Row("cable.length").State);
        Assert.Equal(Standing.Withdrawn, facts.Row("cable.length").Attempts[^1].Standing);
    }

    [Fact]
    public void AReadingGoesWithItsUnit()
    {
        var facts = new Facts().Healthy().With(f => f with { Unit = f.Unit! with { Id = Guid.NewGuid(), Serial = "TH9999" } });
        Assert.Equal(State.Stale, facts.Row("link.speed").State);
        Assert.Equal("stale.unitGone", facts.Row("link.speed").Because[0].Code);
        Assert.Equal(State.In, facts.Row("cable.wire-map").State);
    }

    [Fact]
    public void AnInstrumentOutOfDateDoesNotCount()
    {
        var facts = new Facts();
        facts.Read(Key("cable.length"), new NumberValue(59.8, Unit.Metre), instrument: OldMeter.Id);
        Assert.Equal(State.Stale, facts.Row("cable.length").State);
        Assert.Equal(Standing.OutOfCalibration, facts.Row("cable.length").Attempts[0].Standing);
        Assert.Equal("stale.outOfCalibration", facts.Row("cable.length").Because[0].Code);
    }

    [Fact]
    public void ConditionsFoundMustCoverTheRow()
    {
        var facts = new Facts();
        var key = Key("power.volts-at-device", "", Condition.InfraredOn);
        facts.Read(key, new NumberValue(52.2, Unit.Volt), Condition.InfraredOff);
        Assert.Equal(Standing.ConditionsDiffer, facts.Row("power.volts-at-device", "", Condition.InfraredOn).Attempts[0].Standing);
        facts.Read(key, new NumberValue(52.2, Unit.Volt), Condition.InfraredOn | Condition.Dark);
        Assert.Equal(State.In, facts.Row("power.volts-at-device", "", Condition.InfraredOn).State);
    }

    [Fact]
    public void AFaultIsClosedOnlyByALaterReadingOfItsRowThatIsIn()
    {
        var facts = new Facts().Healthy();
        facts.Read(Key("cable.wire-map"), Map(1, 2, 3, 4, 0, 6, 7, 0));
        var fault = facts.Raise(Key("cable.wire-map"));
        Assert.True(Assert.Single(facts.Card.Faults).Open);
        facts.Work("re-punch", CableEnd.Far, fault);
        Assert.True(Assert.Single(facts.Card.Faults).Open);
        facts.Read(Key("cable.wire-map"), Map(1, 2, 3, 4, 5, 6, 7, 0));
        Assert.True(Assert.Single(facts.Card.Faults).Open);
        var proof = facts.Read(Key("cable.wire-map"), Straight);
        Assert.False(Assert.Single(facts.Card.Faults).Open);
        Assert.Equal(proof, facts.Card.Faults[0].ClosedBy);
        Assert.Single(facts.Card.Faults[0].Repairs);

        // What voids the proof opens the Fault again.
        facts.Work("re-crimp", CableEnd.Near);
        Assert.True(Assert.Single(facts.Card.Faults).Open);
    }

    [Fact]
    public void ALitLinkNeverOverridesAFailedMap()
    {
        var facts = new Facts().Healthy();
        facts.Read(Key("cable.wire-map"), Map(3, 6, 1, 4, 5, 2, 7, 8));
        Assert.Equal(State.TooClose, facts.Row("link.speed").State);
        Assert.Equal("speed.lit-despite-map", facts.Row("link.speed").Because[0].Code);
        Assert.Equal(Verdict.Refused, facts.Card.Verdict.Verdict);
        facts.Read(Key("cable.wire-map"), Map(1, 2, 3, 4, 0, 6, 7, 0));
        Assert.Equal("speed.contradicts-map", facts.Row("link.speed").Because[0].Code);
        facts.Read(Key("link.speed"), new ChoiceValue("100"));
        Assert.Equal(State.Out, facts.Row("link.speed").State);
        Assert.Contains(facts.Row("link.speed").Because, b => b.Code == "speed.fallbackExplainedByMissingPairs");
    }

    [Fact]
    public void ExpectationsSayWhereTheirFiguresComeFrom()
    {
        var facts = new Facts();
        var before = facts.Row("cable.loop-resistance", "1-2").Expected!;
        Assert.Equal(10.106, before.Value!.Value.Value, 2);
        Assert.Contains(before.From, t => t is { Name: "term.length", Origin: Origin.Planned });
        facts.Read(Key("cable.length"), new NumberValue(50, Unit.Metre));
        var after = facts.Row("cable.loop-resistance", "1-2").Expected!;
        Assert.Contains(after.From, t => t is { Name: "term.length", Origin: Origin.Measured });
        Assert.True(after.Value!.Value.Value < before.Value.Value.Value);
    }

    [Fact]
    public void CopperCladIsFoundByResistanceAgainstMeasuredLength()
    {
        var facts = new Facts();
        facts.Read(Key("cable.loop-resistance", "1-2"), new NumberValue(16.08, Unit.Ohm));
        Assert.Equal(State.In, facts.Row("cable.loop-resistance", "1-2").State);
        facts.Read(Key("cable.length"), new NumberValue(60, Unit.Metre));
        var row = facts.Row("cable.loop-resistance", "1-2");
        Assert.Equal(State.Out, row.State);
        Assert.Equal("wrong-material", row.Causes[0].Id);
    }

    /// <summary>Of metres and ohms beyond the plan: a thin cord between, another conductor all along, or only a longer cable.</summary>
    [Theory]
    [InlineData(75, 4.1, "cable.length", "unlisted-cord")]
    [InlineData(75, 5.2, "cable.loop-resistance", "unlisted-cord")]
    [InlineData(75, 2.6, "cable.length", "longer-than-plan")]
    [InlineData(75, 40, "cable.length", "longer-than-plan")]
    [InlineData(75, 40, "cable.loop-resistance", "high-contact")]
    [InlineData(60, 6.1, "cable.loop-resistance", "wrong-material")]
    public void MetresAndOhmsBeyondThePlanBelongTogetherOrNot(double metres, double moreOhms, string check, string cause)
    {
        var facts = new Facts();
        facts.Read(Key("cable.length"), new NumberValue(metres, Unit.Metre));
        foreach (var pair in PinPair.All)
            facts.Read(Key("cable.loop-resistance", pair.ToString()), new NumberValue(10.106 + moreOhms, Unit.Ohm));
        Assert.Equal(cause, facts.Row(check, check == "cable.length" ? "" : "1-2").Causes[0].Id);
    }

    [Fact]
    public void TheCauseOfMostRowsIsTheCards()
    {
        var any = new Facts().Card.Rows[0];
        CardRow Sick(params string[] causes) =>
            any with
            {
                Causes = [.. causes.Select(c => new LikelyCause(c, new("x"), Severity.Major, c.Length))],
            };
        Assert.Null(Causes.OfCard([]));
        // One row alone speaks for itself.
        Assert.Null(Causes.OfCard([Sick("cord"), Sick("warm")]));
        var card = Causes.OfCard([Sick("plan", "cord"), Sick("metal", "cord"), Sick("metal", "cord")])!;
        Assert.Equal(("cord", 3, 3), (card.Id, card.Rows.Length, card.Of));
        // Of two that explain as much, the one that the rows hold more likely.
        Assert.Equal("metal", Causes.OfCard([Sick("metal", "cord"), Sick("metal", "cord")])!.Id);
    }

    [Fact]
    public void WarmCableMayBeLessLong()
    {
        var facts = new Facts().With(f =>
            f with
            {
                Runs = [f.Runs[0] with { TemperatureC = new(48, Origin.Planned), LengthMetres = new(79, Origin.Planned) }],
            }
        );
        Assert.Equal(79.79, facts.Row("cable.length").Window!.Max!.Value, 2);
        facts.Read(Key("cable.length"), new NumberValue(88, Unit.Metre));
        Assert.Equal(["longer-than-plan", "warm-run"], facts.Row("cable.length").Causes.Select(c => c.Id));
    }

    [Fact]
    public void AnExemptionNeedsNoReadingAndStaysInTheRow()
    {
        var facts = new Facts().Healthy();
        facts.Work("re-crimp", CableEnd.Far);
        facts.Add(
            (id, at, n) =>
                new Exemption
                {
                    Id = id,
                    By = Ina,
                    At = at,
                    Sequence = n,
                    Key = Key("cable.wire-map"),
                    Reason = "moulded lead",
                }
        );
        Assert.Equal(State.NotApplicable, facts.Row("cable.wire-map").State);
        Assert.Equal("moulded lead", facts.Row("cable.wire-map").ExemptedBecause);
    }

    [Fact]
    public void LegsShowTheWorstOfTheirChecks()
    {
        var facts = new Facts().Healthy();
        facts.Read(Key("link.speed"), new ChoiceValue("none"));
        var legs = facts.Card.Legs.ToDictionary(l => l.Leg);
        Assert.Equal(State.Out, legs[Leg.Link].State);
        Assert.Equal(State.In, legs[Leg.Run].State);
        Assert.Equal(State.NotApplicable, legs[Leg.Picture].State);
        Assert.NotNull(legs[Leg.Power].TightestRow);
    }

    [Fact]
    public void AGateThatIsOutStopsOnlyWhatNamesIt()
    {
        var facts = new Facts();
        facts.Read(Key("cable.wire-map"), Map(2, 1, 3, 4, 5, 6, 7, 8));
        Assert.Equal([new CheckId("cable.wire-map")], facts.Row("link.speed").WaitsFor);
        Assert.Empty(facts.Row("cable.label").WaitsFor);
    }

    [Fact]
    public void APreviewKeepsNothing()
    {
        var facts = new Facts();
        var would = Acceptance.Card.Preview(
            facts.Now,
            Shipped,
            Key("cable.length"),
            new NumberValue(95, Unit.Metre),
            Condition.Any,
            Meter.Id
        );
        Assert.Equal((State.Out, true, State.Out), (would.Row.State, would.Counts, would.Attempt.State));
        Assert.Empty(facts.Now.Readings);
    }

    [Theory]
    [InlineData("cable.length", 1e9)]
    [InlineData("cable.length", double.NaN)]
    [InlineData("power.volts-at-device", 121)]
    public void ImpossibleNumbersAreRefused(string check, double value) =>
        Assert.NotNull(
            ReadingRules.Refuse(Shipped.CheckById[new CheckId(check)], new NumberValue(value, Shipped.CheckById[new CheckId(check)].Unit))
        );

    [Fact]
    public void TheMainUnitIsNoEvidence() =>
        Assert.Equal(
            "reading.main-unit",
            ReadingRules.Refuse(Shipped.CheckById[new CheckId("cable.wire-map")], Straight with { ReadAt = MapReadAt.MainUnit })!.Code
        );
}
