using System.Text.RegularExpressions;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>
/// A sheet read as a schedule: rows in the register's notation and every cell that cannot be taken, all at once. What only looks odd but
/// can be taken is found by <see cref="RegisterFindings"/>.
/// </summary>
public sealed partial record SchedulePlan(
    ImmutableArray<ScheduleRow> Rows,
    ImmutableArray<CellProblem> Problems,
    ImmutableArray<PassedLine> Passed
)
{
    /// <summary>The word for a cabinet's row.</summary>
    public const string CabinetKind = "cabinet";

    /// <summary>The row of the headings of a file that does not say what its rows are: it adds to devices that the register knows. Null: it
    /// says.</summary>
    public int? WithoutKind { get; init; }

    /// <summary>Most rows of a schedule.</summary>
    public const int MostRows = 20_000;

    private static readonly ImmutableHashSet<string> Dittos =
    [
        "\"",
        "''",
        "\u2033",
        "\u3003",
        "\u201d",
        "\u201c",
        "ditto",
        "do.",
        "dto",
        "dto.",
        "idem",
        "id.",
        "as above",
        "same as above",
        "-\"-",
        "- \" -",
        "\"\"",
        "wie oben",
        "come sopra",
        "comme ci-dessus",
        "como arriba",
        "als boven",
    ];

    /// <summary>A mark that stands for the cell above.</summary>
    public static bool IsDitto(string text) => text.Length < 40 && Dittos.Contains(text.Trim().ToLowerInvariant());

    /// <summary>Columns in which each row has its own: a ditto mark there says nothing.</summary>
    private static readonly ImmutableHashSet<string> OwnToEach =
    [
        "label",
        "serial",
        "hardware_address",
        "address",
        "port",
        "channels",
        "run",
    ];
    private static readonly ImmutableHashSet<string> Totals =
    [
        "total",
        "totals",
        "subtotal",
        "sub total",
        "sum",
        "summe",
        "gesamt",
        "zwischensumme",
        "totale",
        "totaal",
        "subtotaal",
        "somme",
        "sous total",
        "suma",
        "subtotale",
        "gesamtsumme",
        "grand total",
    ];
    private static readonly ImmutableHashSet<string> Gone =
    [
        "deleted",
        "delete",
        "removed",
        "omitted",
        "omit",
        "cancelled",
        "canceled",
        "void",
        "not used",
        "withdrawn",
        "scrapped",
        "not installed",
        "gel\u00f6scht",
        "entf\u00e4llt",
        "entfallen",
        "gestrichen",
        "supprim\u00e9",
        "annul\u00e9",
        "annul\u00e9e",
        "eliminado",
        "anulado",
        "suprimido",
        "eliminato",
        "annullato",
        "soppresso",
        "vervallen",
        "verwijderd",
        "geannuleerd",
    ];
    private static readonly ImmutableHashSet<string> UnitWords =
    [
        "m",
        "mm",
        "cm",
        "ft",
        "feet",
        "metres",
        "meters",
        "v",
        "volt",
        "volts",
        "w",
        "watt",
        "watts",
        "awg",
        "mbps",
        "mbit s",
        "c",
        "text",
        "unit",
        "units",
        "einheit",
    ];

    [GeneratedRegex(
        @"^(page|seite|pagina|p\u00e1gina|blatt|sheet|p\.|pg\.?|blad|foglio|hoja|feuille)\s*[0-9]{1,5}"
            + @"(\s*(of|von|de|di|van|sur|/)\s*[0-9]{1,5})?$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.NonBacktracking
    )]
    private static partial Regex PageLine { get; }

    [GeneratedRegex(@"\b(ft|feet|foot|mm|cm)$", RegexOptions.NonBacktracking)]
    private static partial Regex HeadingUnit { get; }

    /// <summary>Reads the rows below the header.</summary>
    /// <param name="rows">The whole sheet; shorter rows are filled up.</param>
    /// <param name="kindWords">Device kinds by plain words, <c>cabinet</c> included.</param>
    /// <param name="odd">What the workbook says of whole rows, counted from 0.</param>
    /// <param name="mapping">Which column is which.</param>
    /// <param name="records">Whether devices of a kind may have channels.</param>
    public static SchedulePlan Of(
        IReadOnlyList<IReadOnlyList<Cell>> rows,
        SheetMapping mapping,
        IReadOnlyDictionary<string, string> kindWords,
        Func<string, bool> records,
        IReadOnlyDictionary<int, RowOddity>? odd = null
    )
    {
        var passed = ImmutableArray.CreateBuilder<PassedLine>();
        HashSet<int> leftOut = [.. mapping.LeftOut ?? []],
            anyway = [.. mapping.TakenAnyway ?? []];
        var problems = new List<CellProblem>();
        var kinds = new Dictionary<string, string>(kindWords);
        foreach (var (word, kind) in mapping.Kinds)
            kinds[CellText.Plain(word)] = kind;
        foreach (var twice in mapping.Columns.Where(c => c.Field is not null && !c.Ignored).GroupBy(c => c.Field).Where(g => g.Count() > 1))
            problems.Add(new(mapping.HeaderRow + 1, twice.Key!, new("cell.heading-twice", twice.Key!), new("cell.heading-twice.mend")));
        if (mapping.Columns.All(c => c.Field != "label" || c.Ignored))
            problems.Add(new(mapping.HeaderRow + 1, "label", new("cell.no-column", "label"), new("cell.no-column.mend", "label")));
        var supplements = mapping.Columns.All(c => c.Field != "kind" || c.Ignored) && !mapping.Defaults.ContainsKey("kind");
        var read = new List<ScheduleRow>();
        if (problems.Count == 0)
        {
            string? area = null;
            var shapes = LabelShapes(rows, mapping);
            var above = new Dictionary<string, string>();
            for (var i = mapping.HeaderRow + 1; i < rows.Count; i++)
            {
                if (rows[i].All(c => c.IsEmpty))
                    continue;
                if (leftOut.Contains(i + 1))
                    Pass(i, new("passed.left-out"));
                else if (NoDevice(rows[i], mapping) is { } why)
                    Pass(i, why);
                else if (TitleOf(rows[i], mapping, shapes) is { } title)
                {
                    area = title;
                    Pass(i, new("passed.title"));
                }
                else if (OddityOf(i, rows[i], odd) is { } oddity && !anyway.Contains(i + 1))
                    problems.Add(new(i + 1, "label", oddity, new("cell.odd.mend"), MayTake: true));
                else
                {
                    var row = RowOf(i, rows[i], mapping, kinds, supplements, area, above, problems);
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
        Cross(read, problems, records);
        return new SchedulePlan([.. read], [.. problems.OrderBy(p => p.Row)], passed.ToImmutable())
        {
            WithoutKind = supplements ? mapping.HeaderRow + 1 : null,
        };

        void Pass(int row, Message why) =>
            passed.Add(new(row + 1, Short(string.Join(" | ", rows[row].Where(c => !c.IsEmpty).Take(6).Select(c => c.Text)), 80), why));
    }

    private static string Short(string text, int most) => text.Length > most ? text[..most] : text;

    /// <summary>The words that stand in the kind column of rows that are devices, and how often; the most frequent first.</summary>
    public static IEnumerable<(string Word, int Times)> KindWords(IReadOnlyList<IReadOnlyList<Cell>> rows, SheetMapping mapping) =>
        mapping.Columns.FirstOrDefault(c => c.Field == "kind") is not { } column
            ? []
            : rows.Skip(mapping.HeaderRow + 1)
                .Where(r => column.Column < r.Count && !string.IsNullOrEmpty(r[column.Column].Text) && NoDevice(r, mapping) is null)
                .Select(r => r[column.Column].Text)
                .Where(word => !IsDitto(word))
                .CountBy(word => word)
                .OrderByDescending(word => word.Value)
                .Select(word => (word.Key, word.Value));

    /// <summary>A page line, a total, a line of units, or the headings printed again; null for anything else.</summary>
    private static Message? NoDevice(IReadOnlyList<Cell> cells, SheetMapping mapping)
    {
        var texts = cells.Where(c => !string.IsNullOrEmpty(c.Text) && c.Text.Length < 100).Select(c => c.Text).ToList();
        if (texts.Count is 1 or 2 && texts.Any(PageLine.IsMatch))
            return new("passed.page");
        var mapped = mapping
            .Columns.Where(c => c is { Ignored: false, Field: not null } && c.Column < cells.Count)
            .Select(c => (Column: c, cells[c.Column].Text))
            .ToList();
        if (
            mapped.Count(m =>
                !string.IsNullOrEmpty(m.Text)
                && string.Equals(CellText.Visible(m.Text), m.Column.Heading, StringComparison.OrdinalIgnoreCase)
            ) > 1
        )
            return new("passed.heading");
        // A device has a kind of its own; a sum has none.
        var kind = mapped.FirstOrDefault(m => m.Column.Field == "kind").Text;
        if (texts.Count > 0 && string.IsNullOrEmpty(kind) && IsTotal(CellText.Plain(texts[0])))
            return new("passed.total");
        var label = mapped.FirstOrDefault(m => m.Column.Field == "label").Text;
        if (
            string.IsNullOrEmpty(label)
            && texts.Count > 0
            && texts.All(t => UnitWords.Contains(CellText.Plain(t.Trim('(', ')', '[', ']'))))
        )
            return new("passed.units");
        return null;

        static bool IsTotal(string plain) => Totals.Any(t => plain == t || plain.StartsWith(t + " ", StringComparison.Ordinal));
    }

    /// <summary>Hidden, struck out, or said to be deleted: nobody can know whether it still hangs there.</summary>
    private static Message? OddityOf(int row, IReadOnlyList<Cell> cells, IReadOnlyDictionary<int, RowOddity>? odd)
    {
        if (odd is not null && odd.TryGetValue(row, out var of))
            return new(of == RowOddity.Hidden ? "cell.row-hidden" : "cell.row-struck");
        return
            cells.FirstOrDefault(c => c.Text is { Length: > 0 and < 40 } text && Gone.Contains(text.Trim().ToLowerInvariant()))
                is { Text: { Length: > 0 } said }
            ? new("cell.row-gone", Message.Said(said))
            : null;
    }

    /// <summary>How labels of this sheet are made, such as A-9: of rows that hold more than their label.</summary>
    private static HashSet<string> LabelShapes(IReadOnlyList<IReadOnlyList<Cell>> rows, SheetMapping mapping)
    {
        var label = mapping.Columns.First(c => c.Field == "label" && !c.Ignored).Column;
        return
        [
            .. rows.Skip(mapping.HeaderRow + 1)
                .Where(r => label < r.Count && !r[label].IsEmpty && r.Count(c => !c.IsEmpty) > 1)
                .Select(r => ShapeOf(r[label].Text))
                .Where(s => s.Contains('9')),
        ];
    }

    private static string ShapeOf(string text)
    {
        var shape = new System.Text.StringBuilder();
        foreach (var c in Short(CellText.Visible(text), 60))
        {
            var kind =
                char.IsDigit(c) ? '9'
                : char.IsLetter(c) ? 'A'
                : c;
            if (shape.Length == 0 || shape[^1] != kind)
                shape.Append(kind);
        }
        return shape.ToString();
    }

    /// <summary>A line between blocks: one text alone, or one text over merged cells. It names the area of what follows.</summary>
    private static string? TitleOf(IReadOnlyList<Cell> cells, SheetMapping mapping, HashSet<string> shapes)
    {
        var texts = cells.Where(c => !c.IsEmpty).Select(c => c.Text).ToList();
        if (texts.Count == 0 || texts.Any(string.IsNullOrEmpty) || cells.Any(c => c.Odd != CellOddity.None))
            return null;
        var label = mapping.Columns.First(c => c.Field == "label" && !c.Ignored).Column;
        // Under the labels it stands for a device only where the rest has defaults, and then it carries a number.
        // A text made as the labels here are is a label, whatever is missing beside it.
        var alone =
            texts.Count == 1
            && !(label < cells.Count && !cells[label].IsEmpty && shapes.Contains(ShapeOf(texts[0])))
            && (label >= cells.Count || cells[label].IsEmpty || !mapping.Defaults.ContainsKey("kind") || !texts[0].Any(char.IsAsciiDigit));
        return (alone || texts.Count > 2 && texts.Distinct().Count() == 1) && texts[0].Length <= 60 ? texts[0] : null;
    }

    private static ScheduleRow RowOf(
        int index,
        IReadOnlyList<Cell> cells,
        SheetMapping mapping,
        Dictionary<string, string> kinds,
        bool supplements,
        string? area,
        Dictionary<string, string> above,
        List<CellProblem> problems
    )
    {
        var number = index + 1;
        var values = ImmutableDictionary.CreateBuilder<string, string>();
        var notes = ImmutableDictionary.CreateBuilder<string, string>();
        var before = problems.Count;
        PortParts? port = null;
        foreach (var column in mapping.Columns.Where(c => !c.Ignored))
        {
            var raw = column.Column < cells.Count ? cells[column.Column] : default;
            var cell = raw.Text is null ? new Cell("") : raw;
            if (column.Field is null)
            {
                if (!string.IsNullOrEmpty(cell.Text))
                    notes[column.Heading] = notes.TryGetValue(column.Heading, out var there)
                        ? Short($"{there}; {cell.Text}", 400)
                        : Short(cell.Text, 400);
                continue;
            }
            var field = RegisterFields.Find(column.Field)!;
            if (IsDitto(cell.Text))
            {
                if (OwnToEach.Contains(field.Id))
                    problems.Add(new(number, field.Id, new("cell.ditto-own", cell.Text), new("cell.ditto-own.mend")));
                else if (above.TryGetValue(field.Id, out var same))
                    values[field.Id] = same;
                else
                    problems.Add(new(number, field.Id, new("cell.ditto-nothing", cell.Text), new("cell.ditto-nothing.mend")));
                continue;
            }
            if (field.Id == "port" && cell.Odd is (CellOddity.None or CellOddity.Date) && !CellText.SaysNothing(cell.Text))
            {
                var (parts, wrong) = PortText.Read(cell);
                if (parts is null)
                {
                    problems.Add(new(number, field.Id, wrong.What!, wrong.Mend!));
                    continue;
                }
                port = parts;
                cell = new Cell(parts.Value.Port);
            }
            if (
                field.Unit == Unit.Metre
                && !string.IsNullOrEmpty(cell.Text)
                && char.IsAsciiDigit(cell.Text[^1])
                && HeadingUnit.Match(CellText.Plain(Short(column.Heading, 100))) is { Success: true } unit
            )
                cell = cell with { Text = $"{cell.Text} {(unit.Value.StartsWith('f') ? "ft" : unit.Value)}" };
            var result = CellText.Read(field, cell, mapping.Sign, kinds);
            if (result.What is not null)
                problems.Add(new(number, field.Id, result.What, result.Mend!));
            else if (result.Value is not null)
                values[field.Id] = result.Value;
        }
        if (port is { } named)
        {
            if (named.Switch is { } onSwitch && !values.ContainsKey("switch"))
                values["switch"] = Short(onSwitch, 40);
            if (named.Cabinet is { } cabinet)
            {
                if (!values.TryGetValue("cabinet", out var said))
                    values["cabinet"] = Short(cabinet, 40);
                else if (!Labels.Same(said, cabinet))
                    problems.Add(
                        new(
                            number,
                            "port",
                            new("cell.port-cabinet", Message.Said(cabinet), Message.Said(said)),
                            new("cell.port-cabinet.mend")
                        )
                    );
            }
        }
        above.Clear();
        foreach (var (field, value) in values)
            above[field] = value;
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
        if (!supplements)
        {
            Need("kind");
            values.TryAdd("name", values.GetValueOrDefault("label", ""));
            values.TryAdd("area", area ?? "Site");
        }
        if (values.GetValueOrDefault("kind") == CabinetKind)
            return new ScheduleRow(number, values.ToImmutable(), notes.ToImmutable());
        // The commonest schedule names a switch and a port and no cabinet: the switch stands in one of its own name.
        if (
            values.ContainsKey("port")
            && !values.ContainsKey("cabinet")
            && mapping.Columns.Any(c => c.Field == "switch" && !c.Ignored)
            && values.TryGetValue("switch", out var stands)
        )
            values["cabinet"] = stands;
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
        var labels = rows.Select(r => r.Label).ToHashSet(Labels.Comparer);
        foreach (var (field, kind) in new[] { ("cabinet", CabinetKind), ("recorder", "recorder") })
        foreach (var named in rows.Select(r => r[field]).OfType<string>().Distinct(Labels.Comparer).Where(labels.Add).ToList())
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

    /// <summary>What only shows between rows and cannot be taken: labels and units that stand twice, names that lead nowhere, feeds in a
    /// ring.</summary>
    private static void Cross(List<ScheduleRow> rows, List<CellProblem> problems, Func<string, bool> records)
    {
        foreach (var column in new[] { "label", "serial" })
        foreach (var group in rows.Where(r => r[column] is not null).GroupBy(r => r[column], Labels.Comparer).Where(g => g.Count() > 1))
        foreach (var row in group.Skip(1))
            problems.Add(
                new(
                    row.Row,
                    column,
                    new("cell.twice", group.Key!, group.First().Row.ToString(CultureInfo.InvariantCulture)),
                    new($"cell.twice.{column}")
                )
            );
        var cabinets = rows.Where(r => r.IsCabinet).Select(r => r.Label).ToHashSet(Labels.Comparer);
        var recorders = rows.Where(r => records(r.Kind)).Select(r => r.Label).ToHashSet(Labels.Comparer);
        foreach (var row in rows.Where(r => r["cabinet"] is { } c && !cabinets.Contains(c)))
            problems.Add(new(row.Row, "cabinet", new("cell.no-cabinet", row["cabinet"]!), new("cell.no-cabinet.mend")));
        foreach (var row in rows.Where(r => r["recorder"] is { } c && !recorders.Contains(c)))
            problems.Add(new(row.Row, "recorder", new("cell.no-recorder", row["recorder"]!), new("cell.no-recorder.mend")));
        foreach (var run in rows.Where(r => r["run"] is not null).GroupBy(r => r["run"], Labels.Comparer).Where(g => g.Count() > 1))
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
                    rows.First(r => Labels.Same(r.Label, ring[0])).Row,
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
        items.DistinctBy(key, Labels.Comparer).ToDictionary(key, value, Labels.Comparer);
}
