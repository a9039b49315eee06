using System.Diagnostics;
using System.IO.Compression;
using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;

namespace Walkdown.Server.Tests;

/// <summary>Who knocks: pages elsewhere, other users, files made to hang or to swell, requests made of anything. Nothing gets in, and
/// nobody is answered with a 500.</summary>
public sealed class DoorTests(Site site) : IClassFixture<Site>
{
    private string Job => $"/api/jobs/{site.JobId}";

    private async Task<(int Status, string Body, HttpResponseHeaders Headers)> Ask(
        HttpMethod method,
        string path,
        string? body = null,
        string? host = null,
        params (string Name, string Value)[] headers
    )
    {
        using var request = new HttpRequestMessage(method, path);
        if (body is not null)
            request.Content = new StringContent(body, Encoding.UTF8, "application/json");
        if (host is not null)
            request.Headers.Host = host;
        foreach (var (name, value) in headers)
            request.Headers.TryAddWithoutValidation(name, value);
        using var response = await site.Http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
        var live = response.Content.Headers.ContentType?.MediaType == "text/event-stream";
        return ((int)response.StatusCode, live ? "" : await response.Content.ReadAsStringAsync(), response.Headers);
    }

    [Theory]
    [InlineData("evil.test")]
    [InlineData("localhost.evil.test")]
    [InlineData("127.0.0.1.evil.test:80")]
    [InlineData("127.0.0.2")]
    [InlineData("0.0.0.0")]
    [InlineData("[::2]")]
    public async Task AnotherNameForThisMachineReadsAndWritesNothing(string host)
    {
        var before = site.Count("SELECT count(*) FROM Journal");
        foreach (
            var (method, path) in new[]
            {
                (HttpMethod.Get, "/"),
                (HttpMethod.Get, "/api/jobs"),
                (HttpMethod.Get, "/api/seal-key"),
                (HttpMethod.Get, $"{Job}/live"),
                (HttpMethod.Post, $"{Job}/bundle"),
                (HttpMethod.Post, "/api/jobs"),
            }
        )
        {
            var (status, body, _) = await Ask(method, path, method == HttpMethod.Post ? "{}" : null, host);
            Assert.Equal(421, status);
            Assert.DoesNotContain("Ternhaven", body);
        }
        Assert.Equal(before, site.Count("SELECT count(*) FROM Journal"));
    }

    [Theory]
    [InlineData("Origin", "http://evil.test")]
    [InlineData("Origin", "null")]
    [InlineData("Origin", "http://localhost:1")]
    [InlineData("Sec-Fetch-Site", "cross-site")]
    [InlineData("Sec-Fetch-Site", "same-site")]
    public async Task APageElsewhereWritesNothingAndHearsNothing(string header, string value)
    {
        var before = site.Count("SELECT count(*) FROM Journal");
        foreach (
            var (method, path) in new[]
            {
                (HttpMethod.Post, $"{Job}/bundle"),
                (HttpMethod.Post, $"/api/progress/{Guid.NewGuid()}/cancel"),
                (HttpMethod.Post, "/api/verify"),
                (HttpMethod.Post, "/api/bundles"),
                (HttpMethod.Post, $"{Job}/people"),
                (HttpMethod.Put, $"{Job}/handover/cover"),
                (HttpMethod.Delete, $"{Job}/plan"),
                (HttpMethod.Post, $"/api/cards/{site.Stops["CC-07"]}/notes"),
                (HttpMethod.Get, $"{Job}/live"),
            }
        )
            Assert.Equal(
                (403, "problem.other-page"),
                (await Ask(method, path, "{}", null, (header, value))) is var answer && Site.Json(answer.Body) is { } problem
                    ? (answer.Status, problem["code"]!.ToString())
                    : default
            );
        Assert.Equal(before, site.Count("SELECT count(*) FROM Journal"));
    }

