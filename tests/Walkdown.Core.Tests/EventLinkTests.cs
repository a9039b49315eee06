using System.Globalization;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Recording;
using Walkdown.Crew;

namespace Walkdown.Core.Tests;

/// <summary>The link between a plate camera and its recorder: green on both sides, or which side lacks what.</summary>
public sealed class EventLinkTests
{
    private static Attempt Judge(params (string Field, object? Says)[] changes)
    {
        var facts = new Facts().With(f =>
            f with
            {
                Place = f.Place with { Kind = "number-plate" },
                Channels =
                [
                    new ChannelFacts(Guid.NewGuid(), "R-1", 1)
                    {
                        RecorderFacts = WholeWork.Recorder(true) is var r
                            ? r with
                            {
                                Place = r.Place with { Address = "10.46.8.11" },
                            }
                            : null,
                    },
                ],
            }
        );
        var row = Card.Judge(facts.Now, Facts.Shipped).Rows.Single(r => r.Check.Id == EventLink.Row);
        var said = GoodAnswers.Sheets["plates.link"].ToDictionary(f => f.Field, f => (object?)f.Says);
        foreach (var (field, says) in changes)
            said[field] = says;
        var value = new FormValue([
            new FormLine([
                .. said.Where(s => s.Value is not null)
                    .Select(s =>
                        s.Value is string word ? new FieldSaid(s.Key, null, word) : new FieldSaid(s.Key, Convert.ToDouble(s.Value, null))
                    ),
            ]),
        ]);
        Assert.Null(ReadingRules.Refuse(row.Check, value));
        return Card.Preview(facts.Now, Facts.Shipped, row.Key, value, row.Key.Under, null).Attempt;
    }

    [Fact]
    public void BothSidesGreenByOneIdentifierIsIn()
    {
        var judged = Judge();
        Assert.Equal((State.In, "link.both"), (judged.State, judged.Because[0].Code));
        // Blanks around what was typed mean nothing.
        Assert.Equal(State.In, Judge(("id-recorder", " 10010001 "), ("server", " 10.46.8.11 ")).State);
    }

    [Theory]
    [InlineData("server", null, "link.at-camera", "link.no-server")]
    [InlineData("server", "10.46.8.12", "link.at-camera", "link.server-other")]
    [InlineData("server", "the recorder", "link.at-camera", "link.server-unread")]
    [InlineData("port-camera", null, "link.at-camera", "link.no-port")]
    [InlineData("port-recorder", null, "link.at-recorder", "link.no-port")]
    [InlineData("port-recorder", 8080, "link.at-camera", "link.ports")]
    [InlineData("login-camera", "unset", "link.at-camera", "link.no-login")]
    [InlineData("login-recorder", "unset", "link.at-recorder", "link.no-login")]
    [InlineData("id-camera", null, "link.at-camera", "link.id-missing")]
    [InlineData("id-camera", "1001000A", "link.at-camera", "link.id-notDigits")]
    [InlineData("id-camera", "1001", "link.at-camera", "link.id-length")]
    // The code of an exit on an entry; and one that nobody has said.
    [InlineData("id-camera", "10020001", "link.at-camera", "link.id-role")]
    [InlineData("id-camera", "10070001", "link.at-camera", "link.id-role")]
    [InlineData("id-recorder", null, "link.at-recorder", "link.id-notInOtherSystem")]
    [InlineData("id-recorder", "10010002", "link.at-camera", "link.id-differs")]
    [InlineData("light-camera", "red", "link.at-camera", "link.red")]
    [InlineData("light-recorder", "dark", "link.at-recorder", "link.red")]
    public void TheSideThatIsNotCompleteIsNamed(string field, object? says, string side, string code)
    {
        var judged = Judge((field, says));
        Assert.Equal(State.Out, judged.State);
        Assert.Equal(side, judged.Because[0].Code);
        Assert.Contains(judged.Because, b => b.Code == code);
        foreach (var told in judged.Because)
            Assert.True(Facts.Texts.Contains(told.Code), told.Code);
    }

    [Fact]
    public void ARecorderWithoutAPlannedAddressIsNotComparedAndThatIsSaid()
    {
        var facts = new Facts().With(f => f with { Place = f.Place with { Kind = "number-plate" } });
        var row = Card.Judge(facts.Now, Facts.Shipped).Rows.Single(r => r.Check.Id == EventLink.Row);
        var value = new FormValue([
            new FormLine([
                .. GoodAnswers
                    .Sheets["plates.link"]
                    .Select(s =>
                        s.Says is string word ? new FieldSaid(s.Field, null, word) : new FieldSaid(s.Field, Convert.ToDouble(s.Says, null))
                    ),
            ]),
        ]);
        var judged = Card.Preview(facts.Now, Facts.Shipped, row.Key, value, row.Key.Under, null).Attempt;
        Assert.Contains(judged.Because, b => b.Code == "link.server-unplanned");
    }

    private static EventLink Link(string camera, string recorder = "", string role = "entry") =>
        new()
        {
            Role = role,
            IdAtCamera = camera,
            IdAtRecorder = recorder,
        };

