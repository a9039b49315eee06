using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Tests;

/// <summary>From the pack to the last wiped cover: every kind of camera, what waits and until when, and what makes a row due.</summary>
public sealed class WholeWorkTests
{
    private static CardRow Row(Facts facts, string check) => facts.Card.Rows.First(r => r.Check.Id.Value == check);

    private static void Take(Facts facts, string check, ReadingValue value, DateTimeOffset? at = null) =>
        WholeWork.Take(facts, Row(facts, check), value, at);

    private static FormValue Form(params (string Field, object Says)[] said) =>
        new([
            new FormLine([
                .. said.Select(s =>
                    s.Says is string word ? new FieldSaid(s.Field, null, word) : new FieldSaid(s.Field, Convert.ToDouble(s.Says))
                ),
            ]),
        ]);

    private static void Done(Facts facts, string act) =>
        facts.With(f =>
            f with
            {
                Events = f.Events.Add(
                    new Act
                    {
                        Id = Guid.NewGuid(),
                        By = Facts.Ina,
                        At = f.Now,
                        Sequence = 90_000 + f.Events.Length,
                        ActKind = act,
                        On = new Subject(SubjectKind.Place, f.Place.Id),
                    }
                ),
                Now = f.Now.AddSeconds(1),
            }
        );

    /// <summary>A setting that differs from what the device came with has a reason, and a place that the model has it at.</summary>
    [Theory]
    [InlineData("day-night", "page", "by lux", "by hour", "the quay", State.In, "left.only-there")]
    [InlineData("day-night", "page", "by lux", "by hour", "", State.NotJudged, "left.no-why")]
    [InlineData("day-night", "page", "By hour ", "by hour", "", State.In, "left.only-there")]
    [InlineData("day-night", "lens", "by lux", "by hour", "the quay", State.Out, "left.elsewhere")]
    [InlineData("other", "page", "off", "on", "asked for", State.In, "left.no-sheet")]
    public void SettingsAreLeftWithTheirReason(
        string setting,
        string surface,
        string left,
        string was,
        string why,
        State state,
        string code
    )
    {
        var facts = WholeWork.Job("bullet");
        facts.With(f => f with { Place = f.Place with { Model = "Skerry B4" } });
        Assert.False(Row(facts, "address.left-as").Required);
        Done(facts, "setting-changed");
        Assert.True(Row(facts, "address.left-as").Required);
        var said = new List<(string, object)> { ("setting", setting), ("surface", surface), ("left", left), ("was", was) };
        if (why.Length > 0)
            said.Add(("why", why));
        Take(facts, "address.left-as", Form([.. said]));
        var row = Row(facts, "address.left-as");
        Assert.Equal(state, row.State);
        Assert.Contains(row.Because, b => b.Code == code);
        // After a reset it is as it came.
        Done(facts, "reset");
        Assert.Equal(State.Stale, Row(facts, "address.left-as").State);
    }

    /// <summary>No row is due that nobody can do: each kind goes from its pack to Accepted by answers that a technician can give.</summary>
    [Theory]
    [InlineData("dome-fixed")]
    [InlineData("dome-varifocal")]
    [InlineData("bullet")]
    [InlineData("ball")]
    [InlineData("multi-head")]
    [InlineData("thermal")]
    [InlineData("number-plate")]
    [InlineData("pan-tilt-zoom")]
    [InlineData("dome-rings")]
    [InlineData("tile-dome")]
    [InlineData("light-horn")]
    [InlineData("pigtail-camera")]
    public void EachKindGoesFromItsPackToItsVerdict(string kind)
    {
        var facts = WholeWork.Do(WholeWork.Job(kind, kind == "pan-tilt-zoom" ? "presets-2" : "card-slot"));
        var card = facts.Card;
        Assert.Equal(
            [],
            card.Rows.Where(r => r.Required && r.State != State.In)
                .Select(r => $"{r.Check.Id} {r.State} {r.Because.FirstOrDefault()?.Code}")
        );
        Assert.Equal((Verdict.Accepted, ""), (card.Verdict.Verdict, string.Join(", ", card.Verdict.Remarks)));
        Assert.Superset(
            new HashSet<Section>([
                Section.Before,
                Section.Cable,
                Section.Fixing,
                Section.Power,
                Section.Link,
                Section.Address,
                Section.Time,
                Section.Recorder,
                Section.Aim,
                Section.Focus,
                Section.Finish,
            ]),
            card.Verdict.Parts.ToHashSet()
        );
        Assert.InRange(card.Rows.Count(r => r.Required), 60, 130);
    }

    /// <summary>A row is due, or it says what its being out means, or it may be left.</summary>
    [Fact]
    public void PresetsOfAMovingCameraAreARowEach() =>
        Assert.Equal(
            ["preset-1", "preset-2"],
            WholeWork.Job("pan-tilt-zoom", "presets-2").Card.Rows.Where(r => r.Check.Id.Value == "aim.preset").Select(r => r.Key.On.Part)
        );

    [Theory]
    [InlineData("presets-")]
    [InlineData("presets-x")]
    [InlineData("presets--3")]
    public void PresetsThatNobodyCanCountAreNone(string feature) =>
        Assert.DoesNotContain(WholeWork.Job("pan-tilt-zoom", feature).Card.Rows, r => r.Check.Id.Value == "aim.preset");

    [Fact]
    public void GroupsOfFastenersAreARowEachAndJudgedEachByItself()
    {
        var facts = WholeWork.Job("bullet");
        var rows = facts.Card.Rows.Where(r => r.Check.Id.Value == "fixing.tools").ToList();
        Assert.Equal(["base", "wall"], rows.Select(r => r.Key.On.Part));
        foreach (var row in rows)
            WholeWork.Take(facts, row, new ChoiceValue("drill"));
        Assert.Equal([State.Out, State.In], facts.Card.Rows.Where(r => r.Check.Id.Value == "fixing.tools").Select(r => r.State));
    }

    // ---- waits

