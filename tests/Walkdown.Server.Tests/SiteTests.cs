using System.Diagnostics;
using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.Data.Sqlite;
using MiniExcelLibs;
using UglyToad.PdfPig;
using Walkdown.Storage;

namespace Walkdown.Server.Tests;

/// <summary>A real site: schedules as they come, what changes on site, people and instruments, practice, plan and backup; through the real
/// server.</summary>
public sealed class SiteTests(Site site) : IClassFixture<Site>
{
    private string Job => $"/api/jobs/{site.JobId}";

    private async Task<(int Status, JsonNode Body)> Upload(byte[] file, string name = "list.xlsx", string? job = null)
    {
        using var response = await site.Http.PostAsync(
            $"/api/jobs/{job ?? site.JobId}/imports?name={name}",
            new ByteArrayContent(file) { Headers = { ContentType = new("application/octet-stream") } }
        );
        return ((int)response.StatusCode, Site.Json(await response.Content.ReadAsStringAsync()));
    }

    private static byte[] Book(params object[][] rows)
    {
        using var stream = new MemoryStream();
        stream.SaveAs(
            rows.Select(r => Enumerable.Range(0, rows.Max(x => x.Length)).ToDictionary(i => $"C{i}", i => i < r.Length ? r[i] : null)),
            printHeader: false
        );
        return stream.ToArray();
    }

    private async Task<string> NewJob()
    {
        var id = Guid.CreateVersion7().ToString();
        Assert.Equal(
            200,
            (
                await site.Post(
                    "/api/jobs",
                    new
                    {
                        id,
                        name = "Ternhaven, a test",
                        timeZone = "Europe/London",
                        rule = "guarded",
                        scheme = "t568B",
                    }
                )
            ).Status
        );
        return id;
    }

    private async Task<JsonNode> Take(string job, JsonNode upload, int sheet = 0, Action<JsonNode>? change = null)
    {
        var mapping = upload["sheets"]![sheet]!["proposed"]!.DeepClone();
        change?.Invoke(mapping);
        var (status, preview) = await site.Post($"/api/jobs/{job}/imports/{upload["id"]}/preview", new { sheet, mapping });
        Assert.True(status == 200, preview.ToJsonString());
        if (preview["problemCount"]!.GetValue<int>() > 0)
            return preview;
        var (taken, work) = await site.Post(
            $"/api/jobs/{job}/imports/{upload["id"]}/take",
            new
            {
                sheet,
                mapping,
                basis = preview["basis"]!.GetValue<long>(),
                by = (string?)null,
            }
        );
        Assert.Equal(200, taken);
        return await site.Over(work);
    }

    /// <summary>Whatever records has channels: a bridge as much as a recorder, by its kind's features and not by its name; a camera has
    /// none.</summary>
    [Fact]
    public async Task ABridgeAndARadioRecorderHaveChannelsAsARecorderHas()
    {
        var job = await NewJob();
        string[] heading = ["Cam No", "Type", "Fed from", "Switch port", "NVR", "Ch"];
        var (_, upload) = await Upload(
            Book(
                heading,
                ["LX-1", "Turret", "N1", 3, "CB-1", 1],
                ["LX-2", "PTZ", "N1", 4, "RR-1", 1],
                ["CB-1", "Cloud bridge", "N1", 1],
                ["RR-1", "Radio recorder", "N1", 2]
            ),
            job: job
        );
        var work = await Take(job, upload);
        Assert.True(work["state"]?.ToString() == "done", work.ToJsonString());
        var recorders = (await site.Get($"/api/jobs/{job}/recorders"))["recorders"]!.AsArray();
        Assert.Equal(["CB-1", "RR-1"], recorders.Select(r => r!["label"]!.ToString()).Order());
        var bridge = recorders.Single(r => r!["label"]!.ToString() == "CB-1")!["id"]!.ToString();
        var rows = (await site.Get($"/api/cards/{bridge}"))["card"]!["rows"]!.AsArray();
        Assert.Subset(
            rows.Select(r => r!["key"]!["check"]!.ToString()).ToHashSet(),
            new HashSet<string> { "recorder.line", "bridge.two-sides", "bridge.attached", "recorder.store", "recorder.told" }
        );
        // A camera keeps nobody's channel.
        var (_, wrong) = await Upload(Book(heading, ["LX-3", "Turret", "N1", 5, "LX-1", 1]), job: job);
        var refused = await Take(job, wrong);
        Assert.True(refused["problemCount"]!.GetValue<int>() > 0, refused.ToJsonString());
    }

    [Fact]
    public async Task AWorkbookOfAnyHabitIsTakenAndComesOutTheSame()
    {
        var job = await NewJob();
        var (status, upload) = await Upload(
            Book(
                ["Ternhaven, issue C"],
                ["Cam No", "Description", "Type", "Fed from", "Switch port", "Length", "NVR", "Ch", "Remark"],
                ["LX-1", "South gate", "Turret", "N1", 3, 62.5, "NV", 1, "=1+1"],
                ["LX-2", "North gate", "PTZ", "N1", 4, "1.062,5", "NV", 2, ""]
            ),
            job: job
        );
        Assert.Equal(200, status);
        var work = await Take(job, upload);
        Assert.True(work["state"]?.ToString() == "done", work.ToJsonString());
        Assert.Equal(3, work["outcome"]!["added"]!.GetValue<int>());
        var csv = await site.Http.GetStringAsync($"/api/jobs/{job}/schedule.csv");
        Assert.Contains("LX-2,North gate,Site,pan-tilt-zoom", csv);
        Assert.Contains("1062.5", csv);
        Assert.Contains("'=1+1", csv);
        Assert.DoesNotContain(",=1+1", csv);

        // What went out comes in again, in both formats, and changes nothing.
        foreach (var name in new[] { "schedule.csv", "schedule.xlsx" })
        {
            var (again, back) = await Upload(await site.Http.GetByteArrayAsync($"/api/jobs/{job}/{name}"), name, job);
            Assert.Equal(200, again);
            var (_, preview) = await site.Post(
                $"/api/jobs/{job}/imports/{back["id"]}/preview",
                new { sheet = 0, mapping = back["sheets"]![0]!["proposed"] }
            );
            Assert.Equal(
                (0, 0, 3, 0),
                (
                    preview["added"]!.GetValue<int>(),
                    preview["problemCount"]!.GetValue<int>(),
                    preview["same"]!.GetValue<int>() + preview["changed"]!.GetValue<int>(),
                    preview["notInFile"]!.GetValue<int>()
                )
            );
        }
    }

