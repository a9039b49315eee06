using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Aiming;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;
using Walkdown.Core.Power;

namespace Walkdown.Core.Tests;

/// <summary>What a model's template gives its rows, and what comes before a row elsewhere than on its Card.</summary>
public sealed class TemplateTests
{
    private static Facts Of(string model, string kind, params string[] features) =>
        WholeWork.Job(kind, features).With(f => f with { Place = f.Place with { Model = model } });

    private static CardRow Row(Facts facts, string check, string part = "") =>
        facts.Card.Rows.First(r => r.Check.Id.Value == check && r.Key.On.Part == part);

    private static CardRow Take(Facts facts, string check, double value, Unit unit)
    {
        WholeWork.Take(facts, Row(facts, check), new NumberValue(value, unit), null);
        return Row(facts, check);
    }

    private static Catalogue With(string json)
    {
        var read = Catalogue.Read(Catalogue.Shipped.Append(("own.json", json)), Facts.Texts);
        Assert.Empty(read.Problems);
        return read.Catalogue!;
    }

    [Theory]
    [InlineData("Tarn D4Z", "cover", "3", "T10", "sheet.fasteners.captive")]
    [InlineData("Tarn D4Z", "base", "4", "crosshead 2", "sheet.fasteners.loose")]
    public void ARowSaysWhatHoldsItsPart(string model, string part, string count, string drive, string code)
    {
        var line = Assert.Single(Row(Of(model, "dome-varifocal"), "fixing.screws", part).Sheet);
        Assert.Equal((code, count, drive), (line.Code, line.Args[1], line.Args[2]));
    }

    /// <summary>A conduit needs its fitting, and a joint that would lie in the open its box; where the plan says neither, nobody
    /// guesses.</summary>
    [Theory]
    [InlineData("wall-arm", "rear", "", "junction-box conduit-fitting corner-adapter")]
    [InlineData("wall-arm", "side", "junction-box", "conduit-fitting corner-adapter")]
    [InlineData("corner", "conduit", "junction-box conduit-fitting corner-adapter", "")]
    [InlineData("wall-arm", null, "", "junction-box conduit-fitting corner-adapter")]
    public void ThePackHoldsWhatThePlannedMountCallsFor(string mount, string? entry, string has, string lacks)
    {
        var items = Row(
            Of("", "bullet").With(f => f with { Place = f.Place with { Mount = mount, CableEntry = entry } }),
            "before.pack"
        ).Items;
        Assert.All(has.Split(' ', StringSplitOptions.RemoveEmptyEntries), id => Assert.Contains(items, i => i.Id == id && i.Bring));
        Assert.All(lacks.Split(' ', StringSplitOptions.RemoveEmptyEntries), id => Assert.DoesNotContain(items, i => i.Id == id));
    }

    /// <summary>Before a pack is gone through: what no maker puts in. After: what was not there.</summary>
    [Fact]
    public void WhatIsCarriedFollowsThePacks()
    {
        var (a, b) = (Of("", "bullet"), Of("", "bullet"));
        WholeWork.Take(b, Row(b, "before.pack"), new ListValue(["lanyard"]), null);
        var load = Walking.LoadList.Of([("A", a.Card), ("B", b.Card)]);
        Assert.Equal(new Walking.LoadLine("wall-anchors", 1, "A"), load.Parts.Single(p => p.Id == "wall-anchors"));
        Assert.Equal(new Walking.LoadLine("lanyard", 1, "B"), load.Parts.Single(p => p.Id == "lanyard"));
        Assert.Equal(2, load.Tools.Single(t => t.Id == "tester").Stops);
        Assert.Equal(2, load.Tools[0].Stops);
    }

    /// <summary>Whoever changes a limit under Practice reads what it is, and no code.</summary>
    [Fact]
    public void EveryFigureAndLimitIsNamed()
    {
        Assert.Equal([], Facts.Shipped.AllFigures.Select(f => f.Id).Where(id => !Facts.Texts.Contains("figure." + id)));
        Assert.Equal([], Facts.Shipped.Limits.Select(l => l.Id).Where(id => !Facts.Texts.Contains("limit-name." + id)));
    }

