using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Recording;
using Xunit;

namespace Walkdown.Core.Tests;

/// <summary>What a clip proves of an event that somebody made.</summary>
public sealed class ClipProofTests
{
    private static readonly DateTimeOffset Event = new(2026, 10, 14, 16, 7, 0, TimeSpan.Zero);
    private const int Channel = 13;

    private static ClipAsk Ask(double offset = 0, double u = 0.05, double least = 10) => new(Event, new(offset, u), least);

    /// <summary>Twelve pictures a second from one second to another, counted from the event by the recorder's clock.</summary>
    private static ClipHeard Clip(ClipAsk ask, params (double From, double To)[] pieces) =>
        new(
            Channel,
            [
                .. pieces.SelectMany(p =>
                    Enumerable.Range(0, (int)Math.Round((p.To - p.From) * 12) + 1).Select(i => ask.There.AddSeconds(p.From + i / 12.0))
                ),
            ],
            true
        );

    private static ClipVerdict Verdict(RecordedWhen when, params (double From, double To)[] pieces) =>
        ClipProof.Of(Ask(), Channel, when, Clip(Ask(), pieces)).Verdict;

    [Theory]
    [InlineData(-2, 20, RecordedWhen.Motion, ClipVerdict.Found)]
    [InlineData(3, 15, RecordedWhen.Motion, ClipVerdict.Found)]
    [InlineData(-5, 12, RecordedWhen.Always, ClipVerdict.Found)]
    // All day is before the event, too.
    [InlineData(3, 20, RecordedWhen.Always, ClipVerdict.Gap)]
    [InlineData(-2, 6, RecordedWhen.Motion, ClipVerdict.TooShort)]
    [InlineData(2, 9, RecordedWhen.Motion, ClipVerdict.TooShort)]
    [InlineData(7, 30, RecordedWhen.Motion, ClipVerdict.Elsewhere)]
    [InlineData(-20, -3, RecordedWhen.Motion, ClipVerdict.Elsewhere)]
    public void OneClip(double from, double to, RecordedWhen when, ClipVerdict expected) =>
        Assert.Equal(expected, Verdict(when, (from, to)));

    [Fact]
    public void WhatIsMissingInTheMiddleIsAGap()
    {
        var gap = ClipProof.Of(Ask(), Channel, RecordedWhen.Motion, Clip(Ask(), (-2, 3), (9, 15)));
        Assert.Equal((ClipVerdict.Gap, false), (gap.Verdict, gap.Proves));
        Assert.Equal(6, gap.GapSeconds!.Value, 1);
        // Long enough before the gap: on motion a second clip follows the first, all day it may not.
        Assert.Equal(ClipVerdict.Found, Verdict(RecordedWhen.Motion, (-2, 11), (16, 20)));
        Assert.Equal(ClipVerdict.Gap, Verdict(RecordedWhen.Always, (-2, 11), (16, 20)));
        // Four seconds between pictures is how a slow recording is.
        var slow = new ClipHeard(Channel, [.. Enumerable.Range(0, 8).Select(i => Event.AddSeconds(i * 2))], true);
        Assert.Equal(ClipVerdict.Found, ClipProof.Of(Ask(), Channel, RecordedWhen.Motion, slow).Verdict);
    }

    [Fact]
    public void WhatSaysNothingProvesNothing()
    {
        ClipProof Of(ClipHeard clip, ClipAsk? ask = null) => ClipProof.Of(ask ?? Ask(), Channel, RecordedWhen.Motion, clip);
        var good = Clip(Ask(), (-2, 20));
        Assert.Equal((ClipVerdict.None, false), (Of(new(Channel, [], true)) is var none ? none.Verdict : default, none.Proves));
        Assert.Equal((ClipVerdict.CutOff, null), (Of(new(Channel, [], false)) is var cut ? cut.Verdict : default, cut.Proves));
        Assert.Equal(ClipVerdict.CutOff, Of(Clip(Ask(), (-2, 5)) with { IsWhole = false }).Verdict);
        // It broke off before the moment of the event, or while it ran again: what follows is not known, and so not missing.
        Assert.Equal(
            (ClipVerdict.CutOff, null),
            (Of(Clip(Ask(), (-9, -4)) with { IsWhole = false }) is var early ? early.Verdict : default, early.Proves)
        );
        Assert.Equal(ClipVerdict.CutOff, Of(Clip(Ask(), (-9, -4), (1, 4)) with { IsWhole = false }).Verdict);
        Assert.Equal(ClipVerdict.Elsewhere, Of(Clip(Ask(), (-9, -4), (30, 34)) with { IsWhole = false }).Verdict);
        // What came is enough, though it broke off after it.
        Assert.Equal(ClipVerdict.Found, Of(good with { IsWhole = false }).Verdict);
        Assert.Equal(
            (ClipVerdict.OtherChannel, null),
            (Of(good with { Channel = 12 }) is var other ? other.Verdict : default, other.Proves)
        );
        Assert.Equal(ClipVerdict.Found, Of(good with { Channel = null }).Verdict);
        Assert.Equal(ClipVerdict.Jumps, Of(good with { FrameTimes = [.. good.FrameTimes.Reverse()] }).Verdict);
        Assert.Equal((ClipVerdict.Unclear, null), (Of(good, Ask(u: 16)) is var vague ? vague.Verdict : default, vague.Proves));
        Assert.Equal(ClipVerdict.TooShort, Of(new(Channel, [Event], true)).Verdict);
    }