    [Fact]
    public async Task AFileOfAddressesAloneChangesAddressesAlone()
    {
        var job = await NewJob();
        var (_, first) = await Upload(
            Book(
                ["Cam No", "Description", "Type", "Fed from", "Switch port", "NVR", "Ch", "IP"],
                ["LX-1", "South gate", "Turret", "N1", 3, "NV", 1, "10.46.8.21"],
                ["LX-2", "North gate", "PTZ", "N1", 4, "NV", 2, "10.46.8.22"]
            ),
            job: job
        );
        Assert.Equal("done", (await Take(job, first))["state"]!.ToString());
        var before = await site.Http.GetStringAsync($"/api/jobs/{job}/schedule.csv");
        var (status, addresses) = await Upload("label,address\nLX-2,10.46.8.122\n"u8.ToArray(), "addresses.csv", job);
        Assert.Equal(200, status);
        var work = await Take(job, addresses);
        Assert.True(work["state"]?.ToString() == "done", work.ToJsonString());
        var after = await site.Http.GetStringAsync($"/api/jobs/{job}/schedule.csv");
        Assert.Equal(before.Replace("10.46.8.22", "10.46.8.122", StringComparison.Ordinal), after);

        // Who is not there cannot be added without saying what he is; and nothing of the file is taken.
        async Task<string[]> Wrong(string text)
        {
            var (_, upload) = await Upload(System.Text.Encoding.UTF8.GetBytes(text), "addresses.csv", job);
            var told = await Take(job, upload);
            return [.. told["problems"]!.AsArray().Select(p => $"{p!["row"]} {p["column"]}: {p["what"]}")];
        }
        Assert.Equal(
            ["3 label: LX-9 is not in the register, and the file does not say what it is."],
            await Wrong("label,address\nLX-2,10.46.8.123\nLX-9,10.46.8.124\n")
        );
        Assert.Equal(
            ["3 label: N1 is a cabinet, and the file does not say so."],
            await Wrong("label,address\nLX-2,10.46.8.123\nN1,10.46.8.124\n")
        );
        // Where it knows none of them it is the column that is missing.
        Assert.Equal(["1 kind: The column 'kind' is missing."], await Wrong("label,address\nLX-8,10.46.8.125\nLX-9,10.46.8.124\n"));
        Assert.Equal(after, await site.Http.GetStringAsync($"/api/jobs/{job}/schedule.csv"));
    }