    /// <summary>Nobody is asked for a row without being told how it is done.</summary>
    [Fact]
    public void EveryRowSaysHowItIsDone() =>
        Assert.Equal([], Facts.Shipped.Checks.Where(c => !Facts.Texts.Contains(c.TextKey + ".how")).Select(c => c.Id.Value));

    [Fact]
    public void WhatATemplateDoesNotSayIsSaidToBeUnknownAndSoIsAModelWithoutOne()
    {
        Assert.Equal([new Message("sheet.unknown", "@sheet.topic.reset")], Row(Of("Skerry B4", "bullet"), "address.reset-held").Sheet);
        Assert.Equal([new Message("sheet.no-model")], Row(Of("", "bullet"), "address.reset-held").Sheet);
    }

    [Fact]
    public void TopicsOfASheetHaveTheirWords()
    {
        foreach (var figure in DeviceModel.Figures)
            Assert.Contains("model." + figure, Facts.Texts);
        foreach (var topic in DeviceModel.Topics)
            Assert.Contains("sheet.topic." + topic, Facts.Texts);
        foreach (var model in Facts.Shipped.Models)
        foreach (var message in DeviceModel.Topics.SelectMany(topic => ModelSheet.Of(model, topic, "")))
        {
            Assert.Contains(message.Code, Facts.Texts);
            Assert.All(
                message.Args.Where(a => a.StartsWith('@')).SelectMany(a => a.Split(", ")),
                a => Assert.Contains(a[1..], Facts.Texts)
            );
        }
    }

    /// <summary>The button of this model is held 8 to 15 s, whatever the school says; without a template the school does.</summary>
    [Theory]
    [InlineData("Tarn D4Z", 5, State.Out)]
    [InlineData("Tarn D4Z", 10, State.In)]
    [InlineData("Tarn D4Z", 20, State.Out)]
    [InlineData("", 4, State.In)]
    [InlineData("", 10, State.Out)]
    public void AResetIsHeldAsTheSheetSays(string model, double seconds, State state)
    {
        var facts = Of(model, "dome-varifocal");
        facts.Work("reset");
        Assert.Equal(state, Take(facts, "address.reset-held", seconds, Unit.Second).State);
    }

    /// <summary>45 min at 0 °C, 30 at 20, 10 at 35, straight between; nothing is said above.</summary>
    [Theory]
    [InlineData(-10, 45)]
    [InlineData(0, 45)]
    [InlineData(10, 37.5)]
    [InlineData(20, 30)]
    [InlineData(27.5, 20)]
    [InlineData(35, 10)]
    [InlineData(36, 0)]
    public void TheBoxSessionIsShorterWhereItIsWarm(double ambient, double minutes)
    {
        var facts = Of("Tarn D4Z", "dome-varifocal");
        Assert.Null(Row(facts, "before.box-session").Window);
        Take(facts, "before.ambient", ambient, Unit.DegreeCelsius);
        Assert.Equal(minutes, Row(facts, "before.box-session").Window!.Max);
    }

    [Theory]
    [InlineData(0, State.In)]
    [InlineData(-160, State.In)]
    [InlineData(168, State.Out)]
    [InlineData(-171, State.Out)]
    public void APanAtItsStopIsOut(double degrees, State state) =>
        Assert.Equal(state, Take(Of("Tarn D4Z", "dome-varifocal"), "fixing.pan", degrees, Unit.Degree).State);

    [Fact]
    public void OnlyAModelWithStopsIsAskedForItsPan() =>
        Assert.DoesNotContain(Of("Skerry B4", "bullet").Card.Rows, r => r.Check.Id.Value == "fixing.pan");

    /// <summary>K3: 4 m, tilt 30, 40 degrees high: from 3.356 to 22.685 m.</summary>
    [Fact]
    public void ATiltSaysWhatOfTheGroundIsSeen()
    {
        var seen = Coverage.Of(4, 30, 40);
        Assert.Equal((3.356, 22.685), (Math.Round(seen.NearMetres!.Value, 3), Math.Round(seen.FarMetres!.Value, 3)));
        var facts = Of("Tarn D4Z", "dome-varifocal");
        Take(facts, "fixing.height", 4, Unit.Metre);
        var said = Take(facts, "fixing.tilt", 40, Unit.Degree).Because.Where(b => b.Code.StartsWith("tilt.sees", StringComparison.Ordinal));
        Assert.Equal(["tilt.sees.wide", "tilt.sees.narrow"], said.Select(b => b.Code));
        // By another height it is another ground, and the row is judged anew.
        var before = said.First();
        Take(facts, "fixing.height", 5, Unit.Metre);
        Assert.NotEqual(before, Row(facts, "fixing.tilt").Because.First(b => b.Code == "tilt.sees.wide"));
        Assert.Equal(
            ["tilt.sees.horizon.wide", "tilt.sees.narrow"],
            Take(facts, "fixing.tilt", 12, Unit.Degree)
                .Because.Where(b => b.Code.StartsWith("tilt.sees", StringComparison.Ordinal))
                .Select(b => b.Code)
        );
    }