    [Fact]
    public void ItIsAskedByTheRecordersClock()
    {
        var ask = Ask(offset: 3600, u: 0.2);
        Assert.Equal(Event.AddHours(1), ask.There);
        Assert.True(ask.From < ask.There.AddSeconds(-5) && ask.To > ask.There.AddSeconds(15));
        // Ready by ours, not by its clock an hour ahead.
        Assert.InRange((ask.ReadyAt - Event).TotalSeconds, 15, 20);
        Assert.Equal(ClipVerdict.Found, ClipProof.Of(ask, Channel, RecordedWhen.Motion, Clip(ask, (-2, 20))).Verdict);
        // By ours it would be another hour's: not of the event.
        Assert.Equal(ClipVerdict.Elsewhere, ClipProof.Of(Ask(), Channel, RecordedWhen.Motion, Clip(ask, (-2, 20))).Verdict);
    }

    /// <summary>A clip that reaches further is never proven less; and what is moved with its clock proves the same.</summary>
    [Fact]
    public void LongerIsNeverLess()
    {
        var dice = new Random(11);
        for (var n = 0; n < 300; n++)
        {
            var (from, to) = (dice.NextDouble() * 12 - 5, dice.NextDouble() * 25);
            if (to <= from)
                continue;
            var when = (RecordedWhen)(1 + dice.Next(3));
            var shorter = Verdict(when, (from, to)) == ClipVerdict.Found;
            Assert.True(!shorter || Verdict(when, (from, to + dice.NextDouble() * 10)) == ClipVerdict.Found);
            Assert.True(!shorter || Verdict(when, (from - dice.NextDouble() * 5, to)) == ClipVerdict.Found);
            var offset = dice.NextDouble() * 7200 - 3600;
            Assert.Equal(shorter, ClipProof.Of(Ask(offset), Channel, when, Clip(Ask(offset), (from, to))).Verdict == ClipVerdict.Found);
        }
    }

    private static ProvenEvent Proven(double minutes, ClipVerdict verdict, bool? earlier = null, int channel = Channel) =>
        new(
            channel,
            Guid.Empty,
            1,
            EventWay.Walk,
            Event.AddMinutes(minutes),
            RecordedWhen.Motion,
            new(verdict, Event, 12, 0, 0.1, 12, new("clip." + verdict)),
            null,
            earlier
        );

    /// <summary>An event before a camera of several channels is proven by all of them, refuted by one, and open while one tells
    /// nothing.</summary>
    [Fact]
    public void AnEventIsProvenByEveryChannelOfItsCamera()
    {
        EventStanding Stands(params ClipVerdict[] verdicts)
        {
            var proofs = RecorderProofs.Of(
                [.. verdicts.Select((v, i) => Proven(0, v, null, i + 1))],
                [.. Enumerable.Range(1, 3).Select(c => new EventMade(c, Guid.Empty, c, EventWay.Walk, Event))],
                null,
                Event.AddMinutes(5)
            );
            return EventStanding.Of(Event, [.. Enumerable.Range(1, 3).Select(c => (proofs, c))]);
        }
        Assert.Equal(new(true, null), Stands());
        Assert.Equal(new(true, null), Stands(ClipVerdict.Found, ClipVerdict.Found));
        Assert.Equal(new(true, false), Stands(ClipVerdict.Found, ClipVerdict.None));
        Assert.Equal(new(false, true), Stands(ClipVerdict.Found, ClipVerdict.Found, ClipVerdict.Found));
        // What broke off says neither, and is to be had again.
        Assert.Equal(new(true, null), Stands(ClipVerdict.Found, ClipVerdict.CutOff, ClipVerdict.Found));
        Assert.Equal(new(false, null), EventStanding.Of(Event, []));
    }

