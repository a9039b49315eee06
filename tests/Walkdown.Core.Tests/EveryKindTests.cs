using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Crew;

namespace Walkdown.Core.Tests;

/// <summary>Coax, radio, sound, contacts, gear and reset: rows that fit each kind and none that do not, and what they are judged
/// by.</summary>
public sealed class EveryKindTests
{
    private static Facts Of(string kind, params string[] features) =>
        WholeWork.Job(kind, features).With(f => Facts.Shipped.Kind(kind)!.Features.Contains("cable") ? f : f with { Runs = [] });

    private static CardRow Row(Facts facts, string check) => facts.Card.Rows.First(r => r.Check.Id.Value == check);

    private static CardRow Say(Facts facts, string check, params (string Field, object Says)[] said)
    {
        WholeWork.Take(facts, Row(facts, check), GoodAnswers.Line(said));
        return Row(facts, check);
    }

    private static CardRow Say(Facts facts, string check, ReadingValue value)
    {
        WholeWork.Take(facts, Row(facts, check), value);
        return Row(facts, check);
    }

    private static CardRow Sheet(Facts facts, string check) => Say(facts, check, GoodAnswers.Sheets[check]);

    private static string[] Codes(CardRow row) => [.. row.Because.Select(b => b.Code)];

    /// <summary>What is handed over has a Card, and it comes to a Verdict by answers that a technician can give.</summary>
    [Theory]
    [InlineData("coax-camera", "composite", "coax.level")]
    [InlineData("radio-camera", "", "radio.level")]
    [InlineData("radio-recorder", "", "radio.paired")]
    [InlineData("bridge", "", "radio.path")]
    [InlineData("access-point", "", "gear.saved")]
    [InlineData("switch", "", "gear.ports")]
    [InlineData("router", "", "gear.ports")]
    [InlineData("injector", "", "gear.output")]
    [InlineData("splitter", "", "gear.output")]
    [InlineData("supply", "", "gear.output")]
    [InlineData("adapter-pair", "", "gear.adapters")]
    [InlineData("light-ring", "", "gear.ring")]
    [InlineData("recorder", "", "recorder.store")]
    [InlineData("cloud-bridge", "", "recorder.line")]
    public void EachKindGoesToItsVerdict(string kind, string feature, string row)
    {
        var facts = WholeWork.Do(Of(kind, feature));
        var card = facts.Card;
        Assert.Equal(
            [],
            card.Rows.Where(r => r.Required && r.State != State.In)
                .Select(r => $"{r.Check.Id} {r.State} {r.Because.FirstOrDefault()?.Code}")
        );
        Assert.Equal(Verdict.Accepted, card.Verdict.Verdict);
        Assert.Contains(card.Rows, r => r.Check.Id.Value == row && r is { Required: true, State: State.In });
    }

    /// <summary>No row that cannot be done: no address on coax, no cable on the air, no lens on a switch.</summary>
    [Theory]
    [InlineData(
        "coax-camera",
        "address. link. cable.wire-map cable.length cable.loop recorder.registered time.offset before.firmware radio."
    )]
    [InlineData("radio-camera", "cable.wire-map cable.length cable.loop link.speed power.poe coax.")]
    [InlineData("switch", "aim. focus. night. fixing.hung before.pack recorder.shows coax. radio.")]
    [InlineData("supply", "address. link. cable.wire-map aim. focus. recorder. coax. radio.")]
    [InlineData("bullet", "coax. radio. gear. bridge. sound. contact. light.")]
    public void NoKindHasRowsThatDoNotFit(string kind, string none)
    {
        var rows = Of(kind).Card.Rows.Where(r => r.Required).Select(r => r.Check.Id.Value).ToList();
        // The light of a link is looked at on anything that has one; here no model says so.
        foreach (var start in none.Split(' '))
            Assert.DoesNotContain(rows, id => id.StartsWith(start, StringComparison.Ordinal));
    }

