using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using MiniExcelLibs;
using Walkdown.Core.Register;

namespace Walkdown.Formats;

/// <summary>Writes the register out as the schedule that it came as: the columns of docs/formats.md, then the notes.</summary>
public static class SheetWriter
{
    /// <summary>True for the signs at which a spreadsheet would run a text as a formula.</summary>
    public static bool Runs(char first) => first is '=' or '+' or '-' or '@' or '\t' or '\r';

    /// <summary>A table of texts as CSV: UTF-8 with its mark, commas. A text that a spreadsheet would run gets an apostrophe before
    /// it.</summary>
    public static byte[] Table(IReadOnlyList<string> headings, IEnumerable<IReadOnlyList<string>> rows) =>
        Written(rows.Prepend(headings).Select(row => row.Select(text => (text, false))));

    /// <summary>The schedule likewise; its numbers are no texts that anybody could run.</summary>
    public static byte[] Csv(IReadOnlyList<IReadOnlyDictionary<string, string>> rows, IReadOnlyList<string> notes) =>
        Written(
            rows.Select(row => Columns(notes).Select(c => (row.GetValueOrDefault(c.Heading) ?? "", c.Number)))
                .Prepend(Columns(notes).Select(c => (c.Heading, false)))
        );

    private static byte[] Written(IEnumerable<IEnumerable<(string Text, bool IsNumber)>> rows)
    {
        using var stream = new MemoryStream();
        using (var writer = new StreamWriter(stream, new System.Text.UTF8Encoding(true), leaveOpen: true))
        using (var csv = new CsvWriter(writer, new CsvConfiguration(CultureInfo.InvariantCulture) { NewLine = "\r\n" }))
            foreach (var row in rows)
            {
                foreach (var (text, isNumber) in row)
                    csv.WriteField(Guarded(text, isNumber));
                csv.NextRecord();
            }
        return stream.ToArray();
    }

    /// <summary>A workbook of one sheet; numbers as numbers, everything else as text, no formulas.</summary>
    public static byte[] Xlsx(IReadOnlyList<IReadOnlyDictionary<string, string>> rows, IReadOnlyList<string> notes)
    {
        using var stream = new MemoryStream();
        stream.SaveAs(
            rows.Select(row =>
                Columns(notes)
                    .ToDictionary(
                        c => c.Heading,
                        c =>
                            row.GetValueOrDefault(c.Heading) is { } text
                                ? c.Number && double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var n)
                                    ? n
                                    : (object?)text
                                : null
                    )
            ),
            sheetName: "Schedule"
        );
        return stream.ToArray();
    }

    private static IEnumerable<(string Heading, bool Number)> Columns(IReadOnlyList<string> notes) =>
        RegisterFields.All.Select(f => (f.Id, f.Kind is FieldKind.Number or FieldKind.Whole)).Concat(notes.Select(n => (n, false)));

    private static string Guarded(string text, bool number) => !number && text.Length > 0 && Runs(text[0]) ? "'" + text : text;
}
