using System.IO.Compression;
using System.Net.Http.Headers;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using SkiaSharp;
using UglyToad.PdfPig;
using Walkdown.Core.Sealing;
using Walkdown.Reports;
using static Walkdown.Server.Tests.Site;

namespace Walkdown.Server.Tests;

/// <summary>Packs, seals, bundles and erasure through the real server; what is downloaded is read back and compared with the
/// data.</summary>
public sealed class HandoverTests(Site site) : IClassFixture<Site>
{
    private static readonly double[][] Hand =
    [
        [0.2, 0.6, 0.3, 0.3, 0.4, 0.7, 0.5, 0.35, 0.6, 0.7, 0.75, 0.4, 0.9, 0.6, 1.1, 0.5, 1.4, 0.55],
    ];

    private static object Signature(string role, string name, double[][]? strokes = null, DateTimeOffset? at = null) =>
        new
        {
            role,
            name,
            position = "",
            place = "Ternhaven",
            at = (at ?? DateTimeOffset.UtcNow).ToString("O"),
            strokes = strokes ?? Hand,
        };

    private static object ByName(string role, string name, double[][]? strokes = null) =>
        new
        {
            role,
            name,
            position = "",
            place = "Ternhaven",
            at = DateTimeOffset.UtcNow.ToString("O"),
            strokes = strokes ?? [],
            typed = true,
        };

    private static async Task<JsonNode> Handover(Site at) => await at.Get($"/api/jobs/{at.JobId}/handover");

    private static async Task<(int Status, JsonNode Body)> Post(
        Site at,
        object[] signatures,
        string reservations = "",
        string? device = null,
        long? sequence = null,
        int? follows = null,
        string[]? languages = null
    )
    {
        var now = await Handover(at);
        return await at.Post(
            $"/api/jobs/{at.JobId}/handover/revisions",
            new
            {
                id = Guid.NewGuid(),
                by = at.Ina,
                deviceId = device,
                signatures,
                reservations,
                languages = languages ?? ["en"],
                sequence = sequence ?? now["sequence"]!.GetValue<long>(),
                shown = (device is null ? now : await at.Get($"/api/jobs/{at.JobId}/handover/shown?deviceId={device}"))[
                    "shown"
                ]!.ToString(),
                follows = follows
                    ?? now["revisions"]!
                        .AsArray()
                        .Where(r => r!["deviceId"]?.ToString() == device)
                        .Select(r => r!["number"]!.GetValue<int>())
                        .DefaultIfEmpty(0)
                        .Max(),
            }
        );
    }

    private static async Task<JsonNode> Seal(Site at, string reservations = "", string? device = null, string[]? languages = null)
    {
        var (status, work) = await Post(
            at,
            [Signature("technician", "Ina Solberg"), Signature("client", "Marit Holm")],
            reservations,
            device,
            languages: languages
        );
        Assert.True(status == 200, work.ToJsonString());
        var done = await at.Over(work);
        Assert.True(done["state"]!.ToString() == "done", done.ToJsonString());
        return done["revision"]!;
    }

    private static Task<byte[]> File(Site at, JsonNode revision, string name) =>
        at.Http.GetByteArrayAsync($"/api/jobs/{at.JobId}/handover/revisions/{revision["id"]}/{name}");

    private static RecordVerdict Check(byte[] file, string? key = null) => RecordCheck.Of(new MemoryStream(file), key);

    internal static byte[] Picture(byte red, int width = 640, int height = 400)
    {
        using var surface = SKSurface.Create(new SKImageInfo(width, height));
        surface.Canvas.Clear(new SKColor(red, 90, 120));
        using var image = surface.Snapshot();
        using var data = image.Encode(SKEncodedImageFormat.Jpeg, 85);
        return data.ToArray();
    }

    /// <summary>What the QR code of a page says: its strokes are put on a bitmap and read by a decoder of other hands.</summary>
    private static string? Code(UglyToad.PdfPig.Content.Page page)
    {
        // The code is the one thing that is drawn by hundreds of black strokes of one width.
        var strokes = page
            .Paths.Where(p => p.IsStroked && !p.IsFilled)
            .Select(p => (p.LineWidth, Bounds: p.GetBoundingRectangle()))
            .Where(p => p.Bounds is { Height: < 0.001, Width: > 0 })
            .GroupBy(p => Math.Round(p.LineWidth, 3))
            .MaxBy(g => g.Count())!
            .Select(p => (p.LineWidth, Bounds: p.Bounds!.Value))
            .ToList();
        double step = strokes[0].LineWidth,
            left = strokes.Min(p => p.Bounds.Left),
            top = strokes.Max(p => p.Bounds.Bottom) + step / 2;
        const int pixels = 8,
            quiet = 4;
        var modules = (int)Math.Round((strokes.Max(p => p.Bounds.Right) - left) / step);
        var side = (modules + 2 * quiet) * pixels;
        var grey = new byte[side * side];
        Array.Fill(grey, (byte)255);
        foreach (var bounds in strokes.Select(p => p.Bounds))
        {
            int row = (int)Math.Round((top - bounds.Bottom) / step - 0.5) + quiet,
                from = (int)Math.Round((bounds.Left - left) / step) + quiet,
                to = (int)Math.Round((bounds.Right - left) / step) + quiet;
            for (var y = row * pixels; y < (row + 1) * pixels; y++)
                Array.Fill(grey, (byte)0, y * side + from * pixels, (to - from) * pixels);
        }
        var source = new ZXing.RGBLuminanceSource(grey, side, side, ZXing.RGBLuminanceSource.BitmapFormat.Gray8);
        // A reader looks for the three corners anywhere; of one hash in hundreds something within looks like a fourth. Told that there is nothing
        // but the code, as a phone that is held closer sees it, it reads that, too.
        ZXing.BinaryBitmap Seen() => new(new ZXing.Common.GlobalHistogramBinarizer(source));
        var alone = new Dictionary<ZXing.DecodeHintType, object> { [ZXing.DecodeHintType.PURE_BARCODE] = true };
        return (new ZXing.QrCode.QRCodeReader().decode(Seen()) ?? new ZXing.QrCode.QRCodeReader().decode(Seen(), alone))?.Text;
    }

    private static async Task<(int Status, JsonNode Body)> SendFile(Site at, string path, byte[] file)
    {
        using var content = new ByteArrayContent(file);
        content.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
        using var response = await at.Http.PostAsync(path, content);
        return ((int)response.StatusCode, Json(await response.Content.ReadAsStringAsync()));
    }