    [Fact]
    public void AmongAllEachHasItsOwnAndWhoHasNoneIsGivenOne()
    {
        var rule = EventLink.RuleOf(Facts.Shipped)!;
        var all = EventLinks.Of(
            [
                ("GT-01", Link("10010001", "10010001")),
                ("GT-02", Link("10010001", "10010003")),
                ("GT-03", Link("", "")),
                ("GT-04", Link("", "", "exit")),
                ("GT-05", null),
                ("GT-06", Link("10010004", "10010003")),
                ("GT-07", Link("", "10010002")),
            ],
            rule
        );
        string[] Codes(int i) => [.. all[i].Notes.Select(n => n.Code)];
        Assert.Equal(["link.id-notUnique"], Codes(0));
        Assert.Equal(["link.id-notUnique", "link.id-twice"], Codes(1));
        Assert.Equal(["link.id-missing"], Codes(2));
        // Nobody has read it: nothing is said of it, and nothing proposed.
        Assert.Equal((0, ""), (Codes(4).Length, all[4].Proposed));
        Assert.Equal(["link.id-twice"], Codes(5));
        // The lowest that neither side of anybody has, with the code of its role.
        Assert.Equal(["10010005", "10020001", "10010006"], new[] { 2, 3, 6 }.Select(i => all[i].Proposed));
        Assert.Equal("10020001", EventLinks.Of([("GT-04", Link("", "", "exit"))], rule)[0].Proposed);
    }

    /// <summary>What is proposed is right by the rule, new, and nobody else's: for any site.</summary>
    [Fact]
    public void WhatIsProposedIsRightByTheRule() =>
        CsCheck.Check.Sample(
            CsCheck.Gen.Select(CsCheck.Gen.Int[0, 12], CsCheck.Gen.OneOfConst("entry", "exit", "other"), CsCheck.Gen.Bool).Array[1, 30],
            site =>
            {
                var rule = EventLink.RuleOf(Facts.Shipped)!;
                var links = site.Select(
                        (s, i) =>
                            (
                                $"C-{i:00}",
                                (EventLink?)Link(
                                    s.Item1 == 0 ? "" : $"100{(s.Item2 == "entry" ? 1 : s.Item2 == "exit" ? 2 : 9)}{s.Item1:0000}",
                                    "",
                                    s.Item2
                                )
                            )
                    )
                    .ToList();
                var all = EventLinks.Of(links, rule);
                var proposed = all.Where(l => l.Proposed.Length > 0).ToList();
                Assert.Equal(links.Count(l => l.Item2!.IdAtCamera.Length == 0), proposed.Count);
                var had = links.Select(l => l.Item2!.IdAtCamera).ToHashSet();
                Assert.DoesNotContain(proposed, p => had.Contains(p.Proposed));
                var after = rule.Check([.. proposed.Select(p => new EventIdentifier(p.Device, p.Proposed, p.Link!.Role))]).Rows;
                Assert.All(after, findings => Assert.Empty(findings));
            },
            iter: 200
        );

    private static Catalogues.Catalogue With(params (string Figure, double Value)[] own)
    {
        var figures = string.Join(
            ',',
            own.Select(f =>
                string.Create(CultureInfo.InvariantCulture, $$"""{ "id": "plates.{{f.Figure}}", "value": {{f.Value}}, "source": "own" }""")
            )
        );
        return Catalogues
            .Catalogue.Read(
                Catalogues.Catalogue.Shipped.Append(("own.json", $$"""{ "overrides": true, "edition": 1, "figures": [{{figures}}] }""")),
                Facts.Texts
            )
            .Catalogue!;
    }

    /// <summary>Figures that a company sets and that fit no identifier: nothing is judged by them, and nothing falls over.</summary>
    [Theory]
    [InlineData("role-entry", 2)]
    [InlineData("role-entry", 1.5)]
    [InlineData("role-entry", 11)]
    [InlineData("id-length", 0)]
    [InlineData("id-length", 3)]
    [InlineData("id-length", 8.5)]
    [InlineData("id-length", 1e9)]
    [InlineData("role-start", 0)]
    [InlineData("role-start", 9)]
    public void FiguresThatFitNoIdentifierJudgeNothing(string figure, double value) => Assert.Null(EventLink.RuleOf(With((figure, value))));

    [Fact]
    public void AProjectSaysHowItsIdentifiersAreMade()
    {
        // Five digits, two of them for the role, from the second on: two digits are left for the number.
        var rule = EventLink.RuleOf(With(("id-length", 5), ("role-start", 2), ("role-entry", 10), ("role-exit", 20), ("role-other", 90)))!;
        var links = Enumerable.Range(1, 120).Select(i => ($"C-{i:000}", (EventLink?)Link(""))).ToList();
        var all = EventLinks.Of(links, rule);
        Assert.Equal(("11001", "11099"), (all[0].Proposed, all[98].Proposed));
        // None is left: the rest has none, and all else stands.
        Assert.All(all.Skip(99), l => Assert.Equal("", l.Proposed));
        Assert.Equal("link.id-role", EventLinks.Of([("C-1", Link("12001"))], rule)[0].Notes.Single().Code);
    }
}
