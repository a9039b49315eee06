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

    /// <summary>Asks for it.</summary>
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
        using var time = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        time.CancelAfter(patience);
        try
        {
            using var response = await http.GetAsync(path, HttpCompletionOption.ResponseHeadersRead, time.Token);
            if (response.StatusCode == HttpStatusCode.NotFound)
                return ([], TableTrouble.Unknown);
            if (!response.IsSuccessStatusCode)
                return ([], TableTrouble.Nonsense);
            var body = await JsonQuestion.ReadBounded(response, MostBytes, time.Token);
            return
                JsonSerializer.Deserialize<List<T?>>(body, Reading) is { Count: <= MostLines } lines && lines.TrueForAll(l => l is not null)
                ? (lines.ConvertAll(l => l!), TableTrouble.None)
                : ([], TableTrouble.Nonsense);
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return ([], TableTrouble.Silent);
        }
        catch (Exception problem) when (problem is JsonException or NotSupportedException or InvalidDataException)
        {
            return ([], TableTrouble.Nonsense);
        }
        catch (Exception problem) when (problem is HttpRequestException or IOException)
        {
            return ([], TableTrouble.Silent);
        }
    }

    private const int MostBytes = 4 * 1024 * 1024;
    private const int MostLines = 32_768;
}