    /// <summary>A camera belongs on a camera port, what has ports behind it on an uplink.</summary>
    [Theory]
    [InlineData("bullet", "camera-port", State.In, null)]
    [InlineData("bullet", "uplink", State.Out, "role.camera-on-uplink")]
    [InlineData("switch", "uplink", State.In, null)]
    [InlineData("switch", "camera-port", State.TooClose, "role.gear-on-camera-port")]
    [InlineData("router", "client-network", State.Out, "role.client-network")]
    [InlineData("recorder", "camera-port", State.In, null)]
    public void APortSuitsWhatHangsOnIt(string kind, string port, State state, string? because)
    {
        var row = Say(Of(kind), "link.port-role", new ChoiceValue(port));
        Assert.Equal((state, because), (row.State, row.Because.FirstOrDefault()?.Code));
    }

    /// <summary>Two radios find each other only while the recorder listens: the row counts that window down, at the bench and at the
    /// place.</summary>
    [Theory]
    [InlineData("radio.paired", 60)]
    [InlineData("radio.paired-bench", 60)]
    [InlineData("radio.level", null)]
    public void PairingHasAWindow(string check, int? seconds) => Assert.Equal(seconds, Row(Of("radio-camera"), check).CountdownSeconds);

    /// <summary>Each kind has a template of ours: what hangs is told by its sheet, and what its sheet does not say is named.</summary>
    [Fact]
    public void EveryKindHasAModel()
    {
        Assert.Empty(Facts.Shipped.Kinds.Select(k => k.Id).Except(Facts.Shipped.Models.Select(m => m.Kind)));
        // Whatever sees has a lens, with its angles, and a picture.
        var sees = Facts.Shipped.Models.Where(m => Facts.Shipped.Kind(m.Kind)!.Features.Contains("camera"));
        Assert.All(sees, m => Assert.True(m is { Lens.WidestDeg: > 0, Lens.TallestDeg: > 0, Pixels: not null }, m.Id));
    }

    /// <summary>A recorder has rows for its own ports, or for several network cards, where its model has such.</summary>
    [Theory]
    [InlineData("Holdfast 32", "")]
    [InlineData("Holdfast 16P", "gear.ports")]
    [InlineData("Holdfast 64N", "recorder.cards")]
    public void ARecorderIsAskedForWhatItHas(string model, string row)
    {
        var rows = Of("recorder").With(f => f with { Place = f.Place with { Model = model } }).Card.Rows;
        Assert.Equal(
            row.Split(' ', StringSplitOptions.RemoveEmptyEntries),
            rows.Where(r => r.Required).Select(r => r.Check.Id.Value).Intersect(["gear.ports", "recorder.cards"])
        );
    }

    /// <summary>Nobody says of what is there that there is none: the microphone of a kind that has one, the light that a sheet
    /// names.</summary>
    [Theory]
    [InlineData("tile-dome", "none", State.Out)]
    [InlineData("tile-dome", "off", State.In)]
    [InlineData("bullet", "none", State.In)]
    public void AMicrophoneThatIsThereIsNotNone(string kind, string says, State state) =>
        Assert.Equal(state, Say(Of(kind), "before.microphone", new ChoiceValue(says)).State);

    [Theory]
    [InlineData("Tarn D2", State.Out)]
    [InlineData("Tarn D3R", State.In)]
    public void AResetWithoutALightIsInOnlyWhereTheSheetNamesNone(string model, State state)
    {
        var facts = Of("dome-fixed").With(f => f with { Place = f.Place with { Model = model } });
        var row = Say(
            facts,
            "address.reset-by",
            ("name", "Ina"),
            ("role", "owner"),
            ("order", "device-alone"),
            ("light", "no-light"),
            ("force", "gentle")
        );
        Assert.Equal(state, row.State);
    }

    /// <summary>What should arrive stands on the row before anybody climbs: F1 of the worked cases.</summary>
    [Fact]
    public void TheLevelIsExpectedFromTheBudget()
    {
        var facts = Of("radio-camera");
        Assert.Equal("because.first", Row(facts, "radio.level").Expected!.WhyNone!.Code);
        Sheet(facts, "radio.budget");
        Assert.Equal(new Quantity(-45.3, Unit.DecibelMilliwatt), Row(facts, "radio.level").Expected!.Value);
    }