    [Fact]
    public async Task ALinkFromElsewhereIsFollowedAndAReadByItsPageIsNot()
    {
        Assert.Equal(
            200,
            (
                await Ask(
                    HttpMethod.Get,
                    "/healthz",
                    null,
                    null,
                    ("Sec-Fetch-Site", "cross-site"),
                    ("Sec-Fetch-Mode", "navigate"),
                    ("Sec-Fetch-Dest", "document")
                )
            ).Status
        );
        Assert.Equal(
            403,
            (await Ask(HttpMethod.Get, "/api/jobs", null, null, ("Sec-Fetch-Site", "cross-site"), ("Sec-Fetch-Mode", "no-cors"))).Status
        );
        Assert.Equal(
            403,
            (
                await Ask(
                    HttpMethod.Get,
                    "/api/jobs",
                    null,
                    null,
                    ("Sec-Fetch-Site", "cross-site"),
                    ("Sec-Fetch-Mode", "navigate"),
                    ("Sec-Fetch-Dest", "iframe")
                )
            ).Status
        );
        Assert.Equal(
            200,
            (
                await Ask(
                    HttpMethod.Get,
                    "/api/jobs",
                    null,
                    null,
                    ("Sec-Fetch-Site", "same-origin"),
                    ("Origin", site.Http.BaseAddress!.GetLeftPart(UriPartial.Authority))
                )
            ).Status
        );
    }

    [Theory]
    [InlineData("/api/jobs")]
    [InlineData("/healthz")]
    [InlineData("/api/nothing")]
    [InlineData("/nothing")]
    public async Task EveryAnswerSaysHowLittleABrowserMayDoWithIt(string path)
    {
        var (_, _, headers) = await Ask(HttpMethod.Get, path);
        Assert.Contains("frame-ancestors 'none'", headers.GetValues("Content-Security-Policy").Single());
        Assert.Equal(
            ("nosniff", "DENY", "no-referrer"),
            (
                headers.GetValues("X-Content-Type-Options").Single(),
                headers.GetValues("X-Frame-Options").Single(),
                headers.GetValues("Referrer-Policy").Single()
            )
        );
    }

    [Fact]
    public async Task TheSealingKeyLeavesByNoRequest()
    {
        foreach (
            var path in new[] { "/api/seal-key/backup", "/api/seal-key", "/seal-key.pem", "/../seal-key.pem", "/api/seal-key/private" }
        )
        foreach (var method in new[] { HttpMethod.Get, HttpMethod.Post })
            Assert.DoesNotContain(
                "PRIVATE",
                (await Ask(method, path, method == HttpMethod.Post ? "{\"passphrase\":\"attacker-chosen-1\"}" : null)).Body
            );
    }

    [Fact]
    public void FilesOfTheDataFolderAreItsOwnersAlone()
    {
        Assert.SkipWhen(OperatingSystem.IsWindows(), "The server runs on Linux.");
        if (OperatingSystem.IsWindows())
            return;
        foreach (var path in Directory.EnumerateFileSystemEntries(site.Data, "*", SearchOption.AllDirectories).Append(site.Data))
            Assert.True(
                (File.GetUnixFileMode(path) & ~(UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute)) == 0,
                $"{path}: {File.GetUnixFileMode(path)}"
            );
    }

    [Fact]
    public async Task AnotherUserOfTheMachineGetsNothing()
    {
        Assert.SkipUnless(
            Environment.UserName == "root"
                && File.Exists("/usr/sbin/runuser") | File.Exists("/sbin/runuser")
                && (File.Exists("/usr/bin/curl") || File.Exists("/bin/curl")),
            "Only root can be somebody else here."
        );
        foreach (var (user, gets) in new[] { ("root", true), ("nobody", false) })
        {
            using var process = Process.Start(
                new ProcessStartInfo(
                    "runuser",
                    ["-u", user, "--", "curl", "-s", "--max-time", "20", new Uri(site.Http.BaseAddress!, "/api/jobs").ToString()]
                )
                {
                    RedirectStandardOutput = true,
                }
            )!;
            var answer = await process.StandardOutput.ReadToEndAsync();
            await process.WaitForExitAsync();
            Assert.Equal(gets, answer.Contains("Ternhaven"));
        }
    }

