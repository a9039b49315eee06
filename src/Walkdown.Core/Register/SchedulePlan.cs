using System.Text.RegularExpressions;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>A cell that cannot be taken, and the mend. Rows are counted as in the file, from 1.</summary>
public sealed record CellProblem(int Row, string Column, Message What, Message Mend);

/// <summary>One row of a schedule in the register's notation.</summary>
/// <param name="Row">As counted in the file; 0 for one that is only named by others.</param>
/// <param name="Values">By column id; only what is given.</param>
/// <param name="Notes">What stood in columns that the register does not know, by heading.</param>
public sealed record ScheduleRow(int Row, ImmutableDictionary<string, string> Values, ImmutableDictionary<string, string> Notes)
{
    public string Label => Values.GetValueOrDefault("label", "");
    public string Kind => Values.GetValueOrDefault("kind", "");
    public bool IsCabinet => Kind == SchedulePlan.CabinetKind;

    public string? this[string field] => Values.GetValueOrDefault(field);

    /// <summary>Channels in order of the heads.</summary>
    public IEnumerable<int> Channels =>
        (this["channels"] ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(c => int.Parse(c, CultureInfo.InvariantCulture));

    public double? Number(string field) => this[field] is { } text ? double.Parse(text, CultureInfo.InvariantCulture) : null;

    public int? Whole(string field) => (int?)Number(field);
}

/// <summary>
/// A sheet read as a schedule: rows in the register's notation and every cell that cannot be taken, all at once. What only looks odd but can
/// be taken is found by <see cref="RegisterFindings"/>.
/// </summary>
public sealed partial record SchedulePlan(ImmutableArray<ScheduleRow> Rows, ImmutableArray<CellProblem> Problems)
{
    public const string CabinetKind = "cabinet";
    public const int MostRows = 20_000;

    [GeneratedRegex(@"^(.*?\S)\s*(?:[/:-]|\s)\s*(?:port|p)?\s*(\d{1,3})$", RegexOptions.IgnoreCase)]
    private static partial Regex CabinetAndPort { get; }

    [GeneratedRegex(@"\b(ft|feet|foot|mm|cm)$")]
    private static partial Regex HeadingUnit { get; }

    /// <summary>Reads the rows below the header.</summary>
    /// <param name="rows">The whole sheet; shorter rows are filled up.</param>
    /// <param name="kindWords">Device kinds by plain words, <c>cabinet</c> included.</param>
    public static SchedulePlan Of(
        IReadOnlyList<IReadOnlyList<Cell>> rows,
        SheetMapping mapping,
        IReadOnlyDictionary<string, string> kindWords
    )
    {
        var problems = new List<CellProblem>();
        var kinds = new Dictionary<string, string>(kindWords);
        foreach (var (word, kind) in mapping.Kinds)
            kinds[CellText.Plain(word)] = kind;
        foreach (var twice in mapping.Columns.Where(c => c.Field is not null && !c.Ignored).GroupBy(c => c.Field).Where(g => g.Count() > 1))
            problems.Add(new(mapping.HeaderRow + 1, twice.Key!, new("cell.heading-twice", twice.Key!), new("cell.heading-twice.mend")));
        if (mapping.Columns.All(c => c.Field != "label" || c.Ignored))
            problems.Add(new(mapping.HeaderRow + 1, "label", new("cell.no-column", "label"), new("cell.no-column.mend", "label")));
        if (mapping.Columns.All(c => c.Field != "kind" || c.Ignored) && !mapping.Defaults.ContainsKey("kind"))
            problems.Add(new(mapping.HeaderRow + 1, "kind", new("cell.no-column", "kind"), new("cell.no-column.mend", "kind")));
        var read = new List<ScheduleRow>();
        if (problems.Count == 0)
        {
            string? area = null;
            for (var i = mapping.HeaderRow + 1; i < rows.Count; i++)
            {
                if (TitleOf(rows[i], mapping) is { } title)
                    area = title;
                else if (RowOf(i, rows[i], mapping, kinds, area, problems) is { } row)
                {
                    read.Add(row);
                    // An area that is written once stands for the rows below it.
                    area = row["area"];
                }
            }
            if (read.Count == 0 && problems.Count == 0)
                problems.Add(new(mapping.HeaderRow + 1, "", new("cell.no-rows"), new("cell.no-rows.mend")));
        }
        if (mapping.AddMissing)
            AddMissing(read, mapping);
        Cross(read, problems);
        return new SchedulePlan([.. read], [.. problems.OrderBy(p => p.Row)]);
    }