    [Fact]
    public void NightRowsWaitForTheDarkAndEndAtDawn()
    {
        var facts = WholeWork.Job("bullet").With(f => f with { Now = new DateTimeOffset(2026, 10, 14, 12, 0, 0, TimeSpan.FromHours(1)) });
        var wait = Row(facts, "night.picture").Wait!;
        Assert.Equal("wait.dark", wait.For);
        Assert.True(wait.IsWaiting(facts.Now.Now));
        Assert.InRange(wait.Until!.Value, WholeWork.Evening.AddHours(-4), WholeWork.Evening.AddHours(-2));
        Assert.InRange(wait.Ends!.Value, WholeWork.Evening.AddHours(8), WholeWork.Evening.AddHours(10));
        facts.With(f => f with { Now = WholeWork.Evening });
        Assert.False(Row(facts, "night.picture").Wait!.IsWaiting(facts.Now.Now));
        Take(facts, "night.picture", new ChoiceValue("clear"), WholeWork.Evening.AddHours(-10));
        Assert.Equal(
            (State.NotJudged, "because.not-dark"),
            (Row(facts, "night.picture").State, Row(facts, "night.picture").Because[0].Code)
        );
        Take(facts, "night.picture", new ChoiceValue("clear"), WholeWork.Evening);
        Assert.Equal(State.In, Row(facts, "night.picture").State);
    }

    /// <summary>At noon the Card waits for the dark; at dusk it has a next row, and at dawn it waits again, though nothing was
    /// entered.</summary>
    [Fact]
    public void WhatWaitsForTheDarkComesAndGoesByItself()
    {
        var night = new WorkScope([Section.Night], WorkScope.Whole.ByKind);
        var facts = WholeWork
            .Job("bullet")
            .With(f =>
                f with
                {
                    Practice = f.Practice with { Scope = night },
                    Now = new DateTimeOffset(2026, 10, 14, 12, 0, 0, TimeSpan.FromHours(1)),
                }
            );
        Take(facts, "night.switch", new ChoiceValue("both"));
        var noon = JudgedCard.Of(facts.Now, Facts.Shipped);
        Assert.Equal(("wait.dark", null), (noon.Card.WaitsFor, noon.Card.NextRow));
        var dusk = noon.At(facts.Now with { Now = noon.Card.WaitsUntil!.Value });
        Assert.Equal((null, Row(facts, "night.picture").Id), (dusk.Card.WaitsFor, dusk.Card.NextRow));
        var dawn = dusk.At(facts.Now with { Now = dusk.Card.WaitsEnds!.Value });
        Assert.Equal(("wait.dark", null), (dawn.Card.WaitsFor, dawn.Card.NextRow));
        Assert.True(dawn.Card.WaitsUntil > dusk.Card.WaitsEnds);
    }

    /// <summary>Where nobody has said where the site is, its zone's principal place says when it is dark; where the zone has none, the
    /// condition that was found does.</summary>
    [Theory]
    [InlineData("Europe/London", true)]
    [InlineData("Pacific/Auckland", true)]
    [InlineData("UTC", false)]
    [InlineData("Mars/Olympus", false)]
    public void TheZoneSaysWhereTheSiteIsUntilSomebodyDoes(string zone, bool known)
    {
        var facts = WholeWork.Job("bullet").With(f => f with { TimeZone = zone, Site = SiteFacts.Unsaid });
        Assert.Equal(known, Row(facts, "night.picture").Wait is not null);
        if (known)
            Assert.Equal("wait.by-zone", Row(facts, "night.picture").Wait!.Source?.Code);
    }

    [Fact]
    public void InThePolarSummerNobodyKnowsWhenItIsDark()
    {
        var facts = WholeWork
            .Job("bullet")
            .With(f =>
                f with
                {
                    Site = f.Site with { LatitudeDeg = 69.6, LongitudeDeg = 18.9 },
                    Now = new DateTimeOffset(2026, 6, 21, 12, 0, 0, TimeSpan.Zero),
                }
            );
        Assert.Null(Row(facts, "night.picture").Wait!.Until);
        Assert.True(Row(facts, "night.picture").Wait!.IsWaiting(facts.Now.Now));
    }

    [Fact]
    public void ChannelRowsWaitForTheRecorderThatShowsThem()
    {
        var facts = WholeWork.Job("bullet");
        CardRow Shows() => Row(facts, "recorder.shows");
        Assert.False(Shows().Wait!.IsWaiting(facts.Now.Now));
        facts.With(f => f with { Channels = [f.Channels[0] with { RecorderFacts = WholeWork.Recorder(false) }] });
        Assert.Equal(("wait.recorder", true), (Shows().Wait!.For, Shows().Wait!.IsWaiting(facts.Now.Now)));
        // Whoever took it had a recorder.
        WholeWork.Take(facts, Shows(), new YesNoValue(true));
        Assert.Equal(State.In, Shows().State);
        facts.With(f => f with { Channels = [f.Channels[0] with { RecorderFacts = null }] });
        Assert.Null(Shows().Wait);
    }

    [Fact]
    public void WhatAPersonSaysIsThereIsWaitedForAndMayLeaveAgain()
    {
        var facts = WholeWork.Job("bullet");
        void Say(Stay? stay) =>
            facts.With(f =>
                f with
                {
                    Site = f.Site with
                    {
                        Presences = stay is null
                            ? f.Site.Presences.Remove("second-person")
                            : f.Site.Presences.SetItem("second-person", stay),
                    },
                }
            );
        RowWait Wait() => Row(facts, "aim.agreed").Wait!;
        var now = facts.Now.Now;
        Say(null);
        Assert.Equal((true, null), (Wait().IsWaiting(now), Wait().Until));
        Say(new(now.AddHours(2), null));
        Assert.Equal((true, now.AddHours(2)), (Wait().IsWaiting(now), Wait().Until));
        Say(new(now.AddHours(-2), now.AddHours(1)));
        Assert.Equal((false, now.AddHours(1)), (Wait().IsWaiting(now), Wait().Ends));
        // A wait that ended in the past is no wait that is over: whoever was here has left.
        Say(new(now.AddHours(-2), now.AddHours(-1)));
        Assert.Equal((true, null), (Wait().IsWaiting(now), Wait().Until));
        Assert.NotEqual(SiteFacts.Unsaid.Signature, facts.Now.Site.Signature);
    }

    // ---- due by something else

