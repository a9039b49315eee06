using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Walkdown.Core.Measures;

namespace Walkdown.Verify;

/// <summary>How one case went: null difference where it passed.</summary>
public readonly record struct CaseResult(string Id, string? Difference);

/// <summary>Runs the cases of one file through Core and compares.</summary>
public static class CaseFile
{
    private static readonly JsonSerializerOptions Json = new()
    {
        Converters = { new WordConverter() },
        NumberHandling = System.Text.Json.Serialization.JsonNumberHandling.AllowNamedFloatingPointLiterals,
    };

    /// <summary>The topic is the letter before the underscore of the file's name.</summary>
    public static IEnumerable<CaseResult> Run(string path)
    {
        using var document = JsonDocument.Parse(File.ReadAllText(path));
        var topic = Path.GetFileName(path).Split('_')[0];
        var operations = Operations.ByTopic.GetValueOrDefault(topic);
        var results = new List<CaseResult>();
        foreach (var one in document.RootElement.GetProperty("cases").EnumerateArray())
        {
            var id = one.GetProperty("id").GetString()!;
            var operation = one.GetProperty("in").TryGetProperty("operation", out var name) ? name.GetString()! : "";
            results.Add(
                operations is not null && operations.TryGetValue(operation, out var run)
                    ? new CaseResult(id, Compare(run, one, Path.GetDirectoryName(Path.GetFullPath(path))!))
                    : new CaseResult(id, "not built")
            );
        }
        return results;
    }

    private static string? Compare(Operations.Operation run, JsonElement one, string folder)
    {
        var expected = one.GetProperty("out");
        JsonNode? got;
        try
        {
            got = JsonSerializer.SerializeToNode(run(new CaseInput(one.GetProperty("in"), folder: folder)), Json);
        }
        catch (BadInputException refused)
        {
            return expected.TryGetProperty("error", out _) ? null : $"refused: {refused.Message}";
        }
        catch (Exception shape)
            when (shape
                    is InvalidOperationException
                        or FormatException
                        or OverflowException
                        or KeyNotFoundException
                        or IndexOutOfRangeException
            )
        {
            // An input of the wrong sort (a list where an object should be) is bad input too.
            return expected.TryGetProperty("error", out _) ? null : $"refused: {shape.Message}";
        }
        if (expected.TryGetProperty("error", out var error))
            return $"should be refused ({error})";
        return Differences(expected, got, "", one.TryGetProperty("tol", out var tolerance) ? tolerance : default).FirstOrDefault();
    }

    private static IEnumerable<string> Differences(JsonElement expected, JsonNode? got, string field, JsonElement tolerance)
    {
        switch (expected.ValueKind)
        {
            case JsonValueKind.Object:
                foreach (var property in expected.EnumerateObject())
                {
                    if (property.Name == "witness_not_compared")
                        continue;
                    if (got is not JsonObject map || !map.TryGetPropertyValue(property.Name, out var inner))
                        yield return $"{property.Name}: absent";
                    else
                        foreach (var line in Differences(property.Value, inner, property.Name, tolerance))
                            yield return line;
                }
                break;
            case JsonValueKind.Array:
                if (got is not JsonArray list || list.Count != expected.GetArrayLength())
                    yield return $"{field}: expected {expected}, got {got?.ToJsonString() ?? "nothing"}";
                else
                    for (var i = 0; i < list.Count; i++)
                        foreach (var line in Differences(expected[i], list[i], field, tolerance))
                            yield return line;
                break;
            case JsonValueKind.Number:
                if (
                    got is null
                    || got.GetValueKind() != JsonValueKind.Number
                    || !Near(expected.GetDouble(), got.GetValue<JsonElement>().GetDouble(), field, tolerance)
                )
                    yield return $"{field}: expected {expected}, got {got?.ToJsonString() ?? "nothing"}";
                break;
            default:
                var text = got is null ? "null" : got.ToJsonString();
                if (text != JsonSerializer.Serialize(expected) && !NearInTime(expected, got, tolerance))
                    yield return $"{field}: expected {expected.GetRawText()}, got {text}";
                break;
        }
    }

    /// <summary>Two moments written as text, as near as the case allows.</summary>
    private static bool NearInTime(JsonElement expected, JsonNode? got, JsonElement tolerance) =>
        expected.ValueKind == JsonValueKind.String
        && got?.GetValueKind() == JsonValueKind.String
        && tolerance.ValueKind == JsonValueKind.Object
        && tolerance.TryGetProperty("time_text_s", out var allowed)
        && DateTimeOffset.TryParse(expected.GetString(), CultureInfo.InvariantCulture, out var a)
        && DateTimeOffset.TryParse(got.GetValue<JsonElement>().GetString(), CultureInfo.InvariantCulture, out var b)
        && Math.Abs((a - b).TotalSeconds) <= allowed.GetProperty("abs").GetDouble();

    private static bool Near(double expected, double got, string field, JsonElement tolerance)
    {
        if (tolerance.ValueKind != JsonValueKind.Object)
            return Math.Abs(got - expected) <= 1e-9;
        if (!tolerance.TryGetProperty(field, out var allowed) && !tolerance.TryGetProperty("*", out allowed))
            return Math.Abs(got - expected) <= 1e-9;
        double Part(string name) => allowed.TryGetProperty(name, out var part) ? part.GetDouble() : 0;
        return Math.Abs(got - expected) <= Math.Max(Part("abs"), Part("rel") * Math.Abs(expected));
    }

    private sealed class WordConverter : System.Text.Json.Serialization.JsonConverterFactory
    {
        public override bool CanConvert(Type type) => type.IsEnum;

        public override System.Text.Json.Serialization.JsonConverter CreateConverter(Type type, JsonSerializerOptions options) =>
            (System.Text.Json.Serialization.JsonConverter)Activator.CreateInstance(typeof(Writer<>).MakeGenericType(type))!;

        private sealed class Writer<T> : System.Text.Json.Serialization.JsonConverter<T>
            where T : struct, Enum
        {
            public override T Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) =>
                throw new NotSupportedException("written only");

            public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) =>
                writer.WriteStringValue(Words.Of(value));
        }
    }
}
