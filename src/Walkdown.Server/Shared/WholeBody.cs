using System.Collections;
using System.Collections.Concurrent;
using System.Reflection;

namespace Walkdown.Server.Shared;

/// <summary>
/// Looks through what was sent before anything is made of it: no list with a hole in it, no text with a character that nobody can type or
/// print. What a record's own types cannot say is said here once, for every door.
/// </summary>
public static class WholeBody
{
    private const int MostDepth = 20;
    private static readonly ConcurrentDictionary<Type, PropertyInfo[]> Properties = new();

    public static ValueTask<object?> Filter(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        foreach (var argument in context.Arguments)
        {
            var bad = argument switch
            {
                null => null,
                string text => IsPrintable(text) ? null : "query",
                _ => IsOurs(argument.GetType()) ? Bad(argument, "$", 0) : null,
            };
            if (bad is not null)
                return ValueTask.FromResult<object?>(Problems.Of(400, new Core.Measures.Message("problem.unreadable", bad), bad));
        }
        return next(context);
    }

    /// <summary>The place of the first thing that cannot be, or null.</summary>
    private static string? Bad(object? value, string at, int depth)
    {
        if (depth > MostDepth)
            return at;
        switch (value)
        {
            case null:
                return null;
            case string text:
                return IsPrintable(text) ? null : at;
            case IDictionary entries:
                foreach (DictionaryEntry entry in entries)
                    if ((Bad(entry.Key, at, depth + 1) ?? Bad(entry.Value, $"{at}.{entry.Key}", depth + 1)) is { } inside)
                        return inside;
                return null;
            case byte[]:
                return null;
            case IEnumerable list:
                var type = list.GetType();
                // A list that was left out altogether is an empty look at nothing.
                if (
                    type.IsGenericType
                    && type.GetGenericTypeDefinition() == typeof(System.Collections.Immutable.ImmutableArray<>)
                    && (bool)type.GetProperty("IsDefault")!.GetValue(list)!
                )
                    return null;
                var element = type.IsGenericType ? type.GetGenericArguments()[^1] : typeof(object);
                if (element.IsPrimitive || element == typeof(Guid))
                    return null;
                var i = 0;
                foreach (var item in list)
                {
                    var here = $"{at}[{i++}]";
                    if (item is null && Nullable.GetUnderlyingType(element) is null)
                        return here;
                    if (Bad(item, here, depth + 1) is { } within)
                        return within;
                }
                return null;
        }
        if (!IsOurs(value.GetType()))
            return null;
        foreach (
            var property in Properties.GetOrAdd(
                value.GetType(),
                static t =>
                    [
                        .. t.GetProperties()
                            .Where(p =>
                                p.CanRead
                                && p.GetIndexParameters().Length == 0
                                && !p.PropertyType.IsPrimitive
                                && p.GetGetMethod() is { IsStatic: false }
                                && p.GetCustomAttribute<System.Text.Json.Serialization.JsonIgnoreAttribute>() is null
                            ),
                    ]
            )
        )
            if (Bad(property.GetValue(value), $"{at}.{char.ToLowerInvariant(property.Name[0])}{property.Name[1..]}", depth + 1) is { } bad)
                return bad;
        return null;
    }

    private static bool IsOurs(Type type) =>
        type.Namespace?.StartsWith("Walkdown.", StringComparison.Ordinal) == true
        && !type.IsEnum
        && type.Name.EndsWith("Store", StringComparison.Ordinal) == false
        && IsRecord(type);

    /// <summary>What is sent is a record; what serves it is none.</summary>
    private static bool IsRecord(Type type) => type.GetMethod("<Clone>$") is not null || type.IsValueType;

    private static bool IsPrintable(string text)
    {
        foreach (var c in text)
            if (c < ' ' && c is not ('\n' or '\r' or '\t') || c is '\uFFFE' or '\uFFFF')
                return false;
        return true;
    }
}
