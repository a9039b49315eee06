using System.Text.RegularExpressions;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>Proposes how a sheet is read: where its headings are, and what each means.</summary>
public static partial class HeadingMatch
{
    private static readonly ImmutableDictionary<string, string> Known = RegisterFields
        .All.SelectMany(f => f.Headings.Prepend(f.Id).Select(h => (Heading: CellText.Plain(h), f.Id)))
        .Concat(RegisterFields.OtherLanguages.SelectMany(f => f.Value.Select(h => (Heading: CellText.Plain(h), Id: f.Key))))
        .DistinctBy(h => h.Heading)
        .ToImmutableDictionary(h => h.Heading, h => h.Id);

    /// <summary>Headings that people write over a running number, or over what a device is called, as often as over its label.</summary>
    private static readonly ImmutableHashSet<string> WeakLabels =
    [
        .. new[]
        {
            "no",
            "nr",
            "number",
            "id",
            "ref",
            "reference",
            "point",
            "mark",
            "camera",
            "cam",
            "device",
            "gerät",
            "appareil",
            "equipo",
            "dispositivo",
            "apparaat",
            "kennung",
        }.Select(CellText.Plain),
    ];

    [GeneratedRegex(
        @" (m|mm|cm|ft|feet|foot|metres?|meters?|v|volts?|w|watts?|mbps|mb s|awg|c|deg c|deg|planned|as planned)$",
        RegexOptions.NonBacktracking
    )]
    private static partial Regex UnitAtEnd { get; }

    /// <summary>The column a heading means, or null. What was chosen before wins over what is known.</summary>
    /// <param name="remembered">Column ids by plain heading; an empty id means kept as a note.</param>
    /// <param name="heading">As it stands in the file.</param>
    public static string? FieldOf(string heading, IReadOnlyDictionary<string, string> remembered)
    {
        if (heading.Length > 200)
            return null;
        var plain = CellText.Plain(CellText.Visible(heading));
        if (plain.Length == 0)
            return null;
        if (remembered.TryGetValue(plain, out var chosen))
            return chosen.Length == 0 ? null : chosen;
        return Known.GetValueOrDefault(plain) ?? Known.GetValueOrDefault(UnitAtEnd.Replace(plain, ""));
    }

    /// <summary>Proposes a mapping: the header is the row among the first 40 in which most cells are known headings.</summary>
    public static SheetMapping Propose(
        IReadOnlyList<IReadOnlyList<Cell>> rows,
        IReadOnlyDictionary<string, string> remembered,
        IReadOnlyDictionary<string, string> rememberedKinds
    )
    {
        var header = 0;
        var most = 0;
        for (var i = 0; i < Math.Min(40, rows.Count); i++)
        {
            var known = rows[i].Select(c => FieldOf(c.Text ?? "", remembered)).OfType<string>().Distinct().Count();
            if (known <= most)
                continue;
            (header, most) = (i, known);
        }
        if (most == 0)
            header = Math.Max(0, rows.Take(40).ToList().FindIndex(r => r.Count(c => !c.IsEmpty) > 1));
        var columns = ImmutableArray.CreateBuilder<MappedColumn>();
        if (header < rows.Count)
        {
            var below = rows.Skip(header + 1).ToList();
            // What stands beside the headings is shown too, as a column without one.
            var head = rows[header];
            var holds = new bool[Math.Max(head.Count, below.Select(r => r.Count).DefaultIfEmpty().Max())];
            foreach (var row in below)
                for (var c = 0; c < Math.Min(holds.Length, row.Count); c++)
                    holds[c] |= !row[c].IsEmpty;
            var fields = holds.Select((_, c) => c < head.Count ? FieldOf(head[c].Text, remembered) : null).ToArray();
            // "Cable" heads names as often as metres: what stands under it says which.
            for (var c = 0; c < fields.Length; c++)
                if (fields[c] == "run" && !fields.Contains("length_m") && IsLengths(below, c))
                    fields[c] = "length_m";
            // Two columns that mean the same: the first is taken, the other kept as a note; of labels, the one that people write labels
            // under.
            var winner = fields
                .Select((f, c) => (Field: f, Column: c))
                .Where(f => f.Field is not null)
                .GroupBy(f => f.Field!)
                .ToDictionary(
                    g => g.Key,
                    g =>
                        g.Key == "label" && g.Count() > 1
                            ? g.OrderBy(f => Weakness(head[f.Column].Text, f.Column, below, remembered))
                                .ThenBy(f => f.Column)
                                .First()
                                .Column
                            : g.First().Column
                );
            var headings = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
            for (var c = 0; c < holds.Length; c++)
            {
                var heading = CellText.Visible(c < head.Count ? head[c].Text ?? "" : "");
                if (heading.Length == 0 && !holds[c])
                    continue;
                var field = fields[c] is { } f && winner[f] == c ? f : null;
                // "Camera" beside "Camera no" is what it is called.
                if (field is null && fields[c] == "label" && CellText.Plain(heading) is "camera" or "device" && !winner.ContainsKey("name"))
                    (field, winner["name"]) = ("name", c);
                var name = heading.Length > 0 ? heading : $"column {c + 1}";
                var times = headings[name] = headings.GetValueOrDefault(name) + 1;
                columns.Add(new MappedColumn(c, times > 1 ? $"{name} ({times})" : name, field, heading.Length == 0));
            }
        }
        var mapped = columns.ToImmutable();
        var numbers = mapped
            .Where(m => m.Field is { } id && RegisterFields.Find(id)!.Kind is FieldKind.Number)
            .Select(m => m.Column)
            .ToList();
        var sign = CellText.SignOf(
            rows.Skip(header + 1).SelectMany(r => numbers.Where(n => n < r.Count).Select(n => r[n])).Where(c => !c.IsEmpty)
        );
        return new SheetMapping(
            header,
            mapped,
            sign,
            ImmutableDictionary<string, string>.Empty,
            rememberedKinds.ToImmutableDictionary(),
            true
        );
    }

    /// <summary>Whether all that stands in a column are lengths, and not the running numbers of cables.</summary>
    private static bool IsLengths(List<IReadOnlyList<Cell>> below, int column)
    {
        var values = below.Where(r => column < r.Count && !r[column].IsEmpty).Select(r => r[column].Text.Trim()).Take(200).ToList();
        return values.Count > 0
            && values.All(v => QuantityText.Parse(v, Unit.Metre).Value is { Value: > 0 and < 2000 })
            && !values.Select((v, i) => v == (i + 1).ToString(CultureInfo.InvariantCulture)).All(running => running);
    }

    /// <summary>0: chosen before, or a heading of labels. 1: a heading of many things. 2: a running number under it.</summary>
    private static int Weakness(string heading, int column, List<IReadOnlyList<Cell>> below, IReadOnlyDictionary<string, string> remembered)
    {
        var plain = CellText.Plain(heading);
        if (remembered.ContainsKey(plain) || !WeakLabels.Contains(plain))
            return 0;
        var values = below.Where(r => column < r.Count && !r[column].IsEmpty).Select(r => r[column].Text).Take(200).ToList();
        return
            values.Count > 0
            && values
                .Select((v, i) => int.TryParse(v, NumberStyles.None, CultureInfo.InvariantCulture, out var n) && (n - i is 0 or 1))
                .All(running => running)
            ? 2
            : 1;
    }
}
