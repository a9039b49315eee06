using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Entries;

namespace Walkdown.Core.Tests;

/// <summary>What a job covers, which side of a school it takes, what has to wait, and what data can say of a check.</summary>
public sealed class WholeJobTests
{
    private static readonly Section[] Former = [Section.Cable, Section.Power, Section.Link];

    /// <summary>A bullet on a pole, outdoors, in a job that covers all of the work.</summary>
    private static Facts Outdoors() =>
        new Facts().With(f =>
            f with
            {
                Place = f.Place with { Kind = "bullet", Model = "", Mount = "pole" },
                Practice = f.Practice with { Scope = WorkScope.Whole },
            }
        );

    private static Facts Dome() => new Facts().With(f => f with { Practice = f.Practice with { Scope = WorkScope.Whole } });

    private static CheckKey Key(Facts facts, string check) => new(new(check), new(SubjectKind.Place, facts.Now.Place.Id), Condition.Any);

    private static CardRow Row(Facts facts, string check) => facts.Card.Rows.Single(r => r.Key == Key(facts, check));

    private static ImmutableArray<string> Required(Facts facts) =>
        [.. facts.Card.Rows.Where(r => r.Required).Select(r => r.Check.Id.Value).Distinct()];

    private static ItemsValue Fitted(Facts facts, string check, params ItemSaid[] but) =>
        new([.. Row(facts, check).Items.Select(i => but.FirstOrDefault(b => b.Item == i.Id) ?? new ItemSaid(i.Id, ItemState.Fitted))]);

    /// <summary>A reading that was seen in a picture.</summary>
    private static void Seen(Facts facts, string check, ReadingValue value)
    {
        var id = facts.Read(Key(facts, check), value);
        facts.With(f =>
            f with
            {
                Readings =
                [
                    .. f.Readings.Select(r =>
                        r.Id == id ? r with { Evidence = [new ReadingEvidence(Guid.NewGuid(), new string('0', 64))] } : r
                    ),
                ],
            }
        );
    }

    private static void Work(Facts facts, string act) =>
        facts.Add(
            (id, at, n) =>
                new Act
                {
                    Id = id,
                    By = Facts.Ina,
                    At = at,
                    Sequence = n,
                    ActKind = act,
                    On = new Subject(SubjectKind.Place, facts.Now.Place.Id),
                }
        );

    [Fact]
    public void TenElectricalReadingsAreAnAcceptanceOfNoMoreThanTheirParts()
    {
        var former = new Facts().Healthy().Card;
        Assert.Equal((Verdict.Accepted, true), (former.Verdict.Verdict, former.Verdict.Parts.SequenceEqual(Former)));
        var whole = Dome().Healthy().Card;
        Assert.Equal(Verdict.Open, whole.Verdict.Verdict);
        Assert.Contains(Section.Fixing, whole.Verdict.Parts);
        Assert.Contains(Section.Before, whole.Verdict.Parts);
        Assert.Contains(Section.Finish, whole.Verdict.Parts);
    }

    /// <summary>What a job does not cover may be taken and is never due, whatever a check says; by job, and by kind.</summary>
    [Fact]
    public void WhatIsNotCoveredIsNeverDue()
    {
        var cable = new WorkScope([Section.Cable], WorkScope.Whole.ByKind);
        var facts = Dome().With(f => f with { Practice = f.Practice with { Scope = cable } });
        Assert.All(facts.Card.Rows.Where(r => r.Required), r => Assert.Equal(Section.Cable, r.Check.Section));
        Assert.Contains(facts.Card.Rows, r => r.Check.Section == Section.Power);
        Assert.Equal([Section.Cable], facts.Card.Verdict.Parts);
        facts.With(f =>
            f with
            {
                Practice = f.Practice with { Scope = cable with { ByKind = cable.ByKind.Add("dome-varifocal", [Section.Link]) } },
            }
        );
        Assert.All(facts.Card.Rows.Where(r => r.Required), r => Assert.Equal(Section.Link, r.Check.Section));
        facts.With(f => f with { Place = f.Place with { Kind = "ball", Model = "" } });
        Assert.Equal([Section.Cable], facts.Card.Verdict.Parts);
    }

