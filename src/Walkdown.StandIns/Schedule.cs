namespace Walkdown.StandIns;

/// <summary>The demo's schedule, read as it is written: the stand-ins know nothing of Walkdown's import.</summary>
public static class Schedule
{
    /// <summary>Each row by its headings.</summary>
    public static IReadOnlyList<IReadOnlyDictionary<string, string>> Rows(string csv)
    {
        var lines = csv.Split('\n', StringSplitOptions.RemoveEmptyEntries);
        var header = Split(lines[0].Trim());
        return
        [
            .. lines
                .Skip(1)
                .Select(line => Split(line.Trim()))
                .Select(cells => header.Select((name, i) => (name, i)).ToDictionary(h => h.name, h => h.i < cells.Count ? cells[h.i] : "")),
        ];
    }

    internal static List<string> Split(string line)
    {
        var cells = new List<string>();
        var cell = new System.Text.StringBuilder();
        var quoted = false;
        foreach (var c in line)
        {
            if (c == '"')
                quoted = !quoted;
            else if (c == ',' && !quoted)
            {
                cells.Add(cell.ToString());
                cell.Clear();
            }
            else
                cell.Append(c);
        }
        cells.Add(cell.ToString());
        return cells;
    }
}