    private static SupplyFacts Supply(SupplyRange range, params double[] watts) =>
        new(
            Guid.NewGuid(),
            "PS-1",
            range,
            new(range == SupplyRange.V12Dc ? 12 : 24, Origin.Planned),
            0,
            5,
            null,
            null,
            new LowVoltage.Wire(AreaMm2: 1.5),
            20,
            [.. watts.Select((w, i) => new SupplyTap(Guid.NewGuid(), $"T{i}", "bullet", "", 5 * (i + 1), w, w))]
        );

    [Theory]
    [InlineData("dc", 12, 2, "as-marked", State.In, "plate.enough")]
    [InlineData("dc", 12, 1, "as-marked", State.Out, "plate.short")]
    [InlineData("ac", 12, 2, "as-marked", State.Out, "plate.alternating")]
    [InlineData("dc", 24, 2, "as-marked", State.Out, "plate.volts")]
    [InlineData("dc", 12, 2, "reversed", State.Out, "plate.reversed")]
    public void ASuppliesPlateIsHeldAgainstEverythingThatHangsOnIt(
        string current,
        double volts,
        double amperes,
        string plug,
        State state,
        string first
    )
    {
        // Two of 9 W at 12 V draw 1.5 A; of 2 A four fifths may be used.
        var facts = Of("", "bullet").With(f => f with { Supply = Supply(SupplyRange.V12Dc, 9, 9) });
        WholeWork.Take(
            facts,
            Row(facts, "power.plate"),
            new FormValue([
                new FormLine([
                    new FieldSaid("current", null, current),
                    new FieldSaid("volts", volts),
                    new FieldSaid("amperes", amperes),
                    new FieldSaid("plug", null, plug),
                ]),
            ]),
            null
        );
        var row = Row(facts, "power.plate");
        Assert.Equal((state, first), (row.State, row.Because[0].Code));
    }

    [Fact]
    public void APlateWithoutItsAmperesIsNotJudged()
    {
        var facts = Of("", "bullet").With(f => f with { Supply = Supply(SupplyRange.V12Dc, 9) });
        WholeWork.Take(
            facts,
            Row(facts, "power.plate"),
            new FormValue([new FormLine([new FieldSaid("current", null, "dc"), new FieldSaid("volts", 12)])]),
            null
        );
        Assert.Equal(State.NotJudged, Row(facts, "power.plate").State);
    }

    /// <summary>A part that was replaced by something else is asked what closes it, each interface by itself.</summary>
    [Fact]
    public void ASubstitutedSealMakesItsMeansDueAndVinegarIsOut()
    {
        var facts = Of("", "bullet");
        Assert.False(Row(facts, "fixing.sealed-with", "wall").Required);
        WholeWork.Take(
            facts,
            Row(facts, "fixing.seals"),
            new ItemsValue([new ItemSaid("seal-wall", ItemState.Substituted, "sealant", "the bush was torn")]),
            null
        );
        Assert.True(Row(facts, "fixing.sealed-with", "wall").Required);
        WholeWork.Take(facts, Row(facts, "fixing.sealed-with", "wall"), new ChoiceValue("acid"), null);
        Assert.Equal(State.Out, Row(facts, "fixing.sealed-with", "wall").State);
        WholeWork.Take(facts, Row(facts, "fixing.sealed-with", "network"), new ChoiceValue("tape"), null);
        Assert.Equal(State.In, Row(facts, "fixing.sealed-with", "network").State);
    }