    [Fact]
    public async Task APackSaysWhatTheRecordSaysAndIsUntouched()
    {
        await site.ReadAll("GT-01");
        await site.ReadAll("VL-03");
        foreach (var (caption, moment) in new[] { ("Barrier%20view", "general"), ("Gland%20torn", "before"), ("Gland%20new", "after") })
            await SendFile(
                site,
                $"/api/cards/{site.Stops["GT-01"]}/pictures?id={Guid.NewGuid()}&by={site.Ina}&caption={caption}&moment={moment}",
                Picture((byte)(40 + caption.Length))
            );
        var lines = (await site.Get($"/api/cards/{site.Stops["GT-01"]}/pictures")).AsArray();
        Assert.Equal(
            [("general", false), ("before", true), ("after", true)],
            lines.Select(l => (l!["moment"]!.ToString(), l["inReport"]!.GetValue<bool>()))
        );
        // The Card's own report shows the work too, and names who pictured it.
        using (var own = PdfDocument.Open(await site.Http.GetByteArrayAsync($"/api/cards/{site.Stops["GT-01"]}/report.pdf")))
        {
            Assert.Equal(2, own.GetPages().Sum(p => p.GetImages().Count()));
            Assert.Contains(
                "Before the work, Gland torn, Ina Solberg",
                string.Join(' ', own.GetPages().SelectMany(p => p.GetWords()).Select(w => w.Text))
            );
        }
        Assert.Equal(3, (await site.Get($"/api/cards/{site.Stops["GT-01"]}/report.json"))["pictures"]!.AsArray().Count);
        await ZonesAreDrawnOntoTheirPicture(site);
        var revision = await Seal(site, "VL-03 is to be mended before December.");
        var pack = await File(site, revision, "pack.zip");
        var verdict = Check(pack);
        Assert.Equal(
            (SealOutcome.Untouched, revision["hash"]!.ToString(), revision["number"]!.GetValue<int>()),
            (verdict.Outcome, verdict.Hash!, verdict.Revision!.Value)
        );
        Assert.Equal(["Ina Solberg", "Marit Holm"], verdict.Signatures.Select(s => s.Name));
        Assert.True(verdict.Simulated);
        var pdf = await File(site, revision, "report.pdf");
        Assert.Equal(SealOutcome.Untouched, Check(pdf).Outcome);
        Assert.Equal(SealOutcome.Untouched, Check(await File(site, revision, "record.json")).Outcome);
        using var pages = PdfDocument.Open(pdf);
        var texts = pages.GetPages().Select(p => string.Join(' ', p.GetWords().Select(w => w.Text))).ToList();
        Assert.All(texts, page => Assert.Contains("Simulated site", page));
        var shortHash = SealKey.Short(revision["hash"]!.ToString());
        Assert.All(texts, page => Assert.Contains(shortHash, page));
        // No page holds a few lines alone.
        Assert.All(pages.GetPages(), page => Assert.True(page.GetWords().Count() > 50, $"page {page.Number}: {page.Text}"));
        Assert.Contains("VL-03 is to be mended before December.", texts[0]);
        Assert.Contains("Marit Holm", texts[0]);
        // The cover says at once what is not part of it, and which are not accepted.
        var front = Json(Encoding.UTF8.GetString(await File(site, revision, "record.json")));
        var notAsked = front["notCovered"]!.AsArray().Select(l => l!.ToString()).ToList();
        Assert.Contains("aim", notAsked);
        Assert.DoesNotContain("cable", notAsked);
        Assert.Contains("Not part of this acceptance", texts[0]);
        Assert.Contains("Aim", texts[0][texts[0].IndexOf("Not part of", StringComparison.Ordinal)..]);
        foreach (var word in new[] { "refused", "open" })
        {
            var first = front["cards"]!.AsArray().FirstOrDefault(c => c!["verdict"]!.ToString() == word);
            Assert.True(first is null || texts[0].Contains(first["label"]!.ToString(), StringComparison.Ordinal), word);
        }
        foreach (var label in site.Stops.Keys)
            Assert.Contains(texts, page => page.Contains(label));
        // The index says on which page a Card begins, and there it does.
        var index = texts.FindIndex(p => p.Contains("Index"));
        var begins = texts.FindIndex(index + 1, p => p.Contains("GT-01 Revision"));
        Assert.Contains((begins + 1).ToString(), pages.GetPage(index + 1).GetWords().Select(w => w.Text));
        // Its code says, read as a phone would read it, which record it is; so does the code on the cover.
        var gt01 = Json(Encoding.UTF8.GetString(await File(site, revision, "record.json")))["cards"]!
            .AsArray()
            .Single(c => c!["label"]!.ToString() == "GT-01")!["hash"]!.ToString();
        Assert.Equal($"GT-01 {SealKey.Short(gt01)}", Code(pages.GetPage(begins + 1)));
        Assert.Equal($"Walkdown {revision["hash"]}", Code(pages.GetPage(1)));
        // The work as it was before and after it, side by side; the view of the place is kept, not printed.
        var ofGt01 = string.Join(' ', texts.Where(t => t.Contains("GT-01 Revision")));
        Assert.Contains("Before the work, Gland torn", ofGt01);
        Assert.Contains("After the work, Gland new", ofGt01);
        Assert.DoesNotContain("Barrier view", ofGt01);
        // The drawing lies behind the marks of the plan.
        var plan = texts.FindIndex(p => p.Contains("Site plan by Verdict"));
        Assert.Single(pages.GetPage(plan + 1).GetImages());
        // What the first pages count is what the Walk says.
        var now = (await Handover(site))["now"]!;
        Assert.Contains($"{site.Stops.Count} Cards, {now["readings"]} readings", string.Join(' ', texts));
        Assert.Contains(pages.GetPages(), p => p.GetImages().Any());
        // Every Card's file is the one that the record names.
        using var zip = new ZipArchive(new MemoryStream(pack));
        using var record = zip.GetEntry("record.json")!.Open();
        var cards = JsonNode.Parse(record)!["cards"]!.AsArray();
        Assert.Equal(site.Stops.Count, cards.Count);
        foreach (var card in cards)
        {
            using var stream = zip.GetEntry(card!["file"]!.ToString())!.Open();
            Assert.Equal(card["hash"]!.ToString(), Convert.ToHexStringLower(await SHA256.HashDataAsync(stream)));
        }
    }

    /// <summary>The report shows zones on the picture that they were drawn on, with their numbers; on none it says so.</summary>
    private static async Task ZonesAreDrawnOntoTheirPicture(Site site)
    {
        var at = $"/api/cards/{site.Stops["FB-01"]}";
        var picture = Guid.NewGuid();
        await SendFile(site, $"{at}/pictures?id={picture}&by={site.Ina}&caption=Pumps&moment=general", Picture(90));
        var row = (await site.Card("FB-01"))["card"]!["rows"]!.AsArray().Single(r => r!["key"]!["check"]!.ToString() == "recorder.zones")!;
        object Zone(string name, string use, params double[] corners) =>
            new
            {
                name,
                use,
                points = corners.Chunk(2).Select(c => new { x = c[0], y = c[1] }),
            };
        async Task<(int Images, string Words)> Printed(Guid? on)
        {
            await site.Add(
                "FB-01",
                "readings",
                new
                {
                    row = row["id"]!.ToString(),
                    source = "typed",
                    value = new
                    {
                        kind = "zones",
                        picture = on,
                        zones = (object[])
                            [
                                Zone("quay", "ownGround", 0, 0, 1, 0, 1, 0.8, 0, 0.8),
                                Zone("pump island", "watch", 0.1, 0.1, 0.6, 0.1, 0.4, 0.7),
                                Zone("office window", "private", 0.7, 0.1, 0.9, 0.1, 0.9, 0.3),
                            ],
                    },
                }
            );
            using var pdf = PdfDocument.Open(await site.Http.GetByteArrayAsync($"{at}/report.pdf"));
            return (
                pdf.GetPages().Sum(p => p.GetImages().Count()),
                string.Join(' ', pdf.GetPages().SelectMany(p => p.GetWords()).Select(w => w.Text))
            );
        }
        var (shown, words) = await Printed(picture);
        Assert.Equal(2, shown);
        foreach (var told in (string[])["1 quay, own ground", "2 pump island, rings", "3 office window, blackened"])
            Assert.Contains(told, words);
        Assert.DoesNotContain("on no picture", words);
        var (frame, said) = await Printed(null);
        Assert.Equal(1, frame);
        Assert.Contains("They were drawn on no picture", said);
    }

