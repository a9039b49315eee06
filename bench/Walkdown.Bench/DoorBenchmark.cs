using System.Diagnostics;
using System.IO.Compression;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;

namespace Walkdown.Bench;

/// <summary>What a hostile file costs at each door: the time until it is answered, and the most memory that the server and its helpers
/// took. Aim: 2 s and 200 MB each.</summary>
internal static class DoorBenchmark
{
    private const string Main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
    private const string Office = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";

    public static async Task Run(Uri address, int server)
    {
        using var http = new HttpClient { BaseAddress = address, Timeout = TimeSpan.FromMinutes(10) };
        var job = JsonNode.Parse(await http.GetStringAsync("/api/jobs"))![0]!["id"]!.ToString();
        var imports = $"/api/jobs/{job}/imports?name=x";
        var results = $"/api/jobs/{job}/results/file?name=x";
        await Ask(http, imports, Encoding.UTF8.GetBytes("a,b\n1,2\n"));
        var row = "<row r='1'><c r='A1'><v>1</v></c></row>";
        var doors = new (string What, string Path, Func<byte[]> File)[]
        {
            (
                "workbook, a stray cell in the last column of each of 2,000 rows",
                imports,
                () =>
                    Workbook(
                        string.Concat(Enumerable.Range(1, 2000).Select(r => $"<row r='{r}'><c r='A{r}'><v>1</v></c><c r='XFD{r}'/></row>"))
                    )
            ),
            (
                "workbook, a stray cell in the last row",
                imports,
                () => Workbook(row + "<row r='1048576'><c r='XFD1048576'><v>1</v></c></row>")
            ),
            (
                "workbook, one merge over all of it",
                imports,
                () => Workbook(row, after: "<mergeCells><mergeCell ref='A1:XFD1048576'/></mergeCells>")
            ),
            (
                "workbook, 390 MB of shared texts",
                imports,
                () => Workbook(row, string.Concat(Enumerable.Repeat($"<si><t>{new string('x', 4000)}</t></si>", 97_500)))
            ),
            ("workbook, one text of 300 MB", imports, () => Workbook(row, $"<si><t>{new string('x', 300_000_000)}</t></si>")),
            (
                "workbook, 5 million cells",
                imports,
                () =>
                    Workbook(
                        string.Concat(
                            Enumerable
                                .Range(1, 20_000)
                                .Select(r => $"<row r='{r}'>{string.Concat(Enumerable.Repeat("<c><v>1</v></c>", 250))}</row>")
                        )
                    )
            ),
            (
                "CSV, 8 MB of unquoted quotation marks on one line",
                imports,
                () => Encoding.UTF8.GetBytes("a,b\n" + string.Concat(Enumerable.Repeat("a\"b\" ", 1_600_000)))
            ),
            (
                "CSV, 20,000 ports of 400 signs",
                imports,
                () =>
                    Encoding.UTF8.GetBytes(
                        "Device ID,Type,Port\n"
                            + string.Concat(Enumerable.Range(0, 20_000).Select(i => $"V-{i},Turret,a{new string(' ', 400)}b\n"))
                    )
            ),
            ("results, a CSV that is one cell of 30 MB", results, () => Encoding.UTF8.GetBytes(new string('x', 30_000_000))),
            ("results, JSON of 10 million brackets", results, () => Encoding.UTF8.GetBytes(new string('[', 10_000_000))),
            (
                "verify, a PDF of 200,000 brackets",
                "/api/verify",
                () =>
                    Encoding.UTF8.GetBytes(
                        "%PDF-1.7\n1 0 obj\n" + new string('[', 200_000) + "\nendobj\ntrailer<</Root 1 0 R>>\nstartxref\n9\n%%EOF"
                    )
            ),
            ("verify, a pack with a record of 500 MB", "/api/verify", () => Zip(("record.json", new byte[500_000_000]))),
            ("verify, JSON of 3 million brackets", "/api/verify", () => Encoding.UTF8.GetBytes(new string('[', 3_000_000))),
            ("bundle, a head of 400 MB", "/api/bundles", () => Zip(("bundle.json", new byte[400_000_000]))),
            (
                "bundle, 60,000 parts",
                "/api/bundles",
                () => Zip([.. Enumerable.Range(0, 60_000).Select(i => ($"data/{i}.json", Array.Empty<byte>()))])
            ),
            (
                "plan, a drawing that folds into itself",
                $"/api/jobs/{job}/plan?name=x",
                () =>
                    Encoding.UTF8.GetBytes(
                        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><defs><g id='a0'><rect width='1' height='1'/></g>"
                            + string.Concat(Enumerable.Range(1, 9).Select(Tenfold))
                            + "</defs><use href='#a9'/></svg>"
                    )
            ),
        };
        Console.WriteLine($"{"hostile file", -66} {"sent", 9} {"answered", 9} {"most memory", 12}  answer");
        foreach (var (what, path, make) in doors)
        {
            var file = make();
            await Task.Delay(300);
            var before = Held(server);
            var most = 0L;
            using var stop = new CancellationTokenSource();
            var watch = Task.Run(async () =>
            {
                while (!stop.IsCancellationRequested)
                {
                    most = Math.Max(most, Held(server) - before);
                    await Task.Delay(5);
                }
            });
            var clock = Stopwatch.StartNew();
            var answer = await Ask(http, path, file);
            var seconds = clock.Elapsed.TotalSeconds;
            await stop.CancelAsync();
            await watch;
            Console.WriteLine($"{what, -66} {file.Length / 1e6, 6:F2} MB {seconds, 7:F2} s {most / 1048576.0, 9:F0} MB  {answer}");
        }
    }

