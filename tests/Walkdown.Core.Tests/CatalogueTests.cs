using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Walking;
using static Walkdown.Core.Tests.Facts;

namespace Walkdown.Core.Tests;

public sealed class CatalogueTests
{
    private const string Own = """
        {
          "kinds": [{ "id": "mast", "features": ["camera", "cable", "mast"], "speedMbps": 100 }],
          "checks": [{
            "id": "fixing.bolts", "version": 1, "section": "fixing", "leg": "fixing",
            "entry": "number", "unit": "none", "per": "place", "judge": "window"
          }],
          "texts": { "en": { "kind.mast": "Mast camera", "check.fixing.bolts": "Bolts" } }
        }
        """;

    private static (Catalogue? Catalogue, string[] Problems) Read(string own)
    {
        var (catalogue, problems) = Catalogue.Read(Catalogue.Shipped.Append(("own.json", own)), Texts);
        return (catalogue, [.. problems.Select(p => $"{p.File}: {p.What}")]);
    }

    [Fact]
    public void WhatShipsIsSound() => Assert.Empty(Catalogue.Read(Catalogue.Shipped, Texts).Problems);

    [Fact]
    public void AKindAndACheckAsJsonReachThePlan()
    {
        var (catalogue, problems) = Read(
            Own.Replace("\"number\", \"unit\": \"none\"", "\"yesNo\"")
                .Replace("\"window\"", "\"yes-no\", \"applies\": { \"feature\": \"mast\" }")
        );
        Assert.Empty(problems);
        var facts = new Facts().With(f => f with { Place = f.Place with { Kind = "mast" } });
        Assert.Contains(CheckPlan.For(facts.Now, catalogue!).Rows, row => row.Check.Id.Value == "fixing.bolts");
        Assert.DoesNotContain(CheckPlan.For(new Facts().Now, catalogue!).Rows, row => row.Check.Id.Value == "fixing.bolts");
    }

    [Theory]
    [InlineData("\"unit\": \"none\"", "\"unit\": \"none\"", "a number needs a unit")]
    [InlineData("\"window\"", "\"guess\"", "no judge is called 'guess'")]
    [InlineData("\"per\": \"place\"", "\"per\": \"place\", \"gates\": [\"no.such\"]", "its gate 'no.such' is no check")]
    [InlineData("\"per\": \"place\"", "\"per\": \"place\", \"voidedBy\": [\"magic\"]", "'magic' is no act")]
    [InlineData("\"per\": \"place\"", "\"per\": \"place\", \"limits\": [\"set:no.such\"]", "the limit set has no 'no.such'")]
    [InlineData("\"per\": \"place\"", "\"per\": \"moon\"", "line")]
    [InlineData("\"version\": 1,", "\"version\": 1, \"colour\": \"red\",", "colour")]
    [InlineData("\"check.fixing.bolts\": \"Bolts\"", "\"x\": \"y\"", "no text check.fixing.bolts")]
    [InlineData("\"fixing.bolts\"", "\"cable.label\"", "the id stands twice")]
    public void AFaultInAFileIsNamed(string from, string to, string says)
    {
        var (catalogue, problems) = Read(Own.Replace(from, to));
        Assert.Null(catalogue);
        Assert.Contains(problems, p => p.StartsWith("own.json", StringComparison.Ordinal) && p.Contains(says, StringComparison.Ordinal));
    }

    private const string Check = "\"id\": \"own.x\", \"version\": 1, \"section\": \"power\", \"leg\": \"power\", \"per\": \"run\"";

    /// <summary>A file that says one thing only.</summary>
    private static string Only(string part) =>
        "{ " + part + ", \"texts\": { \"en\": { \"check.own.x\": \"x\", \"act.own\": \"x\", \"instrument.own\": \"x\" } } }";

    [Theory]
    [InlineData("\"unit\": \"metre\", \"limits\": [\"fn:poe-class-volts\"]", "'fn:poe-class-volts' is in Volt, the check in Metre")]
    [InlineData("\"unit\": \"watt\", \"limits\": [\"fn:supply-range\"]", "'fn:supply-range' is in Volt, the check in Watt")]
    [InlineData("\"unit\": \"metre\", \"expect\": \"poe-volts\"", "the expectation 'poe-volts' is in Volt, the check in Metre")]
    [InlineData("\"unit\": \"volt\", \"requird\": true", "requird")]
    [InlineData("\"unit\": \"volt\", \"applies\": { \"featur\": \"poe\" }", "featur")]
    public void ACheckThatWouldJudgeMetresByVoltsIsRefused(string part, string says)
    {
        var (catalogue, problems) = Read(Only($"\"checks\": [{{ {Check}, \"entry\": \"number\", \"judge\": \"window\", {part} }}]"));
        Assert.Null(catalogue);
        Assert.Contains(problems, p => p.Contains(says, StringComparison.Ordinal));
    }

