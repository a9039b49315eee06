using System.Globalization;
using System.Text;

namespace Walkdown.Formats;

/// <summary>
/// Reads separated text (RFC 4180) in one pass, however it is made: each sign is looked at once. Quotation marks within a text that did
/// not begin with one stand for themselves, and so does one that stands alone in its cell: people write it for "as above".
/// </summary>
internal static class CsvRows
{
    private const int MostField = 100_000;
    private const int MostFieldsKept = 256;

    /// <exception cref="SheetException">A quotation mark that is never closed, or a cell of more than 100,000 signs; with its
    /// line.</exception>
    public static IEnumerable<List<string>> Of(string text, char separator, CancellationToken cancel)
    {
        var row = new List<string>();
        var field = new StringBuilder();
        var (at, line, rows) = (0, 1, 0);
        while (at < text.Length)
        {
            if (row.Count == 0 && (++rows & 255) == 0)
                cancel.ThrowIfCancellationRequested();
            field.Clear();
            if (text[at] == '"' && at + 1 < text.Length && !Ends(text[at + 1]))
                Quoted();
            while (at < text.Length && !Ends(text[at]))
                Keep(text[at++]);
            if (row.Count < MostFieldsKept)
                row.Add(field.ToString());
            if (at < text.Length && text[at] == separator)
            {
                at++;
                if (at < text.Length)
                    continue;
                if (row.Count < MostFieldsKept)
                    row.Add("");
            }
            else if (at < text.Length)
            {
                if (text[at] == '\r' && at + 1 < text.Length && text[at + 1] == '\n')
                    at++;
                at++;
                line++;
            }
            yield return row;
            row = [];
        }

        bool Ends(char c) => c == separator || c is '\n' or '\r';

        void Keep(char c)
        {
            if (field.Length >= MostField)
                throw Broken(line);
            field.Append(c);
        }

        void Quoted()
        {
            var began = line;
            at++;
            while (true)
            {
                if (at >= text.Length)
                    throw Broken(began);
                var c = text[at++];
                if (c != '"')
                {
                    if (c == '\n')
                        line++;
                    Keep(c);
                }
                else if (at < text.Length && text[at] == '"')
                {
                    Keep('"');
                    at++;
                }
                else
                    return;
            }
        }
    }

    private static SheetException Broken(int line) => new(new("sheet.broken-csv", line.ToString(CultureInfo.InvariantCulture)));
}
