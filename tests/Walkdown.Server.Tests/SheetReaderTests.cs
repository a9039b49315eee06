using System.IO.Compression;
using System.Text;
using Walkdown.Core.Register;
using Walkdown.Formats;
using Walkdown.Storage;

namespace Walkdown.Server.Tests;

/// <summary>Schedules and instrument files as a stranger would make them: read for what they hold, or refused in words, at the cost of what
/// they hold.</summary>
public sealed class SheetReaderTests
{
    private const string Main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
    private const string Office = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";

    /// <summary>A workbook from its parts: the rows of its sheets as XML, and what else it has.</summary>
    internal static byte[] Workbook(string[] sheets, string shared = "", string styles = "", string after = "", string[]? states = null)
    {
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, true))
        {
            void Part(string name, string text)
            {
                using var part = zip.CreateEntry(name, CompressionLevel.Fastest).Open();
                part.Write(Encoding.UTF8.GetBytes(text));
            }

            Part(
                "xl/workbook.xml",
                $"<workbook xmlns='{Main}' xmlns:r='{Office}'><sheets>"
                    + string.Concat(
                        sheets.Select(
                            (_, i) => $"<sheet name='S{i + 1}' sheetId='{i + 1}' state='{states?[i] ?? "visible"}' r:id='r{i + 1}'/>"
                        )
                    )
                    + "</sheets></workbook>"
            );
            Part(
                "xl/_rels/workbook.xml.rels",
                "<Relationships>"
                    + string.Concat(
                        sheets.Select(
                            (_, i) => $"<Relationship Id='r{i + 1}' Type='{Office}/worksheet' Target='worksheets/sheet{i + 1}.xml'/>"
                        )
                    )
                    + $"<Relationship Id='rs' Type='{Office}/sharedStrings' Target='/xl/sharedStrings.xml'/>"
                    + $"<Relationship Id='rt' Type='{Office}/styles' Target='./styles.xml'/></Relationships>"
            );
            Part("xl/sharedStrings.xml", $"<sst xmlns='{Main}'>{shared}</sst>");
            Part("xl/styles.xml", $"<styleSheet xmlns='{Main}'>{styles}</styleSheet>");
            for (var i = 0; i < sheets.Length; i++)
                Part($"xl/worksheets/sheet{i + 1}.xml", $"<worksheet xmlns='{Main}'><sheetData>{sheets[i]}</sheetData>{after}</worksheet>");
        }
        return stream.ToArray();
    }

    private static string Text(string at, string text, int style = 0) =>
        $"<c r='{at}' s='{style}' t='inlineStr'><is><t>{text}</t></is></c>";

    private static IEnumerable<string> Texts(IReadOnlyList<Cell> row) => row.Select(c => c.Text);

    private static string Refused(byte[] file) => Assert.Throws<SheetException>(() => SheetReader.Read(file)).What.Code;

    [Fact]
    public void AWorkbookSaysWhatItShowsAndWhatItDoesNot()
    {
        const string styles =
            "<numFmts><numFmt numFmtId='170' formatCode='d/m'/><numFmt numFmtId='171' formatCode='0.0 &quot;days&quot;'/></numFmts>"
            + "<fonts><font/><font><strike/></font></fonts>"
            + "<cellXfs><xf fontId='0'/><xf numFmtId='14'/><xf numFmtId='170'/><xf numFmtId='171'/><xf fontId='1'/></cellXfs>";
        var file = Workbook(
            [
                $"<row r='1'>{Text("A1", "Device ID")}{Text("B1", "Port")}<c r='C1' t='s'><v>0</v></c></row>"
                    + "<row r='3'><c r='A3' t='str'><f>CONCAT(1)</f><v>V-01</v></c><c r='B3' s='1'><v>46204</v></c><c "
                    + "r='C3' s='3'><v>62.5</v></c></row>"
                    + "<row r='4' hidden='1'><c r='A4' t='inlineStr'><is><r><t>V-</t></r><r><t>02</t></r><rPh><t>not "
                    + "this</t></rPh></is></c>"
                    + "<c r='B4' s='2'><v>46204</v></c><c r='C4'><f>B3*2</f></c></row>"
                    + $"<row r='5'>{Text("A5", "V-03", 4)}<c r='B5'><v>7</v></c><c r='C5' t='e'><v>#REF!</v></c></row>"
                    + "<row r='6'><c r='A6'><f>A3</f><v></v></c></row>",
            ],
            "<si><t>Length</t></si>",
            styles
        );
        var sheet = Assert.Single(SheetReader.Read(file));
        Assert.Equal(["Device ID", "Port", "Length"], Texts(sheet.Rows[0]));
        Assert.Empty(sheet.Rows[1]);
        Assert.Equal([new Cell("V-01"), new Cell("2026-07-01", Odd: CellOddity.Date), new Cell("62.5", true)], sheet.Rows[2]);
        Assert.Equal(
            [new Cell("V-02"), new Cell("2026-07-01", Odd: CellOddity.Date), new Cell("", Odd: CellOddity.NoResult)],
            sheet.Rows[3]
        );
        Assert.Equal(new Cell("#REF!", Odd: CellOddity.Error), sheet.Rows[4][2]);
        Assert.Equal(CellOddity.NoResult, sheet.Rows[5][0].Odd);
        Assert.Equal([(3, RowOddity.Hidden), (4, RowOddity.StruckOut)], sheet.Odd.OrderBy(o => o.Key).Select(o => (o.Key, o.Value)));
    }

    [Fact]
    public void AHiddenSheetIsSaidToBe()
    {
        var sheets = SheetReader.Read(
            Workbook([$"<row r='1'>{Text("A1", "old")}</row>", $"<row r='1'>{Text("A1", "new")}</row>"], states: ["veryHidden", "visible"])
        );
        Assert.Equal([("S1", true), ("S2", false)], sheets.Select(s => (s.Name, s.Hidden)));
    }

    [Fact]
    public void StrayCellsAndWideMergesCostNothing()
    {
        var rows = string.Concat(Enumerable.Range(1, 20).Select(r => $"<row r='{r}'>{Text($"A{r}", $"V-{r:00}")}<c r='XFD{r}'/></row>"));
        var wide = Assert.Single(SheetReader.Read(Workbook([rows + $"<row r='1048576'><c r='XFD1048576'><v>1</v></c></row>"])));
        Assert.Equal((20, 1), (wide.Rows.Count, wide.Rows.Max(r => r.Count)));
        var merged = Assert.Single(
            SheetReader.Read(
                Workbook(
                    [rows],
                    after: "<mergeCells><mergeCell ref='A1:XFD1048576'/><mergeCell ref='B2:A1'/><mergeCell ref='ZZZZZ'/></mergeCells>"
                )
            )
        );
        Assert.Equal(20, merged.Rows.Count);
        // A merge stands in all of it, so far as there is data.
        var block = Assert.Single(
            SheetReader.Read(
                Workbook(
                    [$"<row r='1'>{Text("A1", "R1")}{Text("B1", "V-01")}</row><row r='2'>{Text("B2", "V-02")}</row>"],
                    after: "<mergeCells><mergeCell ref='A1:A2'/></mergeCells>"
                )
            )
        );
        Assert.Equal(["R1", "V-02"], Texts(block.Rows[1]));
    }

    public static TheoryData<string, string> Bombs() =>
        new()
        {
            { "a hundred megabytes of shared texts", "shared" },
            { "one text of a hundred megabytes", "long" },
            { "two million rows", "rows" },
            { "an entity that unfolds", "entity" },
            { "rows that count backwards", "backwards" },
        };

    [Theory]
    [MemberData(nameof(Bombs))]
    public void AWorkbookThatSwellsIsRefusedInWords(string what, string which)
    {
        var one = $"<row r='1'>{Text("A1", "V-01")}</row>";
        var file = which switch
        {
            "shared" => Workbook([one], string.Concat(Enumerable.Repeat($"<si><t>{new string('x', 4000)}</t></si>", 30_000))),
            "long" => Workbook([one], $"<si><t>{new string('x', 120_000_000)}</t></si>"),
            "rows" => Workbook([string.Concat(Enumerable.Range(1, 400_000).Select(r => $"<row r='{r}'><c><v>1</v></c></row>"))]),
            "entity" => Replaced(one),
            _ => Workbook(["<row r='-4'><c><v>1</v></c></row>"]),
        };
        Assert.True(Refused(file) is "sheet.unfolds" or "sheet.too-many-rows" or "sheet.broken-workbook", what);

        static byte[] Replaced(string rows)
        {
            using var stream = new MemoryStream();
            using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, true))
            {
                using var part = zip.CreateEntry("xl/workbook.xml").Open();
                part.Write(
                    Encoding.UTF8.GetBytes(
                        $"<!DOCTYPE w [<!ENTITY a 'aaaaaaaaaa'><!ENTITY b '&a;&a;&a;&a;&a;&a;&a;&a;'>]><workbook>&b;{rows}</workbook>"
                    )
                );
            }
            return stream.ToArray();
        }
    }

    [Theory]
    [InlineData("a,b\n1,2\n", "a|b/1|2")]
    [InlineData("a,b\r\n\"x, \"\"y\"\"\",2", "a|b/x, \"y\"|2")]
    [InlineData("a,b\n\"two\nlines\",2\n", "a|b/two\nlines|2")]
    [InlineData("a,b\n9'6\",2\n", "a|b/9'6\"|2")]
    [InlineData("a,b,c\nV-01,R1,x\nV-02,\",y\nV-03,\",z\n", "a|b|c/V-01|R1|x/V-02|\"|y/V-03|\"|z")]
    [InlineData("a,b\n,\n\n1,2", "a|b/|//1|2")]
    [InlineData("a,b\n\"x\"y,2\n", "a|b/xy|2")]
    [InlineData("a;b\n1,5;2\n", "a|b/1,5|2")]
    public void SeparatedTextIsReadAsPeopleWriteIt(string text, string rows) =>
        Assert.Equal(
            rows,
            string.Join('/', SheetReader.Read(Encoding.UTF8.GetBytes(text))[0].Rows.Select(r => string.Join('|', Texts(r))))
        );

    [Fact]
    public void ALineOfQuotationMarksIsReadOnce()
    {
        // Quadratic before: 240 kB took 27 seconds. The work is now one look at each sign.
        var marks = string.Concat(Enumerable.Repeat("a\"b\" ", 19_000));
        Assert.Equal(marks.Trim(), SheetReader.Read(Encoding.UTF8.GetBytes($"x,{marks},y"))[0].Rows[0][1].Text);
        Assert.Equal("sheet.broken-csv", Refused(Encoding.UTF8.GetBytes("a,b\n1,\"never closed\n" + new string('x', 2000))));
        Assert.Equal("sheet.broken-csv", Refused(Encoding.UTF8.GetBytes("a," + new string('x', 200_000))));
    }

    [Fact]
    public void AnyFileIsReadOrRefusedInWords()
    {
        var sound = Workbook(
            [$"<row r='1'>{Text("A1", "Device ID")}{Text("B1", "Type")}</row><row r='2'>{Text("A2", "V-01")}{Text("B2", "Turret")}</row>"],
            "<si><t>x</t></si>"
        );
        var dice = new Random(11);
        for (var n = 0; n < 1500; n++)
        {
            var file = (byte[])sound.Clone();
            for (var flips = dice.Next(1, 8); flips > 0; flips--)
                file[dice.Next(file.Length)] = (byte)dice.Next(256);
            if (dice.Next(4) == 0)
                file = file[..dice.Next(1, file.Length)];
            try
            {
                Assert.NotEmpty(SheetReader.Read(file));
            }
            catch (SheetException refused)
            {
                Assert.StartsWith("sheet.", refused.What.Code, StringComparison.Ordinal);
            }
        }
    }
}
