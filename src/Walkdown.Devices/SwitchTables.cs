using System.Collections.Immutable;
using System.Net;
using System.Text.Json;
using Walkdown.Core.Addressing;
using Walkdown.Core.Measures;

namespace Walkdown.Devices;

/// <summary>Which hardware addresses a switch has learned at which port (docs/formats.md, "Switch").</summary>
public sealed class SwitchTables(HttpClient http, TimeSpan patience)
{
    /// <summary>More than that is no table of a camera's switch.</summary>
    private const int MostBytes = 4 * 1024 * 1024;

    /// <summary>Lines of one switch at most.</summary>
    private const int MostLines = 32_768;

    private sealed record Line(int Port, string Address);

    private static readonly JsonSerializerOptions Reading = new(JsonSerializerDefaults.Web);

    /// <summary>Asks one switch.</summary>
    /// <param name="cabinet">As the register names it.</param>
    /// <returns>What it has learned, or why there is nothing.</returns>
    public async Task<(ImmutableArray<LearnedAddress> Learned, Message? Trouble)> Ask(string cabinet, CancellationToken cancel)
    {
        using var time = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        time.CancelAfter(patience);
        try
        {
            using var response = await http.GetAsync(
                $"switch/{Uri.EscapeDataString(cabinet)}/addresses",
                HttpCompletionOption.ResponseHeadersRead,
                time.Token
            );
            if (response.StatusCode == HttpStatusCode.NotFound)
                return ([], new("ports.no-table", cabinet));
            if (!response.IsSuccessStatusCode)
                return ([], new("ports.nonsense", cabinet));
            await using var stream = await response.Content.ReadAsStreamAsync(time.Token);
            var buffer = new byte[MostBytes + 1];
            var length = await stream.ReadAtLeastAsync(buffer, buffer.Length, throwOnEndOfStream: false, time.Token);
            if (length > MostBytes)
                return ([], new("ports.nonsense", cabinet));
            var lines = JsonSerializer.Deserialize<List<Line?>>(buffer.AsSpan(0, length), Reading);
            return
                lines is null
                || lines.Count > MostLines
                || lines.Any(l => l is not { Port: > 0 and < 100_000, Address.Length: > 0 and <= 40 })
                ? ([], new("ports.nonsense", cabinet))
                : ([.. lines.Select(l => new LearnedAddress(cabinet, l!.Port, l.Address))], null);
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return ([], new("ports.silent", cabinet));
        }
        catch (Exception problem) when (problem is HttpRequestException or IOException)
        {
            return ([], new("ports.silent", cabinet));
        }
        catch (Exception problem) when (problem is JsonException or NotSupportedException)
        {
            return ([], new("ports.nonsense", cabinet));
        }
    }
}