    [Fact]
    public async Task AChangedByteIsFoundWhereverItIs()
    {
        await site.ReadAll("GT-02");
        var revision = await Seal(site, device: site.Stops["GT-02"]);
        Assert.Equal("GT-02", revision["of"]!.ToString());
        foreach (var name in new[] { "pack.zip", "report.pdf", "record.json" })
        {
            var file = await File(site, revision, name);
            Assert.Equal(SealOutcome.Untouched, Check(file).Outcome);
            // A sample over the whole file, and many of its ends, where headers and seals are.
            var step = Math.Max(1, file.Length / 60);
            foreach (
                var at in Enumerable
                    .Range(0, 60)
                    .Where(i => i % 2 == 0)
                    .Concat(Enumerable.Range(0, file.Length / step).Select(i => i * step))
                    .Concat(Enumerable.Range(file.Length - 450, 450).Where(i => i % 9 == 0))
            )
            {
                var other = (byte[])file.Clone();
                other[at] ^= 0x04;
                Assert.False(Check(other).Outcome is SealOutcome.Untouched or SealOutcome.OtherKey, $"{name}, byte {at} of {file.Length}");
            }
            Assert.NotEqual(SealOutcome.Untouched, Check([.. file, 0x20]).Outcome);
            Assert.NotEqual(SealOutcome.Untouched, Check(file[..^1]).Outcome);
        }
        var record = Encoding.UTF8.GetString(await File(site, revision, "record.json"));
        var found = Check(Encoding.UTF8.GetBytes(record.Replace("Marit Holm", "Marit Halm")));
        Assert.Equal(["signatures"], found.Parts.Select(p => p.Name));
        Assert.Equal(SealOutcome.OtherKey, Check(Encoding.UTF8.GetBytes(record), new string('0', 64)).Outcome);
        var (_, work) = await SendFile(site, "/api/verify", Encoding.UTF8.GetBytes(record));
        var told = (await site.Over(work))["checked"]!;
        Assert.Equal(("untouched", true), (told["outcome"]!.ToString(), told["keyKnown"]!.GetValue<bool>()));
    }

    [Fact]
    public async Task ALaterReadingMakesANewRevisionAndTheSignedOneStays()
    {
        var first = await Seal(site);
        var before = await File(site, first, "pack.zip");
        Assert.False((await Handover(site))["changed"]!.GetValue<bool>());
        await site.ReadAll("GT-03");
        Assert.True((await Handover(site))["changed"]!.GetValue<bool>());
        var second = await Seal(site);
        Assert.Equal(
            (first["number"]!.GetValue<int>() + 1, first["hash"]!.ToString()),
            (second["number"]!.GetValue<int>(), second["previous"]!.ToString())
        );
        Assert.Equal(before, await File(site, first, "pack.zip"));
        var changes = Json(Encoding.UTF8.GetString(await File(site, second, "record.json")))["changes"]!.AsArray();
        var change = Assert.Single(changes)!;
        Assert.Equal(
            ("GT-03", "open", "accepted"),
            (change["label"]!.ToString(), change["before"]!.ToString(), change["after"]!.ToString())
        );
        using var pages = PdfDocument.Open(await File(site, second, "report.pdf"));
        Assert.Contains(
            $"Against revision {first["number"]}",
            string.Join(' ', pages.GetPages().Take(4).SelectMany(p => p.GetWords()).Select(w => w.Text))
        );
    }

    /// <summary>What a job covers is part of what was signed: another scope is told, the sealed pack stays, and the next one names both
    /// Verdicts.</summary>
    [Fact]
    public async Task AnotherScopeAfterTheSealIsTold()
    {
        using var own = new Site();
        await own.ReadAll("GT-03");
        var first = await Seal(own);
        var before = await File(own, first, "pack.zip");
        Assert.False((await Handover(own))["changed"]!.GetValue<bool>());
        var (status, work) = await own.Post(
            $"/api/jobs/{own.JobId}/practice",
            new
            {
                settings = new
                {
                    rule = "guarded",
                    scheme = "t568B",
                    scope = new { parts = new[] { "cable", "power", "link", "fixing" } },
                },
                why = "the fixing is ours too",
                by = own.Ina,
            }
        );
        Assert.True(status == 200, work.ToJsonString());
        Assert.Equal("done", (await own.Over(work))["state"]!.ToString());
        Assert.True((await Handover(own))["changed"]!.GetValue<bool>());
        Assert.Equal(before, await File(own, first, "pack.zip"));
        var second = await Seal(own);
        var changes = Json(Encoding.UTF8.GetString(await File(own, second, "record.json")))["changes"]!.AsArray();
        var card = changes.Single(c => c!["label"]!.ToString() == "GT-03")!;
        Assert.Equal(("accepted", "open"), (card["before"]!.ToString(), card["after"]!.ToString()));
    }

    [Fact]
    public async Task WhoeverSignsLateOrTwiceIsToldAndNothingIsSealed()
    {
        await Seal(site);
        var now = await Handover(site);
        var revisions = now["revisions"]!.AsArray().Count;
        var (_, stale) = await Post(site, [Signature("client", "Marit Holm")], follows: now["newest"]!.GetValue<int>() - 1);
        Assert.Contains("Somebody sealed revision", (await site.Over(stale))["why"]!.ToString());
        await site.Add("GT-04", "notes", new { text = "Gland hand-tight." });
        var (_, moved) = await Post(site, [Signature("client", "Marit Holm")], sequence: now["sequence"]!.GetValue<long>());
        Assert.Contains("came in after", (await site.Over(moved))["why"]!.ToString());
        foreach (
            var (signature, code) in new[]
            {
                (
                    Signature(
                        "client",
                        "Marit Holm",
                        [
                            [0.2, 0.2],
                        ]
                    ),
                    "handover.empty-signature"
                ),
                (
                    Signature(
                        "client",
                        "Marit Holm",
                        [
                            [.. Enumerable.Repeat(0.5, 40)],
                        ]
                    ),
                    "handover.empty-signature"
                ),
                (Signature("client", " "), "handover.name"),
                (Signature("landlord", "Marit Holm"), "handover.role"),
                (Signature("client", "Marit Holm", at: DateTimeOffset.UtcNow.AddHours(3)), "handover.clock-ahead"),
                (Signature("client", "Marit Holm", at: DateTimeOffset.UtcNow.AddDays(-3)), "handover.clock-behind"),
            }
        )
        {
            var (status, problem) = await Post(site, [signature]);
            Assert.Equal((422, code, "signatures[0]"), (status, problem["code"]!.ToString(), problem["field"]!.ToString()));
        }
        var (both, drawn) = await Post(site, [ByName("client", "Marit Holm", Hand)]);
        Assert.Equal((422, "handover.drawn-and-typed"), (both, drawn["code"]!.ToString()));
        var (nameless, nobody) = await Post(site, [ByName("client", "")]);
        Assert.Equal((422, "handover.name"), (nameless, nobody["code"]!.ToString()));
        var (twice, same) = await Post(site, [Signature("client", "A"), Signature("client", "B")]);
        Assert.Equal((422, "handover.role-twice"), (twice, same["code"]!.ToString()));
        var (cancelStatus, running) = await Post(site, []);
        Assert.Equal(200, cancelStatus);
        await site.Post($"/api/progress/{running["id"]}/cancel", new { });
        var ended = await site.Over(running);
        if (ended["state"]!.ToString() == "cancelled")
            Assert.Equal(revisions, (await Handover(site))["revisions"]!.AsArray().Count);
        Assert.DoesNotContain(
            Directory.EnumerateFileSystemEntries(Path.Combine(site.Data, "packs")),
            f => Path.GetFileName(f).StartsWith('.')
        );
    }

