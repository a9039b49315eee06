using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Xml;
using Walkdown.Core.Register;

namespace Walkdown.Formats;

/// <summary>
/// Reads the cells of a workbook (ISO/IEC 29500) as it streams by, bounded by what holds data: a stray cell in the last column, a merge
/// over the whole sheet or texts of hundreds of megabytes cost no more than they hold. Formulas are never run; one whose result is not
/// stored is told apart, and so are days, failed formulas, hidden and struck-out rows.
/// </summary>
internal sealed class WorkbookRows
{
    /// <summary>So much of its parts is unfolded, all in all.</summary>
    private const long MostUnfolded = 96L << 20;

    /// <summary>And so many times the file: tables shrink twenty- or thirtyfold, seldom more.</summary>
    private const int MostRatio = 80;
    private const long MostText = 24L << 20;
    private const int MostCells = 1_200_000;
    private const int MostSheets = 60;
    private const int MostColumns = 256;
    private const int MostRowNumber = 1 << 20;
    private const int MostCellText = 4000;

    private readonly CancellationToken _cancel;
    private readonly Dictionary<string, ZipArchiveEntry> _parts = new(StringComparer.OrdinalIgnoreCase);
    private long _unfolded;
    private long _text;
    private int _cells;

    private readonly char[] _piece = new char[1024];
    private readonly Cell[] _line = new Cell[MostColumns];
    private readonly List<string> _shared = [];
    private readonly long _mostUnfolded;
    private bool[] _isDay = [];
    private bool[] _isStruck = [];

    private WorkbookRows(ZipArchive zip, long bytes, CancellationToken cancel)
    {
        (_mostUnfolded, _cancel) = (Math.Min(MostUnfolded, (4L << 20) + bytes * MostRatio), cancel);
        foreach (var entry in zip.Entries)
            _parts.TryAdd(entry.FullName.Replace('\\', '/').TrimStart('/'), entry);
    }

    /// <exception cref="SheetException">No workbook, broken, or far more than a schedule holds.</exception>
    public static IReadOnlyList<Sheet> Read(byte[] file, CancellationToken cancel)
    {
        try
        {
            using var zip = new ZipArchive(new MemoryStream(file));
            if (zip.Entries.Count > 5000)
                throw Unfolds();
            return new WorkbookRows(zip, file.Length, cancel).All();
        }
        catch (Exception problem)
            when (problem
                    is InvalidDataException
                        or XmlException
                        or IOException
                        or NotSupportedException
                        or FormatException
                        or ArgumentException
                        or EndOfStreamException
            )
        {
            throw new SheetException(new("sheet.broken-workbook"));
        }
    }

    private static SheetException Unfolds() => new(new("sheet.unfolds"));

    private IReadOnlyList<Sheet> All()
    {
        var book = _parts.ContainsKey("xl/workbook.xml")
            ? "xl/workbook.xml"
            : _parts.Keys.FirstOrDefault(k => k.EndsWith("/workbook.xml", StringComparison.OrdinalIgnoreCase) || k == "workbook.xml");
        if (book is null)
            throw new SheetException(new(_parts.ContainsKey("mimetype") ? "sheet.other-workbook" : "sheet.not-a-workbook"));
        var folder = book[..(book.LastIndexOf('/') + 1)];
        var targets = Relations($"{folder}_rels/{book[folder.Length..]}.rels", folder);
        Styles(targets.Values.FirstOrDefault(t => t.Type.EndsWith("/styles", StringComparison.Ordinal)).Part ?? folder + "styles.xml");
        SharedStrings(
            targets.Values.FirstOrDefault(t => t.Type.EndsWith("/sharedStrings", StringComparison.Ordinal)).Part
                ?? folder + "sharedStrings.xml"
        );
        var sheets = new List<Sheet>();
        foreach (var (name, relation, hidden) in SheetNames(book))
            if (
                targets.TryGetValue(relation, out var target)
                && target.Type.EndsWith("/worksheet", StringComparison.Ordinal)
                && SheetOf(name, hidden, target.Part) is { Rows.Count: > 0 } sheet
            )
                sheets.Add(sheet);
        return sheets.Count > 0 ? sheets : throw new SheetException(new("sheet.empty"));
    }

