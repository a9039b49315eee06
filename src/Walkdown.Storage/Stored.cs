using System.Text.Json;
using Walkdown.Core;

namespace Walkdown.Storage;

/// <summary>What stands in the database as JSON. A value that cannot be read spoils what it stands for, and nothing else: no Card, no job,
/// no start.</summary>
public static class Stored
{
    /// <summary>The value, or its default where the text is none.</summary>
    public static T? Read<T>(string? json)
    {
        if (string.IsNullOrEmpty(json))
            return default;
        try
        {
            return JsonSerializer.Deserialize<T>(json, CoreJson.Options);
        }
        catch (Exception problem)
            when (problem
                    is JsonException
                        or NotSupportedException
                        or FormatException
                        or ArgumentException
                        or InvalidOperationException
                        or OverflowException
            )
        {
            return default;
        }
    }
}