    [Fact]
    public void WhatIsTakenBeforeItsTimeSaysNothingAndSaysWhy()
    {
        var facts = Outdoors();
        facts.Read(Key(facts, "fixing.cured"), new YesNoValue(true));
        Assert.Equal(
            (State.NotJudged, "because.not-begun"),
            (Row(facts, "fixing.cured").State, Row(facts, "fixing.cured").Because[0].Code)
        );
        Seen(facts, "fixing.seals", Fitted(facts, "fixing.seals"));
        facts.Read(Key(facts, "fixing.cured"), new YesNoValue(true));
        var early = Row(facts, "fixing.cured");
        Assert.Equal((State.NotJudged, "because.too-early", "1439"), (early.State, early.Because[0].Code, early.Because[0].Args[0]));
        // What is out is out at any time.
        facts.Read(Key(facts, "fixing.cured"), new YesNoValue(false));
        Assert.Equal(State.Out, Row(facts, "fixing.cured").State);
        // Sealed anew, it waits anew.
        var before = Row(facts, "fixing.cured").Wait!.Until;
        Seen(facts, "fixing.seals", Fitted(facts, "fixing.seals"));
        Assert.True(Row(facts, "fixing.cured").Wait!.Until > before);
        Work(facts, "seal-opened");
        Assert.Equal((State.Stale, (DateTimeOffset?)null), (Row(facts, "fixing.seals").State, Row(facts, "fixing.cured").Wait!.Begun));
    }

    [Fact]
    public void ACardThatWaitedHasANextRowAgainThoughNothingWasEntered()
    {
        var facts = Outdoors()
            .With(f =>
                f with
                {
                    Practice = f.Practice with { Scope = new WorkScope([Section.Fixing], WorkScope.Whole.ByKind) },
                    Place = f.Place with { Mount = null },
                }
            );
        // The cover is on once its lanyards are: what is held comes after what holds it.
        while (facts.Card.NextRow is { } next)
        {
            var row = facts.Card.Rows.Single(r => r.Id == next);
            WholeWork.Take(facts, row, WholeWork.Answer(facts, row), facts.Now.Now);
            if (row.Check.Id.Value == "fixing.seals")
                facts.With(f => f with { Now = f.Now.AddDays(-2).AddSeconds(1) });
        }
        var judged = JudgedCard.Of(facts.Now, Facts.Shipped);
        Assert.NotNull(judged.Card.WaitsUntil);
        var sameDay = judged.At(facts.Now with { Now = facts.Now.Now.AddMinutes(1) });
        Assert.Same(judged.Card, sameDay.Card);
        var later = judged.At(facts.Now with { Now = judged.Card.WaitsUntil!.Value });
        Assert.Equal((null, Row(facts, "fixing.cured").Id), (later.Card.WaitsUntil, later.Card.NextRow));
    }

    [Fact]
    public void APictureThatBelongsToAReadingIsAskedForAndEnoughOnce()
    {
        var facts = Outdoors();
        facts.Read(Key(facts, "fixing.drip-loop"), new ChoiceValue("loop-outside"));
        Assert.Equal(
            (State.NotJudged, "because.no-picture"),
            (Row(facts, "fixing.drip-loop").State, Row(facts, "fixing.drip-loop").Because[0].Code)
        );
        Assert.Equal(State.In, Preview(true));
        Assert.Equal(State.NotJudged, Preview(false));
        Seen(facts, "fixing.drip-loop", new ChoiceValue("loop-outside"));
        Assert.Equal(State.In, Row(facts, "fixing.drip-loop").State);
        // What is wrong needs no picture to be wrong.
        facts.Read(Key(facts, "fixing.drip-loop"), new ChoiceValue("no-loop"));
        Assert.Equal(State.Out, Row(facts, "fixing.drip-loop").State);

        State Preview(bool seen) =>
            Core
                .Acceptance.Card.Preview(
                    facts.Now,
                    Facts.Shipped,
                    Key(facts, "fixing.drip-loop"),
                    new ChoiceValue("in-box"),
                    Condition.Any,
                    null,
                    seen
                )
                .Attempt.State;
    }