    [Fact]
    public async Task AnErasedPictureIsGoneEverywhereAndTheRecordStillVerifies()
    {
        var (_, lines) = await SendFile(
            site,
            $"/api/cards/{site.Stops["CC-01"]}/pictures?id={Guid.NewGuid()}&by={site.Ina}&caption=Doors&personal=true",
            Picture(200)
        );
        var picture = lines[0]!;
        // What a device takes along has the same words, and the size of what it will fetch.
        async Task<JsonNode> Along(string query = "") => await site.Get($"/api/jobs/{site.JobId}/pictures{query}");
        var along = await Along();
        var place = along["places"]!.AsArray().Single(p => p!["deviceId"]!.ToString() == site.Stops["CC-01"])!;
        Assert.True(JsonNode.DeepEquals(place["pictures"], await site.Get($"/api/cards/{site.Stops["CC-01"]}/pictures")));
        var shownBytes = (await site.Http.GetByteArrayAsync($"/api/cards/{site.Stops["CC-01"]}/pictures/{picture["id"]}.jpg")).Length;
        Assert.True(along["bytes"]!.GetValue<long>() >= shownBytes);
        Assert.Empty((await Along("?lines=false"))["places"]!.AsArray());
        Assert.Equal(0, (await Along("?area=Nowhere"))["count"]!.GetValue<int>());
        Assert.Equal(404, (int)(await site.Http.GetAsync($"/api/jobs/{Guid.NewGuid()}/pictures")).StatusCode);
        var revision = await Seal(site);
        // A draft shows it too, until it is erased.
        var (_, drawing) = await site.Post($"/api/jobs/{site.JobId}/handover/draft", new { deviceId = (string?)null, language = "en" });
        var draft = (await site.Over(drawing))["draft"]!;
        var draftPages = $"/api/jobs/{site.JobId}/handover/draft/{draft["id"]}/{draft["files"]![0]}";
        Assert.Equal(200, (int)(await site.Http.GetAsync(draftPages)).StatusCode);
        var hash = picture["hash"]!.ToString();
        Assert.Contains(
            Check(await File(site, revision, "pack.zip")).Parts,
            p => p.Name == $"evidence/{hash}.jpg" && p.State == PartState.Untouched
        );
        var (refused, problem) = await site.Post(
            $"/api/cards/{site.Stops["CC-01"]}/pictures/{picture["id"]}/erase",
            new
            {
                id = Guid.NewGuid(),
                by = "Marit Holm",
                reason = " ",
            }
        );
        Assert.Equal((422, "reason"), (refused, problem["field"]!.ToString()));
        var (status, after) = await site.Post(
            $"/api/cards/{site.Stops["CC-01"]}/pictures/{picture["id"]}/erase",
            new
            {
                id = Guid.NewGuid(),
                by = "Marit Holm",
                reason = "A passenger can be recognised",
            }
        );
        Assert.Equal((200, "Marit Holm"), (status, after[0]!["erased"]!["by"]!.ToString()));
        // Erased, it is none that could be taken along; that it was erased is told.
        Assert.Equal(along["count"]!.GetValue<int>() - 1, (await Along())["count"]!.GetValue<int>());
        using var gone = await site.Http.GetAsync($"/api/cards/{site.Stops["CC-01"]}/pictures/{picture["id"]}.jpg");
        Assert.Equal(410, (int)gone.StatusCode);
        Assert.Equal(404, (int)(await site.Http.GetAsync(draftPages)).StatusCode);
        Assert.Empty(Directory.EnumerateDirectories(Path.Combine(site.Data, "packs"), "draft-*"));
        Assert.Empty(Directory.EnumerateFiles(site.Data, hash, SearchOption.AllDirectories));
        var pack = await File(site, revision, "pack.zip");
        var verdict = Check(pack);
        Assert.Equal(SealOutcome.Untouched, verdict.Outcome);
        Assert.Equal(
            [(PartState.Erased, $"evidence/{hash}.jpg"), (PartState.Redrawn, "report.pdf")],
            verdict.Parts.Where(p => p.State != PartState.Untouched).Select(p => (p.State, p.Name))
        );
        Assert.Equal(revision["hash"]!.ToString(), verdict.Hash);
        using var pages = PdfDocument.Open(await File(site, revision, "report.pdf"));
        Assert.Contains(pages.GetPages(), p => string.Join(' ', p.GetWords().Select(w => w.Text)).Contains("Erased by Marit Holm"));
        // Somebody who takes a file out without saying so has no tombstone.
        using var copy = new MemoryStream();
        await copy.WriteAsync(pack);
        using (var zip = new ZipArchive(copy, ZipArchiveMode.Update, leaveOpen: true))
            zip.GetEntry("cards/GT-01.json")!.Delete();
        Assert.Equal(SealOutcome.Altered, Check(copy.ToArray()).Outcome);
        Assert.Contains(Check(copy.ToArray()).Parts, p => p is { Name: "cards/GT-01.json", State: PartState.Missing });
    }

