using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;
using Walkdown.Core.Results;

namespace Walkdown.Formats;

/// <summary>
/// Results of an instrument as a file (docs/formats.md, "Instrument results"): JSON, or a table that has either one result a line or one
/// run a line. Nothing is guessed: a line that could be read two ways carries its trouble with it.
/// </summary>
public static class ResultFile
{
    public const int MostResults = 400_000;
    private const int HeaderWithin = 40;

    private sealed record JsonFile(string? Format, int? Version, ImmutableArray<JsonResult> Results);

    private sealed record JsonResult(
        string? Run,
        string? Function,
        string? Part,
        string? Condition,
        double? Value,
        string? Text,
        string? Unit,
        DateTimeOffset? At,
        string? Instrument,
        string? RemoteLabel,
        int[][]? Map,
        ImmutableDictionary<string, double>? OpenDistanceM,
        bool? ShieldArrives,
        int[][]? TwistedPairs,
        int? Sent,
        int? Received,
        ImmutableArray<double?>? RoundTripsMs,
        CounterLook? First,
        CounterLook? Second,
        double? IntervalS,
        int? Bits
    );

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        AllowTrailingCommas = true,
        ReadCommentHandling = JsonCommentHandling.Skip,
        MaxDepth = 16,
    };

    /// <param name="zone">Zone of times that carry none.</param>
    /// <exception cref="SheetException">Not a file of results, cut off, or far too large.</exception>
    public static IEnumerable<InstrumentResult> Read(byte[] file, string zone, CancellationToken cancel = default)
    {
        if (file.Length == 0)
            throw new SheetException(new("sheet.empty"));
        var first = file.SkipWhile(b => b is 0xEF or 0xBB or 0xBF or (byte)' ' or (byte)'\n' or (byte)'\r' or (byte)'\t').FirstOrDefault();
        return first is (byte)'{' or (byte)'[' ? FromJson(file) : FromTable(SheetReader.Rows(file, cancel), zone);
    }

    private static IEnumerable<InstrumentResult> FromJson(byte[] file)
    {
        if (file.Length > SheetReader.MostBytes)
            throw new SheetException(
                new(
                    "sheet.too-large",
                    (file.Length / 1048576).ToString(CultureInfo.InvariantCulture),
                    (SheetReader.MostBytes / 1048576).ToString(CultureInfo.InvariantCulture)
                )
            );
        ImmutableArray<JsonResult> results;
        try
        {
            var text = file.AsSpan(file is [0xEF, 0xBB, 0xBF, ..] ? 3 : 0);
            if (text.TrimStart(" \r\n\t"u8)[0] == '[')
                results = JsonSerializer.Deserialize<ImmutableArray<JsonResult>>(text, Json);
            else
            {
                var whole = JsonSerializer.Deserialize<JsonFile>(text, Json)!;
                if (whole.Version is > 1)
                    throw new SheetException(new("result.version", whole.Version.Value.ToString(CultureInfo.InvariantCulture)));
                results = whole.Results;
            }
        }
        catch (JsonException problem)
        {
            throw new SheetException(new("result.broken-json", ((problem.LineNumber ?? 0) + 1).ToString(CultureInfo.InvariantCulture)));
        }
        if (results.IsDefaultOrEmpty)
            throw new SheetException(new("result.nothing"));
        if (results.Length > MostResults)
            throw new SheetException(new("result.too-many", MostResults.ToString(CultureInfo.InvariantCulture)));
        return results.Select((r, i) => FromJson(r, i + 1));
    }

    private static InstrumentResult FromJson(JsonResult r, int line)
    {
        var function = ResultColumn.FunctionOf(r.Function ?? "") ?? "";
        var under = ResultColumn.ConditionOf(r.Condition ?? "");
        var text = r.Text ?? r.Value?.ToString("R", CultureInfo.InvariantCulture) ?? "";
        var (value, trouble) = Value();
        return new(
            line,
            r.Run ?? "",
            function.Length > 0 ? function : r.Function ?? "",
            r.Part ?? "",
            under ?? Condition.Any,
            text,
            r.Unit ?? "",
            r.At,
            r.Instrument ?? "",
            r.RemoteLabel ?? "",
            value,
            string.IsNullOrWhiteSpace(r.Run) ? new("result.no-run")
                : function.Length == 0 ? new("result.unknown-function", r.Function ?? "")
                : under is null ? new("result.unknown-condition", r.Condition!)
                : trouble
        );

        (ReadingValue?, Message?) Value()
        {
            if (r.Map is { } map)
                return map.Length == 8
                    ? (
                        new WireMapValue(
                            [.. map.Select(far => (far ?? []).ToImmutableArray())],
                            MapReadAt.FarUnit,
                            r.OpenDistanceM,
                            r.RemoteLabel,
                            r.ShieldArrives,
                            r.TwistedPairs is { } twists ? [.. twists.Select(t => t.ToImmutableArray())] : null
                        ),
                        null
                    )
                    : (null, new("result.no-map", map.Length.ToString(CultureInfo.InvariantCulture)));
            if (function == "probes")
                return r is { Sent: { } sent, Received: { } received }
                    ? (new ProbesValue(sent, received, r.RoundTripsMs), null)
                    : (null, new("result.no-probes"));
            if (function == "counters")
                return r is { First: { } a, Second: { } b, IntervalS: { } seconds }
                    ? (new CountersValue(a, b, seconds, r.Bits ?? 32), null)
                    : (null, new("result.no-counters"));
            return text.Length == 0 ? (null, new("number.empty")) : (null, null);
        }
    }

    private static IEnumerable<InstrumentResult> FromTable(IEnumerable<IReadOnlyList<Cell>> rows, string zone)
    {
        List<(int Column, ResultColumn What)>? columns = null;
        int line = 0,
            results = 0;
        foreach (var row in rows)
        {
            line++;
            if (columns is null)
            {
                if (line > HeaderWithin)
                    throw new SheetException(new("result.no-heading"));
                var found = row.Select((cell, i) => (Column: i, What: cell.IsEmpty ? null : ResultColumn.Read(cell.Text)))
                    .Where(c => c.What is not null)
                    .Select(c => (c.Column, What: c.What!))
                    .ToList();
                if (
                    found.Any(c => c.What.Field == ResultField.Run)
                    && found.Any(c => c.What.Field is ResultField.Value or ResultField.Reading or ResultField.Sent)
                )
                    columns = [.. found.DistinctBy(c => c.What)];
                continue;
            }
            if (row.All(c => c.IsEmpty))
                continue;
            string Cell(ResultField field) =>
                columns.FirstOrDefault(c => c.What.Field == field) is { What: not null } c && c.Column < row.Count
                    ? row[c.Column].Text ?? ""
                    : "";
            var where = Cell(ResultField.Run);
            var (at, badTime) = SheetTime.Of(Cell(ResultField.Time), zone);
            var dayOnly = at is not null && !Cell(ResultField.Time).Contains(':');
            var common = new InstrumentResult(
                line,
                where,
                "",
                "",
                Condition.Any,
                "",
                "",
                at,
                Cell(ResultField.Instrument),
                Cell(ResultField.RemoteLabel),
                null,
                where.Length == 0 ? new("result.no-run") : badTime
            )
            {
                DayOnly = dayOnly,
            };
            if (columns.Any(c => c.What.Field == ResultField.Value))
            {
                if (++results > MostResults)
                    throw new SheetException(new("result.too-many", MostResults.ToString(CultureInfo.InvariantCulture)));
                var named = Cell(ResultField.Function);
                var function = ResultColumn.FunctionOf(named);
                var under = ResultColumn.ConditionOf(Cell(ResultField.Condition));
                var unit = columns.First(c => c.What.Field == ResultField.Value).What.UnitText;
                yield return common with
                {
                    Function = function ?? named,
                    Part = PartOf(Cell(ResultField.Part)),
                    Under = under ?? Condition.Any,
                    Text = Cell(ResultField.Value),
                    UnitText = Cell(ResultField.Unit) is { Length: > 0 } u ? u : unit,
                    Trouble =
                        common.Trouble
                        ?? (
                            function is null ? new("result.unknown-function", named)
                            : under is null ? new("result.unknown-condition", Cell(ResultField.Condition))
                            : null
                        ),
                };
                continue;
            }
            foreach (
                var (column, what) in columns.Where(c =>
                    c.What.Field == ResultField.Reading && c.Column < row.Count && !row[c.Column].IsEmpty
                )
            )
            {
                if (++results > MostResults)
                    throw new SheetException(new("result.too-many", MostResults.ToString(CultureInfo.InvariantCulture)));
                yield return common with
                {
                    Function = what.Function!,
                    Part = what.Part,
                    Under = what.Under,
                    Text = row[column].Text,
                    UnitText = what.UnitText,
                };
            }
            if (Cell(ResultField.Sent) is { Length: > 0 } sentText)
            {
                var ok =
                    int.TryParse(sentText, CultureInfo.InvariantCulture, out var sent)
                    & int.TryParse(Cell(ResultField.Received), CultureInfo.InvariantCulture, out var received);
                yield return common with
                {
                    Function = "probes",
                    Text = sentText,
                    Value = ok ? new ProbesValue(sent, received) : null,
                    Trouble = common.Trouble ?? (ok ? null : new("result.no-probes")),
                };
            }
        }
        if (columns is null)
            throw new SheetException(new("result.no-heading"));
    }

    private static string PartOf(string text) =>
        text.Trim().Replace('/', '-').Replace(',', '-').Replace(' ', '-') switch
        {
            "12" => "1-2",
            "36" => "3-6",
            "45" => "4-5",
            "78" => "7-8",
            var part => part,
        };
}