    [Fact]
    public void SoundThatIsRecordedMakesItsLeaveDue()
    {
        var facts = WholeWork.Job("bullet", "microphone");
        Assert.False(Row(facts, "before.sound-authority").Required);
        Take(facts, "before.microphone", new ChoiceValue("off"));
        Assert.False(Row(facts, "before.sound-authority").Required);
        Take(facts, "before.microphone", new ChoiceValue("on"));
        Assert.Equal(
            (true, "due.by"),
            (Row(facts, "before.sound-authority").Required, Row(facts, "before.sound-authority").DueBecause?.Code)
        );
        Take(facts, "before.sound-authority", Form(("name", "M. Okafor"), ("role", "owner"), ("written", "no")));
        Assert.Equal((State.Out, Verdict.Refused), (Row(facts, "before.sound-authority").State, facts.Card.Verdict.Verdict));
        Take(facts, "before.sound-authority", Form(("name", "M. Okafor"), ("role", "owner"), ("written", "yes")));
        Assert.Equal(State.In, Row(facts, "before.sound-authority").State);
        // Not in a job that leaves that part out.
        facts.With(f => f with { Practice = f.Practice with { Scope = new WorkScope([Section.Cable], WorkScope.Whole.ByKind) } });
        Assert.False(Row(facts, "before.sound-authority").Required);
    }

    [Fact]
    public void WorkMakesDueWhatItCallsFor()
    {
        var facts = WholeWork.Job("bullet", "card-slot");
        Assert.False(Row(facts, "address.card-after-reset").Required);
        facts.Add(
            (id, at, n) =>
                new Act
                {
                    Id = id,
                    By = Facts.Ina,
                    At = at,
                    Sequence = n,
                    ActKind = "reset",
                    On = new Subject(SubjectKind.Place, facts.Now.Place.Id),
                }
        );
        Assert.Equal("due.after", Row(facts, "address.card-after-reset").DueBecause?.Code);
        Assert.True(Row(facts, "address.reset-held").Required);
    }

    /// <summary>An entry judged from where it touches gives the same Card as all of them judged at once: what is made due by another row
    /// too.</summary>
    [Fact]
    public void WhatBecomesDueBecomesDueAtOnce()
    {
        var facts = WholeWork.Job("bullet", "microphone");
        var before = JudgedCard.Of(facts.Now, Facts.Shipped);
        Take(facts, "before.microphone", new ChoiceValue("on"));
        var after = before.At(facts.Now with { Now = before.Facts.Now });
        Assert.True(after.Card.Rows.Single(r => r.Check.Id.Value == "before.sound-authority").Required);
    }

    // ---- forms

    [Theory]
    [InlineData("bare-cable", 1, 12, 8, State.In, "hole.least")]
    [InlineData("bare-cable", 3, 12, 16, State.Out, "hole.bushing-wide")]
    [InlineData("plug", 1, 12, 8, State.Out, "hole.least")]
    [InlineData("plug", 2, 24, 16, State.In, "hole.least")]
    [InlineData("plug", 2, 22, 16, State.Out, "hole.least")]
    [InlineData("cap", 1, 30, 6, State.Out, "hole.bushing-small")]
    public void AHoleIsHeldAgainstWhatPassesIt(string passes, int cables, int hole, int bushing, State state, string first)
    {
        var facts = WholeWork.Job("bullet");
        Take(facts, "cable.hole", Form(("passes", passes), ("cables", cables), ("hole", hole), ("bushing", bushing)));
        Assert.Equal((state, first), (Row(facts, "cable.hole").State, Row(facts, "cable.hole").Because[0].Code));
    }

    /// <summary>The way up follows from how high it hangs and from what was said of footing, reach and hands.</summary>
    [Theory]
    [InlineData(2.2, "", "floor", State.In, "")]
    [InlineData(3.5, "", "floor", State.Out, "way.too-high steps ladder lift scaffold")]
    [InlineData(3.5, "", "steps", State.In, "")]
    [InlineData(5.0, "", "steps", State.Out, "way.too-high ladder lift scaffold")]
    [InlineData(9.0, "", "ladder", State.Out, "way.too-high lift scaffold")]
    [InlineData(9.0, "", "lift", State.In, "")]
    [InlineData(3.5, "footing", "steps", State.Out, "way.no-footing lift scaffold")]
    [InlineData(3.5, "footing", "lift", State.In, "")]
    [InlineData(3.5, "over-reach", "ladder", State.Out, "way.over-reach lift scaffold")]
    [InlineData(3.5, "hand-too-few", "ladder", State.Out, "way.nobody-foots-it")]
    [InlineData(3.5, "hand-too-few", "steps", State.In, "way.alone")]
    [InlineData(3.5, "roadway", "steps", State.In, "way.edge")]
    [InlineData(3.5, null, "steps", State.In, "way.access-not-said")]
    [InlineData(2.0, "", "furniture", State.Out, "choice.wrong")]
    public void TheWayUpFollowsFromThePlace(double height, string? marked, string way, State state, string first)
    {
        var facts = WholeWork.Job("bullet", "outdoor").With(f => f with { Place = f.Place with { HeightMetres = height } });
        if (marked is not null)
            Take(facts, "before.access", new ListValue([.. marked.Split(' ', StringSplitOptions.RemoveEmptyEntries)]));
        Take(facts, "before.method", new ChoiceValue(way));
        var row = Row(facts, "before.method");
        Assert.Equal(state, row.State);
        var said = row.Because.FirstOrDefault();
        Assert.Equal(first.Split(' ')[0], said?.Code ?? "");
        foreach (var instead in first.Split(' ').Skip(1))
            Assert.Contains("@choice.before.method." + instead, said!.Args[^1]);
        if (first.Contains(' '))
            Assert.DoesNotContain("furniture", said!.Args[^1]);
    }

    /// <summary>What is said of the place later is held against the way that was chosen before.</summary>
    [Fact]
    public void AHindranceThatIsFoundLaterRefusesTheWay()
    {
        var facts = WholeWork.Job("bullet");
        Take(facts, "before.access", new ListValue([]));
        Take(facts, "before.method", new ChoiceValue("steps"));
        Assert.Equal(State.In, Row(facts, "before.method").State);
        Take(facts, "before.access", new ListValue(["footing"]));
        Assert.Equal(State.Out, Row(facts, "before.method").State);
    }