    [Fact]
    public async Task WhatAnotherInstallationErasedIsToldWithItsKey()
    {
        using var home = new Site();
        var (_, lines) = await SendFile(
            home,
            $"/api/cards/{home.Stops["CC-02"]}/pictures?id={Guid.NewGuid()}&by={home.Ina}&caption=Stairs&personal=true",
            Picture(120)
        );
        var revision = await Seal(home, device: home.Stops["CC-02"]);
        using var away = new Site();
        await Take(away, await Bundle(home, home.JobId));
        var path = $"/api/jobs/{home.JobId}/handover/revisions/{revision["id"]}/";
        Assert.Equal(SealOutcome.Untouched, Check(await away.Http.GetByteArrayAsync(path + "pack.zip")).Outcome);
        Assert.Equal(
            200,
            (
                await away.Post(
                    $"/api/cards/{home.Stops["CC-02"]}/pictures/{lines[0]!["id"]}/erase",
                    new
                    {
                        id = Guid.NewGuid(),
                        by = "Marit Holm",
                        reason = "A passenger can be recognised",
                    }
                )
            ).Status
        );
        var pack = await away.Http.GetByteArrayAsync(path + "pack.zip");
        var (homeKey, awayKey) = (
            (await Handover(home))["keyFingerprint"]!.ToString(),
            (await Handover(away))["keyFingerprint"]!.ToString()
        );
        var verdict = Check(pack);
        Assert.Equal((SealOutcome.ErasedElsewhere, homeKey, revision["hash"]!.ToString()), (verdict.Outcome, verdict.Key!, verdict.Hash!));
        Assert.Equal(("verify.unknown-key", false), (verdict.Why!.Code, verdict.KeyKnown));
        Assert.Equal(["1", SealKey.Short(awayKey)], Check(pack, homeKey).Why!.Args);
        Assert.Equal([PartState.Erased, PartState.Redrawn], verdict.Parts.Where(p => p.State != PartState.Untouched).Select(p => p.State));
        // Its pages are sealed by one key and the record in them by the other: both are named.
        var report = Check(await away.Http.GetByteArrayAsync(path + "report.pdf"));
        Assert.Equal((SealOutcome.OtherKey, homeKey, "verify.pdf-drawn-elsewhere"), (report.Outcome, report.Key!, report.Why!.Code));
        Assert.Equal([SealKey.Short(homeKey), SealKey.Short(awayKey)], report.Why.Args);
        // Whoever trusts one key only is not content with a record of another, whatever was erased from it.
        Assert.Equal(SealOutcome.ErasedElsewhere, Check(pack, homeKey).Outcome);
        Assert.Equal(SealOutcome.OtherKey, Check(pack, awayKey).Outcome);

        // A stranger's key may take no Card out, and put no other report in the place of one from which no picture went.
        var card = verdict.Parts.Single(p => p.Name.StartsWith("cards/", StringComparison.Ordinal)).Name;
        var found = Check(Forged(pack, card, null));
        Assert.Equal(SealOutcome.Altered, found.Outcome);
        Assert.Contains(found.Parts, p => p.State == PartState.Missing && p.Name == card);
        found = Check(Forged(await File(home, revision, "pack.zip"), "report.pdf", "%PDF-1.7 all accepted"u8.ToArray()));
        Assert.Equal(SealOutcome.Altered, found.Outcome);
        Assert.Contains(found.Parts, p => p.State == PartState.Changed && p.Name == "report.pdf");
    }

    /// <summary>A pack from which somebody took a file out, or put another in its place, with a tombstone and all seals of his own
    /// key.</summary>
    private byte[] Forged(byte[] pack, string name, byte[]? now)
    {
        using var stranger = SealKey.Create();
        var file = Path.Combine(site.Data, $"forged-{Guid.NewGuid():N}.zip");
        using (var zip = new ZipArchive(new MemoryStream(pack)))
        using (var archive = new PackArchive(file, DateTimeOffset.UtcNow))
        {
            byte[] Of(string entry) => PackArchive.Bytes(zip.GetEntry(entry)!);
            foreach (
                var entry in zip.Entries.Where(e =>
                    e.FullName != name && e.FullName is not (PackArchive.ManifestName or PackArchive.TombstonesName)
                )
            )
                archive.Add(entry.FullName, Of(entry.FullName));
            if (now is not null)
                archive.Add(name, now);
            var earlier = zip.GetEntry(PackArchive.TombstonesName) is null
                ? []
                : System.Text.Json.JsonSerializer.Deserialize<PackTombstones>(Of(PackArchive.TombstonesName), Core.CoreJson.Options)!.Of;
            var grave = new PackTombstone(
                name,
                RecordSeal.HashOf(Of(name)),
                now is null ? null : RecordSeal.HashOf(now),
                "Nobody",
                "it was refused",
                DateTimeOffset.UtcNow
            );
            archive.Finish(
                Of(PackArchive.ManifestName),
                PackArchive.Sealed(new PackTombstones("walkdown-tombstones/1", earlier.Add(grave)), stranger, DateTimeOffset.UtcNow),
                stranger
            );
        }
        return System.IO.File.ReadAllBytes(file);
    }

    [Fact]
    public async Task EveryNumberOfTheSummarySaysWhichCardsMakeItUp()
    {
        await site.ReadAll("VL-03");
        var now = (await Handover(site))["now"]!;
        foreach (
            var (of, key) in new[]
            {
                ("cards-accepted", "accepted"),
                ("cards-acceptedWithNote", "noted"),
                ("cards-refused", "refused"),
                ("cards-open", "open"),
                ("faults", "openFaults"),
                ("readings", "readings"),
                ("pictures", "pictures"),
            }
        )
        {
            var answer = await site.Get($"/api/jobs/{site.JobId}/handover/sums/{of}");
            Assert.Equal(now[key]!.ToString(), answer["sum"]!["value"]!["args"]![0]!.ToString());
            if (of.StartsWith("cards", StringComparison.Ordinal))
                Assert.Equal(now[key]!.GetValue<int>(), answer["cards"]!.AsArray().Count + answer["more"]!.GetValue<int>());
        }
        // A reading that is taken back no longer stands; a concession that is taken back is no reading.
        var rows = (await site.Card("VL-03"))["card"]!["rows"]!.AsArray();
        var map = rows.Single(r => r!["check"]!["entry"]!.ToString() == "wireMap")!;
        await site.Add(
            "VL-03",
            "concessions",
            new
            {
                row = map["id"]!.ToString(),
                allowedBy = "Marit Holm",
                reason = "mended next week",
            }
        );
        var concession = (await site.Card("VL-03"))["card"]!["rows"]!.AsArray().Single(r => r!["id"]!.ToString() == map["id"]!.ToString())![
            "conceded"
        ]!["id"]!.ToString();
        await site.Add("VL-03", "withdrawals", new { of = concession, reason = "wrong card" });
        await site.Add(
            "VL-03",
            "withdrawals",
            new { of = Row(await site.Card("VL-03"), "cable.length")["counts"]!.ToString(), reason = "wrong card" }
        );
        var read = (await site.Get($"/api/jobs/{site.JobId}/handover/sums/readings"))["sum"]!["steps"]![0]!["what"]!["args"]!
            .AsArray()
            .Select(n => n!.ToString())
            .ToList();
        Assert.Equal([now["readings"]!.ToString(), "1", $"{now["readings"]!.GetValue<int>() - 1}"], read);
        var refused = await site.Get($"/api/jobs/{site.JobId}/handover/sums/cards-refused");
        var card = refused["cards"]!.AsArray().Single(c => c!["label"]!.ToString() == "VL-03")!;
        Assert.Contains("Wire map: out.", card["exceptions"]!.AsArray().Select(e => e!.ToString()));
        using var unknown = await site.Http.GetAsync($"/api/jobs/{site.JobId}/handover/sums/cards-lost");
        Assert.Equal(404, (int)unknown.StatusCode);
        // The sealed record counts as the page did.
        var sums = Json(Encoding.UTF8.GetString(await File(site, await Seal(site), "record.json")))["sums"]!.AsArray();
        Assert.Equal(
            read,
            sums.Single(s => s!["of"]!.ToString() == "readings")!["steps"]![0]!["what"]!["args"]!.AsArray().Select(n => n!.ToString())
        );
        // The record says the same, and so do the budgets on the Power page.
        Assert.True(JsonNode.DeepEquals(refused["sum"], sums.Single(s => s!["of"]!.ToString() == "cards-refused")));
        var power = await site.Get($"/api/jobs/{site.JobId}/power");
        foreach (
            var source in power["switches"]!
                .AsArray()
                .Concat(power["supplies"]!.AsArray())
                .Where(s => s!["budget"]?["powered"]?.GetValue<int>() != 0)
        )
            Assert.Contains(sums, s => JsonNode.DeepEquals(s, source!["why"]));
    }

