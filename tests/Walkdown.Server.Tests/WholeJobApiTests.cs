using System.Text.Json.Nodes;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Tests;

/// <summary>What a job covers, its schools, and what waits, through the real server and its file.</summary>
public sealed class WholeJobApiTests(Site site) : IClassFixture<Site>
{
    private string Job => $"/api/jobs/{site.JobId}";

    private async Task Put(Site on, object settings)
    {
        var (status, work) = await on.Post(
            $"/api/jobs/{on.JobId}/practice",
            new
            {
                settings,
                why = "the fixing is ours too",
                by = on.Ina,
            }
        );
        Assert.True(status == 200, work.ToJsonString());
        Assert.Equal("done", (await on.Over(work))["state"]!.ToString());
    }

    private static object Covering(params string[] parts) =>
        new
        {
            rule = "guarded",
            scheme = "t568B",
            scope = new { parts },
        };

    private static async Task<JsonNode> Stop(Site on, string label) =>
        (await on.Get($"/api/jobs/{on.JobId}/walk"))["areas"]!
            .AsArray()
            .SelectMany(a => a!["stops"]!.AsArray())
            .Single(s => s!["label"]!.ToString() == label)!;

    /// <summary>All that is due but what cures, of a camera of which only the fixing is covered.</summary>
    private static async Task Fix(Site on, string label, TimeSpan ago)
    {
        var rows = (await on.Card(label))["card"]!["rows"]!.AsArray().Where(r => r!["required"]!.GetValue<bool>()).ToList();
        // Lanyards before what they hold.
        foreach (var row in rows.OrderBy(r => r!["key"]!["check"]!.ToString() == "fixing.hung"))
        {
            var check = row!["key"]!["check"]!.ToString();
            if (check == "fixing.cured")
                continue;
            var picture = Guid.CreateVersion7().ToString();
            if (row["check"]!["picture"]!.GetValue<bool>())
            {
                using var content = new ByteArrayContent(HandoverTests.Picture(90));
                content.Headers.ContentType = new("application/octet-stream");
                var taken = Uri.EscapeDataString(DateTimeOffset.UtcNow.ToString("O"));
                using var sent = await on.Http.PostAsync(
                    $"/api/cards/{on.Stops[label]}/pictures?id={picture}&by={on.Ina}&takenAt={taken}&clockOffsetMs=0",
                    content
                );
                Assert.True(sent.IsSuccessStatusCode, await sent.Content.ReadAsStringAsync());
            }
            object value = row["check"]!["entry"]!.ToString() switch
            {
                "yesNo" => new { kind = "yesNo", yes = true },
                "items" => new
                {
                    kind = "items",
                    items = row["items"]!.AsArray().Select(i => new { item = i!["id"]!.ToString(), state = "fitted" }).ToArray(),
                },
                "number" => new
                {
                    kind = "number",
                    // Within both ends, and far enough from either.
                    value = (row["window"]!["min"]?.GetValue<double>(), row["window"]!["max"]?.GetValue<double>()) switch
                    {
                        ({ } min, { } max) => (min + max) / 2,
                        ({ } min, null) => min + 5,
                        _ => 0,
                    },
                    unit = row["check"]!["unit"]!.ToString(),
                },
                "form" => Form(row),
                _ => new
                {
                    kind = "choice",
                    choice = row["expected"]?["word"]?.ToString() ?? row["check"]!["good"]![0]!["word"]!.ToString(),
                },
            };
            var entry = on.Entry(
                new
                {
                    row = row["id"]!.ToString(),
                    source = "typed",
                    value,
                    evidence = row["check"]!["picture"]!.GetValue<bool>() ? new[] { new { pictureId = picture } } : null,
                }
            );
            entry["takenAt"] = (DateTimeOffset.UtcNow - ago).ToString("O");
            var (status, answer) = await on.Post($"/api/cards/{on.Stops[label]}/readings", entry);
            Assert.True(status == 200, check + answer.ToJsonString());
        }
    }

    /// <summary>The mount as the schedule says, the cables out of the surface.</summary>
    private static object Form(JsonNode row)
    {
        string Word(JsonNode field) =>
            field["id"]!.ToString() switch
            {
                "surface" => "wall",
                "route" => "inside",
                "extra" => "none",
                "box" => "yes",
                _ => field["words"]![0]!.ToString(),
            };
        return new
        {
            kind = "form",
            lines = new[]
            {
                new { said = row["check"]!["fields"]!.AsArray().Select(f => new { field = f!["id"]!.ToString(), word = Word(f) }) },
            },
        };
    }