    private const string Dated = """
        { "checks": [{ "id": "finish.season", "version": 1, "section": "finish", "leg": "fixing", "entry": "yesNo", "per": "place",
          "applies": { "feature": "camera" }, "required": { "always": true }, "judge": "yes-no", "expect": "yes",
          "wait": { "from": "2026-10-20", "to": "2026-10-25" } }],
          "texts": { "en": { "check.finish.season": "Season", "check.finish.season.ask": "Leaves down?" } } }
        """;

    /// <summary>Days are the site's: in London the clock goes back on the 25th, and the last day has 25 hours.</summary>
    [Theory]
    [InlineData("2026-10-19T22:59:00Z", true, "because.before-its-day")]
    [InlineData("2026-10-19T23:00:00Z", false, null)]
    [InlineData("2026-10-25T23:59:00Z", false, null)]
    [InlineData("2026-10-26T00:00:00Z", true, "because.after-its-day")]
    public void ARowWaitsForItsDaysByTheSitesClock(string at, bool waits, string? because)
    {
        var moment = DateTimeOffset.Parse(at, System.Globalization.CultureInfo.InvariantCulture);
        var catalogue = With(Dated);
        var facts = WholeWork.Job("bullet").Now with { Now = Clocks.SiteTime.In("Europe/London", moment) };
        var row = Card.Judge(facts, catalogue).Rows.Single(r => r.Check.Id.Value == "finish.season");
        Assert.Equal(waits, row.Wait!.IsWaiting(moment));
        var read = facts with
        {
            Readings =
            [
                new Reading(
                    Guid.NewGuid(),
                    row.Key,
                    facts.Unit?.Id,
                    new YesNoValue(true),
                    Condition.Any,
                    null,
                    ReadingSource.Typed,
                    Facts.Ina,
                    moment,
                    moment,
                    1
                ),
            ],
        };
        var judged = Card.Judge(read, catalogue).Rows.Single(r => r.Key == row.Key);
        Assert.Equal(because is null ? State.In : State.NotJudged, judged.State);
        Assert.Equal(because, judged.Because.FirstOrDefault()?.Code);
    }

    /// <summary>A row that waits for its day comes back by itself: the same Card, judged again at midnight, has it next.</summary>
    [Fact]
    public void ADayThatBeginsChangesTheCard()
    {
        var facts = WholeWork.Job("bullet").Now with { Now = new DateTimeOffset(2026, 10, 19, 23, 50, 0, TimeSpan.FromHours(1)) };
        var card = JudgedCard.Of(facts, With(Dated));
        Assert.True(card.Card.WaitsChangeAt <= new DateTimeOffset(2026, 10, 20, 0, 0, 0, TimeSpan.FromHours(1)));
        var after = card.At(facts with { Now = new DateTimeOffset(2026, 10, 20, 0, 0, 0, TimeSpan.FromHours(1)) });
        Assert.False(after.Card.Rows.Single(r => r.Check.Id.Value == "finish.season").Wait!.IsWaiting(after.Facts.Now));
    }

    /// <summary>The clock of a camera is measured against the recorder's: its zone first.</summary>
    [Fact]
    public void WhatIsMissingAtTheRecorderIsSaidAtTheRowThatNeedsIt()
    {
        var facts = Of("", "bullet");
        Assert.Equal([new Message("needs.recorder", "NVR-1", "@check.time.zone")], Row(facts, "time.offset").Needs);
        Assert.False(Row(facts, "time.offset").IsOneTouch);
        var there = WholeWork.Recorder(true);
        var key = new CheckKey(new("time.zone"), new Subject(SubjectKind.Place, there.Place.Id), Condition.Any);
        facts.With(f =>
            f with
            {
                Channels =
                [
                    f.Channels[0] with
                    {
                        RecorderFacts = there with
                        {
                            Readings = there.Readings.Add(
                                new Reading(
                                    Guid.NewGuid(),
                                    key,
                                    null,
                                    new YesNoValue(true),
                                    Condition.Any,
                                    null,
                                    ReadingSource.Typed,
                                    Facts.Ina,
                                    Facts.Start,
                                    Facts.Start,
                                    9
                                )
                            ),
                        },
                    },
                ],
            }
        );
        Assert.Empty(Row(facts, "time.offset").Needs);
    }