    private static async Task<string> Ask(HttpClient http, string path, byte[] file)
    {
        using var content = new ByteArrayContent(file) { Headers = { ContentType = new MediaTypeHeaderValue("application/octet-stream") } };
        using var response = await http.PostAsync(path, content);
        var text = await response.Content.ReadAsStringAsync();
        if (!response.IsSuccessStatusCode)
            return $"{(int)response.StatusCode} {(text.StartsWith('{') ? JsonNode.Parse(text)!["code"] : "")}";
        if (text.Length == 0)
            return "taken";
        var work = JsonNode.Parse(text)!;
        for (; work["state"]?.ToString() == "running"; work = JsonNode.Parse(await http.GetStringAsync($"/api/progress/{work["id"]}"))!)
            await Task.Delay(10);
        return work["state"] is { } state ? $"{state} {work["checked"]?["why"]?["code"] ?? work["why"]}" : "taken";
    }

    /// <summary>Resident memory of the server and of the processes that it started.</summary>
    private static long Held(int server)
    {
        var all = 0L;
        foreach (var folder in Directory.EnumerateDirectories("/proc").Where(p => char.IsAsciiDigit(Path.GetFileName(p)[0])))
            try
            {
                var pid = int.Parse(Path.GetFileName(folder));
                if (pid != server && int.Parse(File.ReadAllText($"{folder}/stat").Split(") ")[1].Split(' ')[1]) != server)
                    continue;
                all +=
                    long.Parse(
                        File.ReadLines($"{folder}/status")
                            .First(l => l.StartsWith("VmRSS", StringComparison.Ordinal))
                            .Split(' ', StringSplitOptions.RemoveEmptyEntries)[1]
                    ) * 1024;
            }
            catch (Exception gone)
                when (gone is IOException or InvalidOperationException or UnauthorizedAccessException or IndexOutOfRangeException)
            {
                // It ended while it was looked at.
            }
        return all;
    }

    private static byte[] Workbook(string rows, string shared = "", string after = "") =>
        Zip(
            (
                "xl/workbook.xml",
                Encoding.UTF8.GetBytes(
                    $"<workbook xmlns='{Main}' xmlns:r='{Office}'><sheets><sheet name='S' sheetId='1' r:id='r1'/></sheets></workbook>"
                )
            ),
            (
                "xl/_rels/workbook.xml.rels",
                Encoding.UTF8.GetBytes(
                    $"<Relationships><Relationship Id='r1' Type='{Office}/worksheet' Target='worksheets/sheet1.xml'/>"
                        + $"<Relationship Id='r2' Type='{Office}/sharedStrings' Target='sharedStrings.xml'/></Relationships>"
                )
            ),
            ("xl/sharedStrings.xml", Encoding.UTF8.GetBytes($"<sst xmlns='{Main}'>{shared}</sst>")),
            (
                "xl/worksheets/sheet1.xml",
                Encoding.UTF8.GetBytes($"<worksheet xmlns='{Main}'><sheetData>{rows}</sheetData>{after}</worksheet>")
            )
        );

    private static byte[] Zip(params (string Name, byte[] Content)[] parts)
    {
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, true))
            foreach (var (name, content) in parts)
            {
                using var part = zip.CreateEntry(name, CompressionLevel.Optimal).Open();
                part.Write(content);
            }
        return stream.ToArray();
    }

    private static string Tenfold(int level) =>
        $"<g id='a{level}'>{string.Concat(Enumerable.Repeat($"<use href='#a{level - 1}'/>", 10))}</g>";
}