    [Fact]
    public async Task WhatIsNoPictureIsRefusedInWords()
    {
        var path = $"/api/cards/{site.Stops["CC-02"]}/pictures?by={site.Ina}&caption=x&id=";
        var (status, problem) = await SendFile(site, path + Guid.NewGuid(), "not a picture"u8.ToArray());
        Assert.Equal((422, "picture.not-a-picture"), (status, problem["code"]!.ToString()));
        Assert.Equal(422, (await SendFile(site, path + Guid.NewGuid(), Picture(9)[..400])).Status);
        Assert.Equal(422, (await SendFile(site, path + Guid.Empty, Picture(9))).Status);
        Assert.Equal("moment", (await SendFile(site, $"{path}{Guid.NewGuid()}&moment=7", Picture(9))).Body["field"]!.ToString());
        var id = Guid.NewGuid();
        Assert.Equal(200, (await SendFile(site, path + id, Picture(9))).Status);
        Assert.Equal(200, (await SendFile(site, path + id, Picture(9))).Status);
        Assert.Equal(409, (await SendFile(site, path + id, Picture(10))).Status);
    }

    [Fact]
    public async Task EveryNumberOfARowSaysWhereItComesFrom()
    {
        var card = await site.ReadAll("GT-05");
        var row = Row(card, "power.volts-at-device", "", "infraredOn");
        var trace = await site.Get($"/api/cards/{site.Stops["GT-05"]}/trace?row={Uri.EscapeDataString(row["id"]!.ToString())}");
        var kinds = trace["trace"]!["steps"]!.AsArray().Select(s => s!["kind"]!.ToString()).ToList();
        Assert.Equal(["reading", "accuracy", "expected", "expected", "limit", "decision", "decision"], kinds);
        var record = await site.Get($"/api/cards/{site.Stops["GT-05"]}/report.json");
        Assert.Contains(record["traces"]!.AsArray(), t => t!["steps"]!.ToJsonString() == trace["trace"]!["steps"]!.ToJsonString());
    }

    [Fact]
    public async Task AJobGoesToAnotherInstallationAndComesBackEqual()
    {
        await site.ReadAll("GT-06");
        await SendFile(site, $"/api/cards/{site.Stops["GT-06"]}/pictures?id={Guid.NewGuid()}&by={site.Ina}&caption=Kerb", Picture(77));
        await Seal(site, device: site.Stops["GT-06"]);
        var bundle = await Bundle(site, site.JobId);
        using var other = new Site();
        var first = await Take(other, bundle);
        Assert.True(first["isNew"]!.GetValue<bool>());
        Assert.Empty(first["conflicts"]!.AsArray());
        Assert.Equal(Data(bundle), Data(await Bundle(other, site.JobId)));
        Assert.Equal(Rows(await site.Card("GT-06")), Rows(await other.Get($"/api/cards/{site.Stops["GT-06"]}")));
        // The same bundle again adds nothing.
        var again = await Take(other, bundle);
        Assert.Equal((false, 0), (again["isNew"]!.GetValue<bool>(), again["added"]!.AsObject().Count));

        // Two technicians, apart from each other: both read, both swap the same unit, both concede the same row.
        var cc12 = site.Stops["CC-12"];
        async Task Both(Site at, string serial, string allowedBy)
        {
            var label = (await at.Get($"/api/cards/{cc12}"))["card"]!["rows"]!
                .AsArray()
                .Single(r => r!["check"]!["id"]!.ToString() == "cable.label")!["id"]!.ToString();
            foreach (
                var (what, body) in new (string, object)[]
                {
                    (
                        "readings",
                        new
                        {
                            row = label,
                            source = "typed",
                            value = new { kind = "yesNo", yes = false },
                        }
                    ),
                    (
                        "concessions",
                        new
                        {
                            row = label,
                            allowedBy,
                            reason = "temporary label",
                        }
                    ),
                    (
                        "acts",
                        new
                        {
                            kind = "unit-swapped",
                            newSerial = serial,
                            text = "dark",
                        }
                    ),
                }
            )
            {
                var entry = at.Entry(body);
                entry["by"] = site.Ina;
                var (status, answer) = await at.Post($"/api/cards/{cc12}/{what}", entry);
                Assert.True(status == 200, answer.ToJsonString());
            }
        }

        await Both(site, "TH9001", "Marit Holm");
        await Both(other, "TH9002", "Odd Strand");
        var joined = await Take(other, await Bundle(site, site.JobId));
        var conflicts = joined["conflicts"]!.AsArray().Select(c => c!["what"]!["code"]!.ToString()).ToList();
        Assert.Contains("bundle.two-units", conflicts);
        Assert.Contains("bundle.two-concessions", conflicts);
        var card = await other.Get($"/api/cards/{cc12}");
        Assert.Equal("TH9002", card["place"]!["serial"]!.ToString());
        Assert.Equal(
            2,
            card["card"]!["rows"]!.AsArray().Single(r => r!["check"]!["id"]!.ToString() == "cable.label")!["attempts"]!.AsArray().Count
        );
        // And back: now both have everything.
        await Take(site, await Bundle(other, site.JobId));
        Assert.Equal(Rows(card), Rows(await site.Card("CC-12")));
    }