    [Fact]
    public void EveryKindHasAName() => Assert.Equal([], Facts.Shipped.Kinds.Where(k => !Facts.Texts.Contains(k.TextKey)).Select(k => k.Id));

    [Theory]
    [InlineData("rg59", "copper", 200, "hd-8mp", State.In, "coax.reach")]
    [InlineData("rg59", "copper", 201, "hd-8mp", State.Out, "coax.too-long")]
    [InlineData("rg6", "copper", 201, "hd-8mp", State.In, "coax.reach")]
    [InlineData("rg59", "steel", 20, "composite", State.Out, "coax.steel")]
    [InlineData("rg59", "copper", 2000, "composite", State.Out, "coax.too-long")]
    public void AFormReachesAsFarAsItsCable(string kind, string centre, double metres, string format, State state, string first)
    {
        var row = Say(Of("coax-camera"), "coax.cable", ("class", kind), ("centre", centre), ("metres", metres), ("format", format));
        Assert.Equal((state, first), (row.State, row.Because[0].Code));
    }

    [Fact]
    public void WhatElseWouldReachIsSaid()
    {
        var row = Say(Of("coax-camera"), "coax.cable", ("class", "rg59"), ("centre", "copper"), ("metres", 260), ("format", "hd-5mp"));
        Assert.Equal(["coax.too-long", "coax.others-reach"], Codes(row));
        Assert.Equal(
            "@field.coax.cable.format.composite, @field.coax.cable.format.hd-1mp, @field.coax.cable.format.hd-2mp",
            row.Because[1].Args[0]
        );
    }

    /// <summary>80 m of RG-59: the sync loses 0.28 dB, the burst 1.9 dB. Two loads take a third, none doubles; a burst that is lower still
    /// is the cable's.</summary>
    [Theory]
    [InlineData(290, 245, State.In, "coax.expected")]
    [InlineData(194, 163, State.Out, "coax.termination.doubleTerminated")]
    [InlineData(145, 122, State.Out, "coax.termination.tripleTerminated")]
    [InlineData(580, 490, State.Out, "coax.termination.notTerminated")]
    [InlineData(410, 345, State.Out, "coax.termination.unexplainedLevel")]
    [InlineData(258, 217, State.TooClose, "coax.expected")]
    public void TheLevelTellsTheTermination(double sync, double burst, State state, string first)
    {
        var facts = Of("coax-camera", "composite");
        Sheet(facts, "coax.cable");
        var row = Say(facts, "coax.level", ("system", "625"), ("sync", sync), ("burst", burst));
        Assert.Equal((state, first), (row.State, row.Because[0].Code));
        Assert.DoesNotContain("coax.burst-low", Codes(row));
    }

    [Fact]
    public void ALowBurstWithAGoodSyncIsTheCable()
    {
        var facts = Of("coax-camera", "composite");
        Sheet(facts, "coax.cable");
        var row = Say(facts, "coax.level", ("system", "625"), ("sync", 290), ("burst", 150));
        Assert.Equal(State.Out, row.State);
        Assert.Contains("coax.burst-low", Codes(row));
        // Without a burst the cable is not judged, and without the cable nothing is.
        Assert.Equal(State.NotJudged, Say(facts, "coax.level", ("system", "625"), ("sync", 290)).State);
        Assert.Equal(
            "because.first",
            Say(Of("coax-camera", "composite"), "coax.level", ("system", "625"), ("sync", 290), ("burst", 245)).Because[0].Code
        );
    }

    /// <summary>Level at the camera, level far away: which of the two is at fault.</summary>
    [Theory]
    [InlineData(300, 290, State.In, "coax.both-sound")]
    [InlineData(300, 190, State.In, "coax.cable-at-fault")]
    [InlineData(200, 190, State.Out, "coax.camera-at-fault")]
    public void CameraOrCableIsToldApart(double here, double far, State state, string code)
    {
        var facts = Of("coax-camera", "composite");
        Sheet(facts, "coax.cable");
        Say(facts, "coax.level", ("system", "625"), ("sync", far), ("burst", 245));
        var row = Say(facts, "coax.camera-end", ("system", "625"), ("sync", here));
        Assert.Equal((state, code), (row.State, row.Because[0].Code));
    }

