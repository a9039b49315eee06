using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Walkdown.Devices;

/// <summary>A question over HTTP that is answered in JSON, bounded: what answers there may be anything.</summary>
internal static class JsonQuestion
{
    private const int MostBytes = 64 * 1024;

    /// <summary>Puts it, and reads the answer.</summary>
    /// <param name="unknown">What it means that there is no such thing.</param>
    /// <param name="read">Makes readings of the answer; where a member is missing or of another kind, the answer is nonsense.</param>
    public static async Task<SourceAnswer> Put(
        HttpClient http,
        string path,
        object question,
        SourceAnswer unknown,
        Func<JsonElement, SourceAnswer> read,
        CancellationToken cancel
    )
    {
        try
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, path) { Content = JsonContent.Create(question) };
            using var response = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, cancel);
            if (response.StatusCode == HttpStatusCode.NotFound)
                return unknown;
            if (!response.IsSuccessStatusCode)
                return SourceAnswer.Failed(
                    "tester.refused",
                    ((int)response.StatusCode).ToString(System.Globalization.CultureInfo.InvariantCulture)
                );
            using var document = JsonDocument.Parse(await ReadBounded(response, MostBytes, cancel));
            return read(document.RootElement);
        }
        catch (HttpRequestException)
        {
            return SourceAnswer.Failed("tester.unreachable");
        }
        catch (Exception problem)
            when (problem
                    is JsonException
                        or InvalidDataException
                        or IOException
                        or InvalidOperationException
                        or FormatException
                        or KeyNotFoundException
                        or OverflowException
            )
        {
            return SourceAnswer.Failed("tester.nonsense");
        }
    }

    /// <summary>The body of an answer of which only the head was read, whatever length it says.</summary>
    /// <exception cref="InvalidDataException">It is longer than <paramref name="most"/> bytes.</exception>
    internal static async Task<byte[]> ReadBounded(HttpResponseMessage response, int most, CancellationToken cancel)
    {
        await using var stream = await response.Content.ReadAsStreamAsync(cancel);
        using var body = new MemoryStream();
        var buffer = new byte[16 * 1024];
        for (int read; (read = await stream.ReadAsync(buffer, cancel)) > 0; )
        {
            if (body.Length + read > most)
                throw new InvalidDataException("too long");
            body.Write(buffer, 0, read);
        }
        return body.ToArray();
    }
}
