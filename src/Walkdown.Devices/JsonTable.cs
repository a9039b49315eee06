using System.Net;
using System.Text.Json;
using Walkdown.Core;

namespace Walkdown.Devices;

/// <summary>Why a table did not come.</summary>
public enum TableTrouble
{
    /// <summary>It came.</summary>
    None,

    /// <summary>Whoever answers has no such thing.</summary>
    Unknown,

    /// <summary>Nobody answers, or breaks off, or takes too long.</summary>
    Silent,

    /// <summary>What came is something else, or too long.</summary>
    Nonsense,
}

/// <summary>A table that a device gives over HTTP as JSON, bounded in bytes and time: what answers there may be anything.</summary>
public static class JsonTable
{
    /// <summary>A device that adds a member of its own says no less.</summary>
    private static readonly JsonSerializerOptions Reading = new(CoreJson.Options)
    {
        UnmappedMemberHandling = System.Text.Json.Serialization.JsonUnmappedMemberHandling.Skip,
    };

    /// <summary>Asks for a list.</summary>
    /// <param name="http">That follows nobody elsewhere.</param>
    /// <param name="path">Of the table.</param>
    /// <param name="patience">From the question to the last byte.</param>
    public static async Task<(IReadOnlyList<T> Lines, TableTrouble Trouble)> Get<T>(
        HttpClient http,
        string path,
        TimeSpan patience,
        CancellationToken cancel
    )
        where T : class
    {
        var (lines, trouble) = await Object<List<T?>>(http, path, patience, cancel);
        return lines is null ? ([], trouble)
            : lines.Count <= MostLines && lines.TrueForAll(l => l is not null) ? (lines.ConvertAll(l => l!), TableTrouble.None)
            : ([], TableTrouble.Nonsense);
    }

    /// <summary>Asks for one thing; null: it did not come.</summary>
    /// <inheritdoc cref="Get"/>
    public static async Task<(T? Said, TableTrouble Trouble)> Object<T>(
        HttpClient http,
        string path,
        TimeSpan patience,
        CancellationToken cancel
    )
        where T : class
    {
        using var time = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        time.CancelAfter(patience);
        try
        {
            using var response = await http.GetAsync(path, HttpCompletionOption.ResponseHeadersRead, time.Token);
            if (response.StatusCode == HttpStatusCode.NotFound)
                return (null, TableTrouble.Unknown);
            // Who is busy starting will answer later.
            if (response.StatusCode == HttpStatusCode.ServiceUnavailable)
                return (null, TableTrouble.Silent);
            if (!response.IsSuccessStatusCode)
                return (null, TableTrouble.Nonsense);
            var body = await JsonQuestion.ReadBounded(response, MostBytes, time.Token);
            return JsonSerializer.Deserialize<T>(body, Reading) is { } said ? (said, TableTrouble.None) : (null, TableTrouble.Nonsense);
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return (null, TableTrouble.Silent);
        }
        catch (Exception problem) when (problem is JsonException or NotSupportedException or InvalidDataException)
        {
            return (null, TableTrouble.Nonsense);
        }
        catch (Exception problem) when (problem is HttpRequestException or IOException)
        {
            return (null, TableTrouble.Silent);
        }
    }

    private const int MostBytes = 4 * 1024 * 1024;
    private const int MostLines = 32_768;
}