    [Fact]
    public void WorkThatARowNeedsIsSaidUntilItIsOnRecord()
    {
        var catalogue = With(
            """
            { "checks": [{ "id": "finish.again", "version": 1, "section": "finish", "leg": "fixing", "entry": "yesNo", "per": "place",
              "applies": { "feature": "camera" }, "judge": "yes-no", "expect": "yes", "needs": [{ "act": "restarted" }] }],
              "texts": { "en": { "check.finish.again": "Again", "check.finish.again.ask": "Again?" } } }
            """
        );
        var facts = WholeWork.Job("bullet");
        ImmutableArray<Message> Needs() => Card.Judge(facts.Now, catalogue).Rows.Single(r => r.Check.Id.Value == "finish.again").Needs;
        Assert.Equal([new Message("needs.act", "@act.restarted")], Needs());
        facts.Work("restarted");
        Assert.Empty(Needs());
    }

    /// <summary>Nothing waits for itself by way of others, and what comes first stands first or in the same part of the work.</summary>
    [Fact]
    public void TheOrderOfTheWorkHasNoRing()
    {
        var before = Facts.Shipped.Checks.ToDictionary(c => c.Id, c => c.Gates.Concat(c.HoldUntil).ToHashSet());
        foreach (var check in Facts.Shipped.Checks)
        {
            var (seen, open) = (new HashSet<CheckId>(), new Queue<CheckId>(before[check.Id]));
            while (open.TryDequeue(out var next))
                if (seen.Add(next))
                    foreach (var further in before[next])
                        open.Enqueue(further);
            Assert.DoesNotContain(check.Id, seen);
        }
        // From the first try to the handover: each part of the work but the pack has something that should be in before it.
        foreach (var section in Enum.GetValues<Section>().Where(s => s != Section.Before))
            Assert.Contains(Facts.Shipped.Checks, c => c.Section == section && before[c.Id].Count > 0);
    }

    [Fact]
    public void BothSidesOfAimAndSupplyChangeWhatTheySay()
    {
        var eye = Of("", "bullet").With(f => f with { Practice = f.Practice with { Sides = f.Practice.Sides.SetItem("aim-by", "eye") } });
        Assert.False(Row(eye, "aim.view").Required);
        Assert.True(Row(eye, "aim.by-eye").Required);
        // Without the picture after the lock no aim is accepted, on either side.
        Assert.True(Row(eye, "aim.after") is { Required: true, Check.Picture: true });
        Assert.DoesNotContain(Of("", "bullet").Card.Rows, r => r.Check.Id.Value == "aim.by-eye");
        foreach (var (side, state) in new[] { ("suitable", State.In), ("supplied", State.Out) })
        {
            var facts = Of("", "bullet")
                .With(f =>
                    f with
                    {
                        Supply = Supply(SupplyRange.V12Dc, 9),
                        Practice = f.Practice with { Sides = f.Practice.Sides.SetItem("supply", side) },
                    }
                );
            WholeWork.Take(facts, Row(facts, "power.supply-own"), new ChoiceValue("suitable"), null);
            Assert.Equal(state, Row(facts, "power.supply-own").State);
        }
    }

    /// <summary>Holes where a part should be are a problem of the file, and stop nothing.</summary>
    [Theory]
    [InlineData("""{ "fasteners": [null] }""")]
    [InlineData("""{ "boxCurve": [null] }""")]
    [InlineData("""{ "surfaces": [{ "setting": "time", "at": null }] }""")]
    [InlineData("""{ "surfaces": [null] }""")]
    [InlineData("""{ "seals": null }""")]
    [InlineData("""{ "lights": [null] }""")]
    [InlineData("""{ "lights": [{ "id": "a", "colour": "green", "rhythmMs": null, "state": "fault" }] }""")]
    [InlineData("""{ "reset": { "leastSeconds": 5, "at": null } }""")]
    [InlineData("""{ "lens": { "set": "motor" } }""")]
    [InlineData("""{ "reset": { "leastSeconds": 5 } }""")]
    [InlineData("""{ "surfaces": [{ "setting": "time" }] }""")]
    [InlineData("""{ "surfaces": [{}] }""")]
    [InlineData("""{ "fasteners": [{ "part": "base" }] }""")]
    [InlineData("""{ "lights": [{ "id": "a", "colour": "green", "rhythmMs": [500], "state": "fault", "beside": {} }] }""")]
    [InlineData("""{ "cards": { "slots": 1 } }""")]
    public void ATemplateWithHolesIsRefusedAndStopsNothing(string sheet)
    {
        var model = """{ "models": [{ "id": "M", "kind": "bullet", """ + sheet.Trim()[1..^1] + "}] }";
        var read = Catalogue.Read(Catalogue.Shipped.Append(("own.json", model)), Facts.Texts);
        Assert.Contains(read.Problems, p => p.File == "own.json");
    }