    [Fact]
    public async Task WhatWaitsIsPassedOverOnTheWalkAlsoAfterARestartAndComesBackByItself()
    {
        var data = Directory.CreateTempSubdirectory("walkdown-test-").FullName;
        var before = Site.On(data);
        await Put(before, Covering("fixing"));
        await Fix(before, "GT-02", TimeSpan.Zero);
        // Sealed the day before yesterday: it can be gone on with.
        await Fix(before, "GT-04", TimeSpan.FromHours(50));
        before.Stop();
        using var after = Site.On(data);
        var waits = await Stop(after, "GT-02");
        var until = DateTimeOffset.Parse(waits["waitsUntil"]!.ToString(), System.Globalization.CultureInfo.InvariantCulture);
        Assert.InRange(until - DateTimeOffset.UtcNow, TimeSpan.FromHours(23), TimeSpan.FromHours(24));
        Assert.Null((await Stop(after, "GT-04"))["waitsUntil"]);
        var card = await after.Card("GT-02");
        Assert.Equal("open", card["card"]!["verdict"]!["verdict"]!.ToString());
        Assert.Null(card["card"]!["nextRow"]);
        Assert.Equal(
            Site.Row(await after.Card("GT-04"), "fixing.cured")["id"]!.ToString(),
            (await after.Card("GT-04"))["card"]!["nextRow"]!.ToString()
        );
        Assert.NotEqual(after.Stops["GT-02"], (await after.Get($"/api/jobs/{after.JobId}/walk"))["next"]!["id"]!.ToString());
        // Taken before its time it is kept, and says why it counts for nothing.
        var early = await after.Add(
            "GT-02",
            "readings",
            new
            {
                row = Site.Row(card, "fixing.cured")["id"]!.ToString(),
                source = "typed",
                value = new { kind = "yesNo", yes = true },
            }
        );
        Assert.Contains("because.too-early", early.ToJsonString());
        var done = await after.Add(
            "GT-04",
            "readings",
            new
            {
                row = Site.Row(await after.Card("GT-04"), "fixing.cured")["id"]!.ToString(),
                source = "typed",
                value = new { kind = "yesNo", yes = true },
            }
        );
        Assert.Contains("\"verdict\":\"accepted", done.ToJsonString());
        Assert.Equal(["fixing"], (await after.Card("GT-04"))["card"]!["verdict"]!["parts"]!.AsArray().Select(p => p!.ToString()));
    }

    /// <summary>Jobs from before schools were data say theirs in four columns; of what cannot be read the stricter holds.</summary>
    [Fact]
    public void AnOlderJobWorksAsItDidAndAnUnreadableOneCoversAll()
    {
        Job Of(string? sides = null, string? scope = null) =>
            new()
            {
                Name = "Ternhaven, before",
                TimeZone = "Europe/London",
                Rule = DecisionRule.Simple,
                BenchFirst = true,
                UnexpectedRefuses = true,
                SidesJson = sides,
                ScopeJson = scope,
            };
        var before = KeptPractice.Of(Of());
        Assert.Equal(["first-try=bench", "unexpected=refuses"], before.Sides.Select(s => $"{s.Key}={s.Value}"));
        Assert.True(before.Scope.IsFormer);
        // Once it says its sides itself, the columns say nothing.
        Assert.Empty(KeptPractice.Of(Of("{}")).Sides);
        foreach (var scope in new[] { "{", "null", "{\"parts\":null}", "{\"parts\":[\"roof\"]}", "[1]" })
            Assert.Equal(WorkScope.Whole.Parts, KeptPractice.Of(Of("{}", scope)).Scope.Parts);
        Assert.Equal(before.Sides, KeptPractice.Of(Of("{")).Sides);
        // What is kept comes back as it was.
        var job = Of();
        var now = before.Taking("paint", "box") with
        {
            Scope = new([Section.Cable], WorkScope.Whole.ByKind.Add("recorder", [Section.Time])),
        };
        KeptPractice.Keep(job, now);
        Assert.Equal(now, KeptPractice.Of(job));
    }

    [Fact]
    public async Task SidesAndScopeAreKeptAndWhatCannotBeIsRefusedInWords()
    {
        var first = await site.Get($"{Job}/practice");
        Assert.Null(first["settings"]!["scope"]);
        Assert.Equal(
            first["schools"]!.AsArray().Select(s => s!["id"]!.ToString()).Order(),
            first["settings"]!["sides"]!.AsObject().Select(s => s.Key).Order()
        );
        await Put(
            site,
            new
            {
                rule = "guarded",
                scheme = "t568B",
                sides = new Dictionary<string, string> { ["paint"] = "box" },
                scope = new { parts = new[] { "power", "cable" }, byKind = new Dictionary<string, string[]> { ["recorder"] = [] } },
            }
        );
        var kept = (await site.Get($"{Job}/practice"))["settings"]!;
        Assert.Equal("box", kept["sides"]!["paint"]!.ToString());
        Assert.Equal(["cable", "power"], kept["scope"]!["parts"]!.AsArray().Select(p => p!.ToString()));
        Assert.Empty(kept["scope"]!["byKind"]!["recorder"]!.AsArray());
        // A recorder of which nothing is covered asks for nothing.
        Assert.DoesNotContain((await site.Card("R-1"))["card"]!["rows"]!.AsArray(), r => r!["required"]!.GetValue<bool>());
        foreach (
            var (code, sides, scope) in new (string, object?, object?)[]
            {
                ("practice.unknown-side", new { paint = "gold" }, null),
                ("practice.unknown-side", new { feng = "shui" }, null),
                ("practice.empty-scope", null, new { parts = Array.Empty<string>() }),
                ("problem.unreadable", null, new { parts = (string[]?)null }),
                ("problem.unreadable", null, new { }),
                ("problem.unreadable", null, new { parts = new[] { "roof" } }),
                ("problem.unreadable", null, new { parts = new[] { "cable" }, byKind = new { recorder = (string[]?)null } }),
                ("practice.unknown-kind", null, new { parts = new[] { "cable" }, byKind = new { toaster = new[] { "cable" } } }),
            }
        )
        foreach (var door in new[] { "practice", "practice/impact" })
        {
            object settings = new
            {
                rule = "guarded",
                scheme = "t568B",
                sides,
                scope,
            };
            var (status, answer) = await site.Post(
                $"{Job}/{door}",
                door == "practice"
                    ? new
                    {
                        settings,
                        why = "x",
                        by = site.Ina,
                    }
                    : settings
            );
            Assert.Equal((code.StartsWith("practice", StringComparison.Ordinal) ? 422 : 400, code), (status, answer["code"]!.ToString()));
        }
        Assert.Equal("box", (await site.Get($"{Job}/practice"))["settings"]!["sides"]!["paint"]!.ToString());
        await Put(site, new { rule = "guarded", scheme = "t568B" });
    }
}