    /// <summary>A line between blocks: one text alone, or one text over merged cells. It names the area of what follows.</summary>
    private static string? TitleOf(IReadOnlyList<Cell> cells, SheetMapping mapping)
    {
        var texts = cells.Where(c => !c.IsEmpty).Select(c => c.Text).ToList();
        if (texts.Count == 0)
            return null;
        var label = mapping.Columns.First(c => c.Field == "label" && !c.Ignored).Column;
        // Under the labels it stands for a device only where the rest has defaults, and then it carries a number.
        var alone =
            texts.Count == 1
            && (label >= cells.Count || cells[label].IsEmpty || !mapping.Defaults.ContainsKey("kind") || !texts[0].Any(char.IsAsciiDigit));
        return (alone || texts.Count > 2 && texts.Distinct().Count() == 1) && texts[0].Length <= 60 ? texts[0] : null;
    }

    private static ScheduleRow? RowOf(
        int index,
        IReadOnlyList<Cell> cells,
        SheetMapping mapping,
        Dictionary<string, string> kinds,
        string? area,
        List<CellProblem> problems
    )
    {
        var number = index + 1;
        if (cells.All(c => c.IsEmpty))
            return null;
        var mapped = mapping
            .Columns.Where(c => !c.Ignored)
            .Select(c => (Column: c, Cell: c.Column < cells.Count ? cells[c.Column] : default))
            .ToList();
        // A header line that is printed again on every page is passed over.
        if (mapped.Count(m => m.Column.Field is not null && m.Cell.Text == m.Column.Heading) > 1)
            return null;
        var values = ImmutableDictionary.CreateBuilder<string, string>();
        var notes = ImmutableDictionary.CreateBuilder<string, string>();
        var before = problems.Count;
        foreach (var (column, raw) in mapped)
        {
            var cell = raw.Text is null ? new Cell("") : raw;
            if (column.Field is null)
            {
                if (!cell.IsEmpty)
                    notes[column.Heading] = cell.Text.Length > 400 ? cell.Text[..400] : cell.Text;
                continue;
            }
            var field = RegisterFields.Find(column.Field)!;
            if (
                field.Id == "port"
                && CabinetAndPort.Match(cell.Text) is { Success: true } both
                && mapped.All(m => m.Column.Field != "cabinet" || string.IsNullOrEmpty(m.Cell.Text))
            )
            {
                values["cabinet"] = both.Groups[1].Value.Trim();
                cell = new Cell(both.Groups[2].Value);
            }
            if (
                field.Unit == Unit.Metre
                && !cell.IsEmpty
                && char.IsAsciiDigit(cell.Text[^1])
                && HeadingUnit.Match(CellText.Plain(column.Heading)) is { Success: true } unit
            )
                cell = cell with { Text = $"{cell.Text} {(unit.Value.StartsWith('f') ? "ft" : unit.Value)}" };
            var result = CellText.Read(field, cell, mapping.Sign, kinds);
            if (result.What is not null)
                problems.Add(new(number, field.Id, result.What, result.Mend!));
            else if (result.Value is not null)
                values[field.Id] = result.Value;
        }
        var wrongHere = problems.Skip(before).Select(p => p.Column).ToHashSet();
        foreach (var (field, value) in mapping.Defaults)
            if (value.Length > 0 && !values.ContainsKey(field) && !wrongHere.Contains(field))
                values[field] = value;
        void Need(string field)
        {
            if (!values.ContainsKey(field) && !wrongHere.Contains(field))
                problems.Add(new(number, field, new("cell.empty"), new("cell.empty.mend", "@field." + field)));
        }

        Need("label");
        Need("kind");
        values.TryAdd("name", values.GetValueOrDefault("label", ""));
        values.TryAdd("area", area ?? "Site");
        if (values.GetValueOrDefault("kind") == CabinetKind)
            return new ScheduleRow(number, values.ToImmutable(), notes.ToImmutable());
        if (values.ContainsKey("port") && !values.ContainsKey("cabinet"))
            problems.Add(new(number, "cabinet", new("cell.port-alone"), new("cell.port-alone.mend")));
        if (values.ContainsKey("channels") && !values.ContainsKey("recorder") && !wrongHere.Contains("recorder"))
            problems.Add(new(number, "recorder", new("cell.channel-alone"), new("cell.channel-alone.mend")));
        // A cable that is described but not named carries the number of its camera.
        if (!values.ContainsKey("run") && !wrongHere.Contains("run") && (values.ContainsKey("length_m") || values.ContainsKey("port")))
            values["run"] = values.GetValueOrDefault("label", "");
        var row = new ScheduleRow(number, values.ToImmutable(), notes.ToImmutable());
        var channels = row.Channels.Count();
        if (!values.ContainsKey("heads") && channels > 1)
            values["heads"] = Math.Min(8, channels).ToString(CultureInfo.InvariantCulture);
        else if (channels > (row.Whole("heads") ?? 1))
            problems.Add(
                new(
                    number,
                    "channels",
                    new("cell.more-channels", channels.ToString(CultureInfo.InvariantCulture), values.GetValueOrDefault("heads", "1")),
                    new("cell.more-channels.mend")
                )
            );
        return row with { Values = values.ToImmutable() };
    }

