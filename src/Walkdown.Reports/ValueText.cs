using System.Globalization;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;

namespace Walkdown.Reports;

/// <summary>A reading in a few words, whatever it is of.</summary>
public static class ValueText
{
    public static string Of(Texts t, ReadingValue value, CheckDefinition? check = null)
    {
        return value switch
        {
            NumberValue n => $"{(check is null ? t.Local(Message.Number(n.Value, 3)) : t.Number(n.Value, check.Decimals))} "
                + $"{t["unit." + Codes.Of(n.Unit)]}",
            YesNoValue y => t.Or($"{check?.TextKey}.{(y.Yes ? "yes" : "no")}", t[y.Yes ? "ui.yes" : "ui.no"]),
            ChoiceValue c =>
                $"{Choice(t, check, c.Choice)} {(check is null || c.Choice == "none" ? "" : t["unit." + Codes.Of(check.Unit)])}".Trim(),
            WireMapValue m => string.Concat(
                m.NearToFar.Select(far =>
                    far.IsEmpty ? "-"
                    : far.Length == 1 ? far[0].ToString(CultureInfo.InvariantCulture)
                    : $"({string.Join('+', far)})"
                )
            ),
            ListValue { Marked.IsEmpty: true } => t["list.all"],
            ListValue l => string.Join(", ", l.Marked.Select(m => t["item." + m])),
            ItemsValue i when i.Items.All(s => s.State == ItemState.Fitted) => t["list.all"],
            ItemsValue i => string.Join(
                ", ",
                i.Items.Where(s => s.State != ItemState.Fitted)
                    .Select(s => $"{t["item." + s.Item]}: {t["item-state." + Codes.Of(s.State)]}{(s.By is { } by ? " " + by : "")}")
            ),
            FormValue { Lines: [var line] } => string.Join(", ", line.Said.Select(s => Field(t, check, s))),
            FormValue f => t.Fill(
                t["form.lines"],
                [
                    f.Lines.Length.ToString(CultureInfo.InvariantCulture),
                    string.Join(
                        "; ",
                        f.Lines.GroupBy(l => string.Join(", ", l.Said.Select(s => Field(t, check, s))))
                            .Take(6)
                            .Select(g => g.Count() > 1 ? $"{g.Count()} x {g.Key}" : g.Key)
                    ),
                ]
            ),
            TextValue x => x.Text,
            ZonesValue z => string.Join(
                "; ",
                z.Zones.GroupBy(zone => zone.Use)
                    .OrderBy(g => g.Key)
                    .Select(g => $"{t["zone.use." + Codes.Of(g.Key)]}: {string.Join(", ", g.Select(zone => zone.Name))}")
            ),
            WeekValue w => t.Fill(t["week.shown"], [t.Local(Message.Number(WeekHours.Minutes(w.Recorded) / 60.0, 1))]),
            ProbesValue p => string.Create(
                CultureInfo.InvariantCulture,
                $"{p.Sent - p.Received} {t.Fill(t["probes.lost-of"], [p.Sent.ToString(CultureInfo.InvariantCulture)])}"
            ),
            CountersValue c => string.Create(
                CultureInfo.InvariantCulture,
                $"{(c.ErrorsBetween() is { } errors ? errors.ToString(CultureInfo.InvariantCulture) : "?")} {t["counters.errors"]}"
            ),
            UnreadableValue => t["because.unreadable.short"],
            _ => "",
        };
    }

    /// <summary>A window in words, without its unit; empty where nothing can lie in it, or nothing bounds it.</summary>
    /// <param name="decimals">As the check is read; null: as many as it needs, at most two.</param>
    public static string Limits(Texts t, LimitWindow w, int? decimals = null)
    {
        string Number(double value) => decimals is { } d ? value.ToString("F" + d, CultureInfo.InvariantCulture) : Message.Number(value);
        if (w.Empty)
            return t["limit.none-possible"];
        return (w.Min, w.Max) switch
        {
            ({ } min, { } max) => t.Fill(t["limit.between"], [Number(min), Number(max)]),
            (null, { } max) => t.Fill(t["limit.at-most"], [Number(max)]),
            ({ } min, null) => t.Fill(t["limit.at-least"], [Number(min)]),
            _ => "",
        };
    }

    private static string Field(Texts t, CheckDefinition? check, FieldSaid said)
    {
        var field = check?.Fields.FirstOrDefault(f => f.Id == said.Field);
        var name = $"field.{check?.Id.Value}.{said.Field}";
        return $"{t.Or(name, said.Field)} "
            + (
                said.Number is { } number
                    ? $"{t.Local(Message.Number(number))} {(field is null ? "" : t["unit." + Codes.Of(field.Unit)])}".Trim()
                    : t.Or($"{name}.{said.Word}", said.Word ?? "")
            );
    }

    private static string Choice(Texts t, CheckDefinition? check, string choice) =>
        t.Or($"choice.{check?.Id.Value}.{choice}", t.Or("choice." + choice, choice));
}