    private XmlReader? Open(string part) =>
        _parts.TryGetValue(part, out var entry)
            ? XmlReader.Create(
                new Counted(entry.Open(), this),
                new XmlReaderSettings
                {
                    DtdProcessing = DtdProcessing.Prohibit,
                    XmlResolver = null,
                    IgnoreComments = true,
                    IgnoreProcessingInstructions = true,
                    CloseInput = true,
                    MaxCharactersInDocument = _mostUnfolded,
                }
            )
            : null;

    private Dictionary<string, (string Type, string Part)> Relations(string part, string folder)
    {
        var found = new Dictionary<string, (string, string)>();
        using var xml = Open(part);
        while (xml?.Read() == true && found.Count < 2000)
            if (
                xml is { NodeType: XmlNodeType.Element, LocalName: "Relationship" }
                && xml.GetAttribute("Id") is { } id
                && xml.GetAttribute("Target") is { Length: < 400 } target
            )
                found[id] = (xml.GetAttribute("Type") ?? "", target.StartsWith('/') ? target[1..] : Within(folder + target));
        return found;
    }

    private static string Within(string path)
    {
        var parts = new List<string>();
        foreach (var part in path.Split('/'))
            if (part == ".." && parts.Count > 0)
                parts.RemoveAt(parts.Count - 1);
            else if (part is not ("." or ".."))
                parts.Add(part);
        return string.Join('/', parts);
    }

    private List<(string Name, string Relation, bool Hidden)> SheetNames(string part)
    {
        var names = new List<(string, string, bool)>();
        using var xml = Open(part);
        while (xml?.Read() == true && names.Count < MostSheets)
            if (xml is { NodeType: XmlNodeType.Element, LocalName: "sheet" })
                names.Add(
                    (
                        xml.GetAttribute("name") ?? "",
                        xml.GetAttribute("id", "http://schemas.openxmlformats.org/officeDocument/2006/relationships")
                            ?? xml.GetAttribute("id", "http://purl.oclc.org/ooxml/officeDocument/relationships")
                            ?? "",
                        xml.GetAttribute("state") is "hidden" or "veryHidden"
                    )
                );
        return names;
    }

    private void Styles(string part)
    {
        using var xml = Open(part);
        var (formats, strikes, day, struck) = (new Dictionary<int, bool>(), new List<bool>(), new List<bool>(), new List<bool>());
        var (inFonts, inCells) = (false, false);
        while (xml?.Read() == true && day.Count < 70_000 && strikes.Count < 70_000)
        {
            if (xml.NodeType == XmlNodeType.EndElement)
            {
                if (xml.LocalName == "fonts")
                    inFonts = false;
                if (xml.LocalName == "cellXfs")
                    inCells = false;
            }
            if (xml.NodeType != XmlNodeType.Element)
                continue;
            switch (xml.LocalName)
            {
                case "numFmt":
                    formats[Number(xml.GetAttribute("numFmtId")) ?? -1] = IsDayFormat(xml.GetAttribute("formatCode") ?? "");
                    break;
                case "fonts":
                    inFonts = !xml.IsEmptyElement;
                    break;
                case "font" when inFonts:
                    strikes.Add(false);
                    break;
                case "strike" when inFonts && strikes.Count > 0:
                    strikes[^1] = xml.GetAttribute("val") is not ("0" or "false");
                    break;
                case "cellXfs":
                    inCells = !xml.IsEmptyElement;
                    break;
                case "xf" when inCells:
                    var format = Number(xml.GetAttribute("numFmtId")) ?? 0;
                    day.Add(
                        formats.TryGetValue(format, out var known)
                            ? known
                            : format is >= 14 and <= 17 or 22 or >= 27 and <= 31 or >= 36 and <= 36 or >= 50 and <= 58
                    );
                    struck.Add(Number(xml.GetAttribute("fontId")) is { } font && font >= 0 && font < strikes.Count && strikes[font]);
                    break;
            }
        }
        (_isDay, _isStruck) = ([.. day], [.. struck]);
    }

