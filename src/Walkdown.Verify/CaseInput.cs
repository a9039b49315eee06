using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;
using Walkdown.Formats;

namespace Walkdown.Verify;

/// <summary>The inputs of one case. Says only whether a value is there and is of the right sort; ranges are Core's.</summary>
/// <param name="json">Of the case.</param>
/// <param name="path">Where in it; empty: all of it.</param>
/// <param name="folder">In which its pictures are.</param>
public sealed partial class CaseInput(JsonElement json, string path = "", string folder = "")
{
    public bool Has(string name) => json.TryGetProperty(name, out var value) && value.ValueKind != JsonValueKind.Null;

    public JsonElement Raw(string name) => Has(name) ? json.GetProperty(name) : throw Bad(BadInputReason.Missing, name);

    public double Number(string name)
    {
        var value = Raw(name);
        return value.ValueKind == JsonValueKind.Number ? value.GetDouble() : throw Bad(BadInputReason.NotANumber, name);
    }

    /// <summary>A whole number of any size that a counter may hold.</summary>
    public decimal Count(string name)
    {
        Number(name);
        return Raw(name).TryGetDecimal(out var count) ? count : throw Bad(BadInputReason.AboveMaximum, name);
    }

    public double? OptionalNumber(string name) => Has(name) ? Number(name) : null;

    public double Number(string name, double whenAbsent) => OptionalNumber(name) ?? whenAbsent;

    public int Whole(string name)
    {
        var number = Number(name);
        return number == Math.Floor(number) && Math.Abs(number) < int.MaxValue ? (int)number : throw Bad(BadInputReason.NotAnInteger, name);
    }

    public int? OptionalWhole(string name) => Has(name) ? Whole(name) : null;

    public bool Flag(string name, bool? whenAbsent = null)
    {
        if (!Has(name) && whenAbsent is { } absent)
            return absent;
        var value = Raw(name);
        return value.ValueKind is JsonValueKind.True or JsonValueKind.False
            ? value.GetBoolean()
            : throw Bad(BadInputReason.UnknownValue, name);
    }

    public string Text(string name, string? whenAbsent = null)
    {
        if (!Has(name) && whenAbsent is not null)
            return whenAbsent;
        var value = Raw(name);
        return value.ValueKind == JsonValueKind.String ? value.GetString()! : throw Bad(BadInputReason.UnknownValue, name);
    }

    public string? OptionalText(string name) => Has(name) ? Text(name) : null;

    public T Word<T>(string name, T? whenAbsent = null)
        where T : struct, Enum
    {
        if (!Has(name) && whenAbsent is { } absent)
            return absent;
        return Words.Parse<T>(Text(name)) ?? throw Bad(BadInputReason.UnknownValue, name);
    }

    public IEnumerable<CaseInput> List(string name)
    {
        var value = Raw(name);
        if (value.ValueKind != JsonValueKind.Array)
            throw Bad(BadInputReason.UnknownValue, name);
        return value.EnumerateArray().Select(item => new CaseInput(item, name)).ToList();
    }

    /// <summary>Groups by their names.</summary>
    public IEnumerable<(string Name, CaseInput Value)> Groups(string name)
    {
        var value = Raw(name);
        return value.ValueKind == JsonValueKind.Object
            ? value.EnumerateObject().Select(p => (p.Name, new CaseInput(p.Value, name))).ToList()
            : throw Bad(BadInputReason.UnknownValue, name);
    }

    /// <summary>A picture beside the cases.</summary>
    public GreyRaster Picture(string name)
    {
        var file = Path.Combine(folder, Text(name));
        return File.Exists(file) ? PictureFile.Read(File.ReadAllBytes(file)) : throw Bad(BadInputReason.UnknownValue, name);
    }

    /// <summary>A moment, written out to the second, of UTC.</summary>
    public DateTimeOffset Utc(string name) =>
        Stamped().IsMatch(Text(name))
        && DateTimeOffset.TryParseExact(
            Text(name),
            "yyyy-MM-dd'T'HH:mm:ss'Z'",
            CultureInfo.InvariantCulture,
            DateTimeStyles.AssumeUniversal,
            out var at
        )
            ? at
            : throw Bad(BadInputReason.UnknownValue, name);

    /// <summary>A date, written out.</summary>
    public DateOnly Day(string name) =>
        Dated().IsMatch(Text(name))
        && DateOnly.TryParseExact(Text(name), "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
            ? day
            : throw Bad(BadInputReason.UnknownValue, name);

    [GeneratedRegex(@"\A\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ\z")]
    private static partial Regex Stamped();

    [GeneratedRegex(@"\A\d{4}-\d\d-\d\d\z")]
    private static partial Regex Dated();

    public CaseInput Group(string name) => new(Raw(name), name);

    /// <summary>A list of numbers, or the values of an object of numbers.</summary>
    public List<(string Key, double Value)> Numbers(string name)
    {
        var group = Group(name);
        var value = Raw(name);
        return value.ValueKind switch
        {
            JsonValueKind.Object => [.. value.EnumerateObject().Select(p => (p.Name, group.Number(p.Name)))],
            JsonValueKind.Array =>
            [
                .. value
                    .EnumerateArray()
                    .Select(item =>
                        ("", item.ValueKind == JsonValueKind.Number ? item.GetDouble() : throw Bad(BadInputReason.NotANumber, name))
                    ),
            ],
            _ => throw Bad(BadInputReason.UnknownValue, name),
        };
    }

    /// <summary>The texts of an object by their names; null is a value.</summary>
    public List<KeyValuePair<string, string?>> Texts(string name)
    {
        var value = Raw(name);
        if (value.ValueKind != JsonValueKind.Object)
            throw Bad(BadInputReason.UnknownValue, name);
        return
        [
            .. value
                .EnumerateObject()
                .Select(p => new KeyValuePair<string, string?>(
                    p.Name,
                    p.Value.ValueKind switch
                    {
                        JsonValueKind.String => p.Value.GetString(),
                        JsonValueKind.Null => null,
                        _ => throw Bad(BadInputReason.UnknownValue, name),
                    }
                )),
        ];
    }

    /// <summary>A list of numbers in which null is a value.</summary>
    public List<double?> NumbersOrNull(string name)
    {
        var value = Raw(name);
        if (value.ValueKind != JsonValueKind.Array)
            throw Bad(BadInputReason.UnknownValue, name);
        return
        [
            .. value
                .EnumerateArray()
                .Select(item =>
                    item.ValueKind switch
                    {
                        JsonValueKind.Number => item.GetDouble(),
                        JsonValueKind.Null => (double?)null,
                        _ => throw Bad(BadInputReason.NotANumber, name),
                    }
                ),
        ];
    }

    private BadInputException Bad(BadInputReason reason, string name) => new(reason, path.Length == 0 ? name : $"{path}.{name}");
}