    [Theory]
    [InlineData("utf-8", ',', false)]
    [InlineData("utf-8", ';', true)]
    [InlineData("utf-16", '\t', false)]
    [InlineData("windows-1252", ';', false)]
    public async Task EveryCommonTextFileIsRead(string encoding, char separator, bool mark)
    {
        Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);
        var text = "Tag,Place,Type,Length m\nTX-1,Südtor,Bullet,62.5\n".Replace(',', separator);
        var chosen = encoding == "utf-16" ? Encoding.Unicode : Encoding.GetEncoding(encoding);
        var (status, upload) = await Upload(
            [
                .. mark || encoding == "utf-16" ? (mark ? new UTF8Encoding(true).GetPreamble() : chosen.GetPreamble()) : [],
                .. chosen.GetBytes(text),
            ],
            "list.csv"
        );
        Assert.Equal(200, status);
        Assert.Equal("Südtor", upload["sheets"]![0]!["sample"]![1]![1]!.ToString());
        Assert.Equal(
            ["label", "name", "kind", "length_m"],
            upload["sheets"]![0]!["proposed"]!["columns"]!.AsArray().Select(c => c!["field"]!.ToString())
        );
    }

    public static TheoryData<string, byte[]> BadFiles()
    {
        using var bomb = new MemoryStream();
        using (var zip = new ZipArchive(bomb, ZipArchiveMode.Create, true))
        {
            using (var book = zip.CreateEntry("xl/workbook.xml").Open())
                book.Write("<workbook/>"u8);
            using var sheet = zip.CreateEntry("xl/worksheets/sheet1.xml").Open();
            var zeros = new byte[1 << 20];
            for (var n = 0; n < 420; n++)
                sheet.Write(zeros);
        }
        var sound = Book(["Tag", "Type"], ["A", "Turret"]);
        return new()
        {
            { "sheet.empty", [] },
            { "sheet.locked-or-old", [0xD0, 0xCF, 0x11, 0xE0, 0xA1, 0xB1, 0x1A, 0xE1, 0, 0] },
            { "sheet.pdf", "%PDF-1.7"u8.ToArray() },
            { "sheet.broken-workbook", sound[..(sound.Length / 2)] },
            { "sheet.empty", bomb.ToArray() },
            { "sheet.not-a-table", [1, 0, 2, 3, 0, 0, 4, 1, 1, 0, 9, 1] },
        };
    }

    [Theory]
    [MemberData(nameof(BadFiles))]
    public async Task ABadFileIsRefusedInWords(string code, byte[] file)
    {
        var (status, problem) = await Upload(file);
        Assert.Equal((422, code), (status, problem["code"]!.ToString()));
        Assert.True(problem["detail"]!.ToString().Length > 20);
    }

    [Fact]
    public async Task WhatWasChosenIsRememberedAndTwoPeopleDoNotRunEachOtherOver()
    {
        var job = await NewJob();
        var file = Book(["Kenning", "Bauart"], ["MX-1", "Guckauge"]);
        void Choose(JsonNode mapping)
        {
            mapping["columns"]![0]!["field"] = "label";
            mapping["columns"]![1]!["field"] = "kind";
            mapping["kinds"]!["Guckauge"] = "ball";
        }

        var (_, first) = await Upload(file, job: job);
        var (_, second) = await Upload(Book(["Kenning", "Bauart"], ["MX-2", "Guckauge"]), job: job);
        Assert.Null(second["sheets"]![0]!["proposed"]!["columns"]![0]!["field"]);
        var mapping = second["sheets"]![0]!["proposed"]!.DeepClone();
        Choose(mapping);
        var (_, looked) = await site.Post($"/api/jobs/{job}/imports/{second["id"]}/preview", new { sheet = 0, mapping });
        Assert.Equal("done", (await Take(job, first, 0, Choose))["state"]!.ToString());
        var (_, late) = await site.Post(
            $"/api/jobs/{job}/imports/{second["id"]}/take",
            new
            {
                sheet = 0,
                mapping,
                basis = looked["basis"]!.GetValue<long>(),
            }
        );
        late = await site.Over(late);
        Assert.Equal("failed", late["state"]!.ToString());
        Assert.Contains("changed since you looked", late["why"]!.ToString());
        Assert.Equal(1, site.Count($"SELECT count(*) FROM Devices WHERE JobId={Site.Bytes(job)}"));

        var (_, third) = await Upload(Book(["KENNING", "bauart"], ["MX-3", "Guckauge"]), job: job);
        Assert.Equal(["label", "kind"], third["sheets"]![0]!["proposed"]!["columns"]!.AsArray().Select(c => c!["field"]!.ToString()));
        Assert.Equal("ball", third["sheets"]![0]!["kindWords"]![0]!["kind"]!.ToString());

        // It is this job's habit, and not another's; jobs of one client share theirs.
        var other = await NewJob();
        var (_, fourth) = await Upload(Book(["Kenning", "Camera"], ["MX-4", "x"]), job: other);
        Assert.Equal([null, "label"], fourth["sheets"]![0]!["proposed"]!["columns"]!.AsArray().Select(c => c!["field"]?.ToString()));
        async Task ClientIs(string id)
        {
            using var put = await site.Http.PutAsJsonAsync(
                $"/api/jobs/{id}/handover/cover",
                new
                {
                    contract = "",
                    specification = "",
                    standards = "",
                    contractor = "",
                    client = "Ternhaven Ports",
                    site = "",
                    remarks = "",
                }
            );
            Assert.Equal(HttpStatusCode.OK, put.StatusCode);
        }

        var (one, two) = (await NewJob(), await NewJob());
        await ClientIs(one);
        await ClientIs(two);
        var (_, mine) = await Upload(Book(["Kenning", "Bauart"], ["MX-5", "Guckauge"]), job: one);
        Assert.Equal("done", (await Take(one, mine, 0, Choose))["state"]!.ToString());
        var (_, theirs) = await Upload(Book(["Kenning", "Bauart"], ["MX-6", "Guckauge"]), job: two);
        Assert.Equal(["label", "kind"], theirs["sheets"]![0]!["proposed"]!["columns"]!.AsArray().Select(c => c!["field"]!.ToString()));
    }

    [Fact]
    public async Task ARowIsLeftOutOrTakenByChoiceAndWhatIsNoDeviceIsSaid()
    {
        var job = await NewJob();
        var file = Encoding.UTF8.GetBytes(
            "Device ID,Type,Status,Port\nV-01,Turret,,\nV-02,Turret,deleted,\nV-03,Turret,,1/7\nPage 1 of 1,,,\n"
        );
        var (_, upload) = await Upload(file, "list.csv", job);
        var asked = await Take(job, upload);
        Assert.Equal(
            [("3", true), ("4", false)],
            asked["problems"]!.AsArray().Select(p => (p!["row"]!.ToString(), p["mayTake"]!.GetValue<bool>()))
        );
        Assert.Equal("a page line", Assert.Single(asked["passed"]!.AsArray())!["why"]!.ToString());
        var taken = await Take(
            job,
            upload,
            0,
            m =>
            {
                m["leftOut"] = new JsonArray(4);
                m["takenAnyway"] = new JsonArray(3);
            }
        );
        Assert.Equal("done", taken["state"]!.ToString());
        Assert.Equal(2, site.Count($"SELECT count(*) FROM Devices WHERE JobId={Site.Bytes(job)}"));
    }

    [Fact]
    public async Task WhatIsBuiltOtherwiseIsSeenJudgedPrintedAndSurvivesANewSchedule()
    {
        await site.ReadAll("CC-12");
        var before = await site.Card("CC-12");
        Assert.Equal("accepted", before["card"]!["verdict"]!["verdict"]!.ToString());
        var metres =
            double.Parse(
                (await site.Get($"/api/cards/{site.Stops["CC-12"]}/register"))["values"]!["length_m"]!.ToString(),
                System.Globalization.CultureInfo.InvariantCulture
            ) + 0.5;
        var built = metres.ToString("R", System.Globalization.CultureInfo.InvariantCulture);
        var card = await site.Add(
            "CC-12",
            "built",
            new
            {
                cells = new[] { new { field = "length_m", text = built.Replace('.', ',') + " m" }, new { field = "port", text = "23" } },
                why = "port was dead",
            }
        );
        var differences = card["place"]!["differences"]!.AsArray();
        Assert.Equal(["length_m", "port"], differences.Select(d => d!["field"]!.ToString()).Order());
        Assert.Equal("asBuilt", Site.Row(card, "cable.length")["expected"]!["from"]![0]!["origin"]!.ToString());

        // Another port: what was read of power and link is of the old one.
        Assert.Equal("stale", Site.Row(card, "link.speed")["state"]!.ToString());
        Assert.Equal("open", card["card"]!["verdict"]!["verdict"]!.ToString());
        using var pdf = PdfDocument.Open(await site.Http.GetByteArrayAsync($"/api/cards/{site.Stops["CC-12"]}/report.pdf"));
        var text = string.Join(" ", pdf.GetPages().SelectMany(p => p.GetWords()).Select(w => w.Text));
        Assert.Contains("port was dead", text);
        Assert.Contains("built " + built, text);

        // A newer schedule changes the plan, and what was built stays.
        var row = (await File.ReadAllLinesAsync(Path.Combine(Site.Root, "demo", "schedule.csv")))
            .Where(l =>
                l.StartsWith("label,", StringComparison.Ordinal)
                || l.StartsWith("K2,", StringComparison.Ordinal)
                || l.StartsWith("R-", StringComparison.Ordinal)
                || l.StartsWith("CC-12,", StringComparison.Ordinal)
            )
            .Select(l =>
                l.StartsWith("CC-12,", StringComparison.Ordinal)
                    ? System.Text.RegularExpressions.Regex.Replace(l, @"permanent-link,[\d.]+", "permanent-link,44")
                    : l
            );
        using var response = await site.Http.PostAsync(
            $"{Job}/schedule",
            new ByteArrayContent(Encoding.UTF8.GetBytes(string.Join('\n', row))) { Headers = { ContentType = new("text/csv") } }
        );
        var outcome = Site.Json(await response.Content.ReadAsStringAsync());
        Assert.Equal((200, 1), ((int)response.StatusCode, outcome["changed"]!.GetValue<int>()));
        Assert.True(outcome["devices"]![0]!["changes"]![0]!["kept"]!.GetValue<bool>());
        var register = await site.Get($"/api/cards/{site.Stops["CC-12"]}/register");
        Assert.Equal(("44", built), (register["planned"]!["length_m"]!.ToString(), register["values"]!["length_m"]!.ToString()));
        Assert.Equal(3, register["changes"]!.AsArray().Count);
    }

    [Fact]
    public async Task EditsOfTheTableAreTakenTogetherOrNotAtAll()
    {
        var (a, b) = (site.Stops["PT-01"], site.Stops["PT-02"]);
        var (status, problem) = await site.Post(
            $"{Job}/register/edits",
            site.Entry(
                new
                {
                    edits = new[]
                    {
                        new
                        {
                            deviceId = a,
                            field = "name",
                            text = "Gangway, moved",
                        },
                        new
                        {
                            deviceId = b,
                            field = "address",
                            text = "10.46.8.999",
                        },
                        new
                        {
                            deviceId = b,
                            field = "kind",
                            text = "periscope",
                        },
                    },
                }
            )
        );
        Assert.Equal(422, status);
        Assert.Equal(["address", "kind"], problem["cells"]!.AsArray().Select(c => c!["field"]!.ToString()));
        Assert.NotEqual("Gangway, moved", (await site.Card("PT-01"))["place"]!["name"]!.ToString());
        var good = site.Entry(
            new
            {
                edits = new[]
                {
                    new
                    {
                        deviceId = a,
                        field = "name",
                        text = "Gangway, moved",
                    },
                    new
                    {
                        deviceId = b,
                        field = "port",
                        text = "K3/19",
                    },
                },
            }
        );
        Assert.Equal(422, (await site.Post($"{Job}/register/edits", good)).Status);
        good["id"] = Guid.CreateVersion7().ToString();
        good["edits"]![1]!["text"] = "19";
        for (var n = 0; n < 2; n++)
            Assert.Equal(200, (await site.Post($"{Job}/register/edits", good)).Status);
        Assert.Equal("Gangway, moved", (await site.Card("PT-01"))["place"]!["name"]!.ToString());
        Assert.Contains(
            (await site.Get($"{Job}/walk"))["areas"]!.AsArray().SelectMany(x => x!["stops"]!.AsArray()),
            s => s!["name"]!.ToString() == "Gangway, moved"
        );
        Assert.Equal(
            "register.label-taken",
            (
                await site.Post(
                    $"{Job}/register/edits",
                    site.Entry(
                        new
                        {
                            edits = new[]
                            {
                                new
                                {
                                    deviceId = a,
                                    field = "label",
                                    text = "PT-02",
                                },
                            },
                        }
                    )
                )
            ).Body["code"]!.ToString()
        );
    }

    [Fact]
    public async Task ADeviceIsAddedOnSiteAndAnotherTakenOffWithItsHistory()
    {
        var (status, added) = await site.Post(
            $"{Job}/register/devices",
            site.Entry(
                new
                {
                    values = new
                    {
                        label = "GT-99",
                        kind = "bullet",
                        area = "Gate",
                        name = "Behind the sign",
                        cabinet = "K1",
                        port = "40",
                        length_m = "18",
                    },
                    why = "client asked for it",
                }
            )
        );
        Assert.True(status == 200, added.ToJsonString());
        var card = await site.Get($"/api/cards/{added["deviceId"]}");
        Assert.True(card["place"]!["addedOnSite"]!.GetValue<bool>());
        var off = new
        {
            edits = new[]
            {
                new
                {
                    deviceId = added["deviceId"]!.ToString(),
                    field = "standing",
                    text = "cancelled",
                },
            },
        };
        Assert.Equal("register.why", (await site.Post($"{Job}/register/edits", site.Entry(off))).Body["code"]!.ToString());
        var entry = site.Entry(off);
        entry["why"] = "sign is coming down, agreed with O. Farrow";
        Assert.Equal(200, (await site.Post($"{Job}/register/edits", entry)).Status);
        Assert.DoesNotContain(
            (await site.Get($"{Job}/walk"))["areas"]!.AsArray().SelectMany(x => x!["stops"]!.AsArray()),
            s => s!["label"]!.ToString() == "GT-99"
        );
        Assert.True((await site.Get($"/api/cards/{added["deviceId"]}"))["place"]!["cancelled"]!.GetValue<bool>());
    }

    [Fact]
    public async Task SeveralCardsAreMarkedAtOnceAndFreedAgain()
    {
        string[] ids = [site.Stops["FB-01"], site.Stops["FB-02"], site.Stops["FB-03"]];
        Assert.Equal(
            "mark.blocked-by",
            (
                await site.Post(
                    $"{Job}/marks",
                    site.Entry(
                        new
                        {
                            kind = "blocked",
                            deviceIds = ids,
                            reason = "no entry",
                        }
                    )
                )
            ).Body["code"]!.ToString()
        );
        var (status, marked) = await site.Post(
            $"{Job}/marks",
            site.Entry(
                new
                {
                    kind = "blocked",
                    deviceIds = ids,
                    reason = "fuel delivery",
                    blockedBy = "Harbour office",
                    until = "2026-11-27",
                }
            )
        );
        Assert.Equal((200, 3), (status, marked["changed"]!.GetValue<int>()));
        var walk = await site.Get($"{Job}/walk");
        Assert.Equal(
            3,
            walk["areas"]!
                .AsArray()
                .SelectMany(x => x!["stops"]!.AsArray())
                .Count(s => s!["blocked"]?["by"]?.ToString() == "Harbour office")
        );
        using var pdf = PdfDocument.Open(await site.Http.GetByteArrayAsync($"/api/cards/{ids[0]}/report.pdf"));
        Assert.Contains(
            "Not tested: held up by Harbour office",
            string.Join(" ", pdf.GetPages().SelectMany(p => p.GetWords()).Select(w => w.Text))
        );
        Assert.Equal(200, (await site.Post($"{Job}/marks", site.Entry(new { kind = "free", deviceIds = ids }))).Status);
        Assert.Null((await site.Card("FB-02"))["card"]!["blocked"]);
        await site.Post(
            $"{Job}/marks",
            site.Entry(
                new
                {
                    kind = "restarted",
                    deviceIds = ids,
                    reason = "switch in K3 restarted",
                }
            )
        );
        Assert.Contains((await site.Card("FB-01"))["card"]!["acts"]!.AsArray(), a => a!["actKind"]!.ToString() == "restarted");
    }

    [Fact]
    public async Task TheWalkTellsOnlyWhatChangedSince()
    {
        var walk = await site.Get($"{Job}/walk");
        var at = walk["sequence"]!.GetValue<long>();
        Assert.Empty((await site.Get($"{Job}/walk/changes?after={at}"))["stops"]!.AsArray());
        await site.ReadAll("VL-05");
        var changes = await site.Get($"{Job}/walk/changes?after={at}");
        Assert.Equal(["VL-05"], changes["stops"]!.AsArray().Select(s => s!["label"]!.ToString()));
        Assert.Equal("accepted", changes["stops"]![0]!["verdict"]!.ToString());
        var whole = (await site.Get($"{Job}/walk"))["areas"]!
            .AsArray()
            .SelectMany(a => a!["stops"]!.AsArray())
            .Single(s => s!["label"]!.ToString() == "VL-05")!;
        Assert.Equal(changes["stops"]![0]!.ToJsonString(), whole.ToJsonString());
        var old = await site.Get($"{Job}/walk/changes?after=0");
        Assert.Equal((true, 0), (old["askWhole"]!.GetValue<bool>(), old["stops"]!.AsArray().Count));
    }

    /// <summary>A job is called otherwise later, and its times are shown in another zone; what cannot be is refused, and nothing is
    /// lost.</summary>
    [Fact]
    public async Task AJobIsRenamedAndWhatMakesNoSenseIsNot()
    {
        async Task<(int Status, JsonNode Body)> Put(object body, string? job = null)
        {
            using var response = await site.Http.PutAsJsonAsync($"/api/jobs/{job ?? site.JobId.ToString()}", body);
            return ((int)response.StatusCode, Site.Json(await response.Content.ReadAsStringAsync()));
        }

        var before = (await site.Get("/api/jobs")).AsArray().Single(j => j!["id"]!.ToString() == site.JobId.ToString())!;
        var (name, timeZone) = (before["name"]!.ToString(), before["timeZone"]!.ToString());
        var (status, after) = await Put(new { name = "  Ternhaven, east pier ", timeZone = "Europe/Oslo" });
        Assert.Equal((200, "Ternhaven, east pier", "Europe/Oslo"), (status, after["name"]!.ToString(), after["timeZone"]!.ToString()));
        Assert.Equal("Ternhaven, east pier", (await site.Get($"{Job}/walk"))["jobName"]!.ToString());
        Assert.Equal("Ternhaven, east pier", (await site.Get($"/api/cards/{site.Stops["BW-05"]}/report.json"))["job"]!["name"]!.ToString());
        foreach (
            var (body, code) in new (object, string)[]
            {
                (new { name = " ", timeZone }, "problem.job-name"),
                (new { name = new string('x', 121), timeZone }, "problem.job-name"),
                (new { name, timeZone = "Mars/Phobos" }, "problem.time-zone"),
                (new { name, timeZone = (string?)null }, "problem.time-zone"),
            }
        )
        {
            var (refused, problem) = await Put(body);
            Assert.True(refused is 400 or 422, code);
            Assert.Equal(refused == 422 ? code : "problem.unreadable", problem["code"]!.ToString());
        }
        Assert.Equal(
            (404, "problem.unknown-job"),
            ((await Put(new { name, timeZone }, Guid.NewGuid().ToString())) is var (s, b) ? (s, b["code"]!.ToString()) : default)
        );
        Assert.Equal(200, (await Put(new { name, timeZone })).Status);
        Assert.Equal(name, (await site.Get($"{Job}/walk"))["jobName"]!.ToString());
    }

    [Theory]
    [InlineData("bw-03", "BW-03", "label")]
    [InlineData("TH4415", "BW-03", "serial")]
    [InlineData("024608 37f38d", "BW-03", "hardware_address")]
    [InlineData("10.46.8.55", "BW-03", "address")]
    [InlineData("K4/6", "BW-03", "port")]
    public async Task OneSearchFindsADeviceByAnythingThatNamesIt(string q, string label, string field)
    {
        var found = (await site.Get($"{Job}/find?q={Uri.EscapeDataString(q)}"))["found"]!.AsArray();
        Assert.Contains(found, f => f!["label"]!.ToString() == label && f["field"]!.ToString() == field);
        Assert.Empty((await site.Get($"{Job}/find?q=%25_%25"))["found"]!.AsArray());
    }

    [Fact]
    public async Task WhatOtherDaysOfCalibrationTouchIsSeenBeforeTheyAreKept()
    {
        var meter = Guid.CreateVersion7().ToString();
        object Meter(string from, string due, string? change = null) =>
            new
            {
                id = meter,
                name = "Meter of the yard",
                serial = "MY-1",
                kind = "",
                certificate = "C-8",
                functions = new[] { new { unit = "ohm", accuracy = new { percentOfReading = 1.0 } } },
                calibratedOn = from,
                calibrationDue = due,
                calibration = change,
                why = change is null ? null : "typed from the wrong line",
                by = site.Ina,
            };
        Assert.Equal(200, (await site.Post($"{Job}/instruments", Meter("2026-01-01", "2030-01-01"))).Status);
        var row = Site.Row(await site.Card("PT-05"), "cable.loop-resistance", "1-2");
        await site.Add(
            "PT-05",
            "readings",
            new
            {
                row = row["id"]!.ToString(),
                source = "typed",
                text = row["expected"]!["value"]!["value"]!
                    .GetValue<double>()
                    .ToString("F2", System.Globalization.CultureInfo.InvariantCulture),
                instrumentId = meter,
            }
        );
        // What cannot be kept cannot be tried.
        Assert.Equal(422, (await site.Post($"{Job}/instruments/impact", Meter("2024-01-01", "2025-01-01"))).Status);
        var (status, work) = await site.Post($"{Job}/instruments/impact", Meter("2024-01-01", "2025-01-01", "corrected"));
        Assert.Equal(200, status);
        var impact = (await site.Over(work))["impact"]!;
        Assert.Equal(1, impact["cards"]!.GetValue<int>());
        Assert.Equal("PT-05", impact["lines"]![0]!["label"]!.ToString());
        // Seen only: nothing was kept by that.
        Assert.Equal("in", Site.Row(await site.Card("PT-05"), "cable.loop-resistance", "1-2")["state"]!.ToString());
        Assert.Equal(200, (await site.Post($"{Job}/instruments", Meter("2024-01-01", "2025-01-01", "corrected"))).Status);
        Assert.Equal("stale", Site.Row(await site.Card("PT-05"), "cable.loop-resistance", "1-2")["state"]!.ToString());
    }

    [Fact]
    public async Task APieceOfKitThatReadsWrongTakesItsReadingsWithIt()
    {
        // An instrument of its own: what it reads wrong must not reach the Cards of other tests.
        var meter = Guid.CreateVersion7().ToString();
        await site.Post(
            $"{Job}/instruments",
            new
            {
                id = meter,
                name = "Meter in doubt",
                serial = "MD-1",
                kind = "",
                certificate = "C-7",
                functions = new[] { new { unit = "ohm", accuracy = new { percentOfReading = 1.0 } } },
                calibratedOn = "2026-01-01",
                calibrationDue = "2030-01-01",
            }
        );
        var row = Site.Row(await site.Card("PT-06"), "cable.loop-resistance", "1-2");
        var ohms = row["expected"]!["value"]!["value"]!
            .GetValue<double>()
            .ToString("F2", System.Globalization.CultureInfo.InvariantCulture);
        var card = await site.Add(
            "PT-06",
            "readings",
            new
            {
                row = row["id"]!.ToString(),
                source = "typed",
                text = ohms,
                instrumentId = meter,
            }
        );
        Assert.Equal("in", Site.Row(card, "cable.loop-resistance", "1-2")["state"]!.ToString());
        var check = new
        {
            id = Guid.CreateVersion7(),
            unit = "ohm",
            reference = 10.0,
            reading = 12.5,
            by = site.Ina,
        };
        var (status, kit) = await site.Post($"{Job}/instruments/{meter}/checks", check);
        Assert.Equal(200, status);
        Assert.Equal("ohm", kit["instruments"]!.AsArray().Single(i => i!["id"]!.ToString() == meter)!["inDoubt"]![0]!.ToString());
        Assert.Equal("stale", Site.Row(await site.Card("PT-06"), "cable.loop-resistance", "1-2")["state"]!.ToString());
        await site.Post($"{Job}/instruments/{meter}/checks", check with { id = Guid.CreateVersion7(), reading = 10.02 });
        Assert.Equal("stale", Site.Row(await site.Card("PT-06"), "cable.loop-resistance", "1-2")["state"]!.ToString());
        Assert.Equal(
            "kit.no-accuracy",
            (await site.Post($"{Job}/instruments/{meter}/checks", check with { id = Guid.CreateVersion7(), unit = "percent" })).Body[
                "code"
            ]!.ToString()
        );
    }

    [Fact]
    public async Task AnInstrumentIsAddedCalibratedAnewAndRefusedWhereItCannotBe()
    {
        var id = Guid.CreateVersion7();
        object Meter(string on, string due, object? functions = null, string? calibration = null, string? why = null) =>
            new
            {
                id,
                calibration,
                why,
                name = "Meter 9",
                serial = "M-9",
                kind = "multimeter",
                certificate = "C-1",
                functions = functions
                    ?? new[]
                    {
                        new
                        {
                            unit = "volt",
                            accuracy = new { percentOfReading = 1.0 },
                            upTo = (double?)60,
                        },
                    },
                calibratedOn = on,
                calibrationDue = due,
            };
        Assert.Equal("kit.dates", (await site.Post($"{Job}/instruments", Meter("2026-05-01", "2026-01-01"))).Body["code"]!.ToString());
        Assert.Equal(
            "kit.functions",
            (
                await site.Post(
                    $"{Job}/instruments",
                    Meter("2026-01-01", "2026-05-01", new[] { new { unit = "volt", accuracy = new { percentOfReading = -1.0 } } })
                )
            ).Body["code"]!.ToString()
        );
        Assert.Equal(200, (await site.Post($"{Job}/instruments", Meter("2025-01-01", "2026-01-01"))).Status);
        // Other dates are a newer calibration or a slip of the keys: which, is asked.
        Assert.Equal(
            "kit.which-change",
            (await site.Post($"{Job}/instruments", Meter("2026-01-05", "2027-01-05"))).Body["code"]!.ToString()
        );
        Assert.Equal(
            "kit.why",
            (await site.Post($"{Job}/instruments", Meter("2026-01-05", "2027-01-05", calibration: "corrected"))).Body["code"]!.ToString()
        );
        Assert.Equal(
            "kit.not-newer",
            (await site.Post($"{Job}/instruments", Meter("2024-01-05", "2027-01-05", calibration: "newer"))).Body["code"]!.ToString()
        );
        var (_, corrected) = await site.Post(
            $"{Job}/instruments",
            Meter("2025-01-01", "2026-01-02", calibration: "corrected", why: "read the wrong line")
        );
        Assert.Empty(corrected["instruments"]!.AsArray().Single(i => i!["name"]!.ToString() == "Meter 9")!["earlier"]!.AsArray());
        var (_, kit) = await site.Post($"{Job}/instruments", Meter("2026-01-05", "2027-01-05", calibration: "newer"));
        var meter = kit["instruments"]!.AsArray().Single(i => i!["name"]!.ToString() == "Meter 9")!;
        Assert.Equal("valid", meter["calibration"]!.ToString());
        Assert.Equal("2025-01-01", meter["earlier"]![0]!["from"]!.ToString());
    }

    [Fact]
    public async Task APracticeSaysWhatItTouchesBeforeItIsPutInForce()
    {
        var job = await NewJob();
        await site.Post(
            $"/api/jobs/{job}/people",
            new
            {
                id = Guid.CreateVersion7(),
                name = "Ina Solberg",
                role = "technician",
            }
        );
        var person = (await site.Get($"/api/jobs/{job}/kit"))["people"]![0]!["id"]!.ToString();
        var (_, upload) = await Upload(Book(["Tag", "Type", "Length"], ["PX-1", "Turret", 20], ["PX-2", "Bullet", 30]), job: job);
        await Take(job, upload);
        var settings = new
        {
            rule = "guarded",
            scheme = "t568B",
            sides = new Dictionary<string, string> { ["first-try"] = "bench" },
        };
        var impact = (await site.Over((await site.Post($"/api/jobs/{job}/practice/impact", settings)).Body))["impact"]!;
        Assert.Equal(
            (2, 2, 0, 3),
            (
                impact["cards"]!.GetValue<int>(),
                impact["ofCards"]!.GetValue<int>(),
                impact["verdicts"]!.GetValue<int>(),
                impact["lines"]![0]!["rowsAdded"]!.GetValue<int>()
            )
        );
        Assert.Equal(
            "practice.why",
            (
                await site.Post(
                    $"/api/jobs/{job}/practice",
                    new
                    {
                        settings,
                        why = " ",
                        by = person,
                    }
                )
            ).Body["code"]!.ToString()
        );
        Assert.Equal("mount", (await site.Get($"/api/jobs/{job}/practice"))["settings"]!["sides"]!["first-try"]!.ToString());
        var done = await site.Over(
            (
                await site.Post(
                    $"/api/jobs/{job}/practice",
                    new
                    {
                        settings,
                        why = "drilling is dear here",
                        by = person,
                    }
                )
            ).Body
        );
        Assert.Equal("done", done["state"]!.ToString());
        var practice = await site.Get($"/api/jobs/{job}/practice");
        Assert.Equal("bench", practice["settings"]!["sides"]!["first-try"]!.ToString());
        Assert.Equal(
            ("drilling is dear here", "Ina Solberg"),
            (practice["editions"]![0]!["why"]!.ToString(), practice["editions"]![0]!["by"]!.ToString())
        );
        var stop = (await site.Get($"/api/jobs/{job}/walk"))["areas"]![0]!["stops"]![0]!;
        Assert.Contains(
            (await site.Get($"/api/cards/{stop["id"]}"))["card"]!["rows"]!.AsArray(),
            r => r!["check"]!["id"]!.ToString() == "bench.works"
        );
    }

    [Fact]
    public async Task ADrawingIsKeptScaledAndHarmless()
    {
        var job = await NewJob();
        async Task<(int, string)> Keep(string text)
        {
            using var response = await site.Http.PostAsync(
                $"/api/jobs/{job}/plan?name=p.svg",
                new ByteArrayContent(Encoding.UTF8.GetBytes(text)) { Headers = { ContentType = new("application/octet-stream") } }
            );
            return ((int)response.StatusCode, await response.Content.ReadAsStringAsync());
        }

        Assert.Equal(422, (await Keep("<html/>")).Item1);
        Assert.Equal(422, (await Keep("<svg xmlns='http://www.w3.org/2000/svg' width='100%'/>")).Item1);
        Assert.Equal(
            204,
            (await Keep("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 800 600'><script>alert(1)</script></svg>")).Item1
        );
        using var scaled = await site.Http.PutAsJsonAsync(
            $"/api/jobs/{job}/plan/scale",
            new
            {
                ax = 100,
                ay = 100,
                bx = 500,
                by = 100,
                metres = 80,
                anchorX = 30,
                anchorY = 0,
            }
        );
        Assert.Equal(204, (int)scaled.StatusCode);
        var drawing = (await site.Get($"/api/jobs/{job}/walk"))["drawing"]!;
        Assert.Equal(
            (0.2, 10, -20),
            (
                drawing["metresPerPixel"]!.GetValue<double>(),
                drawing["leftMetres"]!.GetValue<double>(),
                drawing["topMetres"]!.GetValue<double>()
            )
        );
        using var shown = await site.Http.GetAsync($"/api/jobs/{job}/plan/{drawing["hash"]}");
        Assert.Equal("image/svg+xml", shown.Content.Headers.ContentType!.MediaType);
        Assert.Contains("default-src 'none'", shown.Headers.GetValues("Content-Security-Policy").Single());
        using var together = await site.Http.PutAsJsonAsync(
            $"/api/jobs/{job}/plan/scale",
            new
            {
                ax = 1,
                ay = 1,
                bx = 2,
                by = 2,
                metres = 80,
            }
        );
        Assert.Equal(422, (int)together.StatusCode);
    }

    [Fact]
    public async Task ABackupIsWholeWhileTheServerWorksAndARestoreIsCheckedFirst()
    {
        await site.ReadAll("VL-09");
        var data = new DataFolder(site.Data);
        var file = Path.Combine(Path.GetTempPath(), $"walkdown-{Guid.NewGuid():N}.zip");
        var elsewhere = Directory.CreateTempSubdirectory("walkdown-restore-").FullName;
        try
        {
            var writing = site.ReadAll("VL-10");
            var manifest = await Backup.Write(data, file, DateTimeOffset.UtcNow);
            await writing;
            Assert.Contains("walkdown.db", manifest.Files.Keys);
            Assert.Contains(manifest.Files.Keys, k => k.StartsWith("evidence/", StringComparison.Ordinal));
            Assert.Null(await Backup.Restore(new DataFolder(elsewhere), file, DateTimeOffset.UtcNow));
            Assert.NotNull(await Backup.Restore(new DataFolder(elsewhere), file, DateTimeOffset.UtcNow));
            using (var db = new SqliteConnection($"Data Source={Path.Combine(elsewhere, "walkdown.db")};Pooling=False"))
            {
                db.Open();
                using var command = db.CreateCommand();
                command.CommandText = $"SELECT count(*) FROM Readings WHERE DeviceId={Site.Bytes(site.Stops["VL-09"])}";
                Assert.True((long)command.ExecuteScalar()! >= 8);
            }

            // A file that is cut off or altered changes nothing.
            var bytes = await File.ReadAllBytesAsync(file);
            await File.WriteAllBytesAsync(file, bytes[..(bytes.Length / 2)]);
            await Assert.ThrowsAsync<BackupException>(() => Backup.Restore(new DataFolder(elsewhere), file, DateTimeOffset.UtcNow));
            await File.WriteAllBytesAsync(file, bytes);
            using (var zip = ZipFile.Open(file, ZipArchiveMode.Update))
            {
                zip.GetEntry("walkdown.db")!.Delete();
                await using var entry = zip.CreateEntry("walkdown.db").Open();
                entry.Write("nothing"u8);
            }
            Assert.Contains(
                "damaged",
                (
                    await Assert.ThrowsAsync<BackupException>(() => Backup.Restore(new DataFolder(elsewhere), file, DateTimeOffset.UtcNow))
                ).Message
            );
            using var refused = await site.Http.PostAsJsonAsync("/api/restore", new { file });
            Assert.Equal(403, (int)refused.StatusCode);
        }
        finally
        {
            File.Delete(file);
            Directory.Delete(elsewhere, true);
        }
    }

    [Fact]
    public async Task RandomShapesNeverGetAServerErrorHereEither()
    {
        var random = new Random(11);
        var device = site.Stops["VL-08"];
        JsonNode? Any() =>
            random.Next(9) switch
            {
                0 => null,
                1 => random.NextDouble() * 1e12,
                2 => -1,
                3 => "x" + (char)random.Next(1, 0x2fff),
                4 => new JsonArray(1, "2", new JsonObject()),
                5 => new JsonObject { ["a"] = new JsonArray(99) },
                6 => "1970-01-01T00:00:00Z",
                7 => Guid.NewGuid().ToString(),
                _ => true,
            };
        (string Path, object Body)[] wanted =
        [
            ($"/api/cards/{device}/built", new { cells = new[] { new { field = "name", text = "x" } } }),
            ($"/api/cards/{device}/blocks", new { reason = "r", blockedBy = "b" }),
            ($"/api/cards/{device}/block-ends", new { of = Guid.NewGuid() }),
            (
                $"{Job}/register/edits",
                new
                {
                    edits = new[]
                    {
                        new
                        {
                            deviceId = device,
                            field = "port",
                            text = "9",
                        },
                    },
                }
            ),
            ($"{Job}/register/devices", new { values = new { label = "Q" }, why = "w" }),
            (
                $"{Job}/marks",
                new
                {
                    kind = "setAside",
                    deviceIds = new[] { device },
                    reason = "r",
                }
            ),
            (
                $"{Job}/instruments",
                new
                {
                    name = "n",
                    serial = "s",
                    kind = "",
                    certificate = "",
                    functions = Array.Empty<object>(),
                }
            ),
            ($"{Job}/practice/impact", new { rule = "simple", scheme = "t568B" }),
            ($"{Job}/catalogue/impact", new { own = new { kinds = new[] { new { id = "bullet", features = new[] { "camera" } } } } }),
            (
                $"{Job}/imports/{Guid.NewGuid()}/preview",
                new
                {
                    sheet = 0,
                    mapping = new
                    {
                        headerRow = 0,
                        columns = Array.Empty<object>(),
                        sign = "point",
                        defaults = new { },
                        kinds = new { },
                        addMissing = true,
                    },
                }
            ),
        ];
        for (var i = 0; i < 60; i++)
            foreach (var (path, shape) in wanted)
            {
                var body = site.Entry(shape);
                var keys = body.Select(p => p.Key).ToList();
                for (var n = random.Next(1, 3); n > 0; n--)
                    body[keys[random.Next(keys.Count)]] = Any();
                using var response = await site.Http.PostAsJsonAsync(path, body);
                Assert.True((int)response.StatusCode < 500, $"{path} {response.StatusCode} {body.ToJsonString()}");
            }
    }
}