    /// <summary>A number format that shows a day: d, m or y outside of quotation marks and brackets.</summary>
    private static bool IsDayFormat(string code)
    {
        var (quoted, bracket) = (false, false);
        for (var i = 0; i < Math.Min(code.Length, 300); i++)
        {
            var c = code[i];
            if (c == '\\' || c == '_')
                i++;
            else if (c == '"')
                quoted = !quoted;
            else if (c == '[')
                bracket = true;
            else if (c == ']')
                bracket = false;
            else if (!quoted && !bracket && c is 'd' or 'D' or 'y' or 'Y')
                return true;
        }
        return false;
    }

    private void SharedStrings(string part)
    {
        using var xml = Open(part);
        while (xml?.Read() == true)
            if (xml is { NodeType: XmlNodeType.Element, LocalName: "si" })
            {
                if ((_shared.Count & 1023) == 0)
                    _cancel.ThrowIfCancellationRequested();
                _shared.Add(xml.IsEmptyElement ? "" : Kept(RichText(xml, "si")));
                if (_shared.Count > MostCells)
                    throw Unfolds();
            }
    }

    /// <summary>The runs of a text, without what is only said of its sound.</summary>
    private string RichText(XmlReader xml, string until)
    {
        var text = new StringBuilder();
        var sound = 0;
        while (xml.Read() && !(xml.NodeType == XmlNodeType.EndElement && xml.LocalName == until))
        {
            if (xml.LocalName == "rPh")
                sound +=
                    xml.NodeType == XmlNodeType.Element && !xml.IsEmptyElement ? 1
                    : xml.NodeType == XmlNodeType.EndElement ? -1
                    : 0;
            if (xml.NodeType is not (XmlNodeType.Text or XmlNodeType.SignificantWhitespace or XmlNodeType.Whitespace or XmlNodeType.CDATA))
                continue;
            // Piece by piece: a text of a hundred megabytes is never held.
            for (int n; (n = xml.ReadValueChunk(_piece, 0, _piece.Length)) > 0; )
                if (sound == 0 && text.Length < MostCellText)
                    text.Append(_piece, 0, Math.Min(n, MostCellText - text.Length));
        }
        return text.ToString();
    }

    private string Kept(string text)
    {
        if (text.Length > MostCellText)
            text = text[..MostCellText];
        return (_text += text.Length) > MostText ? throw Unfolds() : text;
    }

    private Sheet? SheetOf(string name, bool hidden, string part)
    {
        using var xml = Open(part);
        if (xml is null)
            return null;
        var rows = new SortedDictionary<int, Cell[]>();
        var odd = new Dictionary<int, RowOddity>();
        var merges = new List<(int Row, int Column, int ToRow, int ToColumn)>();
        var hiddenColumns = new List<(int From, int To)>();
        var row = -1;
        while (xml.Read())
        {
            if (xml.NodeType != XmlNodeType.Element)
                continue;
            switch (xml.LocalName)
            {
                case "row":
                    if ((row & 255) == 0)
                        _cancel.ThrowIfCancellationRequested();
                    row = (Number(xml.GetAttribute("r")) ?? row + 2) - 1;
                    if (row is < 0 or >= MostRowNumber)
                        throw new SheetException(new("sheet.broken-workbook"));
                    if (xml.GetAttribute("hidden") is "1" or "true")
                        odd[row] = RowOddity.Hidden;
                    RowOf(xml, row, rows, odd);
                    break;
                case "mergeCell" when merges.Count < 20_000 && Area(xml.GetAttribute("ref")) is { } area:
                    merges.Add(area);
                    break;
            }
        }
        Merge(rows, merges);
        // Row numbers stay those of the file; rows that hold nothing are one and the same.
        var all = new IReadOnlyList<Cell>[rows.Count == 0 ? 0 : rows.Keys.Last() + 1];
        Array.Fill(all, []);
        foreach (var (number, cells) in rows)
        {
            all[number] = cells;
        }
        return new Sheet(name, all)
        {
            Hidden = hidden,
            Odd = odd.Where(o => rows.ContainsKey(o.Key)).ToDictionary(o => o.Key, o => o.Value),
        };
    }