    [Theory]
    [InlineData(
        "limits",
        "{ \"id\": \"own\", \"min\": 1, \"unit\": \"volt\", \"source\": \"s\", \"purpose\": \"p\" }",
        "the limit stands twice"
    )]
    [InlineData("figures", "{ \"id\": \"own\", \"value\": 1, \"source\": \"s\" }", "the figure stands twice")]
    [InlineData("acts", "{ \"id\": \"own\", \"on\": \"run\" }", "the act stands twice")]
    [InlineData(
        "causes",
        "{ \"id\": \"own\", \"checks\": [\"cable.length\"], \"evidence\": \"short-run\", \"severity\": \"minor\" }",
        "the cause stands twice"
    )]
    [InlineData("instrumentKinds", "{ \"id\": \"own\" }", "the instrument stands twice")]
    public void WhatStandsTwiceIsRefusedForOnlyOneOfThemWouldHold(string list, string entry, string says)
    {
        var (catalogue, problems) = Read(Only($"\"{list}\": [{entry}, {entry}]"));
        Assert.Null(catalogue);
        Assert.Contains(problems, p => p.Contains(says, StringComparison.Ordinal));
    }

    [Theory]
    [InlineData(
        "\"causes\": [{ \"id\": \"own\", \"checks\": [\"no.such\"], \"evidence\": \"x\", \"severity\": \"minor\" }]",
        "'no.such', which is no check"
    )]
    [InlineData("\"acts\": [{ \"id\": \"own\", \"on\": \"run\", \"minutes\": -1 }]", "0 to 10,000 minutes")]
    [InlineData(
        "\"limitSet\": { \"edition\": \"2\", \"limits\": "
            + "[{ \"id\": \"own\", \"min\": 2, \"max\": 1, \"unit\": \"volt\", \"source\": \"s\", \"purpose\": \"p\" }] }",
        "the least value is above the greatest"
    )]
    public void APartThatCannotHoldIsRefused(string part, string says)
    {
        var (catalogue, problems) = Read(Only(part));
        Assert.Null(catalogue);
        Assert.Contains(problems, p => p.Contains(says, StringComparison.Ordinal));
    }

    [Fact]
    public void TheSchemaInDocsIsTheOneOfTheCode()
    {
        var schema =
            Catalogue
                .Json.GetJsonSchemaAsNode(
                    typeof(CatalogueFile),
                    new JsonSchemaExporterOptions
                    {
                        TransformSchemaNode = (context, node) =>
                            context.TypeInfo.Type == typeof(CheckId) ? new JsonObject { ["type"] = "string" } : node,
                    }
                )
                .ToJsonString(new JsonSerializerOptions { WriteIndented = true }) + "\n";
        var file = Path.Combine(Root, "docs", "schemas", "catalogue.schema.json");
        if (Environment.GetEnvironmentVariable("WALKDOWN_WRITE") == "1")
        {
            Directory.CreateDirectory(Path.GetDirectoryName(file)!);
            File.WriteAllText(file, schema);
        }
        Assert.Equal(File.ReadAllText(file), schema);
    }

    [Fact]
    public void EveryCodeThatCoreCanSayHasAText()
    {
        var said = new Facts().Healthy();
        said.Read(Key("cable.wire-map"), Map(3, 6, 1, 4, 5, 2, 7, 8));
        said.Read(Key("cable.length"), new NumberValue(200, Measures.Unit.Metre));
        var rows = said.Card.Rows;
        var codes = rows.SelectMany(r => r.Because.Concat(r.Causes.Select(c => c.Evidence)))
            .SelectMany(m => m.Args.Where(a => a.StartsWith('@')).Select(a => a[1..]).Append(m.Code))
            .Concat(Shipped.Causes.SelectMany(c => new[] { "cause." + c.Id, $"cause.{c.Id}.try" }))
            .Concat(Enum.GetValues<Cabling.WireMapClass>().Select(c => "map." + Measures.Codes.Of(c)))
            .Concat(Enum.GetValues<Cabling.LookReason>().Select(c => "map.why." + Measures.Codes.Of(c)))
            .Concat(Enum.GetValues<Cabling.LookAt>().Select(c => "map.end." + Measures.Codes.Of(c)))
            .Concat(Enum.GetValues<Links.SpeedFinding>().Select(c => "speed." + Measures.Codes.Of(c)))
            .Concat(Enum.GetValues<State>().Select(c => "state." + Measures.Codes.Of(c)))
            .Concat(rows.Select(r => r.Check.TextKey + ".ask"));
        Assert.Empty(codes.Where(code => !Texts.Contains(code)).Distinct());
    }