    [Fact]
    public async Task ABundleThatIsNoneOrWasAlteredChangesNothing()
    {
        var good = await Bundle(site, site.JobId);
        var readings = site.Count("SELECT count(*) FROM Readings");
        async Task<string> Refused(byte[] file)
        {
            var (status, work) = await SendFile(site, "/api/bundles", file);
            Assert.Equal(200, status);
            var done = await site.Over(work);
            Assert.Equal("failed", done["state"]!.ToString());
            Assert.Equal(readings, site.Count("SELECT count(*) FROM Readings"));
            return done["why"]!.ToString();
        }

        byte[] With(Action<ZipArchive> change)
        {
            using var copy = new MemoryStream();
            copy.Write(good);
            using (var zip = new ZipArchive(copy, ZipArchiveMode.Update, leaveOpen: true))
                change(zip);
            return copy.ToArray();
        }

        // A list of its files as somebody else would seal it.
        byte[] Relisted(Action<JsonObject> change) =>
            With(zip =>
            {
                JsonObject head;
                using (var stream = zip.GetEntry("bundle.json")!.Open())
                    head = JsonNode.Parse(stream)!.AsObject();
                zip.GetEntry("bundle.json")!.Delete();
                head.Remove("seal");
                change(head);
                using var key = SealKey.Create();
                using var document = System.Text.Json.JsonDocument.Parse(head.ToJsonString());
                using var written = zip.CreateEntry("bundle.json").Open();
                written.Write(RecordSeal.Seal(document.RootElement, key, DateTimeOffset.UtcNow));
            });
        void Replace(ZipArchive zip, string name, byte[] content)
        {
            zip.GetEntry(name)!.Delete();
            using var stream = zip.CreateEntry(name).Open();
            stream.Write(content);
        }

        Assert.Contains("cannot be opened", await Refused("no zip"u8.ToArray()));
        Assert.Contains("cannot be opened", await Refused(good[..(good.Length / 2)]));
        Assert.Contains("no list", await Refused(With(zip => zip.GetEntry("bundle.json")!.Delete())));
        Assert.Contains("is missing", await Refused(With(zip => zip.GetEntry("data/Device.json")!.Delete())));
        Assert.Contains("is changed", await Refused(With(zip => Replace(zip, "data/Device.json", "[]"u8.ToArray()))));
        Assert.Contains("is changed", await Refused(With(zip => Replace(zip, "data/Device.json", new byte[50_000_000]))));
        Assert.Contains("another edition", await Refused(Relisted(head => head["format"] = "walkdown-bundle/9")));
        Assert.Contains("newer", await Refused(Relisted(head => head["migration"] = "29990101000000_Later")));
        foreach (var name in new[] { "../evil", "/etc/evil", "evidence/../../evil", "data/sub/evil", "packs\\evil" })
            Assert.Contains("outside itself", await Refused(Relisted(head => head["files"]!.AsArray()[0]!["name"] = name)));
        Assert.Contains("larger than any", await Refused(Relisted(head => head["files"]!.AsArray()[0]!["bytes"] = 1L << 50)));
    }

    /// <summary>Over the wire the private key does not leave at all: only whoever owns the data folder can take it, on the command
    /// line.</summary>
    [Fact]
    public async Task TheKeyLeavesOnlyByItsFileWithAPassphraseWorthTheName()
    {
        using var asked = await site.Http.PostAsync(
            "/api/seal-key/backup",
            System.Net.Http.Json.JsonContent.Create(new { passphrase = "ferry harbour tide" })
        );
        Assert.Equal(404, (int)asked.StatusCode);
        Assert.DoesNotContain("PRIVATE", await asked.Content.ReadAsStringAsync());
        Assert.DoesNotContain("PRIVATE", await site.Http.GetStringAsync("/api/seal-key"));
        if (OperatingSystem.IsWindows())
            return;
        foreach (var path in new[] { "seal-key.pem", "walkdown.db", "server.json", ".lock" })
            Assert.Equal(
                UnixFileMode.UserRead | UnixFileMode.UserWrite,
                System.IO.File.GetUnixFileMode(Path.Combine(site.Data, path)) & ~UnixFileMode.UserExecute
            );
        Assert.Equal(
            UnixFileMode.None,
            System.IO.File.GetUnixFileMode(site.Data)
                & (UnixFileMode.GroupRead | UnixFileMode.OtherRead | UnixFileMode.GroupExecute | UnixFileMode.OtherExecute)
        );
    }

    /// <summary>A pack that is damaged keeps no other from losing the picture, and is named; healed, it loses it too.</summary>
    [Fact]
    public async Task ADamagedPackKeepsNoOtherFromLosingAPicture()
    {
        using var at = new Site();
        var picture = Guid.NewGuid();
        var card = $"/api/cards/{at.Stops["CC-03"]}/pictures";
        using (
            var taken = await at.Http.PostAsync(
                $"{card}?id={picture}&by={at.Ina}",
                new ByteArrayContent(Picture(77)) { Headers = { ContentType = new("application/octet-stream") } }
            )
        )
            Assert.True(taken.IsSuccessStatusCode);
        var hash = (await at.Get(card))[0]!["hash"]!.ToString();
        var packs = new List<string>();
        foreach (var _ in new[] { 1, 2 })
            packs.Add(Path.Combine(at.Data, "packs", $"{Guid.Parse((await Seal(at))["id"]!.ToString()):N}.zip"));
        bool Holds(string pack)
        {
            using var zip = ZipFile.OpenRead(pack);
            return zip.Entries.Any(e => e.FullName.Contains(hash, StringComparison.Ordinal));
        }
        Assert.All(packs, pack => Assert.True(Holds(pack)));
        var whole = await System.IO.File.ReadAllBytesAsync(packs[0]);
        await System.IO.File.WriteAllBytesAsync(packs[0], whole[..^200]);

        var erase = new
        {
            id = Guid.NewGuid(),
            by = "Odile Farrow",
            reason = "a passer-by",
        };
        var (status, answer) = await at.Post($"{card}/{picture}/erase", erase);
        Assert.Equal((409, "picture.pack-unopened"), (status, answer["code"]!.ToString()));
        Assert.Contains(Path.GetFileName(packs[0]), answer["detail"]!.ToString());
        Assert.False(Holds(packs[1]));
        Assert.Empty(Directory.EnumerateFiles(Path.Combine(at.Data, "evidence"), hash, SearchOption.AllDirectories));
        Assert.Equal(System.Net.HttpStatusCode.Gone, (await at.Http.GetAsync($"{card}/{picture}.jpg")).StatusCode);

        await System.IO.File.WriteAllBytesAsync(packs[0], whole);
        Assert.Equal(200, (await at.Post($"{card}/{picture}/erase", erase)).Status);
        Assert.All(packs, pack => Assert.False(Holds(pack)));
    }

