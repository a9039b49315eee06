using System.Collections.Immutable;
using CsCheck;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Tests;

/// <summary>The door: facts and a request give what is added, or a refusal; nothing else does.</summary>
public sealed class EntryDoorTests
{
    private static readonly DateTimeOffset At = Facts.Start.AddHours(2);
    private static readonly ImmutableDictionary<Guid, DateTimeOffset?> People = ImmutableDictionary<Guid, DateTimeOffset?>.Empty.Add(
        Facts.Ina,
        null
    );

    private static EntryDecision Decide(Facts facts, EntryRequest request, Func<EntryContext, EntryContext>? with = null)
    {
        var at = new EntryContext(JudgedCard.Of(facts.Now, Facts.Shipped), 77, At, At.AddSeconds(3));
        return EntryDoor.Decide(request, with?.Invoke(at) ?? at, People);
    }

    private static ReadingRequest Reading(string row, string? text = null, ReadingValue? value = null, Guid? instrument = null) =>
        new(Guid.NewGuid(), row, ReadingSource.Typed, Facts.Ina, At, 0, value, text, null, instrument);

    private static string Length => Facts.Key("cable.length").ToString();

    private static string Code(EntryDecision decision) => decision.Refused!.Code;

    [Fact]
    public void AReadingCarriesWhatTheServerKnowsAndNotWhatABrowserSays()
    {
        var facts = new Facts();
        var decision = Decide(facts, Reading(Length, "61.5 m", instrument: Facts.Meter.Id) with { Source = ReadingSource.Switch });
        var reading = Assert.Single(decision.Readings);
        Assert.Equal(new NumberValue(61.5, Unit.Metre), reading.Value);
        Assert.Equal(
            (ReadingSource.Typed, At, At.AddSeconds(3), 77L, facts.Now.Unit!.Id),
            (reading.Source, reading.TakenAt, reading.ReceivedAt, reading.Sequence, reading.UnitId!.Value)
        );
        Assert.Equal(Facts.Shipped.LimitSet.Edition, reading.Seen!.Edition);
        Assert.Empty(decision.Events);
        Assert.Null(decision.Swap);
    }

    /// <summary>While an update runs nothing cuts the feed or the cable and nothing is set; what touches neither may be recorded.</summary>
    [Theory]
    [InlineData(
        true,
        "re-crimp re-punch cord-replaced cable-replaced shortened port-moved unit-swapped moved restarted feed-changed "
            + "supply-changed reset address-changed password-changed time-changed zone-changed setting-changed card-changed disk-changed"
    )]
    [InlineData(
        false,
        "updated hard-pull axis-turned lens-touched cover-opened cover-cleaned seal-opened tile-moved channel-changed update-started"
    )]
    public void WhatCannotBeDoneWhileAnUpdateRunsIsRefused(bool refused, string acts)
    {
        var facts = new Facts();
        facts.Work("update-started");
        foreach (var kind in acts.Split(' '))
        {
            var request = new ActRequest(Guid.NewGuid(), kind, Facts.Ina, At, 0, Facts.Run, Cabling.CableEnd.Far, null, "TH-9");
            Assert.Equal((kind, refused ? "hold.updating" : null), (kind, Decide(facts, request).Refused?.Code));
        }
    }

    [Fact]
    public void EveryKindOfWorkSaysWhetherAnUpdateForbidsIt()
    {
        var forbidden = Facts.Shipped.Acts.Count(a => a.NotWhileUpdating);
        Assert.Equal((19, 10), (forbidden, Facts.Shipped.Acts.Length - forbidden));
    }

    [Theory]
    [InlineData("nowhere", "61", "problem.unknown-row", "row")]
    [InlineData(null, "long", "number.unreadable", "text")]
    [InlineData(null, "90000", "reading.impossible", "text")]
    public void WhatIsNoReadingIsRefusedWithTheMemberItIsAbout(string? row, string text, string code, string field)
    {
        var decision = Decide(new Facts(), Reading(row ?? Length, text));
        Assert.Equal((code, field), (Code(decision), decision.Field));
        Assert.Empty(decision.Readings);
    }

    [Fact]
    public void NobodyWritesWhoIsNotOfTheJobOrHasLeftIt()
    {
        var at = new EntryContext(JudgedCard.Of(new Facts().Now, Facts.Shipped), 1, At, At);
        Assert.Equal("problem.unknown-person", Code(EntryDoor.Decide(Reading(Length, "61"), at, People.Remove(Facts.Ina))));
        Assert.Equal(
            "problem.person-left",
            Code(EntryDoor.Decide(Reading(Length, "61"), at, People.SetItem(Facts.Ina, At.AddSeconds(-1))))
        );
        // What was written while there, and is sent later, is taken.
        Assert.Null(EntryDoor.Decide(Reading(Length, "61"), at, People.SetItem(Facts.Ina, At)).Refused);
    }