    [Fact]
    public void TheRoundBeginsAtTheHeadEndAndGoesToTheNearest()
    {
        RoundStop Stop(string label, int area, bool head, double x) => new(Guid.NewGuid(), label, area, head, x, 0);
        RoundStop[] stops =
        [
            Stop("GT-02", 0, false, 30),
            Stop("GT-01", 0, false, 90),
            Stop("VL-01", 1, false, 80),
            Stop("R-1", 9, true, 20),
        ];
        var order = Round.Order(stops);
        Assert.Equal(["R-1", "GT-02", "GT-01", "VL-01"], order.Select(s => s.Label));
        var next = Round.Next(
            order,
            new Dictionary<Guid, Verdict> { [order[0].Id] = Verdict.Accepted, [order[1].Id] = Verdict.Refused },
            order[1].Id
        )!;
        Assert.Equal((order[2].Id, "next.nearest"), (next.Id, next.Why.Code));
        Assert.Null(Round.Next(order, order.ToDictionary(s => s.Id, _ => Verdict.Accepted), null));
        // Why it is the next one is true: an area of which something is open is not done, whoever passed it by or holds it up.
        string Why(Guid last, params Guid[] done) =>
            Round.Next(order, done.ToDictionary(id => id, _ => Verdict.Accepted), last, new HashSet<Guid> { order[1].Id })!.Why.Code;
        Assert.Equal("next.left-behind", Why(order[2].Id, order[0].Id, order[2].Id));
        Assert.Equal("next.next-area", Why(order[2].Id, order[0].Id, order[1].Id, order[2].Id));
        Assert.Equal("next.unfinished", Why(order[2].Id, order[0].Id));
    }

    [Fact]
    public void GermanHasEveryTextThatAReportPrintsWithTheSamePlaceholders()
    {
        Dictionary<string, string> Read(string pattern) =>
            Directory
                .GetFiles(Path.Combine(Facts.Root, "texts"), pattern)
                .SelectMany(f => JsonSerializer.Deserialize<Dictionary<string, string>>(File.ReadAllText(f))!)
                .ToDictionary();
        var (english, german) = (Read("en*.json"), Read("de*.json"));
        string[] printed =
        [
            "report.",
            "pack.",
            "verdict.",
            "state.",
            "section.",
            "leg.",
            "unit.",
            "condition.",
            "kind.",
            "severity.",
            "because.",
            "standing.",
            "stale.",
            "withdraw.",
            "expect.",
            "term.",
            "origin.",
            "material.",
            "spare.",
            "rule.",
            "honesty.",
            "glossary.",
            "month.",
            "field.",
            "act.",
            "light.",
            "sum.source.",
            "sum.supply.",
            "sum.of.readings",
            "sum.readings",
            "sum.share",
            "picture.moment.",
        ];
        var missing = english
            .Keys.Where(k =>
                printed.Any(k.StartsWith) || k.StartsWith("cause.") && !k.EndsWith(".try") || Facts.Shipped.Checks.Any(c => k == c.TextKey)
            )
            .Where(k => !german.ContainsKey(k))
            .ToList();
        Assert.Empty(missing);
        Assert.DoesNotContain(german.Keys, k => !english.ContainsKey(k) && !k.StartsWith("phrase.") && k != "format.decimal");
        foreach (var (code, text) in german.Where(g => english.ContainsKey(g.Key)))
            for (var i = 0; i < 6; i++)
                Assert.True(english[code].Contains($"{{{i}}}") || !text.Contains($"{{{i}}}"), $"{code} has {{{i}}} in German only");
        // Limits as they are printed: each purpose and source that ships.
        Assert.DoesNotContain(
            Facts.Shipped.LimitSet.Limits.SelectMany(l => new[] { l.Purpose, l.Source }),
            p => !german.ContainsKey("phrase." + p)
        );
    }
}