    /// <summary>Cabinets and recorders that rows name but that have no row of their own.</summary>
    private static void AddMissing(List<ScheduleRow> rows, SheetMapping mapping)
    {
        var labels = rows.Select(r => r.Label).ToHashSet(StringComparer.OrdinalIgnoreCase);
        foreach (var (field, kind) in new[] { ("cabinet", CabinetKind), ("recorder", "recorder") })
        foreach (
            var named in rows.Select(r => r[field]).OfType<string>().Distinct(StringComparer.OrdinalIgnoreCase).Where(labels.Add).ToList()
        )
            rows.Add(
                new ScheduleRow(
                    0,
                    new Dictionary<string, string>
                    {
                        ["label"] = named,
                        ["name"] = named,
                        ["kind"] = kind,
                        ["area"] = mapping.Defaults.GetValueOrDefault("area", rows.FirstOrDefault()?["area"] ?? "Site"),
                    }.ToImmutableDictionary(),
                    ImmutableDictionary<string, string>.Empty
                )
            );
    }

    /// <summary>What only shows between rows and cannot be taken: labels and units that stand twice, names that lead nowhere, feeds in a ring.</summary>
    private static void Cross(List<ScheduleRow> rows, List<CellProblem> problems)
    {
        foreach (var column in new[] { "label", "serial" })
        foreach (
            var group in rows.Where(r => r[column] is not null)
                .GroupBy(r => r[column], StringComparer.OrdinalIgnoreCase)
                .Where(g => g.Count() > 1)
        )
        foreach (var row in group.Skip(1))
            problems.Add(
                new(
                    row.Row,
                    column,
                    new("cell.twice", group.Key!, group.First().Row.ToString(CultureInfo.InvariantCulture)),
                    new($"cell.twice.{column}")
                )
            );
        var cabinets = rows.Where(r => r.IsCabinet).Select(r => r.Label).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var recorders = rows.Where(r => r.Kind == "recorder").Select(r => r.Label).ToHashSet(StringComparer.OrdinalIgnoreCase);
        foreach (var row in rows.Where(r => r["cabinet"] is { } c && !cabinets.Contains(c)))
            problems.Add(new(row.Row, "cabinet", new("cell.no-cabinet", row["cabinet"]!), new("cell.no-cabinet.mend")));
        foreach (var row in rows.Where(r => r["recorder"] is { } c && !recorders.Contains(c)))
            problems.Add(new(row.Row, "recorder", new("cell.no-recorder", row["recorder"]!), new("cell.no-recorder.mend")));
        foreach (
            var run in rows.Where(r => r["run"] is not null)
                .GroupBy(r => r["run"], StringComparer.OrdinalIgnoreCase)
                .Where(g => g.Count() > 1)
        )
        foreach (var field in RegisterFields.All.Where(f => f.Of == FieldOf.Run && f.Id != "run"))
            if (run.Select(r => r[field.Id]).OfType<string>().Distinct().Count() > 1)
                problems.Add(
                    new(
                        run.Last().Row,
                        field.Id,
                        new("cell.run-differs", run.Key!, string.Join(" / ", run.Select(r => r[field.Id]).OfType<string>().Distinct())),
                        new("cell.run-differs.mend")
                    )
                );
        if (
            RegisterFindings.Ring(
                rows.Where(r => r.IsCabinet && r["cabinet"] is not null).ToDictionarySafe(r => r.Label, r => r["cabinet"]!)
            ) is
            { } ring
        )
            problems.Add(
                new(
                    rows.First(r => r.Label.Equals(ring[0], StringComparison.OrdinalIgnoreCase)).Row,
                    "cabinet",
                    new("cell.ring", string.Join(", ", ring)),
                    new("cell.ring.mend")
                )
            );
    }
}

internal static class Lookups
{
    /// <summary>The first of each key; labels are compared without case.</summary>
    public static Dictionary<string, string> ToDictionarySafe<T>(this IEnumerable<T> items, Func<T, string> key, Func<T, string> value) =>
        items.DistinctBy(key, StringComparer.OrdinalIgnoreCase).ToDictionary(key, value, StringComparer.OrdinalIgnoreCase);
}