    private static byte[] Zip(params (string Name, byte[] Content)[] parts)
    {
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, true))
            foreach (var (name, content) in parts)
            {
                using var part = zip.CreateEntry(name, CompressionLevel.Fastest).Open();
                part.Write(content);
            }
        return stream.ToArray();
    }

    public static TheoryData<string> Hostile() =>
        [
            "a PDF of brackets",
            "a PDF that points at itself",
            "JSON of brackets",
            "a pack of one number",
            "a pack that swells",
            "a pack of a thousand parts",
            "noise",
        ];

    [Theory]
    [MemberData(nameof(Hostile))]
    public async Task AFileMadeToHangOrToSwellIsToldFromARecord(string what)
    {
        var file = what switch
        {
            "a PDF of brackets" => Encoding.ASCII.GetBytes(
                "%PDF-1.7\n1 0 obj\n" + new string('[', 200_000) + "\nendobj\ntrailer<</Root 1 0 R>>\nstartxref\n9\n%%EOF"
            ),
            "a PDF that points at itself" => Encoding.ASCII.GetBytes(
                "%PDF-1.7\nxref\n0 1\n0000000000 65535 f\ntrailer<</Size 1/Prev 9/Root 1 0 R>>\nstartxref\n9\n%%EOF"
            ),
            "JSON of brackets" => Encoding.ASCII.GetBytes(new string('[', 500_000)),
            "a pack of one number" => Zip(("record.json", Encoding.ASCII.GetBytes("{\"a\":" + new string('9', 2_000_000) + "}"))),
            "a pack that swells" => Zip(("record.json", new byte[300_000_000])),
            "a pack of a thousand parts" => Zip([
                .. Enumerable.Range(0, 1000).Select(i => ($"cards/{i}.json", Encoding.ASCII.GetBytes("{}"))),
                ("record.json", Encoding.ASCII.GetBytes("{}")),
            ]),
            _ => [.. new Random(3).GetItems<byte>([.. Enumerable.Range(0, 256).Select(b => (byte)b)], 300_000)],
        };
        using var response = await site.Http.PostAsync(
            "/api/verify",
            new ByteArrayContent(file) { Headers = { ContentType = new("application/octet-stream") } }
        );
        var work = Site.Json(await response.Content.ReadAsStringAsync());
        work = await site.Over(work);
        Assert.True(work["state"]!.ToString() == "done", work.ToJsonString());
        Assert.NotEqual("untouched", work["checked"]!["outcome"]!.ToString());
        Assert.StartsWith("verify.", work["checked"]!["why"]!["code"]!.ToString());
        Assert.Equal(200, (await Ask(HttpMethod.Get, "/api/jobs")).Status);
    }

    /// <summary>Requests that a page could send, each value of which is exchanged for what no page sends.</summary>
    private Dictionary<string, JsonNode> Sound()
    {
        var card = $"/api/cards/{site.Stops["CC-09"]}";
        var row = site.Get(card).Result["card"]!["rows"]!.AsArray().First(r => r!["check"]!["entry"]!.ToString() == "number")![
            "id"
        ]!.ToString();
        JsonNode Entry(object body) => site.Entry(body);
        var mapping = new
        {
            headerRow = 0,
            columns = new[]
            {
                new
                {
                    column = 0,
                    heading = "Tag",
                    field = "label",
                    ignored = false,
                },
            },
            sign = "point",
            defaults = new { kind = "bullet" },
            kinds = new { x = "bullet" },
            addMissing = true,
            leftOut = new[] { 3 },
        };
        return new()
        {
            [$"{card}/readings"] = Entry(
                new
                {
                    row,
                    source = "typed",
                    text = "40",
                    found = "any",
                    value = (object?)null,
                    instrumentId = (string?)null,
                }
            ),
            [$"{card}/preview"] = Entry(
                new
                {
                    row,
                    value = new
                    {
                        kind = "number",
                        value = 40.0,
                        unit = "metre",
                    },
                }
            ),
            [$"{card}/acts"] = Entry(
                new
                {
                    kind = "re-crimp",
                    runId = Guid.NewGuid(),
                    end = "near",
                    text = "x",
                    newSerial = "S",
                    faultId = Guid.NewGuid(),
                }
            ),
            [$"{card}/notes"] = Entry(new { row, text = "x" }),
            [$"{card}/exemptions"] = Entry(new { row, reason = "x" }),
            [$"{card}/concessions"] = Entry(
                new
                {
                    row,
                    allowedBy = "x",
                    reason = "x",
                    until = "2027-01-01",
                }
            ),
            [$"{card}/rulings"] = Entry(
                new
                {
                    row,
                    says = "in",
                    ruledBy = "x",
                    reason = "x",
                }
            ),
            [$"{card}/faults"] = Entry(
                new
                {
                    row,
                    title = "x",
                    severity = "major",
                    causeId = "wrong-cable",
                }
            ),
            [$"{card}/blocks"] = Entry(
                new
                {
                    reason = "x",
                    setAside = false,
                    blockedBy = "x",
                    until = "2027-01-01",
                }
            ),
            [$"{card}/built"] = Entry(new { cells = new[] { new { field = "name", text = "x" } }, why = "x" }),
            [$"{card}/withdrawals"] = Entry(new { of = Guid.NewGuid(), reason = "x" }),
            [$"{Job}/register/edits"] = Entry(
                new
                {
                    edits = new[]
                    {
                        new
                        {
                            deviceId = site.Stops["CC-09"],
                            field = "length_m",
                            text = "40",
                        },
                    },
                    why = "x",
                }
            ),
            [$"{Job}/register/devices"] = Entry(new { values = new { label = "ZZ-1", kind = "bullet" }, why = "x" }),
            [$"{Job}/instruments"] = Entry(
                new
                {
                    name = "M",
                    serial = "S",
                    kind = "x",
                    certificate = "c",
                    functions = new[]
                    {
                        new
                        {
                            unit = "volt",
                            upTo = 60.0,
                            accuracy = new
                            {
                                percentOfReading = 1.0,
                                counts = 2,
                                resolution = 0.1,
                                absolute = 0.0,
                            },
                        },
                    },
                    calibratedOn = "2026-01-01",
                    calibrationDue = "2027-01-01",
                    retired = false,
                }
            ),
            [$"{Job}/people"] = Entry(
                new
                {
                    name = "x",
                    role = "y",
                    mayWitness = false,
                }
            ),
            [$"{Job}/imports/{Guid.NewGuid()}/preview"] = JsonNode.Parse(
                System.Text.Json.JsonSerializer.Serialize(new { sheet = 0, mapping })
            )!,
            [$"{Job}/practice/impact"] = Entry(new { rule = "guarded", scheme = "t568B" }),
            [$"{Job}/handover/revisions"] = Entry(
                new
                {
                    deviceId = (string?)null,
                    follows = 0,
                    sequence = 0,
                    signatures = new[]
                    {
                        new
                        {
                            role = "client",
                            name = "x",
                            position = "y",
                            place = "z",
                            at = DateTimeOffset.UtcNow,
                            strokes = new[] { new[] { 0.1, 0.2, 0.3, 0.4 } },
                        },
                    },
                    reservations = "",
                    languages = new[] { "en" },
                    shown = "x",
                }
            ),
            ["/api/jobs"] = Entry(
                new
                {
                    name = "x",
                    timeZone = "Europe/London",
                    rule = "guarded",
                    scheme = "t568B",
                }
            ),
            [$"/api/bundles/{Guid.NewGuid()}/take"] = Entry(new { key = "x", by = "y" }),
        };
    }

    private static readonly Func<JsonNode?>[] Strange =
    [
        () => null,
        () => "",
        () => " ",
        () => "\0",
        () => "\ud83d\ude80\u202e\ufeff",
        () => new string('x', 20_000),
        () => -1,
        () => 0,
        () => 1e308,
        () => 99999999999999L,
        () => 0.1,
        () => true,
        () => new JsonArray(),
        () => new JsonObject(),
        () => new JsonArray(null, 1, "x"),
        () => "\uff14\uff15",
        () => "2026-02-31",
        () => "00000000-0000-0000-0000-000000000000",
        () => "../../etc/passwd",
        () => "'; DROP TABLE Jobs;--",
        () => new JsonObject { ["kind"] = "number" },
        () => "NaN",
    ];

    [Fact]
    public async Task RequestsMadeOfAnythingAreAnsweredInWords()
    {
        var dice = new Random(28 + Rounds);
        var bad = new List<string>();
        foreach (var (path, sound) in Sound())
            for (var n = 0; n < Rounds; n++)
            {
                var body = sound.DeepClone();
                for (var changes = dice.Next(1, 4); changes > 0; changes--)
                    Change(body, dice);
                var (status, answer, _) = await Ask(HttpMethod.Post, path, body.ToJsonString());
                if (status >= 500 || status is >= 400 && !answer.Contains("\"detail\""))
                    bad.Add($"{status} {path} {body.ToJsonString()[..Math.Min(400, body.ToJsonString().Length)]} {answer}");
            }
        Assert.True(bad.Count == 0, string.Join('\n', bad.Take(10)));
        Assert.Equal(200, (await Ask(HttpMethod.Get, $"/api/cards/{site.Stops["CC-09"]}")).Status);
    }

    /// <summary>So many of each request; a longer session asks for more by WALKDOWN_ROUNDS.</summary>
    private static int Rounds => int.TryParse(Environment.GetEnvironmentVariable("WALKDOWN_ROUNDS"), out var rounds) ? rounds : 90;

    private static void Change(JsonNode body, Random dice)
    {
        var at = body;
        while (true)
        {
            var strange = Strange[dice.Next(Strange.Length)];
            if (at is JsonObject { Count: > 0 } o)
            {
                var key = o.ElementAt(dice.Next(o.Count)).Key;
                if (
                    o[key] is JsonObject or JsonArray
                    && dice.Next(3) > 0
                    && (o[key] is JsonObject { Count: > 0 } || o[key] is JsonArray { Count: > 0 })
                )
                    at = o[key]!;
                else
                {
                    if (dice.Next(6) == 0)
                        o.Remove(key);
                    else
                        o[key] = strange();
                    return;
                }
            }
            else if (at is JsonArray { Count: > 0 } a)
            {
                var i = dice.Next(a.Count);
                if (a[i] is JsonObject { Count: > 0 } && dice.Next(3) > 0)
                    at = a[i]!;
                else
                {
                    a[i] = strange();
                    return;
                }
            }
            else
                return;
        }
    }

    [Fact]
    public async Task OddAddressesAreAnsweredInWords()
    {
        foreach (
            var path in new[]
            {
                $"{Job}/find?q=%00",
                $"{Job}/find?q=%EF%BC%94",
                $"{Job}/walk/changes?after=99999999999999999999",
                $"{Job}/walk/changes?after=-1",
                $"/api/cards/{site.Stops["CC-09"]}/trace?row=%00",
                $"{Job}/handover/sums/%2e%2e",
                $"{Job}/handover/revisions/{Guid.NewGuid()}/..%2f..%2fseal-key.pem",
                "/api/cards/x",
                "/api/%00",
            }
        )
        {
            var (status, _, _) = await Ask(HttpMethod.Get, path);
            Assert.True(status < 500, $"{status} {path}");
        }
    }

    [Fact]
    public async Task EntriesOfAnOfflineDayEndTheSameInAnyOrderAndTwice()
    {
        var card = $"/api/cards/{site.Stops["CC-11"]}";
        var rows = (await site.Get(card))["card"]!["rows"]!
            .AsArray()
            .Where(r =>
                r!["check"]!["entry"]!.ToString() == "number"
                && r["check"]!["unit"]!.ToString() is "ohm" or "metre" or "volt"
                && r["heldBy"]!.AsArray().Count == 0
            )
            .Select(r => r!["id"]!.ToString())
            .Take(6)
            .ToList();
        var begin = DateTimeOffset.UtcNow.AddHours(-3);
        var entries = Enumerable
            .Range(0, 120)
            .Select(n =>
            {
                var entry = site.Entry(
                    new
                    {
                        row = rows[n % rows.Count],
                        source = "typed",
                        text = (1 + n / 10.0).ToString("0.0", System.Globalization.CultureInfo.InvariantCulture),
                    }
                );
                entry["takenAt"] = begin.AddMinutes(n).ToString("O");
                return entry;
            })
            .ToArray();
        var dice = new Random(7);
        dice.Shuffle(entries);
        foreach (var entry in entries)
        {
            var (status, answer) = await site.Post($"{card}/readings", entry);
            Assert.True(status == 200, answer.ToJsonString());
        }
        var once = await Counting();
        var lines = site.Count("SELECT count(*) FROM Journal");
        // The last one taken counts, whenever it arrived.
        Assert.Equal(rows.Select((_, i) => Math.Round(1 + (119 - (119 - i) % rows.Count) / 10.0, 1)).ToList(), once);
        dice.Shuffle(entries);
        foreach (var entry in entries)
            Assert.Equal(200, (await site.Post($"{card}/readings", entry)).Status);
        Assert.Equal(once, await Counting());
        Assert.Equal(lines, site.Count("SELECT count(*) FROM Journal"));

        async Task<List<double>> Counting() =>
            [
                .. (await site.Get(card))["card"]!["rows"]!
                    .AsArray()
                    .Where(r => rows.Contains(r!["id"]!.ToString()))
                    .Select(r =>
                        r!["attempts"]!.AsArray().Single(a => a!["readingId"]?.ToString() == r["counts"]?.ToString())!["value"]![
                            "value"
                        ]!.GetValue<double>()
                    ),
            ];
    }
}