    [Theory]
    [InlineData(ItemState.Missing, null, null, State.Out, "items.missing")]
    [InlineData(ItemState.Substituted, "two tie wraps", "the hook is too wide", State.In, "items.substituted")]
    [InlineData(ItemState.NotNeeded, null, "stands on the ground", State.In, "items.not-needed")]
    public void EachItemHasItsState(ItemState state, string? by, string? why, State judged, string because)
    {
        var facts = Outdoors();
        facts.Read(Key(facts, "fixing.safety"), Fitted(facts, "fixing.safety", new ItemSaid("lanyard-camera", state, by, why)));
        Assert.Equal((judged, because), (Row(facts, "fixing.safety").State, Row(facts, "fixing.safety").Because[0].Code));
    }

    [Fact]
    public void AnItemThatNobodySpokeOfIsNotFitted()
    {
        var facts = Outdoors();
        Assert.Equal(["lanyard-camera", "lanyard-arm"], Row(facts, "fixing.safety").Items.Select(i => i.Id));
        facts.Read(Key(facts, "fixing.safety"), new ItemsValue([new("lanyard-camera", ItemState.Fitted)]));
        Assert.Equal((State.NotJudged, "items.not-said"), (Row(facts, "fixing.safety").State, Row(facts, "fixing.safety").Because[0].Code));
    }

    [Theory]
    [InlineData("reading.items-empty")]
    [InlineData("reading.unknown-item", "rope", ItemState.Fitted, null, null)]
    [InlineData("reading.item-substituted", "lanyard-camera", ItemState.Substituted, "rope", " ")]
    [InlineData("reading.item-not-needed", "lanyard-camera", ItemState.NotNeeded, null, null)]
    [InlineData("reading.item-state", "lanyard-camera", (ItemState)7, null, null)]
    public void WhatCannotBeSaidOfAnItemIsRefusedInWords(
        string code,
        string? item = null,
        ItemState state = default,
        string? by = null,
        string? why = null
    ) =>
        Assert.Equal(
            code,
            ReadingRules
                .Refuse(
                    Facts.Shipped.CheckById[new("fixing.safety")],
                    new ItemsValue(item is null ? [] : [new ItemSaid(item, state, by, why)])
                )!
                .Code
        );

    [Fact]
    public void AnItemSaidTwiceOrAtLengthIsRefused()
    {
        var check = Facts.Shipped.CheckById[new("fixing.safety")];
        var said = new ItemSaid("lanyard-camera", ItemState.Fitted);
        Assert.Equal("reading.item-twice", ReadingRules.Refuse(check, new ItemsValue([said, said]))!.Code);
        Assert.Equal("reading.item-long", ReadingRules.Refuse(check, new ItemsValue([said with { Why = new string('x', 201) }]))!.Code);
        Assert.Null(ReadingRules.Refuse(check, new ItemsValue([said])));
        Assert.Equal("reading.wrong-entry", ReadingRules.Refuse(check, new YesNoValue(true))!.Code);
    }

    [Theory]
    [InlineData("pole", State.In, null)]
    [InlineData("wall-arm", State.Out, "choice.not-planned")]
    public void TheMountIsJudgedByThePlan(string found, State state, string? because)
    {
        var facts = Outdoors();
        facts.Read(Key(facts, "fixing.mount"), new ChoiceValue(found));
        Assert.Equal(
            (state, because),
            (Row(facts, "fixing.mount").State, Row(facts, "fixing.mount").Because.Select(b => b.Code).FirstOrDefault())
        );
    }

    [Fact]
    public void WhereNothingIsPlannedTheMountIsNotDueAndNotJudged()
    {
        var facts = Outdoors().With(f => f with { Place = f.Place with { Mount = null } });
        Assert.DoesNotContain("fixing.mount", Required(facts));
        facts.Read(Key(facts, "fixing.mount"), new ChoiceValue("pole"));
        Assert.Equal(State.NotJudged, Row(facts, "fixing.mount").State);
    }

    [Fact]
    public void NothingIsHungBeforeItsLanyardsAreOn()
    {
        var facts = Outdoors();
        Assert.Equal(["fixing.safety"], Row(facts, "fixing.hung").HeldBy.Select(h => h.Value));
        facts.Read(Key(facts, "fixing.safety"), Fitted(facts, "fixing.safety", new ItemSaid("lanyard-arm", ItemState.Missing)));
        Assert.Equal(["fixing.safety"], Row(facts, "fixing.hung").HeldBy.Select(h => h.Value));
        facts.Read(Key(facts, "fixing.safety"), Fitted(facts, "fixing.safety"));
        Assert.Empty(Row(facts, "fixing.hung").HeldBy);
    }