    [Fact]
    public void BeforeAndAfterAreTheRestartsThatAProofMustOutlive()
    {
        DateTimeOffset At(double minutes) => Event.AddMinutes(minutes);
        // A start from before anybody proved anything is none.
        var one = ChannelProof.Of([Proven(0, ClipVerdict.Found)], [At(-300)]).Single();
        Assert.Equal((true, null, null), (one.IsProven, one.IsProvenAfter, one.RestartAt));
        var both = ChannelProof.Of([Proven(0, ClipVerdict.Found), Proven(20, ClipVerdict.Found, true)], [At(-300), At(10)]).Single();
        Assert.Equal((true, true, At(10)), (both.IsProven, both.IsProvenAfter, both.RestartAt));
        // What was there before must be there still; not looked for is neither.
        Assert.False(
            ChannelProof.Of([Proven(0, ClipVerdict.Found), Proven(20, ClipVerdict.Found, false)], [At(10)]).Single().IsProvenAfter
        );
        Assert.Null(ChannelProof.Of([Proven(0, ClipVerdict.Found), Proven(20, ClipVerdict.Found)], [At(10)]).Single().IsProvenAfter);
        // Another channel's event makes the restart count; this one has no proof from before it.
        var late = ChannelProof.Of([Proven(0, ClipVerdict.Found, null, 1), Proven(20, ClipVerdict.None)], [At(10)]);
        Assert.Equal((null, false), (late[1].IsProven, late[1].IsProvenAfter));
        // Started again once more: what was proven after the first still stands until somebody proves anew.
        var again = ChannelProof.Of([Proven(0, ClipVerdict.Found), Proven(20, ClipVerdict.Found, true)], [At(10), At(30)]).Single();
        Assert.Equal((true, At(10)), (again.IsProvenAfter, again.RestartAt));
        Assert.Empty(ChannelProof.Of([], [At(1)]));
    }