    /// <summary>A bearing is held against the agreed view's the short way round, north or not; where none was agreed it is not
    /// asked.</summary>
    [Theory]
    [InlineData(90, 92, State.In, "bearing.right 2")]
    [InlineData(90, 90, State.In, "bearing.as-agreed")]
    [InlineData(5, 355, State.In, "bearing.left 10")]
    [InlineData(355, 5, State.In, "bearing.right 10")]
    [InlineData(0, 360, State.In, "bearing.as-agreed")]
    [InlineData(-10, 350, State.In, "bearing.as-agreed")]
    [InlineData(350, 17, State.Out, "bearing.right 27")]
    [InlineData(90, 270, State.Out, "bearing.")]
    [InlineData(90, 107, State.Out, "bearing.right 17")]
    public void TheFrontLooksWhereTheAgreedViewDoes(double agreed, double read, State state, string says)
    {
        var facts = WholeWork.Job("tile-dome").With(f => f with { Place = f.Place with { Mount = "ceiling-tile" } });
        Assert.DoesNotContain(facts.Card.Rows, r => r.Check.Id.Value == "fixing.bearing");
        facts.With(f =>
            f with
            {
                Events = f.Events.Add(
                    new PlannedView
                    {
                        Id = Guid.NewGuid(),
                        By = Facts.Ina,
                        At = f.Now,
                        Sequence = 80_000,
                        HeadId = f.Heads[0].Id,
                        AgreedBy = "M. Okafor",
                        Design = new Optics.ViewDesign(3, 30, 90, 1920, 1080, agreed, []),
                    }
                ),
            }
        );
        Assert.True(Row(facts, "fixing.bearing").Required);
        Take(facts, "fixing.bearing", new NumberValue(read, Unit.Degree));
        var row = Row(facts, "fixing.bearing");
        Assert.Equal(state, row.State);
        Assert.StartsWith(says, string.Join(' ', row.Because[0].Args.Prepend(row.Because[0].Code)));
    }

    /// <summary>A model that says how much cable stays at it is asked for it; others are not.</summary>
    [Theory]
    [InlineData("Skerry B4", 0.5, State.In)]
    [InlineData("Skerry B4", 0.1, State.Out)]
    [InlineData("", 0.5, null)]
    public void TheSlackIsWhatTheSheetAsksFor(string model, double metres, State? state)
    {
        var facts = WholeWork.Job("bullet").With(f => f with { Place = f.Place with { Model = model } });
        if (state is null)
        {
            Assert.DoesNotContain(facts.Card.Rows, r => r.Check.Id.Value == "fixing.slack");
            return;
        }
        Take(facts, "fixing.slack", new NumberValue(metres, Unit.Metre));
        Assert.Equal((true, state), (Row(facts, "fixing.slack").Required, Row(facts, "fixing.slack").State));
    }

    [Fact]
    public void OutdoorsNoHoleStaysOpen()
    {
        var facts = WholeWork.Job("bullet");
        Take(facts, "cable.hole", Form(("passes", "bare-cable"), ("cables", 1), ("hole", 40)));
        Assert.Equal((State.Out, "hole.open"), (Row(facts, "cable.hole").State, Row(facts, "cable.hole").Because[0].Code));
    }

    /// <summary>Two circles need twice the width, seven three times; more never less; and a plug passes beside what lies there.</summary>
    [Fact]
    public void TheSmallestHoleGrowsWithWhatIsInIt()
    {
        Assert.Equal(9, Fixing.Passage.SmallestMm(7, 7, 1, 2), 6);
        Assert.Equal(16, Fixing.Passage.SmallestMm(7, 7, 2, 2), 6);
        Assert.Equal(23, Fixing.Passage.SmallestMm(7, 7, 7, 2), 6);
        Assert.Equal(14.5 + 7 + 2, Fixing.Passage.SmallestMm(14.5, 7, 2, 2), 6);
        for (var n = 1; n < 40; n++)
            Assert.True(Fixing.Passage.SmallestMm(7, 7, n + 1, 2) >= Fixing.Passage.SmallestMm(7, 7, n, 2));
        Assert.Throws<BadInputException>(() => Fixing.Passage.SmallestMm(0, 7, 1, 2));
        Assert.Throws<BadInputException>(() => Fixing.Passage.SmallestMm(7, double.NaN, 1, 2));
        Assert.Throws<BadInputException>(() => Fixing.Passage.SmallestMm(7, 7, 0, 2));
    }

    [Theory]
    [InlineData("on", "closed", "no", "bare", State.Out, "order.cut,order.thread-cap,order.colours,order.crimp,order.map")]
    [InlineData("on", "split", "no", "bare", State.In, "order.clip-cap,order.map")]
    [InlineData("on", "threaded", "yes", "bare", State.Out, "order.cut-boot,order.map")]
    [InlineData("none", "closed", "no", "takes-boot", State.In, "order.thread-cap,order.colours,order.crimp,order.map")]
    [InlineData("none", "none", "yes", "bare", State.Out, "order.no-boot,order.colours,order.crimp,order.map")]
    public void TheOrderOfTerminatingFollowsFromWhatIsThere(string plug, string cap, string boot, string housing, State state, string steps)
    {
        var facts = WholeWork.Job("bullet");
        Take(facts, "cable.order", Form(("plug", plug), ("cap", cap), ("boot", boot), ("housing", housing)));
        var row = Row(facts, "cable.order");
        Assert.Equal(state, row.State);
        Assert.Equal(string.Join(", ", steps.Split(',').Select(s => "@" + s)), row.Because.Single(b => b.Code == "order.steps").Args[0]);
        Assert.Equal(plug == "none", Row(facts, "cable.colours").Required);
    }