    /// <summary>A school, one of its sides, and all that is otherwise by it: rows that come and go, or one answer that is right.</summary>
    [Theory]
    [InlineData("sealing", "mechanical", "-fixing.cured")]
    [InlineData("first-try", "bench", "+bench.works,+bench.power,+bench.picture")]
    [InlineData("firmware", "first", "+before.firmware")]
    public void ASideChangesExactlyTheRowsItSays(string school, string side, string otherwise)
    {
        var facts = Outdoors();
        var before = Required(facts);
        facts.With(f => f with { Practice = f.Practice.Taking(school, side) });
        var after = Required(facts);
        Assert.Equal(otherwise.Split(','), after.Except(before).Select(r => "+" + r).Concat(before.Except(after).Select(r => "-" + r)));
    }

    [Theory]
    [InlineData("cover-tools", "drill", "fixing.cover-tool", "drill", false)]
    [InlineData("slack", "outside", "fixing.drip-loop", "tucked-dry", true)]
    [InlineData("paint", "box", "fixing.paint", "box", false)]
    [InlineData("cleaning", "glass-cleaner", "finish.cleaned", "glass-cleaner", false)]
    public void ASideChangesExactlyTheAnswerItSays(string school, string side, string check, string answer, bool byDefault)
    {
        var facts = check == "fixing.cover-tool" || check == "finish.cleaned" ? Dome() : Outdoors();
        var answers = Facts.Shipped.CheckById[new(check)].Choices;
        ImmutableArray<string> Good() =>
            [
                .. answers.Where(a =>
                    Core.Acceptance.Card.Preview(
                        facts.Now,
                        Facts.Shipped,
                        Key(facts, check),
                        new ChoiceValue(a),
                        Condition.Any,
                        null,
                        true
                    ).Attempt.State == State.In
                ),
            ];
        var before = Good();
        var rows = Required(facts);
        facts.With(f => f with { Practice = f.Practice.Taking(school, side) });
        Assert.Equal(byDefault, before.Contains(answer));
        Assert.Equal(byDefault ? before.Remove(answer) : [.. answers.Where(a => a == answer || before.Contains(a))], Good());
        Assert.Equal(rows, Required(facts));
    }

    /// <summary>What every other side of every school changes on any kind of device, whatever it has: which rows there are, which are due,
    /// what is right, and by which limits. The rest stays as it is.</summary>
    [Theory]
    [MemberData(nameof(Sides))]
    public void ASideChangesNothingElse(string school, string side)
    {
        string[] features =
        [
            "outdoor",
            "infrared",
            "analytics",
            "card-slot",
            "cover",
            "microphone",
            "over-people",
            "mount-ceiling-tile",
            "low-voltage",
            "plates",
            "model-reset-light",
        ];
        var changed = new SortedSet<string>(StringComparer.Ordinal);
        foreach (var kind in Facts.Shipped.Kinds)
        foreach (var own in new[] { [], features })
        {
            var facts = WholeWork.Job(kind.Id, own).With(f => f with { Place = f.Place with { Model = "Skerry B4" } });
            var before = Shape(facts.Now);
            var after = Shape(facts.Now with { Practice = facts.Now.Practice.Taking(school, side) });
            changed.UnionWith(before.Except(after).Concat(after.Except(before)).Select(s => s.Split(' ')[0]));
        }
        var said = Changes.Single(c => c.Side == $"{school} {side}").Checks;
        Assert.Equal(said, string.Join(' ', changed));

        static HashSet<string> Shape(CardFacts facts) =>
            [
                .. JudgedCard
                    .Of(facts, Facts.Shipped)
                    .Plan.Zip(Card.Judge(facts, Facts.Shipped).Rows)
                    .Select(p =>
                        string.Join(
                            ' ',
                            p.First.Check.Id.Value,
                            p.First.Id,
                            p.First.Required,
                            string.Join(',', p.First.Good.Select(g => g.Word + g.Part)),
                            string.Join(',', p.First.Items.Select(i => i.Id)),
                            p.Second.Window?.Min,
                            p.Second.Window?.Max,
                            p.Second.Expected?.Word,
                            string.Join(',', p.First.Fields.Select(f => f.Field.Id + ":" + string.Join('/', f.Good)))
                        )
                    ),
            ];
    }

