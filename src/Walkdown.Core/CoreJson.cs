using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;

namespace Walkdown.Core;

/// <summary>How Core's shapes stand in JSON everywhere: camel case, enums as words, numbers strictly numbers.</summary>
public static class CoreJson
{
    /// <summary>The options.</summary>
    public static readonly JsonSerializerOptions Options = Configure(new JsonSerializerOptions(JsonSerializerDefaults.Web));

    /// <summary>Makes options read and write as Core does.</summary>
    public static JsonSerializerOptions Configure(JsonSerializerOptions options)
    {
        // Said outright: else only the first reading or writing makes them whole, and a schema asked for before that is refused.
        options.TypeInfoResolver ??= new DefaultJsonTypeInfoResolver();
        options.NumberHandling = JsonNumberHandling.Strict;
        // Canonical JSON sorts its members: a kind may come after what it says the kind of.
        options.AllowOutOfOrderMetadataProperties = true;
        options.RespectNullableAnnotations = true;
        options.RespectRequiredConstructorParameters = true;
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
        return options;
    }
}