    /// <summary>What looks brought is put together: what waits, what counts, when it was started, and how much of it is proven.</summary>
    [Fact]
    public void WhatManyLooksBroughtIsOneAnswer()
    {
        DateTimeOffset At(double minutes) => Event.AddMinutes(minutes);
        EventMade Made(double minutes, int channel = Channel) => new(channel, Guid.Empty, 1, EventWay.Walk, At(minutes));
        ProvenEvent Unanswered(double minutes) => Proven(minutes, ClipVerdict.Found) with { Proof = null };
        RecorderProofs Of(ProvenEvent[] looked, EventMade[] events, RecorderReading? reading = null) =>
            RecorderProofs.Of(looked, events, reading, At(60));
        RecorderReading Reading(string serial) => RecorderReading.OfList([new("R-1", Channel, "", "", serial, "")]);

        Assert.Empty(Of([], []).ByChannel);
        // Who pressed twice means the second; another day's event waits no more.
        Assert.Equal([Made(2)], Of([], [Made(2), Made(1)]).Waiting);
        Assert.Empty(Of([], [Made(60 - RecorderProofs.Lasts.TotalMinutes - 1)]).Waiting);
        // A recorder that did not answer leaves it waiting; one that told yes or no does not; a later event waits again.
        Assert.Single(Of([Unanswered(2)], [Made(2)]).Waiting);
        Assert.Empty(Of([Proven(2, ClipVerdict.None)], [Made(2)]).Waiting);
        Assert.Single(Of([Proven(2, ClipVerdict.None)], [Made(2), Made(5)]).Waiting);
        // Of several looks at one event the last that says yes or no counts.
        var looked = Of([Proven(2, ClipVerdict.Found), Unanswered(2)], []).Counted.Single();
        Assert.True(looked.Proof!.Proves);

        // What another's picture proved is none of the one that is there now; where either is untold it stands.
        var view = Reading("TH1").Channels[0].View;
        ProvenEvent[] seen = [Proven(2, ClipVerdict.Found) with { View = view }];
        Assert.Single(Of(seen, [], Reading("TH1")).Counted);
        Assert.Single(Of(seen, []).Counted);
        Assert.Single(Of([Proven(2, ClipVerdict.Found)], [], Reading("TH2")).Counted);
        Assert.Empty(Of(seen, [], Reading("TH2")).Counted);

        // A start is told by each look with an own reading of the clock; two so near are one.
        ProvenEvent[] started =
        [
            Proven(0, ClipVerdict.Found) with
            {
                StartedAt = At(-100),
            },
            Proven(20, ClipVerdict.Found, true) with
            {
                StartedAt = At(10),
            },
            Proven(21, ClipVerdict.Found, true, 2) with
            {
                StartedAt = At(10).AddSeconds(15),
            },
        ];
        var proofs = Of(started, []);
        Assert.Equal([At(-100), At(10)], proofs.Starts);
        Assert.True(proofs.ByChannel[Channel].IsProvenAfter);
        // The clip from before the last start must be there still; without a start in between there is none to look for.
        Assert.Equal(At(0), proofs.Before(Made(30))!.EventAt);
        Assert.Null(proofs.Before(Made(5)));
        Assert.Null(proofs.Before(Made(30, 2)));

        // Counted once: proven, refused, or neither; a channel that nobody planned not at all.
        PlannedChannel Planned(int number) => new(Guid.NewGuid(), number, Guid.NewGuid(), $"VL-0{number}", "", "Vehicle lanes");
        var tally = Of(
                [
                    Proven(0, ClipVerdict.Found, null, 1),
                    Proven(20, ClipVerdict.Found, true, 1) with
                    {
                        StartedAt = At(10),
                    },
                    Proven(0, ClipVerdict.None, null, 2),
                    Proven(20, ClipVerdict.Found, false, 2),
                    Proven(0, ClipVerdict.CutOff, null, 3),
                    Proven(0, ClipVerdict.Found, null, 40),
                ],
                []
            )
            .Tally(ChannelMap.Of([Planned(1), Planned(2), Planned(3), Planned(4)], []));
        Assert.Equal(new(4, 1, 1, 2, 1, 1), tally);
    }

    /// <summary>Who moves in where somebody moves out needs the other's move, too: any choice of a ring but none and all is
    /// refused.</summary>
    [Fact]
    public void ARingIsSetWholeOrNotAtAll()
    {
        static ProposedSetting Moves(int to, int? from, string? name = null) => new(to, name, from, "", "", "");
        ProposedSetting[] all = [Moves(7, 8), Moves(8, 9), Moves(9, 7), Moves(30, null, "VL-30")];
        foreach (var choice in Enumerable.Range(0, 16))
        {
            var chosen = all.Where((_, i) => (choice >> i & 1) == 1).ToList();
            Assert.Equal((choice & 7) is 0 or 7, ProposedSetting.IsWhole(chosen, all));
        }
        // Where nobody is to move in, who leaves needs no other's move.
        Assert.True(ProposedSetting.IsWhole([Moves(11, 40)], [Moves(11, 40)]));
    }

    [Fact]
    public void RowsAreAnsweredOnlyWhereItIsThePlannedDevice()
    {
        var planned = new PlannedChannel(Guid.NewGuid(), Channel, Guid.NewGuid(), "VL-07", "Lane 4", "Vehicle lanes", Serial: "TH1");
        var read = new RecorderChannel(Channel, "VL-07", "TH1", State: ChannelState.Live, When: RecordedWhen.Always);
        var proof = ChannelProof.Of([Proven(0, ClipVerdict.Found), Proven(20, ClipVerdict.None)], [Event.AddMinutes(10)]).Single();
        var right = ChannelMap.Of([planned], [read]).Channels[0];
        Assert.Equal(
            [
                ("recorder.name", new YesNoValue(true)),
                ("recorder.mode", new ChoiceValue("always")),
                ("recorder.clip", new YesNoValue(true)),
                ("recorder.clip-after", (ReadingValue)new YesNoValue(false)),
            ],
            RecorderRows.OfChannel(right, proof, null).Select(r => (r.Check.Value, r.Value))
        );
        Assert.Equal("recorder.registered", RecorderRows.OfPlace([right]).Single().Check.Value);
        // Another's picture: its proof is the other's.
        var other = ChannelMap.Of([planned], [read with { Serial = "KX9" }]).Channels[0];
        Assert.Equal(["recorder.name"], RecorderRows.OfChannel(other, proof, null).Select(r => r.Check.Value));
        Assert.Empty(RecorderRows.OfPlace([other]));
        // By its address alone it may be anybody; on alarm nobody knows whether anything is kept.
        var byAddress = ChannelMap
            .Of([planned with { Address = "10.46.8.27" }], [read with { Serial = "", Address = "10.46.8.27", When = RecordedWhen.Alarm }])
            .Channels[0];
        Assert.Empty(RecorderRows.OfPlace([byAddress]));
        Assert.DoesNotContain(RecorderRows.OfChannel(byAddress, null, null), r => r.Check.Value == "recorder.mode");
    }

