using System.Collections.Immutable;
using System.Text.Json;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Devices;

/// <summary>Values in the JSON that testers and switches answer (docs/formats.md). Members that are missing or of another kind
/// throw.</summary>
internal static class JsonValues
{
    /// <summary>The readings of an answer, with who answered; trouble where one of them can be no reading of the check.</summary>
    public static SourceAnswer Of(JsonElement answer, CheckDefinition check)
    {
        if (answer.GetProperty("function").GetString() != check.Tester)
            return SourceAnswer.Failed("tester.nonsense");
        ImmutableArray<SourceReading> readings = check.Entry switch
        {
            EntryKind.WireMap => [new("", Map(answer))],
            EntryKind.Choice => [new("", new ChoiceValue(answer.GetProperty("choice").GetString() ?? ""))],
            EntryKind.Probes => [new("", Probes(answer))],
            EntryKind.Counters =>
            [
                new(
                    "",
                    new CountersValue(
                        Look(answer.GetProperty("first")),
                        Look(answer.GetProperty("second")),
                        answer.GetProperty("intervalS").GetDouble(),
                        answer.TryGetProperty("bits", out var bits) ? bits.GetInt32() : 32
                    )
                ),
            ],
            EntryKind.Number when check.PartsFrom is not null =>
            [
                .. answer
                    .GetProperty("pairs")
                    .EnumerateObject()
                    // Of a part that never came, such as a preset that is not reached, there is no reading.
                    .Where(p => p.Value.ValueKind != JsonValueKind.Null)
                    .Select(p => new SourceReading(p.Name, Number(p.Value.GetDouble(), answer, check))),
            ],
            EntryKind.Form => [new("", Form(answer.GetProperty("fields"), check))],
            EntryKind.Number => [new("", Number(answer.GetProperty("value").GetDouble(), answer, check))],
            _ => [],
        };
        if (readings.IsEmpty)
            return SourceAnswer.Failed("tester.no-function");
        if (readings.Any(r => ReadingRules.Refuse(check, r.Value) is not null))
            return SourceAnswer.Failed("tester.nonsense");
        var named =
            answer.TryGetProperty("serial", out var serial) && serial.ValueKind == JsonValueKind.String ? serial.GetString()!.Trim() : "";
        return named.Length > 60 ? SourceAnswer.Failed("tester.nonsense") : new SourceAnswer(readings, named, null, answer.GetRawText());
    }

    private static ProbesValue Probes(JsonElement answer)
    {
        var trips =
            answer.TryGetProperty("roundTripsMs", out var list) && list.ValueKind == JsonValueKind.Array
                ? list.EnumerateArray().Select(t => t.ValueKind == JsonValueKind.Null ? (double?)null : t.GetDouble()).ToImmutableArray()
                : (ImmutableArray<double?>?)null;
        return new ProbesValue(answer.GetProperty("sent").GetInt32(), answer.GetProperty("received").GetInt32(), trips);
    }

    private static CounterLook Look(JsonElement look) => new(look.GetProperty("packets").GetInt64(), look.GetProperty("errors").GetInt64());

    /// <summary>Units in, units out: what the tester calls its unit is read like a typed one.</summary>
    private static NumberValue Number(double value, JsonElement answer, CheckDefinition check)
    {
        var unit = answer.GetProperty("unit").GetString() ?? "";
        var one = QuantityText.Parse("1 " + unit, check.Unit);
        return one.Value is { } factor ? new NumberValue(value * factor.Value, check.Unit) : throw new FormatException(unit);
    }

    /// <summary>Fields that the check has, words as words and numbers in the field's own unit; what it does not have is left.</summary>
    private static FormValue Form(JsonElement fields, CheckDefinition check) =>
        new([
            new FormLine([
                .. check
                    .Fields.Where(f => fields.TryGetProperty(f.Id, out _))
                    .Select(f =>
                        f.Entry is FieldEntry.Number or FieldEntry.Count
                            ? new FieldSaid(f.Id, fields.GetProperty(f.Id).GetDouble())
                            : new FieldSaid(f.Id, null, fields.GetProperty(f.Id).GetString())
                    ),
            ]),
        ]);

    private static WireMapValue Map(JsonElement answer) =>
        new(
            [
                .. answer
                    .GetProperty("map")
                    .EnumerateArray()
                    .Select(far => far.EnumerateArray().Select(pin => pin.GetInt32()).ToImmutableArray()),
            ],
            answer.GetProperty("readAt").GetString() == "far-unit" ? MapReadAt.FarUnit : MapReadAt.MainUnit,
            answer.TryGetProperty("openDistanceM", out var open)
                ? open.EnumerateObject().ToImmutableDictionary(d => d.Name, d => d.Value.GetDouble())
                : null,
            answer.TryGetProperty("remoteLabel", out var label) ? label.GetString() : null,
            answer.TryGetProperty("shieldArrives", out var shield) && shield.ValueKind is JsonValueKind.True or JsonValueKind.False
                ? shield.GetBoolean()
                : null,
            answer.TryGetProperty("twistedPairs", out var twists) && twists.ValueKind == JsonValueKind.Array
                ? [.. twists.EnumerateArray().Select(pair => pair.EnumerateArray().Select(pin => pin.GetInt32()).ToImmutableArray())]
                : null
        );
}