    private void RowOf(XmlReader xml, int row, SortedDictionary<int, Cell[]> rows, Dictionary<int, RowOddity> odd)
    {
        if (xml.IsEmptyElement)
            return;
        Array.Fill(_line, new Cell(""));
        var last = -1;
        var (column, filled, struck, firstIs) = (-1, 0, 0, false);
        while (xml.Read() && !(xml.NodeType == XmlNodeType.EndElement && xml.LocalName == "row"))
        {
            if (xml.NodeType != XmlNodeType.Element || xml.LocalName != "c")
                continue;
            column = xml.GetAttribute("r") is { } at && ColumnOf(at) is { } named ? named : column + 1;
            var style = Number(xml.GetAttribute("s")) ?? 0;
            var cell = CellOf(xml, xml.GetAttribute("t") ?? "n", style);
            // Beyond what is read there is nothing of a schedule.
            if (cell.IsEmpty || column >= MostColumns)
                continue;
            if (++_cells > MostCells)
                throw Unfolds();
            filled++;
            if (style >= 0 && style < _isStruck.Length && _isStruck[style])
            {
                struck++;
                firstIs |= filled == 1;
            }
            _line[column] = cell;
            last = Math.Max(last, column);
        }
        if (last < 0)
            return;
        if (rows.Count > SchedulePlan.MostRows + 100)
            throw new SheetException(new("sheet.too-many-rows", SchedulePlan.MostRows.ToString(CultureInfo.InvariantCulture)));
        rows[row] = _line[..(last + 1)];
        // Its first cell, or most of it: who strikes out a row seldom strikes out the remark on why.
        if (firstIs || struck * 2 > filled)
            odd[row] = RowOddity.StruckOut;
    }