    [Theory]
    [InlineData("pole", "pole", "surface", "none", "no", State.Out, "mount.no-box")]
    [InlineData("pole", "pole", "surface", "none", "yes", State.In, "mount.parts")]
    [InlineData("wall-arm", "wall", "inside", "none", "no", State.In, "mount.parts")]
    [InlineData("wall-arm", "wall", "inside", "power", "yes", State.Out, "mount.other")]
    [InlineData("junction-box", "wall", "conduit", "contacts", "yes", State.In, "mount.parts")]
    [InlineData(null, "wall", "inside", "none", "no", State.NotJudged, "mount.no-plan")]
    public void TheMountFollowsFromSurfaceAndRoute(
        string? planned,
        string surface,
        string route,
        string extra,
        string box,
        State state,
        string first
    )
    {
        var facts = WholeWork.Job("bullet").With(f => f with { Place = f.Place with { Mount = planned } });
        Take(facts, "fixing.resolved", Form(("surface", surface), ("route", route), ("extra", extra), ("box", box)));
        Assert.Equal((state, first), (Row(facts, "fixing.resolved").State, Row(facts, "fixing.resolved").Because[0].Code));
    }

    [Fact]
    public void ASurfaceThatNobodyKnowsIsRefused() =>
        Assert.Throws<BadInputException>(() => Fixing.MountResolver.Resolve("moon", Fixing.CableRoute.FromInside, false, false, false));

    [Theory]
    [InlineData("powering-port", "no", 20, State.In, "outlet.load")]
    [InlineData("powering-port", "no", 30, State.Out, "outlet.over")]
    [InlineData("dc", "no", 24, State.In, "outlet.load")]
    [InlineData("dc", "no", 25, State.Out, "outlet.over")]
    [InlineData("dc", "yes", 5, State.Out, "outlet.exclude")]
    [InlineData("none", "no", 5, State.In, "outlet.none")]
    public void TheTestersOutletsExcludeEachOther(string outlet, string both, int watts, State state, string first)
    {
        var facts = WholeWork.Job("bullet");
        Assert.False(Row(facts, "power.outlet").Required);
        Take(facts, "power.feed", new ChoiceValue("tester"));
        Assert.True(Row(facts, "power.outlet").Required);
        Take(facts, "power.outlet", Form(("outlet", outlet), ("both", both), ("watts", watts)));
        Assert.Equal((state, first), (Row(facts, "power.outlet").State, Row(facts, "power.outlet").Because[0].Code));
    }

    [Theory]
    [InlineData(0, 60, State.TooClose)]
    [InlineData(0, 240, State.In)]
    [InlineData(1, 600, State.In)]
    [InlineData(30, 60, State.Out)]
    [InlineData(4, 60, State.TooClose)]
    public void EventsCountedOverTimeAreJudgedByWhatTheCountAllows(int events, int minutes, State state)
    {
        var facts = WholeWork.Job("thermal");
        Take(
            facts,
            "recorder.nuisance",
            Form(("before-events", 40), ("before-minutes", 60), ("after-events", events), ("after-minutes", minutes))
        );
        Assert.Equal(state, Row(facts, "recorder.nuisance").State);
        Assert.Contains(Row(facts, "recorder.nuisance").Because, b => b.Code == "tally.before");
    }

    [Theory]
    [InlineData(0, 0, 3.69)]
    [InlineData(1, 0.03, 5.57)]
    [InlineData(10, 4.80, 18.39)]
    [InlineData(100, 81.36, 121.63)]
    public void TheIntervalOfACountIsThatOfTheTables(double count, double low, double high)
    {
        var (least, most) = FormJudges.PoissonInterval(count);
        Assert.InRange(least, low - 0.05, low + 0.05);
        Assert.InRange(most, high * 0.98, high * 1.02);
    }

    [Theory]
    [InlineData(73, 0, 60, State.In, "trials.rate")]
    [InlineData(72, 0, 60, State.TooClose, "trials.rate")]
    [InlineData(20, 20, 60, State.Out, "trials.rate")]
    [InlineData(80, 0, 20, State.TooClose, "trials.too-soon")]
    public void TrialsAreJudgedByTheirRateAndNoneCountsThatCameTooSoon(int hits, int misses, int secondsApart, State state, string first)
    {
        var facts = WholeWork.Job("number-plate");
        var lines = Enumerable
            .Range(0, hits + misses)
            .Select(i => new FormLine(
                [new("outcome", null, i < hits ? "hit" : "miss")],
                WholeWork.Evening.AddDays(-1).AddSeconds(i * secondsApart)
            ));
        Take(facts, "plates.trial", new FormValue([.. lines]));
        Assert.Equal((state, first), (Row(facts, "plates.trial").State, Row(facts, "plates.trial").Because[0].Code));
    }

    public static TheoryData<FormValue, string> Careless =>
        new()
        {
            { new FormValue([]), "reading.form-lines" },
            { new FormValue([new([new("hole", 12)]), new([new("hole", 12)])]), "reading.form-lines" },
            { new FormValue([new([])]), "reading.form-empty" },
            { new FormValue([new([new("hole", 12), new("hole", 13)])]), "reading.form-twice" },
            { new FormValue([new([new("depth", 12)])]), "reading.unknown-field" },
            { new FormValue([new([new("passes", null, "elephant")])]), "reading.field-word" },
            { new FormValue([new([new("passes", 3)])]), "reading.field-word" },
            { new FormValue([new([new("hole", null, "wide")])]), "reading.field-number" },
            { new FormValue([new([new("hole", double.NaN)])]), "reading.field-number" },
            { new FormValue([new([new("hole", 5000)])]), "reading.field-range" },
            { new FormValue([new([new("cables", 1.5)])]), "reading.field-count" },
            { new FormValue([new([new("cables", -1)])]), "reading.field-count" },
        };

    [Theory]
    [MemberData(nameof(Careless))]
    public void AFormThatCannotBeIsRefusedInWords(FormValue value, string code) =>
        Assert.Equal(code, ReadingRules.Refuse(Facts.Shipped.CheckById[new("cable.hole")], value)?.Code);

    [Fact]
    public void ANamedPersonHasAName()
    {
        var check = Facts.Shipped.CheckById[new("aim.agreed")];
        Assert.Equal("reading.field-text", ReadingRules.Refuse(check, Form(("name", " "), ("role", "client"), ("says", "right")))?.Code);
        Assert.Equal(
            "reading.field-text",
            ReadingRules.Refuse(check, Form(("name", new string('x', 201)), ("role", "client"), ("says", "right")))?.Code
        );
    }

