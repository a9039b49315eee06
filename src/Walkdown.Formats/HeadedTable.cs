using Walkdown.Core.Register;

namespace Walkdown.Formats;

/// <summary>Tables with a line of headings somewhere at their top, as people export them.</summary>
internal static class HeadedTable
{
    private const int HeaderWithin = 20;

    /// <summary>The lines under the headings, each with its number in the file and what stands in a column, without blanks; empty where the
    /// table has no such column. Null: no sheet that is shown has all columns that are needed.</summary>
    /// <param name="file">Its bytes.</param>
    /// <param name="headings">The column of each heading.</param>
    /// <param name="needed">Columns.</param>
    /// <exception cref="SheetException">It is no table.</exception>
    public static IEnumerable<(int Line, Func<string, string> Of)>? Read(
        byte[] file,
        IReadOnlyDictionary<string, string> headings,
        string[] needed,
        CancellationToken cancel
    )
    {
        foreach (var sheet in SheetReader.Read(file, cancel).Where(s => !s.Hidden))
            for (var head = 0; head < Math.Min(HeaderWithin, sheet.Rows.Count); head++)
                if (Columns(sheet.Rows[head], headings) is var columns && needed.All(columns.ContainsKey))
                    return Lines(sheet, head, columns);
        return null;
    }

    private static IEnumerable<(int Line, Func<string, string> Of)> Lines(Sheet sheet, int head, Dictionary<string, int> columns)
    {
        for (var i = head + 1; i < sheet.Rows.Count; i++)
            if (sheet.Rows[i] is var row && !row.All(c => c.IsEmpty))
                yield return (
                    i + 1,
                    column =>
                        columns.TryGetValue(column, out var at) && at < row.Count ? SheetReader.Unguarded(row[at].Text?.Trim() ?? "") : ""
                );
    }

    private static Dictionary<string, int> Columns(IReadOnlyList<Cell> row, IReadOnlyDictionary<string, string> headings)
    {
        var columns = new Dictionary<string, int>();
        for (var i = 0; i < row.Count; i++)
            if (headings.TryGetValue((row[i].Text ?? "").Trim().Replace('_', ' ').TrimEnd('.'), out var column))
                columns.TryAdd(column, i);
        return columns;
    }
}
