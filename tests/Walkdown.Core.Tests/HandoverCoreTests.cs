using CsCheck;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using static Walkdown.Core.Tests.Facts;

namespace Walkdown.Core.Tests;

/// <summary>What a pack says beside the Cards: exceptions, differences, honesty marks and traces.</summary>
public sealed class HandoverCoreTests
{
    private static readonly CheckKey Volts = Key("power.volts-at-device", "", Condition.InfraredOn);

    /// <summary>42.9 V is unexpected on this run too; that is told beside it.</summary>
    private static IEnumerable<CardException> Noted(Facts facts) =>
        CardExceptions.Of(facts.Card).Where(e => e.Kind != ExceptionKind.Unexpected);

    [Fact]
    public void AConcessionHoldsUntilItsDayAndNoLonger()
    {
        var facts = new Facts().Healthy();
        facts.Read(Volts, new NumberValue(42.9, Unit.Volt));
        facts.Add(
            (id, at, n) =>
                new Concession
                {
                    Id = id,
                    By = Ina,
                    At = at,
                    Sequence = n,
                    Key = Volts,
                    AllowedBy = "Odile Farrow",
                    Reason = "no infrared at night",
                    Until = new DateOnly(2026, 10, 20),
                }
        );
        facts.With(f => f with { Now = new DateTimeOffset(2026, 10, 20, 23, 0, 0, TimeSpan.Zero) });
        Assert.Equal(Verdict.AcceptedWithNote, facts.Card.Verdict.Verdict);
        Assert.Equal((ExceptionKind.Conceded, new DateOnly(2026, 10, 20)), Noted(facts).Select(e => (e.Kind, e.Until!.Value)).Single());
        // Where the site is, it is still the 20th, though not everywhere.
        facts.With(f => f with { Now = new DateTimeOffset(2026, 10, 20, 23, 30, 0, TimeSpan.FromHours(-4)) });
        Assert.Equal(ExceptionKind.Conceded, Noted(facts).Single().Kind);
        facts.With(f => f with { Now = new DateTimeOffset(2026, 10, 21, 0, 30, 0, TimeSpan.Zero) });
        Assert.Equal(Verdict.Open, facts.Card.Verdict.Verdict);
        Assert.Contains(facts.Row(Volts.Check.Value, "", Condition.InfraredOn).Because, m => m.Code == "because.concession-lapsed");
    }

    [Fact]
    public void ExceptionsStandWorstFirstAndWhatWasNotTakenIsCountedByCheck()
    {
        var facts = new Facts();
        facts.Read(Key("cable.length"), new NumberValue(200, Unit.Metre));
        facts.Raise(Key("cable.length"));
        facts.Add(
            (id, at, n) =>
                new Block
                {
                    Id = id,
                    By = Ina,
                    At = at,
                    Sequence = n,
                    BlockedBy = "Harbour office",
                    Reason = "no entry",
                }
        );
        var found = CardExceptions.Of(facts.Card);
        Assert.Equal([.. found.Select(e => e.Kind).Order()], found.Select(e => e.Kind));
        Assert.Equal(ExceptionKind.Out, found[0].Kind);
        Assert.Equal(4, found.Single(e => e.Kind == ExceptionKind.NotTaken && e.Row!.Value.Check.Value == "cable.loop-resistance").Count);
        Assert.Equal("Harbour office", found.Single(e => e.Kind == ExceptionKind.Blocked).Who);
        Assert.Empty(CardExceptions.Of(new Facts().Healthy().Card));
    }

    [Fact]
    public void ADifferenceNamesTheRowsThatRestOnAnotherReading()
    {
        var facts = new Facts().Healthy();
        var before = facts.Card;
        Assert.Empty(CardDifference.Of("CC-07", before, facts.Card).Rows);
        facts.Read(Volts, new NumberValue(30, Unit.Volt));
        var change = CardDifference.Of("CC-07", before, facts.Card);
        Assert.Equal((Verdict.Accepted, Verdict.Refused), (change.Before!.Value, change.After!.Value));
        Assert.Equal([new RowChange(Volts, State.In, State.Out, true)], change.Rows);
        Assert.Equal(before.Rows.Count(r => r.IsDue), CardDifference.Of("CC-07", null, before).Rows.Length);
        Assert.All(CardDifference.Of("CC-07", before, null).Rows, r => Assert.Null(r.After));
    }