    /// <summary>Left out, a field is named, and the row is not judged; nothing is in by default.</summary>
    [Fact]
    public void WhatWasLeftOutIsNamed()
    {
        var facts = WholeWork.Job("bullet");
        Take(facts, "before.consent", Form(("name", "M. Okafor"), ("says", "yes")));
        Assert.Equal(
            (State.NotJudged, "form.not-said"),
            (Row(facts, "before.consent").State, Row(facts, "before.consent").Because[0].Code)
        );
    }

    // ---- budget

    [Theory]
    [InlineData(370.0, State.In)]
    [InlineData(10.0, State.Out)]
    [InlineData(null, State.NotJudged)]
    public void TheBudgetOfItsSwitchIsARowOfTheCard(double? watts, State state)
    {
        var facts = WholeWork
            .Job("bullet")
            .With(f =>
                f with
                {
                    Runs = [.. f.Runs.Select(r => r with { Port = r.Port! with { Source = WholeWork.Source(f.Place.Id, watts) } })],
                }
            );
        var row = Row(facts, "power.budget");
        Assert.Equal((state, true, true), (row.State, row.Required, row.Attempts.IsEmpty));
        Assert.Equal("reading.wrong-entry", ReadingRules.Refuse(row.Check, new YesNoValue(true))?.Code);
        if (state == State.Out)
            Assert.Contains(row.Id, facts.Card.Verdict.Failing);
    }

    [Fact]
    public void WhatTheDeviceDrawsByItsNewestReadingIsInItsBudget()
    {
        var facts = WholeWork
            .Job("bullet")
            .With(f =>
                f with
                {
                    Runs = [.. f.Runs.Select(r => r with { Port = r.Port! with { Source = WholeWork.Source(f.Place.Id, 31) } })],
                }
            );
        var at = facts.Card.Rows.Single(r => r.Check.Id.Value == "power.watts-at-port" && r.Key.Under == Condition.InfraredOn);
        var before = JudgedCard.Of(facts.Now, Facts.Shipped);
        Assert.Equal(State.In, Row(facts, "power.budget").State);
        WholeWork.Take(facts, at, new NumberValue(32, Unit.Watt));
        Assert.Equal(State.Out, Row(facts, "power.budget").State);
        var after = before.At(facts.Now with { Now = before.Facts.Now }).Card;
        Assert.Equal(State.Out, after.Rows.Single(r => r.Check.Id.Value == "power.budget").State);
    }

    // ---- bench against site

    [Theory]
    [InlineData(true, "site-not-unit")]
    [InlineData(false, "unit-itself")]
    [InlineData(null, null)]
    public void ThebenchNarrowsWhereToLook(bool? worked, string? cause)
    {
        var facts = WholeWork.Job("bullet").With(f => f with { Practice = f.Practice.Taking("first-try", "bench") });
        if (worked is { } yes)
            Take(facts, "bench.power", new YesNoValue(yes));
        Take(facts, "link.activity", new ChoiceValue("dark"));
        Assert.Equal(cause, Row(facts, "link.activity").Causes.FirstOrDefault()?.Id);
    }

    [Theory]
    [InlineData("fog", "bubble-dirty,ring-lost")]
    [InlineData("ring", "ring-lost,near-surface")]
    [InlineData("soft", "focus-shifts-at-night")]
    [InlineData("black", "infrared-off")]
    public void WhatIsSeenNamesItsCauses(string seen, string causes)
    {
        var facts = WholeWork.Job("bullet").With(f => f with { Now = WholeWork.Evening });
        Take(facts, "night.picture", new ChoiceValue(seen));
        Assert.Equal(causes.Split(','), Row(facts, "night.picture").Causes.Select(c => c.Id));
    }

    public static TheoryData<string, string, string> Planted()
    {
        var data = new TheoryData<string, string, string>();
        var truth = System.Text.Json.Nodes.JsonNode.Parse(File.ReadAllText(Path.Combine(Facts.Root, "demo", "truth.json")))!;
        foreach (var (label, device) in truth["devices"]!.AsObject())
        foreach (var seen in device!["seen"]?.AsArray() ?? [])
            data.Add(label, seen!["check"]!.ToString(), seen["says"]!.ToString());
        return data;
    }

    /// <summary>What is planted in the simulated site is found by its row, on the device where it is planted.</summary>
    [Theory]
    [MemberData(nameof(Planted))]
    public void EachPlantedFaultIsFoundByItsRow(string label, string check, string says)
    {
        var lines = File.ReadLines(Path.Combine(Facts.Root, "demo", "schedule.csv")).ToList();
        var line = lines.Single(l => l.StartsWith(label + ",", StringComparison.Ordinal));
        // The name may be quoted, and have a comma.
        var cells = System.Text.RegularExpressions.Regex.Replace(line, "\"[^\"]*\"", "name").Split(',');
        string Cell(string heading) => cells[Array.IndexOf(lines[0].Split(','), heading)];
        var facts = WholeWork
            .Job(Cell("kind"))
            .With(f =>
                f with
                {
                    Place = f.Place with { Model = Cell("model"), Features = [.. Cell("features").Split(' ')] },
                    Now = WholeWork.Evening,
                    Supply = Cell("supply").Length > 0 ? Supply : null,
                }
            );
        var parts = says.Split(':');
        var row = facts.Card.Rows.First(r =>
            r.Check.Id.Value == check && (r.Check.PartsFrom is not null || r.Key.On.Part.Length == 0 || r.Key.On.Part == parts[0])
        );
        ReadingValue value = row.Check.Entry switch
        {
            EntryKind.YesNo => new YesNoValue(says == "yes"),
            EntryKind.Number => new NumberValue(double.Parse(says, System.Globalization.CultureInfo.InvariantCulture), row.Check.Unit),
            EntryKind.Choice => new ChoiceValue(parts[^1]),
            EntryKind.Items => new ItemsValue([
                .. row.Items.Select(i => new ItemSaid(i.Id, i.Id == parts[0] ? ItemState.Missing : ItemState.Fitted)),
            ]),
            _ => Form(("passes", "plug"), ("cables", 1), (parts[0], int.Parse(parts[1])), ("sealed", "yes")),
        };
        Assert.Null(ReadingRules.Refuse(row.Check, value));
        WholeWork.Take(facts, row, value);
        Assert.Contains(facts.Card.Rows.Single(r => r.Key == row.Key).State, new[] { State.Out, State.TooClose });
    }