    [Fact]
    public void APictureThatIsNotCleanAsksForTheCamerasEndAndNamesItsCause()
    {
        var facts = Of("coax-camera", "composite");
        Assert.False(Row(facts, "coax.camera-end").Required);
        var row = Say(facts, "coax.picture", new ChoiceValue("bars"));
        Assert.Equal((State.Out, "ground-loop"), (row.State, row.Causes[0].Id));
        Assert.True(Row(facts, "coax.camera-end").Required);
    }

    /// <summary>E3: 1 V over 200 m of RG-59 and 5 ohm of ground: 359 mV, 50 IRE.</summary>
    [Theory]
    [InlineData(1, State.Out, "coax.hum-visible")]
    [InlineData(0.03, State.In, "coax.hum-unseen")]
    public void HumIsReckonedFromTheGrounds(double volts, State state, string code)
    {
        var facts = Of("coax-camera");
        Say(facts, "coax.cable", ("class", "rg59"), ("centre", "copper"), ("metres", 200), ("format", "composite"));
        var row = Say(facts, "coax.hum", new NumberValue(volts, Unit.Volt));
        Assert.Equal((state, code), (row.State, row.Because[0].Code));
        if (volts == 1)
            Assert.Equal(["359", "50.2", "149"], row.Because[0].Args);
    }

    /// <summary>F1: -45.3 dBm arrive, 29.7 dB more than needed.</summary>
    [Fact]
    public void ABudgetSaysWhatArrivesAndWhatMayBeRadiated()
    {
        var facts = Of("bridge");
        var row = Sheet(facts, "radio.budget");
        Assert.Equal((State.In, "radio.budget.ok"), (row.State, row.Because[0].Code));
        Assert.Equal("-45.3", row.Because[0].Args[0]);
        (string, object)[] With(string field, object says) =>
            [.. GoodAnswers.Sheets["radio.budget"].Where(f => f.Field != field), (field, says)];
        Assert.Equal("radio.over-limit", Say(facts, "radio.budget", With("allowed", 30)).Because[0].Code);
        Assert.Equal(State.Out, Row(facts, "radio.budget").State);
        // What may be radiated is the law's: without it nothing is in.
        row = Say(facts, "radio.budget", [.. GoodAnswers.Sheets["radio.budget"].Where(f => f.Field != "allowed")]);
        Assert.Equal((State.NotJudged, true), (row.State, Codes(row).Contains("radio.limit-unsaid")));
        Assert.Equal(
            (State.Out, "radio.budget.marginLow"),
            (Say(facts, "radio.budget", With("other", 20)).State, Row(facts, "radio.budget").Because[0].Code)
        );
        Assert.Equal("radio.budget.noLink", Say(facts, "radio.budget", With("other", 60)).Because[0].Code);
    }

    [Theory]
    [InlineData(4, State.In, "radio.path.clear")]
    [InlineData(10, State.TooClose, "radio.path.partlyBlocked")]
    [InlineData(13, State.Out, "radio.path.blocked")]
    public void TheFirstZoneIsFreeOrNot(double obstacle, State state, string code)
    {
        var facts = Of("bridge");
        Sheet(facts, "radio.budget");
        var row = Say(facts, "radio.path", ("at", 600), ("height-a", 12), ("height-b", 12), ("obstacle", obstacle));
        Assert.Equal((state, code), (row.State, row.Because[0].Code));
    }

    /// <summary>An antenna in the ground, an obstacle behind the other antenna, a path without a budget: said, and nothing is in.</summary>
    [Fact]
    public void APathThatCannotBeIsNotJudged()
    {
        var facts = Of("bridge");
        (string, object)[] beyond = [("at", 5000), ("height-a", 12), ("height-b", 12), ("obstacle", 4)];
        Assert.Equal(
            (State.NotJudged, "because.first"),
            (Say(facts, "radio.path", beyond).State, Row(facts, "radio.path").Because[0].Code)
        );
        Sheet(facts, "radio.budget");
        Assert.Equal((State.NotJudged, "radio.at-beyond"), (Row(facts, "radio.path").State, Row(facts, "radio.path").Because[0].Code));
        Assert.Equal(State.Out, Say(facts, "radio.path", ("at", 600), ("height-a", -3), ("height-b", -3), ("obstacle", 0)).State);
    }