    /// <summary>Evidence, plans, packs, bundles, copies of before and the company's catalogue outlive any number of starts, byte for byte;
    /// what a stop broke off does not.</summary>
    [Fact]
    public async Task AStartTakesNothingAwayButWhatWasBrokenOff()
    {
        var first = new Site();
        var picture = Guid.NewGuid();
        using (
            var taken = await first.Http.PostAsync(
                $"/api/cards/{first.Stops["CC-03"]}/pictures?id={picture}&by={first.Ina}",
                new ByteArrayContent(Picture(120)) { Headers = { ContentType = new("application/octet-stream") } }
            )
        )
            Assert.True(taken.IsSuccessStatusCode);
        var revision = await Seal(first);
        await Bundle(first, first.JobId);
        first.Stop();
        await System.IO.File.WriteAllTextAsync(Path.Combine(first.Data, "catalogue", "company.json"), "{}");
        await System.IO.File.WriteAllTextAsync(Path.Combine(first.Data, "before-restore-20260101.zip"), "copy");
        await System.IO.File.WriteAllTextAsync(Path.Combine(first.Data, "notes.v1.txt"), "somebody's own");
        await System.IO.File.WriteAllTextAsync(Path.Combine(first.Data, "evidence", "read.me"), "somebody's own");

        var hash = new string('a', 64);
        var broken = new[]
        {
            Path.Combine("evidence", "aa", $"{hash}.{Guid.NewGuid():N}"),
            Path.Combine("packs", $".{Guid.NewGuid():N}", "pack.zip"),
            Path.Combine("packs", $"{Guid.NewGuid():N}.zip"),
            Path.Combine("packs", $"bundle-{Guid.NewGuid():N}.zip.{Guid.NewGuid():N}"),
            $"backup-{Guid.NewGuid():N}.db",
            Path.Combine($"restore-{Guid.NewGuid():N}", "walkdown.db"),
        };
        foreach (var path in broken.Select(b => Path.Combine(first.Data, b)))
        {
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            await System.IO.File.WriteAllTextAsync(path, "half");
            System.IO.File.SetLastWriteTimeUtc(path, DateTime.UtcNow.AddMinutes(-5));
        }
        Dictionary<string, string> Files() =>
            Directory
                .EnumerateFiles(first.Data, "*", SearchOption.AllDirectories)
                .Select(f => Path.GetRelativePath(first.Data, f))
                .Where(f => !f.StartsWith("walkdown.db", StringComparison.Ordinal) && f is not ("server.json" or ".lock" or ".open"))
                .ToDictionary(f => f, f => Convert.ToHexString(SHA256.HashData(System.IO.File.ReadAllBytes(Path.Combine(first.Data, f)))));
        var before = Files();
        Assert.All(broken, b => Assert.Contains(b, before.Keys));
        Assert.True(before.Keys.Count(k => k.StartsWith("evidence", StringComparison.Ordinal)) >= 5);
        foreach (var b in broken)
            before.Remove(b);

        for (var start = 0; start < 2; start++)
        {
            using var again = start == 1 ? Site.On(first.Data) : null;
            var once = again ?? Site.On(first.Data);
            Assert.Equal(before, Files());
            Assert.Equal(
                System.Net.HttpStatusCode.OK,
                (await once.Http.GetAsync($"/api/cards/{first.Stops["CC-03"]}/pictures/{picture}.jpg")).StatusCode
            );
            Assert.Equal(SealOutcome.Untouched, Check(await File(once, revision, "pack.zip"), null).Outcome);
            if (again is null)
                once.Stop();
        }
    }

    /// <summary>Whoever cannot draw signs by the name; the pages and the record say that it was so, and of the other that it was
    /// not.</summary>
    [Fact]
    public async Task ANameAloneSignsAndSaysThatItIsOne()
    {
        var (status, work) = await Post(
            site,
            [Signature("technician", "Ina Solberg"), ByName("client", "Marit Holm")],
            device: site.Stops["GT-05"]
        );
        Assert.True(status == 200, work.ToJsonString());
        var done = await site.Over(work);
        Assert.True(done["state"]!.ToString() == "done", done.ToJsonString());
        var pack = await File(site, done["revision"]!, "pack.zip");
        Assert.Equal(SealOutcome.Untouched, Check(pack).Outcome);
        Assert.Equal([false, true], Check(pack).Signatures.Select(s => s.Typed));
        using var zip = new ZipArchive(new MemoryStream(pack));
        var record = JsonNode.Parse(zip.GetEntry("record.json")!.Open())!;
        var signatures = record["signatures"]!.AsArray();
        Assert.Equal([null, true], signatures.Select(s => s!["typed"]?.GetValue<bool>()));
        using var pages = PdfDocument.Open(await File(site, done["revision"]!, "report.pdf"));
        var words = string.Join(' ', pages.GetPages().SelectMany(p => p.GetWords()).Select(w => w.Text));
        Assert.Single(System.Text.RegularExpressions.Regex.Matches(words, "Signed by the name alone"));
    }

    [Fact]
    public void TheSchemasInDocsAreThoseOfTheCode()
    {
        var record = System.Text.Json.Schema.JsonSchemaExporter.GetJsonSchemaAsNode(
            Core.CoreJson.Options,
            typeof(HandoverRecord),
            new System.Text.Json.Schema.JsonSchemaExporterOptions
            {
                TransformSchemaNode = (context, node) =>
                    context.TypeInfo.Type == typeof(Core.Acceptance.CheckId) ? new JsonObject { ["type"] = "string" } : node,
            }
        );
        foreach (var (name, node) in new[] { ("record", record), ("bundle", Storage.BundleTables.Schema()) })
        {
            var schema = node.ToJsonString(new System.Text.Json.JsonSerializerOptions { WriteIndented = true }) + "\n";
            var file = Path.Combine(Root, "docs", "schemas", name + ".schema.json");
            if (Environment.GetEnvironmentVariable("WALKDOWN_WRITE") == "1")
                System.IO.File.WriteAllText(file, schema);
            Assert.Equal(System.IO.File.ReadAllText(file), schema);
        }
    }

    private static async Task<byte[]> Bundle(Site at, string jobId)
    {
        var (status, work) = await at.Post($"/api/jobs/{jobId}/bundle", new { });
        Assert.Equal(200, status);
        var done = await at.Over(work);
        Assert.True(done["state"]!.ToString() == "done", done.ToJsonString());
        return await at.Http.GetByteArrayAsync($"/api/jobs/{jobId}/bundle/{work["id"]}.zip");
    }

    private static async Task<JsonNode> Take(Site at, byte[] bundle)
    {
        var (status, work) = await SendFile(at, "/api/bundles", bundle);
        Assert.Equal(200, status);
        var done = await at.Over(work);
        Assert.True(done["state"]!.ToString() == "done", done.ToJsonString());
        // Whose seal it bears is shown; it is taken with that key, and with no other.
        var ask = done["ask"]!;
        var (_, other) = await at.Post(
            $"/api/bundles/{ask["id"]}/take",
            new { key = ask["look"]!["key"]!.ToString()[..20], by = "Ina Solberg" }
        );
        Assert.Equal("verify.key-whole", other["code"]!.ToString());
        (status, work) = await at.Post($"/api/bundles/{ask["id"]}/take", new { key = ask["look"]!["key"]!.ToString(), by = "Ina Solberg" });
        Assert.Equal(200, status);
        done = await at.Over(work);
        Assert.True(done["state"]!.ToString() == "done", done.ToJsonString());
        return done["bundle"]!;
    }

    /// <summary>The rows of a Card but for the sequence, which is each installation's own.</summary>
    private static string Rows(JsonNode card) =>
        System.Text.RegularExpressions.Regex.Replace(card["card"]!["rows"]!.ToJsonString(), "\"sequence\":\\d+", "");

    /// <summary>Every file of a bundle but its list, by name and hash.</summary>
    private static List<string> Data(byte[] bundle)
    {
        using var zip = new ZipArchive(new MemoryStream(bundle));
        return
        [
            .. zip
                .Entries.Where(e => e.FullName != "bundle.json")
                .Select(e =>
                {
                    using var stream = e.Open();
                    return $"{e.FullName} {Convert.ToHexStringLower(SHA256.HashData(stream))}";
                })
                .Order(StringComparer.Ordinal),
        ];
    }
}