    public static TheoryData<string, string> Sides()
    {
        var data = new TheoryData<string, string>();
        foreach (var school in Facts.Shipped.Schools)
        foreach (var side in school.Sides.Where(s => s.Id != school.SideOf(null).Id))
            data.Add(school.Id, side.Id);
        return data;
    }

    /// <summary>Two change how what is read is judged, and no row: which end a mixed run is made by, and the Verdict of what nobody
    /// explains.</summary>
    private static readonly (string Side, string Checks)[] Changes =
    [
        ("scheme far-end", ""),
        ("first-try bench", "bench.picture bench.power bench.works"),
        ("firmware first", "before.firmware"),
        ("cover-tools drill", "fixing.cover-tool"),
        ("sealing mechanical", "fixing.cured"),
        ("slack outside", "fixing.drip-loop"),
        ("paint box", "fixing.paint"),
        ("cleaning glass-cleaner", "finish.cleaned"),
        ("start-up switch", "power.start-order"),
        ("unexpected refuses", ""),
        ("addressing fixed-plan", "address.policy"),
        ("addressing automatic", "address.policy"),
        ("search two", "address.found"),
        ("login installer", "address.custodian"),
        ("login supplier", "address.custodian"),
        ("hint allowed", "address.custodian"),
        ("reset-hold long", "address.reset-held"),
        ("card-class lower", "before.card"),
        ("cards two", "before.card"),
        ("films after-cover", "finish.films fixing.internals"),
        ("focus as-left", "focus.cover-off"),
        ("level small-tilt", "fixing.roll"),
        ("base-tools drill", "fixing.tools"),
        ("clip over-people", "fixing.clip fixing.safety"),
        ("time-by computer", "time.source"),
        ("network flat", "link.topology"),
        ("remote wanted", "finish.remote"),
        ("defaults left", "finish.defaults"),
        ("recording motion", "recorder.mode"),
        ("recording card", "recorder.mode"),
        ("recording cloud", "recorder.mode"),
        ("aim-by eye", "aim.by-eye aim.view"),
        ("supply supplied", "power.supply-own"),
        ("added-in cloud", "recorder.registered"),
        ("judged-on any", "focus.seen-on"),
    ];

    [Fact]
    public void ASideThatIsNotKnownHereFollowsTheDefault()
    {
        var facts = Outdoors();
        var before = Required(facts);
        facts.With(f => f with { Practice = f.Practice.Taking("sealing", "of another catalogue").Taking("no-such-school", "x") });
        Assert.Equal(before, Required(facts));
        Assert.Equal("sealant", Facts.Shipped.Settled(facts.Now.Practice).Sides["sealing"]);
        Assert.DoesNotContain("no-such-school", Facts.Shipped.Settled(facts.Now.Practice).Sides.Keys);
    }

    /// <summary>A school of a company's own: a file, and no code.</summary>
    [Fact]
    public void ANewSchoolIsAFile()
    {
        const string own = """
            {
              "schools": [{ "id": "photo", "sides": [{ "id": "none" }, { "id": "each", "features": ["photo-each"] }] }],
              "checks": [{ "id": "own.photo", "version": 1, "section": "finish", "leg": "picture", "entry": "choice",
                "choices": ["sharp", "soft"], "good": [{ "word": "sharp" }], "per": "place",
                "applies": { "feature": "photo-each" }, "judge": "choice" }],
              "texts": { "en": { "school.photo": "Photographs", "school.photo.none": "none", "school.photo.each": "of each device",
                "check.own.photo": "Photograph" } }
            }
            """;
        var (catalogue, problems) = Catalogue.Read(Catalogue.Shipped.Append(("own.json", own)), Facts.Texts);
        Assert.Empty(problems);
        var facts = Outdoors();
        bool Asked() => Core.Acceptance.Card.Judge(facts.Now, catalogue!).Rows.Any(r => r.Check.Id.Value == "own.photo" && r.Required);
        Assert.False(Asked());
        facts.With(f => f with { Practice = f.Practice.Taking("photo", "each") });
        Assert.True(Asked());
    }