    [Theory]
    [InlineData(-45, State.In, "radio.level.asPredicted", false)]
    [InlineData(-50, State.TooClose, "radio.level.tooClose", false)]
    [InlineData(-56, State.Out, "radio.level.low", false)]
    [InlineData(-67, State.Out, "radio.level.low", true)]
    [InlineData(-80, State.Out, "radio.level.belowSensitivity", false)]
    [InlineData(-20, State.Out, "radio.level.tooStrong", false)]
    [InlineData(-33, State.In, "radio.level.higher", false)]
    public void TheLevelAtItsPlaceIsHeldAgainstTheBudget(double dbm, State state, string first, bool crossed)
    {
        var facts = Of("radio-camera");
        Sheet(facts, "radio.budget");
        var row = Say(facts, "radio.level", new NumberValue(dbm, Unit.DecibelMilliwatt));
        Assert.Equal((state, first, crossed), (row.State, row.Because[0].Code, Codes(row).Contains("radio.crossed")));
    }

    [Theory]
    [InlineData(300, 12, 100, State.In)]
    [InlineData(30, 12, 100, State.Out)]
    [InlineData(300, 12, 10, State.Out)]
    [InlineData(0, 0, 100, State.In)]
    public void StreamsMustFitTheAir(double negotiated, double streams, double share, State state) =>
        Assert.Equal(
            state,
            Say(Of("radio-camera"), "radio.load", ("negotiated", negotiated), ("streams", streams), ("share", share)).State
        );

    [Fact]
    public void ADeviceThatDoesNotJoinNamesItsForgottenSupply()
    {
        var row = Say(Of("radio-camera"), "radio.paired", ("joined", "not"), ("tries", 3), ("shown", "other-channel"));
        Assert.Equal((State.Out, "supply-forgotten"), (row.State, row.Causes[0].Id));
    }

    /// <summary>A microphone that is on makes voice and delay due; one that is forbidden in mid-test takes them back.</summary>
    [Fact]
    public void SoundIsTestedOnlyWhereItIsAllowed()
    {
        var facts = Of("tile-dome");
        Assert.False(Row(facts, "sound.voice").Required);
        Say(facts, "before.microphone", new ChoiceValue("on"));
        Assert.True(Row(facts, "sound.voice").Required && Row(facts, "sound.delay").Required);
        Assert.Equal(State.Out, Say(facts, "sound.voice", new NumberValue(3, Unit.Decibel)).State);
        Say(facts, "before.microphone", new ChoiceValue("off"));
        Assert.False(Row(facts, "sound.delay").Required);
    }

