using System.Text.Json;
using System.Text.Json.Serialization;

namespace Walkdown.Core.Acceptance;

/// <summary>Name of a check, such as <c>power.volts-at-device</c>. Never renamed.</summary>
[JsonConverter(typeof(Json))]
public readonly record struct CheckId(string Value)
{
    /// <summary>The word itself.</summary>
    public override string ToString() => Value;

    internal sealed class Json : JsonConverter<CheckId>
    {
        public override CheckId Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) => new(reader.GetString() ?? "");

        public override void Write(Utf8JsonWriter writer, CheckId value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.Value);
    }
}