    /// <summary>The same for what a check needs, shows and waits for.</summary>
    [Theory]
    [InlineData("""{ "needs": [null] }""")]
    [InlineData("""{ "needs": [{}] }""")]
    [InlineData("""{ "needs": [{ "act": "restarted", "recorder": "time.zone" }] }""")]
    [InlineData("""{ "needs": [{ "act": "dance" }] }""")]
    [InlineData("""{ "sheet": ["mood"] }""")]
    [InlineData("""{ "sheet": [null] }""")]
    [InlineData("""{ "wait": { "from": "2026-12-01", "to": "2026-11-01" } }""")]
    [InlineData("""{ "wait": { "from": "2026-12-01", "dark": true } }""")]
    [InlineData("""{ "wait": { "from": "soon" } }""")]
    public void ACheckThatCannotBeIsRefusedAndStopsNothing(string more)
    {
        var check =
            """{ "checks": [{ "id": "finish.x", "version": 1, "section": "finish", "leg": "fixing", "entry": "yesNo", "per": "place", "judge": "yes-no", """
            + more.Trim()[1..^1]
            + """}], "texts": { "en": { "check.finish.x": "X", "check.finish.x.ask": "X?" } } }""";
        var read = Catalogue.Read(Catalogue.Shipped.Append(("own.json", check)), Facts.Texts);
        Assert.Contains(read.Problems, p => p.File == "own.json");
    }

    [Theory]
    [InlineData("""{ "lens": { "leastMm": 9, "mostMm": 3, "set": "motor" } }""", "focal lengths")]
    [InlineData("""{ "pixels": { "wide": 0, "high": 5 } }""", "pixels")]
    [InlineData("""{ "seals": ["roof"] }""", "nothing is sealed at 'roof'")]
    [InlineData("""{ "fasteners": [{ "part": "hat", "drive": "T10" }] }""", "fasteners of 'hat'")]
    [InlineData("""{ "reset": { "leastSeconds": 9, "mostSeconds": 3, "at": "behind" } }""", "a reset is held")]
    [InlineData("""{ "reset": { "leastSeconds": 9, "at": "behind", "light": "purple" } }""", "no light pattern")]
    [InlineData("""{ "stops": { "panLeast": 90, "panGreatest": -90 } }""", "the pan runs")]
    [InlineData("""{ "surfaces": [{ "setting": "mood", "at": ["page"] }] }""", "no setting is called 'mood'")]
    [InlineData("""{ "surfaces": [{ "setting": "time", "at": ["moon"] }] }""", "nothing is set at 'moon'")]
    [InlineData("""{ "boxCurve": [{ "ambientC": 20, "minutes": 5 }, { "ambientC": 20, "minutes": 5 }] }""", "from cold to warm")]
    [InlineData("""{ "cards": { "slots": 99, "class": "U1" } }""", "1 to 8 slots")]
    [InlineData("""{ "lights": [{ "id": "a", "colour": "green", "rhythmMs": [500], "state": "fault", "dial": 13 }] }""", "1 to 12")]
    [InlineData(
        """{ "lights": [{ "id": "a", "colour": "green", "rhythmMs": [500], "state": "fault", "beside": { "colour": "pink", "rhythmMs": [1] } }] }""",
        "no light is 'pink'"
    )]
    public void ATemplateThatCannotBeIsNamed(string sheet, string says)
    {
        var model = """{ "models": [{ "id": "M", "kind": "bullet", """ + sheet.Trim()[1..^1] + "}] }";
        Assert.Contains(
            Catalogue.Read(Catalogue.Shipped.Append(("own.json", model)), Facts.Texts).Problems,
            p => p.What.Contains(says, StringComparison.Ordinal)
        );
    }
}
