using System.Text.RegularExpressions;

namespace Walkdown.Core.Register;

/// <summary>What becomes of one column of a sheet.</summary>
/// <param name="Column">Counted from 0.</param>
/// <param name="Heading">As it stands in the sheet.</param>
/// <param name="Field">Id of a register column; null: kept as a note under its heading.</param>
/// <param name="Ignored">True: left out altogether.</param>
public sealed record MappedColumn(int Column, string Heading, string? Field, bool Ignored = false);

/// <summary>How a sheet is read.</summary>
/// <param name="HeaderRow">Counted from 0.</param>
/// <param name="Defaults">By column id: for cells that are empty or columns that are not there.</param>
/// <param name="Kinds">Device kinds by the words of this sheet.</param>
/// <param name="AddMissing">Cabinets and recorders that are only named get a row of their own.</param>
public sealed record SheetMapping(
    int HeaderRow,
    ImmutableArray<MappedColumn> Columns,
    DecimalSign Sign,
    ImmutableDictionary<string, string> Defaults,
    ImmutableDictionary<string, string> Kinds,
    bool AddMissing
);

/// <summary>Proposes how a sheet is read: where its headings are, and what each means.</summary>
public static partial class HeadingMatch
{
    private static readonly ImmutableDictionary<string, string> Known = RegisterFields
        .All.SelectMany(f => f.Headings.Prepend(f.Id).Select(h => (Heading: CellText.Plain(h), f.Id)))
        .DistinctBy(h => h.Heading)
        .ToImmutableDictionary(h => h.Heading, h => h.Id);

    [GeneratedRegex(@" (m|mm|cm|ft|feet|foot|metres?|meters?|v|volts?|w|watts?|mbps|mb s|awg|c|deg c|deg|planned|as planned)$")]
    private static partial Regex UnitAtEnd { get; }

    /// <summary>The column a heading means, or null. What was chosen before wins over what is known.</summary>
    /// <param name="remembered">Column ids by plain heading; an empty id means kept as a note.</param>
    public static string? FieldOf(string heading, IReadOnlyDictionary<string, string> remembered)
    {
        var plain = CellText.Plain(heading);
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
            var known = rows[i].Select(c => FieldOf(c.Text, remembered)).OfType<string>().Distinct().Count();
            if (known <= most)
                continue;
            (header, most) = (i, known);
        }
        if (most == 0)
            header = Math.Max(0, rows.Take(40).ToList().FindIndex(r => r.Count(c => !c.IsEmpty) > 1));
        var taken = new HashSet<string>();
        var columns = ImmutableArray.CreateBuilder<MappedColumn>();
        if (header < rows.Count)
        {
            for (var c = 0; c < rows[header].Count; c++)
            {
                var heading = rows[header][c].Text;
                var empty = rows.Skip(header + 1).All(r => c >= r.Count || r[c].IsEmpty);
                if (heading.Length == 0 && empty)
                    continue;
                var field = FieldOf(heading, remembered);
                // Two columns that mean the same: the first is taken, the other kept as a note.
                if (field is not null && !taken.Add(field))
                    field = null;
                columns.Add(new MappedColumn(c, heading.Length > 0 ? heading : $"column {c + 1}", field, heading.Length == 0));
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
}