    private static readonly SupplyFacts Supply = new(
        Guid.NewGuid(),
        "P1",
        Power.SupplyRange.V12Dc,
        null,
        0,
        null,
        null,
        null,
        new(18),
        20,
        []
    );

    // ---- schools: on and off changes exactly one answer

    [Theory]
    [InlineData("addressing", "fixed-plan", "address.policy", "reserved,frozen", true)]
    [InlineData("addressing", "automatic", "address.policy", "automatic", false)]
    [InlineData("search", "two", "address.found", "first-search", true)]
    [InlineData("time-by", "computer", "time.source", "computer", false)]
    [InlineData("recording", "motion", "recorder.mode", "motion,schedule", false)]
    [InlineData("recording", "card", "recorder.mode", "motion,schedule,card", false)]
    [InlineData("recording", "cloud", "recorder.mode", "motion,schedule,cloud", false)]
    [InlineData("added-in", "cloud", "recorder.registered", "bridge", false)]
    [InlineData("judged-on", "any", "focus.seen-on", "browser,phone", false)]
    [InlineData("defaults", "left", "finish.defaults", "some", true)]
    [InlineData("clip", "over-people", "fixing.clip", "none", false)]
    public void ASideChangesExactlyTheAnswersItSays(string school, string side, string check, string answers, bool byDefault)
    {
        var facts = WholeWork.Job("dome-varifocal", "card-slot");
        var row = Row(facts, check);
        ImmutableArray<string> Good() =>
            [
                .. row.Check.Choices.Where(a =>
                    Card.Preview(facts.Now, Facts.Shipped, row.Key, new ChoiceValue(a), row.Key.Under, null, true).Attempt.State == State.In
                ),
            ];
        var before = Good();
        var rows = Due();
        facts.With(f => f with { Practice = f.Practice.Taking(school, side) });
        Assert.Equal(answers.Split(',').Order(), (byDefault ? before.Except(Good()) : Good().Except(before)).Order());
        Assert.Empty(byDefault ? Good().Except(before) : before.Except(Good()));
        Assert.Equal(rows, Due());

        ImmutableArray<string> Due() => [.. facts.Card.Rows.Where(r => r.Required).Select(r => r.Id)];
    }

    [Theory]
    [InlineData("login", "supplier", "address.custodian", "role", "supplier")]
    [InlineData("login", "installer", "address.custodian", "own", "shared")]
    [InlineData("hint", "allowed", "address.custodian", "hint", "set")]
    [InlineData("card-class", "lower", "before.card", "class", "v10")]
    [InlineData("cards", "two", "before.card", "count", "two")]
    public void ASideChangesExactlyTheWordItSays(string school, string side, string check, string field, string word)
    {
        var facts = WholeWork.Job("bullet", "card-slot");
        var row = Row(facts, check);
        var good = (FormValue)WholeWork.Answer(facts, row);
        var other = new FormValue([new FormLine([.. good.Lines[0].Said.Select(s => s.Field == field ? s with { Word = word } : s)])]);
        State Of(ReadingValue v) => Card.Preview(facts.Now, Facts.Shipped, row.Key, v, row.Key.Under, null, true).Attempt.State;
        Assert.Equal((State.In, State.Out), (Of(good), Of(other)));
        facts.With(f => f with { Practice = f.Practice.Taking(school, side) });
        Assert.Equal((State.In, State.In), (Of(good), Of(other)));
    }

    [Theory]
    [InlineData("level", "small-tilt", "fixing.roll", 2.5, State.Out, State.In)]
    [InlineData("reset-hold", "long", "address.reset-held", 12, State.Out, State.In)]
    [InlineData("reset-hold", "long", "address.reset-held", 3, State.In, State.Out)]
    public void ASideChangesTheLimitItSays(string school, string side, string check, double value, State before, State after)
    {
        var facts = WholeWork.Job("bullet");
        Take(facts, check, new NumberValue(value, Row(facts, check).Check.Unit));
        Assert.Equal(before, Row(facts, check).State);
        facts.With(f => f with { Practice = f.Practice.Taking(school, side) });
        Assert.Equal(after, Row(facts, check).State);
    }

    [Fact]
    public void TheFocusWithTheCoverOffIsDueWhereAJobLooksTwice()
    {
        var facts = WholeWork.Job("dome-varifocal");
        Assert.True(Row(facts, "focus.cover-off").Required);
        facts.With(f => f with { Practice = f.Practice.Taking("focus", "as-left") });
        Assert.False(Row(facts, "focus.cover-off").Required);
        Assert.True(Row(facts, "focus.cover-on").Required);
    }

    [Fact]
    public void TheOuterFilmIsAskedForOnceAndWhenTheJobTakesItOff()
    {
        var facts = WholeWork.Job("dome-varifocal");
        ImmutableArray<string> Where() =>
            [.. facts.Card.Rows.Where(r => r.Items.Any(i => i.Id == "outer-film-off")).Select(r => r.Check.Id.Value)];
        Assert.Equal(["finish.films"], Where());
        facts.With(f => f with { Practice = f.Practice.Taking("films", "after-cover") });
        Assert.Equal(["fixing.internals"], Where());
    }

    // ---- what a Card says of all its rows

    [Fact]
    public void AYesByOneTouchIsOfferedOnlyWhereThatIsHonest()
    {
        var facts = WholeWork.Job("dome-varifocal");
        Assert.True(Row(facts, "before.damage").IsOneTouch);
        // A picture belongs to it; a caution stands at it; something holds it; it asks for more than a yes; it need not be taken.
        foreach (var check in new[] { "aim.view", "cable.label", "fixing.covered", "before.method", "before.setup-lead" })
            Assert.False(Row(facts, check).IsOneTouch, check);
        Take(facts, "before.damage", new YesNoValue(true));
        Assert.False(Row(facts, "before.damage").IsOneTouch);
    }