    [Fact]
    public void AContactIsSeenBothWays()
    {
        var facts = Of("bullet", "contacts");
        Assert.Equal(State.Out, Say(facts, "contact.input", ("closed", "seen"), ("opened", "not-seen")).State);
        Assert.Equal(State.In, Say(facts, "contact.input", ("closed", "seen"), ("opened", "seen"), ("cut", "seen")).State);
        Assert.DoesNotContain(Of("bullet").Card.Rows, r => r.Check.Id.Value.StartsWith("contact.", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData(0.3, State.In)]
    [InlineData(0.9, State.Out)]
    public void APresetComesBackToWhatItShows(double degrees, State state)
    {
        var facts = Of("pan-tilt-zoom", "presets-1");
        Assert.Equal(state, Say(facts, "aim.preset-error", new NumberValue(degrees, Unit.Degree)).State);
    }

    /// <summary>Settings, login and address are gone after a reset and asked again; who said so and what the light did stands beside
    /// it.</summary>
    [Fact]
    public void AResetIsADecisionWithItsConsequences()
    {
        var facts = Of("bullet");
        Say(facts, "address.unique", new YesNoValue(true));
        Assert.False(Row(facts, "address.reset-by").Required);
        facts.With(f =>
            f with
            {
                Events = f.Events.Add(
                    new Act
                    {
                        Id = Guid.NewGuid(),
                        By = Facts.Ina,
                        At = f.Now,
                        Sequence = 90_000,
                        ActKind = "reset",
                        On = new Subject(SubjectKind.Place, f.Place.Id),
                    }
                ),
                Now = f.Now.AddMinutes(1),
            }
        );
        Assert.Equal(State.Stale, Row(facts, "address.unique").State);
        Assert.True(Row(facts, "address.reset-by") is { Required: true, DueBecause: not null });
        (string, object)[] said =
        [
            ("name", "M. Okafor"),
            ("role", "owner"),
            ("order", "device-first"),
            ("light", "as-sheet"),
            ("force", "gentle"),
        ];
        WholeWork.Take(
            facts,
            Row(facts, "address.reset-by"),
            new FormValue([new FormLine([.. said.Select(s => new FieldSaid(s.Item1, null, (string)s.Item2))])])
        );
        Assert.Equal(State.Out, Row(facts, "address.reset-by").State);
    }

    /// <summary>Open from the start: a level of nothing, a negative distance and words for numbers are refused in a sentence.</summary>
    [Theory]
    [InlineData("coax.level", "sync", -5)]
    [InlineData("coax.level", "sync", 1e9)]
    [InlineData("radio.budget", "metres", 0)]
    [InlineData("radio.budget", "megahertz", -1)]
    public void WhatCannotBeIsRefused(string check, string field, double number)
    {
        var facts = Of(check.StartsWith("coax", StringComparison.Ordinal) ? "coax-camera" : "bridge", "composite");
        (string, object)[] said = [.. GoodAnswers.Sheets[check].Where(f => f.Field != field), (field, number)];
        Assert.NotNull(ReadingRules.Refuse(Row(facts, check).Check, GoodAnswers.Line(said)));
    }

    /// <summary>A bridge sends all day, so what it sends must be said; a recorder that sends nothing may leave it out.</summary>
    [Fact]
    public void ABridgeSaysWhatItSends()
    {
        var bridge = Of("cloud-bridge");
        Assert.True(Row(bridge, "recorder.line").Required);
        Assert.Equal(State.NotJudged, Say(bridge, "recorder.line", ("upload", 40), ("viewers", 2), ("each", 2)).State);
        var full = Say(bridge, "recorder.line", ("upload", 40), ("sends", 26), ("viewers", 2), ("each", 2));
        Assert.Equal((State.Out, "line.over"), (full.State, Codes(full)[0]));
        Assert.Contains("line.never-catches-up", Codes(full));
        Assert.Equal(State.In, Say(bridge, "recorder.line", ("upload", 40), ("sends", 16), ("viewers", 2), ("each", 2)).State);
        var recorder = Of("recorder");
        Assert.False(Row(recorder, "recorder.line").Required);
        Assert.Equal(State.In, Say(recorder, "recorder.line", ("upload", 10), ("viewers", 3), ("each", 2)).State);
        Assert.Equal(State.Out, Say(recorder, "recorder.line", ("upload", 8), ("viewers", 3), ("each", 2)).State);
    }

    /// <summary>Sides that a cord joins refuse the bridge, and so does an account that nobody gave away.</summary>
    [Fact]
    public void ABridgeStandsBetweenTwoNetworks()
    {
        var bridge = Of("cloud-bridge");
        Assert.Equal(State.Out, Say(bridge, "bridge.two-sides", new ChoiceValue("joined")).State);
        Assert.Equal(State.In, Say(bridge, "bridge.two-sides", new ChoiceValue("apart")).State);
        FormValue Said(string account, string light = "good") =>
            GoodAnswers.Line(("identifier", "entered"), ("light", light), ("account", account), ("after-restart", "attached"));
        Assert.Equal(State.Out, Say(bridge, "bridge.attached", Said("installer")).State);
        Assert.Equal(State.Out, Say(bridge, "bridge.attached", Said("client", "looking")).State);
        Assert.Equal(State.In, Say(bridge, "bridge.attached", Said("client")).State);
        Assert.Equal(State.NotJudged, Say(bridge, "bridge.attached", GoodAnswers.Line(("identifier", "entered"))).State);
    }
}