    [Fact]
    public void AnAnswerIsCitedByTheRowThatItIsForAndTakesItsInstrumentFromItsSerial()
    {
        var heard = new Observation(
            Guid.NewGuid(),
            ReadingSource.Tester,
            "cm-0217",
            At.AddMinutes(-5),
            ImmutableDictionary<string, ReadingValue>.Empty.Add(Length, new NumberValue(60.5, Unit.Metre))
        );
        var request = Reading(Length, "99") with { ObservationId = heard.Id };
        Assert.Equal("problem.unknown-observation", Code(Decide(new Facts(), request)));
        var reading = Assert.Single(Decide(new Facts(), request, at => at with { Heard = heard }).Readings);
        Assert.Equal(
            (60.5, ReadingSource.Tester, heard.At, (Guid?)Facts.Meter.Id, (Guid?)heard.Id),
            (((NumberValue)reading.Value).Value, reading.Source, reading.TakenAt, reading.InstrumentId, reading.ObservationId)
        );
        var loop = Reading(Facts.Key("cable.loop-resistance", "1-2").ToString()) with { ObservationId = heard.Id };
        Assert.Equal("problem.unknown-observation", Code(Decide(new Facts(), loop, at => at with { Heard = heard })));
    }

    [Fact]
    public void EvidenceIsAPictureOfThePlaceWithTheHashThatTheRecordKnows()
    {
        var picture = Guid.NewGuid();
        var hash = new string('a', 64);
        EntryDecision With(params ImmutableArray<EvidenceRequest> given) =>
            Decide(
                new Facts(),
                Reading(Length, "61") with
                {
                    Evidence = given,
                },
                at => at with { Pictures = ImmutableDictionary<Guid, string>.Empty.Add(picture, hash) }
            );
        Assert.True(new ReadingRequest(Guid.NewGuid(), "", default, Facts.Ina, At, 0, Evidence: [new(picture)]).Needs().Pictures);
        Assert.False(Reading(Length).Needs().Pictures);
        var measured = With(
            new EvidenceRequest(
                picture,
                new(10, 20, 300, 40),
                ImmutableSortedDictionary<string, double>.Empty.Add("target_mm", 520),
                "edge",
                3
            )
        );
        var kept = Assert.Single(measured.Readings.Single().Evidence);
        Assert.Equal(
            (hash, new PictureRegion(10, 20, 300, 40), 520, "edge", 3),
            (kept.PictureHash, kept.Region, kept.Inputs["target_mm"], kept.Algorithm, kept.AlgorithmVersion)
        );
        Assert.Equal("evidence.unknown-picture", Code(With(new EvidenceRequest(Guid.NewGuid()))));
        Assert.Equal("evidence.region", Code(With(new EvidenceRequest(picture, new(-1, 0, 5, 5)))));
        Assert.Equal("evidence.region", Code(With(new EvidenceRequest(picture, new(0, 0, int.MaxValue, 5)))));
        Assert.Equal(
            "evidence.inputs",
            Code(With(new EvidenceRequest(picture, null, ImmutableSortedDictionary<string, double>.Empty.Add("x", double.NaN))))
        );
        EvidenceRequest Figures(int count) =>
            new(picture, null, Enumerable.Range(0, count).ToImmutableSortedDictionary(i => $"figure_{i}", i => (double)i));
        Assert.Equal(
            EvidenceRequest.MostInputs,
            With(Figures(EvidenceRequest.MostInputs)).Readings.Single().Evidence.Single().Inputs.Count
        );
        Assert.Equal("evidence.inputs", Code(With(Figures(EvidenceRequest.MostInputs + 1))));
        Assert.Equal("evidence.too-many", Code(With([.. Enumerable.Repeat(new EvidenceRequest(picture), EvidenceRequest.Most + 1)])));
    }

    [Fact]
    public void ASwapSaysWhichUnitHangsFromNowOnAndIsRefusedWhereItCannotBe()
    {
        ActRequest Swap(string? serial) => new(Guid.NewGuid(), "unit-swapped", Facts.Ina, At, 0, NewSerial: serial);
        var decision = Decide(new Facts(), Swap(" TH9001 "));
        Assert.Equal(new UnitSwap("TH9001", At), decision.Swap);
        Assert.Equal("TH9001", Assert.IsType<Act>(Assert.Single(decision.Events)).NewSerial);
        Assert.Equal("TH9001", Swap(" TH9001 ").Needs().UnitSerial);
        Assert.Equal("problem.which-serial", Code(Decide(new Facts(), Swap(null))));
        Assert.Equal("problem.same-serial", Code(Decide(new Facts(), Swap("th4275"))));
        Assert.Equal("problem.unit-hangs-elsewhere", Code(Decide(new Facts(), Swap("TH9001"), at => at with { UnitHangs = true })));
        Assert.Equal("problem.swap-before", Code(Decide(new Facts(), Swap("TH9001"), at => at with { At = Facts.Start.AddDays(-2) })));
    }

