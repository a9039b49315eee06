using System.Globalization;
using System.Text;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;

namespace Walkdown.Formats;

/// <summary>One sheet of a file: rows of cells, the first row is row 1 of the file.</summary>
public sealed record Sheet(string Name, IReadOnlyList<IReadOnlyList<Cell>> Rows)
{
    /// <summary>The workbook does not show it.</summary>
    public bool Hidden { get; init; }

    /// <summary>Rows that are hidden or struck out, counted from 0.</summary>
    public IReadOnlyDictionary<int, RowOddity> Odd { get; init; } = new Dictionary<int, RowOddity>();
}

/// <summary>The file cannot be read as a schedule; the message says why and the mend.</summary>
public sealed class SheetException(Message what) : Exception(what.Code)
{
    public Message What { get; } = what;
}

/// <summary>
/// Reads a schedule file as it comes: CSV with comma, semicolon or tab in UTF-8, UTF-16 or Windows-1252, or a workbook (XLSX). Formulas are
/// never
/// run: what the workbook holds as their last result is taken.
/// </summary>
public static class SheetReader
{
    public const int MostBytes = 32 * 1024 * 1024;

    private const int MostColumns = 256;

    static SheetReader() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    /// <exception cref="SheetException">The file is of another kind, locked, cut off, or far too large.</exception>
    public static IReadOnlyList<Sheet> Read(byte[] file, CancellationToken cancel = default)
    {
        if (file.Length == 0)
            throw new SheetException(new("sheet.empty"));
        if (file.Length > MostBytes)
            throw new SheetException(
                new(
                    "sheet.too-large",
                    (file.Length / 1048576).ToString(CultureInfo.InvariantCulture),
                    (MostBytes / 1048576).ToString(CultureInfo.InvariantCulture)
                )
            );
        if (file is [0xD0, 0xCF, 0x11, 0xE0, ..])
            throw new SheetException(new("sheet.locked-or-old"));
        if (file is [(byte)'P', (byte)'K', ..])
            return WorkbookRows.Read(file, cancel);
        if (file is [0x25, 0x50, 0x44, 0x46, ..])
            throw new SheetException(new("sheet.pdf"));
        var text = Decode(file);
        if (text.AsSpan(0, Math.Min(text.Length, 4096)).ContainsAny('\0', '\u0001'))
            throw new SheetException(new("sheet.not-a-table"));
        return [new Sheet("", Csv(text, cancel))];
    }

    /// <summary>Takes off the apostrophe that keeps a spreadsheet from running a text as a formula (<see cref="SheetWriter"/>).</summary>
    internal static string Unguarded(string text) => text.Length > 1 && text[0] == '\'' && SheetWriter.Runs(text[1]) ? text[1..] : text;

    /// <summary>UTF-8 and UTF-16 by their marks, UTF-16 without one by its zeros, else strict UTF-8, else Windows-1252.</summary>
    private static string Decode(byte[] file)
    {
        if (file is [0xEF, 0xBB, 0xBF, ..])
            return Encoding.UTF8.GetString(file, 3, file.Length - 3);
        if (file is [0xFF, 0xFE, ..])
            return Encoding.Unicode.GetString(file, 2, file.Length - 2);
        if (file is [0xFE, 0xFF, ..])
            return Encoding.BigEndianUnicode.GetString(file, 2, file.Length - 2);
        var look = file.AsSpan(0, Math.Min(file.Length, 2000));
        int even = 0,
            odd = 0;
        for (var i = 0; i < look.Length; i++)
            if (look[i] == 0)
                _ = i % 2 == 0 ? even++ : odd++;
        if (odd > look.Length / 4 && even == 0)
            return Encoding.Unicode.GetString(file);
        if (even > look.Length / 4 && odd == 0)
            return Encoding.BigEndianUnicode.GetString(file);
        try
        {
            return new UTF8Encoding(false, true).GetString(file);
        }
        catch (DecoderFallbackException)
        {
            return Encoding.GetEncoding(1252).GetString(file);
        }
    }

    private static List<IReadOnlyList<Cell>> Csv(string text, CancellationToken cancel)
    {
        var rows = new List<IReadOnlyList<Cell>>();
        foreach (var row in Lines(text, cancel))
        {
            if (rows.Count > SchedulePlan.MostRows + 100)
                throw new SheetException(new("sheet.too-many-rows", SchedulePlan.MostRows.ToString(CultureInfo.InvariantCulture)));
            rows.Add(row);
        }
        while (rows.Count > 0 && rows[^1].All(c => c.IsEmpty))
            rows.RemoveAt(rows.Count - 1);
        return rows.Count > 0 ? rows : throw new SheetException(new("sheet.empty"));
    }

    /// <summary>Rows of a file, one after the other where it is a CSV: what has been read is not kept.</summary>
    /// <exception cref="SheetException">As <see cref="Read"/>; a broken line when it is reached.</exception>
    public static IEnumerable<IReadOnlyList<Cell>> Rows(byte[] file, CancellationToken cancel = default)
    {
        if (
            file is [(byte)'P', (byte)'K', ..] or [] or [0xD0, 0xCF, 0x11, 0xE0, ..] or [0x25, 0x50, 0x44, 0x46, ..]
            || file.Length > MostBytes
        )
            return Read(file, cancel)[0].Rows;
        var text = Decode(file);
        return text.AsSpan(0, Math.Min(text.Length, 4096)).ContainsAny('\0', '\u0001')
            ? throw new SheetException(new("sheet.not-a-table"))
            : Lines(text, cancel);
    }

    private static IEnumerable<IReadOnlyList<Cell>> Lines(string text, CancellationToken cancel)
    {
        // Some spreadsheets name their separator in a first line of its own.
        string? delimiter = null;
        if (text.StartsWith("sep=", StringComparison.OrdinalIgnoreCase) && text.Length > 4)
        {
            delimiter = text[4].ToString();
            var line = text.IndexOf('\n');
            text = line < 0 ? "" : text[(line + 1)..];
            yield return [];
        }
        delimiter ??= Delimiter(text);
        foreach (var row in CsvRows.Of(text, delimiter[0], cancel))
            yield return [.. row.Select(c => new Cell(Unguarded(CellText.Visible(c).Trim())))];
    }

    /// <summary>The separator that parts most lines into the same number of cells, counted outside quotation marks.</summary>
    private static string Delimiter(string text)
    {
        var lines = text[..Math.Min(text.Length, 200_000)].Split('\n').Where(l => l.Trim().Length > 0).Take(40).ToList();
        return new[] { ",", ";", "\t", "|" }
            .Select(
                (d, order) =>
                {
                    var counts = lines
                        .Select(l => Count(l, d[0]))
                        .Where(n => n > 0)
                        .GroupBy(n => n)
                        .OrderByDescending(g => g.Count())
                        .FirstOrDefault();
                    return (Delimiter: d, Score: counts is null ? 0 : counts.Count() * Math.Min(20, counts.Key + 1), order);
                }
            )
            .OrderByDescending(d => d.Score)
            .ThenBy(d => d.order)
            .First()
            .Delimiter;

        static int Count(string line, char delimiter)
        {
            var (quoted, n) = (false, 0);
            foreach (var c in line)
            {
                if (c == '"')
                    quoted = !quoted;
                else if (c == delimiter && !quoted)
                    n++;
            }
            return n;
        }
    }
}
