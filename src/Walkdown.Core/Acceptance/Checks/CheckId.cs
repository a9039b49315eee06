using System.Text.Json;
using System.Text.Json.Serialization;

namespace Walkdown.Core.Acceptance;

/// <summary>Name of a check, such as <c>power.volts-at-device</c>. Never renamed.</summary>
[JsonConverter(typeof(Json))]
public readonly record struct CheckId(string Value)
{
    /// <summary>The word itself.</summary>
    public override string ToString() => Value;

    /// <summary>As a word in JSON.</summary>
    public sealed class Json : JsonConverter<CheckId>
    {
        /// <inheritdoc/>
        public override CheckId Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) => new(reader.GetString() ?? "");

        /// <inheritdoc/>
        public override void Write(Utf8JsonWriter writer, CheckId value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.Value);
    }
}