    [Fact]
    public void SharesAddUpToAllThatWasNotWithdrawn() =>
        Gen.Select(Gen.Enum<ReadingSource>(), Gen.Enum<Standing>(), Gen.Int[0, 100_000], Gen.Int[0, 3])
            .Array.Sample(rows =>
            {
                var places = Enumerable.Range(0, 4).Select(_ => Guid.NewGuid()).ToArray();
                var honesty = Honesty.Of(
                    rows.Select(r => new HonestReading(
                        places[r.Item4],
                        $"C-{r.Item4}",
                        Ina,
                        r.Item1,
                        r.Item2,
                        Start.AddSeconds(r.Item3),
                        0,
                        r.Item4 * 30,
                        0
                    )),
                    0,
                    simulated: false
                );
                Assert.Equal(rows.Length, honesty.Readings + honesty.Withdrawn);
                Assert.Equal(honesty.Readings, honesty.Typed + honesty.Tester + honesty.Imported + honesty.Simulated);
            });

    [Fact]
    public void HasteAFalseClockAndAnOldMeterAreMarkedAndAnHonestRoundIsNot()
    {
        Guid a = Guid.NewGuid(),
            b = Guid.NewGuid();
        HonestReading At(
            Guid place,
            double x,
            int seconds,
            ReadingSource source = ReadingSource.Typed,
            Standing standing = Standing.Counts,
            double offset = 0
        ) => new(place, place == a ? "C-1" : "C-2", Ina, source, standing, Start.AddSeconds(seconds), offset, x, 0);
        Assert.Empty(Honesty.Of([At(a, 0, 0), At(a, 0, 40), At(b, 60, 120), At(b, 60, 150)], 0, false).Remarks);
        var pace = Assert.Single(Honesty.Of([At(a, 0, 0), At(b, 60, 10)], 0, false).Remarks);
        Assert.Equal(
            ("honesty.pace", "C-1", "C-2", "60", "10"),
            (pace.What.Code, pace.What.Args[1], pace.What.Args[2], pace.What.Args[3], pace.What.Args[4])
        );
        // A sweep over the network walks nowhere, nor does one reading of it between two that were typed.
        foreach (var far in new[] { ReadingSource.Imported, ReadingSource.Tester, ReadingSource.Switch, ReadingSource.Simulated })
        {
            Assert.Empty(Honesty.Of([At(a, 0, 0, far), At(b, 60, 1, far)], 0, false).Remarks);
            Assert.Empty(Honesty.Of([At(a, 0, 0), At(b, 60, 5, far), At(a, 0, 10)], 0, false).Remarks);
        }
        Assert.Equal(
            "honesty.typing",
            Assert.Single(Honesty.Of(Enumerable.Range(0, 30).Select(i => At(a, 0, i)), 0, false).Remarks).What.Code
        );
        Assert.Equal(
            ["honesty.clock", "honesty.instrument.one", "honesty.out-then-in"],
            Honesty
                .Of([At(a, 0, 0, offset: -300_000), At(a, 0, 60, standing: Standing.OutOfCalibration)], 2, false)
                .Remarks.Select(r => r.What.Code)
        );
        var simulated = Honesty.Of([At(a, 0, 0, ReadingSource.Tester)], 0, simulated: true);
        Assert.Equal((0, 1), (simulated.Tester, simulated.Simulated));
    }

    [Fact]
    public void ATraceLeadsFromTheReadingToTheDecisionByNumbersThatAgree()
    {
        var facts = new Facts().Healthy();
        var row = facts.Row("cable.loop-resistance", "1-2");
        var trace = Trace.Of(row, DecisionRule.Guarded, facts.Now.Instruments);
        Assert.Equal(
            [
                TraceKind.Reading,
                TraceKind.Accuracy,
                TraceKind.Expected,
                TraceKind.Expected,
                TraceKind.Limit,
                TraceKind.Limit,
                TraceKind.Window,
                TraceKind.Decision,
                TraceKind.Decision,
            ],
            trace.Steps.Select(s => s.Kind)
        );
        var counts = row.Attempts.Single(a => a.ReadingId == row.Counts);
        Assert.Equal(Message.Number(counts.HalfWidth!.Value, 4), trace.Steps[1].What.Args[5]);
        Assert.Equal(Message.Number(((NumberValue)counts.Value).Value - counts.HalfWidth.Value, 4), trace.Steps[7].What.Args[0]);
        Assert.All(trace.Steps.Where(s => s.Kind == TraceKind.Limit), s => Assert.True(s.Source!.Length > 0 && s.Edition!.Length > 0));
        Assert.All(trace.Steps, s => Assert.Contains(s.What.Code, Texts));
        Assert.All(trace.Steps.SelectMany(s => s.From), t => Assert.Contains(t.Name, Texts));
        // Every row that was read has one, whatever it is of.
        foreach (var other in facts.Card.Rows.Where(r => r.Counts is not null))
            Assert.NotEmpty(Trace.Of(other, DecisionRule.Guarded, facts.Now.Instruments).Steps);
    }