    [Fact]
    public void TheWorstRowIsOutBeforeTooCloseAndFurthestBeyondItsLimit()
    {
        var facts = WholeWork.Job("bullet");
        Assert.Null(facts.Card.WorstRow);
        Take(facts, "time.offset", new NumberValue(2.4, Unit.Second));
        Assert.Equal((State.TooClose, Row(facts, "time.offset").Id), (Row(facts, "time.offset").State, facts.Card.WorstRow));
        Take(facts, "fixing.roll", new NumberValue(9, Unit.Degree));
        Assert.Equal(Row(facts, "fixing.roll").Id, facts.Card.WorstRow);
        Take(facts, "time.offset", new NumberValue(500, Unit.Second));
        Assert.Equal(Row(facts, "time.offset").Id, facts.Card.WorstRow);
    }

    [Fact]
    public void ToolsAreThoseOfWhatCanBeTakenNow()
    {
        var facts = WholeWork.Job("bullet").With(f => f with { Now = new DateTimeOffset(2026, 10, 14, 12, 0, 0, TimeSpan.FromHours(1)) });
        Assert.Equal("tester", facts.Card.Tools[0]);
        Assert.Contains("labels", facts.Card.Tools);
        // What waits for the dark needs no torch at noon.
        Assert.DoesNotContain("torch", facts.Card.Tools);
        Assert.Contains("torch", facts.With(f => f with { Now = WholeWork.Evening }).Card.Tools);
        Assert.DoesNotContain("labels", WholeWork.Do(facts).Card.Tools);
    }

    [Fact]
    public void ACautionIsSaidOnceARowThatHasItWasTaken()
    {
        var facts = WholeWork.Job("bullet");
        Assert.Empty(facts.Card.CautionsSaid);
        Take(facts, "before.method", new ChoiceValue("steps"));
        Assert.Equal(["ladder"], facts.Card.CautionsSaid);
    }

    // ---- catalogue

    [Theory]
    [InlineData("\"wait\": { \"dark\": true, \"presence\": \"second-person\" }", "x: its wait is begun by more than one sort of thing")]
    [InlineData("\"wait\": { \"presence\": \"the-king\" }", "x: it waits for 'the-king', which nobody can say is there")]
    [InlineData("\"wait\": { \"recorder\": \"no.check\" }", "x: its wait begins with 'no.check', which is no other check")]
    [InlineData("\"dueWhen\": [{}]", "x: it is due when nothing is said")]
    [InlineData("\"dueWhen\": [{ \"act\": \"sang\" }]", "x: it is due after 'sang', which is no act")]
    [InlineData("\"parts\": [{ \"id\": \"nose\" }]", "x: no text part.nose")]
    [InlineData("\"fields\": [{ \"id\": \"a\", \"entry\": \"text\" }]", "x: a form has fields, and nothing else has")]
    public void WhatACheckCannotSayIsNamed(string part, string problem)
    {
        var own = $$"""
            { "checks": [{ "id": "x", "version": 1, "section": "finish", "leg": "picture", "entry": "yesNo", "per": "place", "judge": "yes-no", {{part}} }],
              "texts": { "en": { "check.x": "X" } } }
            """;
        var (_, problems) = Catalogue.Read(Catalogue.Shipped.Append(("own.json", own)), Facts.Texts);
        Assert.Contains(problem, problems.Select(p => p.What));
    }

    /// <summary>A check by fields, trials, days and occasions is a file and no code.</summary>
    [Fact]
    public void ANewFormIsAFile()
    {
        const string own = """
            { "checks": [{ "id": "own.walk", "version": 1, "section": "finish", "leg": "picture", "entry": "form", "per": "place", "judge": "form",
                "applies": { "feature": "camera" }, "required": { "always": false }, "dueWhen": [{ "from": "2026-10-14" }],
                "fields": [{ "id": "who", "entry": "text" }, { "id": "lux", "entry": "number", "unit": "lux", "limit": "own.lux" }] }],
              "limits": [{ "id": "own.lux", "min": 5, "unit": "lux", "source": "own", "purpose": "enough light" }],
              "texts": { "en": { "check.own.walk": "Walk", "field.own.walk.who": "Who", "field.own.walk.lux": "Light" } } }
            """;
        var (catalogue, problems) = Catalogue.Read(Catalogue.Shipped.Append(("own.json", own)), Facts.Texts);
        Assert.Empty(problems);
        var facts = WholeWork.Job("bullet");
        CardRow Walk() => Card.Judge(facts.Now, catalogue!).Rows.Single(r => r.Check.Id.Value == "own.walk");
        Assert.Equal("due.since", Walk().DueBecause?.Code);
        WholeWork.Take(facts, Walk(), Form(("who", "Ina"), ("lux", 3)));
        Assert.Equal((State.Out, "form.under"), (Walk().State, Walk().Because[0].Code));
        WholeWork.Take(facts, Walk(), Form(("who", "Ina"), ("lux", 6)));
        Assert.Equal(State.In, Walk().State);
        facts.With(f => f with { Now = Facts.Start.AddDays(-1) });
        Assert.False(Walk().Required);
    }

    // ---- the sun

    /// <summary>Dusk of the equations is where the sun stands six degrees down, wherever and whenever.</summary>
    [Theory]
    [InlineData(51.5, -0.1)]
    [InlineData(-36.85, 174.76)]
    [InlineData(1.35, 103.82)]
    [InlineData(21.3, -157.86)]
    public void DuskIsWhereTheSunStandsSixDegreesDown(double latitude, double longitude)
    {
        for (var day = new DateOnly(2026, 1, 1); day.Year == 2026; day = day.AddDays(17))
        {
            var here = Sun.On(latitude, longitude, day, Math.Round(4 * longitude));
            Assert.InRange(Sun.At(latitude, longitude, here.Dusk!.Value).ElevationDeg, -6.05, -5.95);
            Assert.InRange(Sun.At(latitude, longitude, here.Dawn!.Value).ElevationDeg, -6.05, -5.95);
            var night = Sun.NightAt(latitude, longitude, here.Noon, 0)!;
            Assert.Equal(here.Dusk.Value, night.From);
            Assert.True(night.Until > night.From);
            var within = Sun.NightAt(latitude, longitude, night.From.AddMinutes(30), 0)!;
            Assert.Equal(night.From, within.From);
        }
    }
}