    [Theory]
    [InlineData("\"schools\": [{ \"id\": \"s\", \"sides\": [{ \"id\": \"a\" }] }]", "s: a school has two sides or more, each once")]
    [InlineData(
        "\"schools\": [{ \"id\": \"s\", \"default\": \"c\", \"sides\": [{ \"id\": \"a\" }, { \"id\": \"b\" }] }]",
        "s: its default 'c' is none of its sides"
    )]
    [InlineData("\"checks\": [{ CHECK, \"wait\": { \"minutes\": \"wait.cure\" } }]", "x: its wait is begun by nothing")]
    [InlineData(
        "\"checks\": [{ CHECK, \"wait\": { \"after\": \"x\", \"minutes\": \"wait.cure\" } }]",
        "x: its wait begins with 'x', which is no other check"
    )]
    [InlineData(
        "\"checks\": [{ CHECK, \"wait\": { \"afterAct\": \"sang\", \"minutes\": \"wait.cure\" } }]",
        "x: its wait begins with 'sang', which is no act"
    )]
    [InlineData(
        "\"checks\": [{ CHECK, \"wait\": { \"afterAct\": \"moved\", \"minutes\": \"no\" } }]",
        "x: its wait needs a figure of 0 to 525,600 minutes; 'no' is none"
    )]
    [InlineData(
        "\"checks\": [{ CHECK, \"countdown\": { \"figure\": \"no\" } }]",
        "x: its window needs a figure of 1 to 3,600 seconds; 'no' is none"
    )]
    [InlineData(
        "\"checks\": [{ CHECK, \"countdown\": { \"figure\": \"radio.pairing-window\", \"field\": \"tries\" } }]",
        "x: its window is counted in 'tries', which is no count of a form of one line"
    )]
    public void ASchoolOrWaitThatCannotBeIsNamed(string part, string problem)
    {
        const string check = """
            "id": "x", "version": 1, "section": "finish", "leg": "picture", "entry": "yesNo", "per": "place", "judge": "yes-no"
            """;
        const string texts =
            "\"texts\": { \"en\": { \"check.x\": \"X\", \"school.s\": \"S\", \"school.s.a\": \"A\", \"school.s.b\": \"B\" } }";
        var (_, problems) = Catalogue.Read(
            Catalogue.Shipped.Append(("own.json", $"{{ {part.Replace("CHECK", check)}, {texts} }}")),
            Facts.Texts
        );
        Assert.Equal([problem], problems.Select(p => p.What));
    }

    /// <summary>Every school says in words what it is about, its sides, and the grounds of its default.</summary>
    [Fact]
    public void EverySchoolGivesItsGrounds() => Assert.All(Facts.Shipped.Schools, s => Assert.Contains($"school.{s.Id}.why", Facts.Texts));

    /// <summary>A feature that a side gives and nothing asks for would be a switch without a wire.</summary>
    [Fact]
    public void EverySideIsAskedForBySomething()
    {
        string[] byCore =
        [
            PracticeFeatures.MatchFarEnd,
            PracticeFeatures.SwitchFirst,
            PracticeFeatures.UnexpectedRefuses,
            .. Topics.Registry.Limits.Values.SelectMany(l => l.AsksFor),
        ];
        var json = string.Concat(Catalogue.Shipped.Where(f => !f.Name.Contains("schools", StringComparison.Ordinal)).Select(f => f.Json));
        Assert.All(
            Facts.Shipped.Schools.SelectMany(s => s.Sides).SelectMany(s => s.Features),
            f => Assert.True(byCore.Contains(f) || json.Contains($"\"{f}\"", StringComparison.Ordinal), f)
        );
    }

    [Fact]
    public void PracticesThatSayTheSameAreTheSame()
    {
        var one = new Facts().Now.Practice.Taking("paint", "box");
        Assert.Equal(one, new Facts().Now.Practice.Taking("paint", "box"));
        Assert.NotEqual(one, one.Taking("paint", "never"));
        Assert.NotEqual(one, one with { Scope = WorkScope.Whole });
        Assert.NotEqual(one with { Scope = WorkScope.Whole }, one with { Scope = WorkScope.Whole with { Parts = [Section.Cable] } });
    }
}