    [Fact]
    public void AFaultIsRaisedOnceARowAndEndedByAWordOnlyWhereNothingSpeaksForIt()
    {
        var facts = new Facts();
        facts.Read(Facts.Key("cable.length"), new NumberValue(150, Unit.Metre));
        var raised = Decide(facts, new FaultRequest(Guid.NewGuid(), Length, " Too long ", Severity.Major, Facts.Ina, At, 0));
        var fault = Assert.Single(raised.Faults);
        Assert.Equal("Too long", fault.Title);
        Assert.NotNull(fault.FromReading);
        facts.With(f => f with { Faults = f.Faults.Add(fault) });
        Assert.Equal(
            "problem.fault-stands",
            Code(Decide(facts, new FaultRequest(Guid.NewGuid(), Length, "Again", Severity.Minor, Facts.Ina, At, 0)))
        );
        var end = new FaultEndRequest(Guid.NewGuid(), "a slip", Facts.Ina, At, 0) { FaultId = fault.Id };
        Assert.Equal("problem.fault-still-out", Code(Decide(facts, end)));
        Assert.Equal("problem.unknown-fault", Code(Decide(facts, end with { FaultId = Guid.NewGuid() })));
        var word = new FaultStepRequest(Guid.NewGuid(), " opened the box ", Facts.Ina, At, 0) { FaultId = fault.Id };
        Assert.Equal("opened the box", Assert.Single(Decide(facts, word).FaultWords).Text);
    }

    [Fact]
    public void AMarkTakesThePlaceOfTheOneBefore()
    {
        var place = Guid.NewGuid();
        var before = new Block
        {
            Id = Guid.NewGuid(),
            By = Facts.Ina,
            At = At,
            BlockedBy = "Scaffold",
            Reason = "r",
        };
        ImmutableArray<CardEvent> Of(MarkKind kind, Block? standing) =>
            new Marking(kind, "why", "Lift hire", null).Of(place, standing, Facts.Ina, At, 9, Guid.NewGuid);
        Assert.Equal([typeof(BlockEnd), typeof(Block)], Of(MarkKind.Blocked, before).Select(e => e.GetType()));
        Assert.Equal([typeof(BlockEnd)], Of(MarkKind.Free, before).Select(e => e.GetType()));
        Assert.Empty(Of(MarkKind.Free, null));
        Assert.Equal("restarted", Assert.IsType<Act>(Assert.Single(Of(MarkKind.Restarted, before))).ActKind);
        Assert.Equal("problem.reason-missing", new Marking(MarkKind.SetAside, " ", null, null).Problem());
        Assert.Equal("mark.blocked-by", new Marking(MarkKind.Blocked, "why", "", null).Problem());
        Assert.Null(new Marking(MarkKind.Free, null, null, null).Problem());
    }

    [Fact]
    public void AMomentIsNeverLaterThanNowAndNeverInvented() =>
        Gen.Select(Gen.Long[0, 9_000_000_000_000], Gen.Double[-2e13, 2e13])
            .Sample(
                (millis, offset) =>
                {
                    var taken = DateTimeOffset.FromUnixTimeMilliseconds(millis);
                    if (EntryDoor.TakenAt(taken, offset, At) is not { } at)
                        return Math.Abs(offset) > 1e13 || taken.Year < 1971 || millis + offset < 1_577_836_800_000;
                    return at <= At
                        && at.Year >= 2020
                        && at.Ticks % TimeSpan.TicksPerMillisecond == 0
                        && (at == At || Math.Abs((at - taken).TotalMilliseconds - offset) <= 1);
                }
            );

    [Fact]
    public void EverySortOfEntryIsRefusedForARowThatIsNotThereOrAddsExactlyOneThing()
    {
        var facts = new Facts();
        facts.Read(Facts.Key("cable.length"), new NumberValue(150, Unit.Metre));
        EntryRequest[] Sorts(string row) =>
            [
                Reading(row, "61"),
                new ExemptionRequest(Guid.NewGuid(), row, "not here", Facts.Ina, At, 0),
                new ConcessionRequest(Guid.NewGuid(), row, "M. Thole", "short of time", Facts.Ina, At, 0),
                new FaultRequest(Guid.NewGuid(), row, "Too long", Severity.Minor, Facts.Ina, At, 0),
                new NoteRequest(Guid.NewGuid(), "see the plan", Facts.Ina, At, 0, row),
            ];
        Assert.All(Sorts("nowhere"), r => Assert.Equal("problem.unknown-row", Code(Decide(facts, r))));
        Assert.All(
            Sorts(Length),
            r =>
            {
                var d = Decide(facts, r);
                Assert.Null(d.Refused);
                Assert.Equal(1, d.Readings.Length + d.Events.Length + d.Faults.Length + d.FaultWords.Length);
            }
        );
        // Each has a word of its own in the journal, whose words are never changed.
        Assert.Equal(5, Sorts(Length).Select(s => s.JournalKind()).Distinct().Count());
    }
}