    private Cell CellOf(XmlReader xml, string type, int style)
    {
        if (xml.IsEmptyElement)
            return new Cell("");
        string? value = null,
            inline = null;
        var formula = false;
        while (xml.Read() && !(xml.NodeType == XmlNodeType.EndElement && xml.LocalName == "c"))
        {
            if (xml.NodeType != XmlNodeType.Element)
                continue;
            switch (xml.LocalName)
            {
                case "f":
                    formula = true;
                    if (!xml.IsEmptyElement)
                        RichText(xml, "f");
                    break;
                case "v":
                    value = xml.IsEmptyElement ? "" : RichText(xml, "v");
                    break;
                case "is":
                    inline = xml.IsEmptyElement ? "" : RichText(xml, "is");
                    break;
            }
        }
        var text = type switch
        {
            "s" => Number(value?.Trim()) is { } index && index >= 0 && index < _shared.Count ? _shared[index] : "",
            "inlineStr" => Kept(inline ?? ""),
            _ => Kept(value ?? ""),
        };
        if (formula && text.Length == 0 && (value is null || type is not "str"))
            return new Cell("", Odd: CellOddity.NoResult);
        if (type == "e")
            return new Cell(text, Odd: CellOddity.Error);
        if (type == "b")
            return new Cell(text == "1" ? "yes" : "no");
        if (type == "d")
            return new Cell(text, Odd: CellOddity.Date);
        if (type is "s" or "str" or "inlineStr")
            return new Cell(SheetReader.Unguarded(CellText.Visible(text)));
        if (text.Length == 0)
            return new Cell("");
        if (!double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) || !double.IsFinite(number))
            return new Cell(CellText.Visible(text));
        return style >= 0 && style < _isDay.Length && _isDay[style] && number is > 0 and < 2_958_466
            ? new Cell(DateTime.FromOADate(number).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), Odd: CellOddity.Date)
            : new Cell(number.ToString("R", CultureInfo.InvariantCulture), true);
    }

    /// <summary>The first cell of a merge stands in all of it, so far as the sheet holds data.</summary>
    private void Merge(SortedDictionary<int, Cell[]> rows, List<(int Row, int Column, int ToRow, int ToColumn)> merges)
    {
        if (merges.Count == 0 || rows.Count == 0)
            return;
        var numbers = rows.Keys.ToArray();
        var widest = rows.Values.Max(r => r.Length) - 1;
        foreach (var merge in merges)
        {
            if (
                !rows.TryGetValue(merge.Row, out var first)
                || merge.Column >= first.Length
                || first[merge.Column] is not { IsEmpty: false } cell
            )
                continue;
            var at = Array.BinarySearch(numbers, merge.Row);
            for (; at < numbers.Length && numbers[at] <= merge.ToRow; at++)
            {
                var to = Math.Min(merge.ToColumn, widest);
                var line = rows[numbers[at]];
                if (line.Length <= to)
                {
                    var had = line.Length;
                    Array.Resize(ref line, to + 1);
                    Array.Fill(line, new Cell(""), had, line.Length - had);
                    rows[numbers[at]] = line;
                }
                for (var column = merge.Column; column <= to; column++)
                {
                    if (!line[column].IsEmpty)
                        continue;
                    line[column] = cell;
                    if (++_cells > MostCells)
                        throw Unfolds();
                }
            }
        }
    }

    private static int? Number(string? text) =>
        int.TryParse(text, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var n) ? n : null;

    private static int? ColumnOf(string reference)
    {
        var column = 0;
        for (var i = 0; i < reference.Length && i < 4 && char.IsAsciiLetter(reference[i]); i++)
            column = column * 26 + (char.ToUpperInvariant(reference[i]) - 'A' + 1);
        return column > 0 ? column - 1 : null;
    }

    private static (int Row, int Column, int ToRow, int ToColumn)? Area(string? reference)
    {
        if (reference?.Split(':') is not [var from, var to] || from.Length > 12 || to.Length > 12)
            return null;
        return
            ColumnOf(from) is { } c
            && ColumnOf(to) is { } d
            && Number(from.TrimStart([.. "ABCDEFGHIJKLMNOPQRSTUVWXYZ"])) is { } r
            && Number(to.TrimStart([.. "ABCDEFGHIJKLMNOPQRSTUVWXYZ"])) is { } s
            && r > 0
            && s >= r
            && d >= c
            ? (r - 1, c, s - 1, d)
            : null;
    }

    /// <summary>Counts what is unfolded while it is read; sizes in a directory can lie.</summary>
    private sealed class Counted(Stream inner, WorkbookRows book) : Stream
    {
        public override bool CanRead => true;
        public override bool CanSeek => false;
        public override bool CanWrite => false;
        public override long Length => throw new NotSupportedException();
        public override long Position
        {
            get => throw new NotSupportedException();
            set => throw new NotSupportedException();
        }

        public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

        public override int Read(Span<byte> buffer)
        {
            var n = inner.Read(buffer);
            book._cancel.ThrowIfCancellationRequested();
            return (book._unfolded += n) > book._mostUnfolded ? throw Unfolds() : n;
        }

        public override void Flush() { }

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        protected override void Dispose(bool disposing)
        {
            if (disposing)
                inner.Dispose();
            base.Dispose(disposing);
        }
    }
}