    private static readonly RecorderStore Store = new(ArrayLevel.Level5, 4, 12, 0, 5, 31, null);

    [Fact]
    public void WhatARecorderSaysOfItsDisksIsReckonedWith()
    {
        RecorderReading With(params RecorderDisk[] disks) => new("", "", null, null, 110, [.. disks], []);
        var read = Store.With(With(new(1, 4, DiskState.Healthy), new(2, null, DiskState.Missing), new(3, 6, DiskState.Failing)));
        Assert.Equal((3, 4.0, 110.0), (read.Disks, read.DiskTb, read.IntakeMbps!.Value));
        // One that says no size says nothing of them.
        Assert.Equal(
            (4, 12.0),
            Store.With(With(new RecorderDisk(1, null, DiskState.Healthy))) is var bare ? (bare.Disks, bare.DiskTb) : default
        );
        Assert.Equal(240, (Store with { IntakeMbps = 240 }).With(With()).IntakeMbps);
        var notes = RecorderNotes.Of(With(new RecorderDisk(1, 4, DiskState.Healthy)) with { Clock = new(0, 0) }, "", 2, Store);
        Assert.Equal(["4", "12", "1", "4"], notes.Single().Args);
    }

    [Fact]
    public void ARecorderSaysOnlyWhatItSays()
    {
        var bare = new RecorderReading("TH4107", "", null, null, null, [], []);
        Assert.Equal(["recorder.no-clock"], RecorderNotes.Of(bare, "", 2, Store).Select(n => n.Code));
        Assert.Empty(RecorderRows.OfRecorder(bare, 2));
        Assert.Null(RecorderNotes.DaysKept(bare));
        var full = bare with
        {
            Clock = new(3600.4, 0.01),
            Disks =
            [
                new(1, 12, DiskState.Healthy),
                new(2, null, DiskState.Missing),
                new(3, 12, DiskState.Failing),
                new(4, 12, DiskState.Untold),
            ],
            Notifies = [],
            IntakeMbps = 10,
            Channels =
            [
                new(1, State: ChannelState.Live, When: RecordedWhen.Motion, PeakMbps: 8, Oldest: Event.AddDays(-17), Newest: Event),
                new(2, State: ChannelState.Live, When: RecordedWhen.Always, PeakMbps: 6, Oldest: Event.AddDays(-30), Newest: Event),
            ],
        };
        Assert.Equal(
            [
                "recorder.other-unit",
                "clock.step",
                "recorder.disk-missing",
                "recorder.disk-failing",
                "recorder.disk-untold",
                "recorder.notifies-nobody",
                "recorder.days-short",
                "recorder.too-much",
            ],
            RecorderNotes.Of(full, "TH4114", 2, Store).Select(n => n.Code)
        );
        Assert.Equal(
            [("recorder.disk", (ReadingValue)new ChoiceValue("missing")), ("time.offset", new NumberValue(3600.4, Measures.Unit.Second))],
            RecorderRows.OfRecorder(full, 2).Select(r => (r.Check.Value, r.Value))
        );
        // Too near the limit for what the path may hide: nothing is proposed.
        Assert.DoesNotContain(RecorderRows.OfRecorder(full with { Clock = new(1.98, 0.05) }, 2), r => r.Check.Value == "time.offset");
        // Not all of them told: not healthy by default.
        Assert.Null((full with { Disks = [new(1, 12, DiskState.Healthy), new(2, 12, DiskState.Untold)] }).Disk);
        // A list that a person exported says nothing of clock or disks.
        Assert.Empty(RecorderNotes.Of(bare with { IsTyped = true }, "", 2, Store));
    }
}