    [Fact]
    public void TheCableScheduleTakesTheWorstRowAndOwesNothingThatIsOptional()
    {
        var facts = new Facts().Healthy();
        var run = facts.Now.Runs[0];
        var whole = CableSummary.Of(run, facts.Card);
        Assert.Equal((State.In, State.In), (whole.Worst, whole.Map!.Value));
        Assert.Equal(State.NotTaken, CableSummary.Of(run, new Facts().Card).Worst);
        facts.Read(Key("cable.length"), new NumberValue(200, Unit.Metre));
        Assert.Equal((State.Out, 200), (CableSummary.Of(run, facts.Card).Worst, CableSummary.Of(run, facts.Card).Metres!.Value));
    }

    [Theory]
    // The first two, unless work was pictured: then the last before it and the last after it.
    [InlineData("ggg", "0 1")]
    [InlineData("g", "0")]
    [InlineData("", "")]
    [InlineData("gba", "1 2")]
    [InlineData("bbaga", "1 4")]
    [InlineData("ab", "0 1")]
    [InlineData("bab", "0 1")]
    [InlineData("ggb", "0 1")]
    public void APageShowsTheWorkWhereItWasPictured(string taken, string shown)
    {
        var pictures = taken
            .Select(
                (c, i) =>
                    (
                        At: i,
                        Moment: c switch
                        {
                            'b' => PictureMoment.Before,
                            'a' => PictureMoment.After,
                            _ => PictureMoment.General,
                        }
                    )
            )
            .ToList();
        Assert.Equal(shown, string.Join(' ', ReportPictures.Choose(pictures, p => p.Moment).Select(p => p.At)));
    }

    /// <summary>A leg of which one Card requires something is part of it; a row that may be taken does not make it so, one that was
    /// exempted does.</summary>
    [Fact]
    public void WhatNoCardRequiresIsNotPartOfTheAcceptance()
    {
        var facts = new Facts().Healthy();
        var asked = new[] { Section.Cable, Section.Power, Section.Link, Section.Bench };
        Assert.Equal(Enum.GetValues<Section>().Except(asked), AcceptanceScope.NotAsked(AcceptanceScope.Asked(facts.Card)));
        // Rows that may be taken are there, and stand in parts of their own.
        Assert.Contains(facts.Card.Rows, r => r is { Required: false, Check.Section: Section.Fixing });
        Assert.Equal(Enum.GetValues<Section>().Where(s => s != Section.Bench), AcceptanceScope.NotAsked([]));
        Assert.Empty(AcceptanceScope.NotAsked(Enum.GetValues<Section>()));
    }

    [Fact]
    public void AVerdictCoversThePartsOfWhichSomethingIsAskedThatApplies()
    {
        var facts = new Facts();
        var card = facts.Card;
        var asked = card.Rows.Where(r => r.Required).Select(r => r.Check.Section).ToHashSet();
        Assert.Equal(Enum.GetValues<Section>().Where(asked.Contains), card.Verdict.Parts);
        Assert.Contains(Section.Link, card.Verdict.Parts);
        Assert.Equal(
            Enum.GetValues<Section>().Where(l => l != Section.Bench && !asked.Contains(l)),
            AcceptanceScope.NotAsked(AcceptanceScope.Asked(card))
        );
        Assert.Equal(AcceptanceScope.NotAsked(card.Verdict.Parts), card.Verdict.NotParts);
        // What was exempted by name was asked for, and yet the Verdict says nothing of it.
        foreach (var row in card.Rows.Where(r => r.Required && r.Check.Section == Section.Link))
            facts.Add(
                (id, at, n) =>
                    new Exemption
                    {
                        Id = id,
                        By = Ina,
                        At = at,
                        Sequence = n,
                        Key = row.Key,
                        Reason = "moulded lead",
                    }
            );
        Assert.DoesNotContain(Section.Link, facts.Card.Verdict.Parts);
        Assert.Contains(Section.Link, facts.Card.Verdict.NotParts);
        Assert.DoesNotContain(Section.Link, AcceptanceScope.NotAsked(AcceptanceScope.Asked(facts.Card)));
    }
}
