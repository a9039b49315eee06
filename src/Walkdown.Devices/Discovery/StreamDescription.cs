using System.Globalization;
using System.Net.Sockets;
using System.Text;
using Walkdown.Core.Addressing;
using Walkdown.Core.Measures;
using Walkdown.Devices.Field;

namespace Walkdown.Devices.Discovery;

/// <summary>What a stream says of itself before it is played.</summary>
/// <param name="Codec">Such as H264; empty where it has no picture.</param>
/// <param name="Wide">Pixels; null where it did not say.</param>
/// <param name="High">Likewise.</param>
/// <param name="FramesPerSecond">Likewise.</param>
/// <param name="HasSound">It carries sound.</param>
public sealed record StreamDescription(string Codec, int? Wide, int? High, double? FramesPerSecond, bool HasSound);

/// <summary>Asks a camera about a stream over RTSP (RFC 2326): OPTIONS and DESCRIBE, nothing is played.</summary>
public sealed class StreamQuestion(FieldNetwork network)
{
    private const int MostHead = 16 * 1024;
    private const int MostBody = 64 * 1024;

    /// <summary>Asks at an address of the site; of the stream's own address only port and path are used.</summary>
    /// <exception cref="FieldTrouble">It cannot be reached, wants a login, or says nothing that can be read.</exception>
    public async Task<StreamDescription> Ask(
        Ipv4Address address,
        string streamUrl,
        FieldLogin? login,
        TimeSpan patience,
        CancellationToken cancel
    )
    {
        if (!Uri.TryCreate(streamUrl, UriKind.Absolute, out var said) || said.Scheme != "rtsp")
            throw new FieldTrouble("asked.no-stream");
        var port = said.Port > 0 ? said.Port : 554;
        var url = new UriBuilder("rtsp", address.ToString(), port, said.AbsolutePath, said.Query).Uri.ToString();
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(patience);
        try
        {
            using var client = new TcpClient(AddressFamily.InterNetwork) { NoDelay = true };
            await client.ConnectAsync(network.EndpointOf(address, port), limit.Token);
            await using var stream = client.GetStream();
            await using var input = new BufferedStream(stream);
            var can = await Put(stream, input, "OPTIONS", url, 1, null, limit.Token);
            if (can.Status != 200)
                throw new FieldTrouble("asked.no-stream");
            var answer = await Put(stream, input, "DESCRIBE", url, 2, null, limit.Token);
            if (answer.Status == 401)
            {
                if (login is null)
                    throw new FieldTrouble("asked.login-wanted");
                var shown = DigestLogin.Answer(answer.Challenges, login, "DESCRIBE", url) ?? throw new FieldTrouble("asked.login-in-clear");
                answer = await Put(stream, input, "DESCRIBE", url, 3, shown, limit.Token);
                if (answer.Status == 401)
                    throw new FieldTrouble("asked.login-refused");
            }
            if (answer.Status != 200)
                throw new FieldTrouble("asked.no-stream");
            return Read(answer.Body);
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            throw new FieldTrouble("asked.silent", Message.Number(patience.TotalSeconds, 1));
        }
        catch (SocketException)
        {
            throw new FieldTrouble("asked.unreachable");
        }
        catch (IOException)
        {
            throw new FieldTrouble("asked.broken-off");
        }
    }

    private sealed record Answer(int Status, IReadOnlyList<string> Challenges, string Body);

    private static async Task<Answer> Put(
        NetworkStream stream,
        Stream input,
        string method,
        string url,
        int number,
        string? authorization,
        CancellationToken cancel
    )
    {
        var question = new StringBuilder().Append(CultureInfo.InvariantCulture, $"{method} {url} RTSP/1.0\r\nCSeq: {number}\r\n");
        if (method == "DESCRIBE")
            question.Append("Accept: application/sdp\r\n");
        if (authorization is not null)
            question.Append(CultureInfo.InvariantCulture, $"Authorization: {authorization}\r\n");
        question.Append("\r\n");
        await stream.WriteAsync(Encoding.ASCII.GetBytes(question.ToString()), cancel);
        var head = new List<byte>(512);
        var one = new byte[1];
        while (head.Count < 4 || !(head[^4] == '\r' && head[^3] == '\n' && head[^2] == '\r' && head[^1] == '\n'))
        {
            if (head.Count >= MostHead)
                throw new FieldTrouble("asked.too-long");
            if (await input.ReadAsync(one, cancel) == 0)
                throw new FieldTrouble("asked.broken-off");
            head.Add(one[0]);
        }
        var lines = Encoding.ASCII.GetString([.. head]).Split("\r\n", StringSplitOptions.RemoveEmptyEntries);
        var first = lines[0].Split(' ');
        if (first.Length < 2 || !first[0].StartsWith("RTSP/1.", StringComparison.Ordinal) || !int.TryParse(first[1], out var status))
            throw new FieldTrouble("asked.nonsense");
        IEnumerable<string> Of(string name) =>
            lines
                .Skip(1)
                .Where(l => l.StartsWith(name + ":", StringComparison.OrdinalIgnoreCase))
                .Select(l => l[(name.Length + 1)..].Trim());
        var length = 0;
        if (Of("Content-Length").FirstOrDefault() is { } told && (!int.TryParse(told, out length) || length < 0))
            throw new FieldTrouble("asked.nonsense");
        if (length > MostBody)
            throw new FieldTrouble("asked.too-long");
        var body = new byte[length];
        try
        {
            await input.ReadExactlyAsync(body, cancel);
        }
        catch (EndOfStreamException)
        {
            throw new FieldTrouble("asked.broken-off");
        }
        return new(status, [.. Of("WWW-Authenticate")], Encoding.UTF8.GetString(body));
    }

    /// <summary>A session's description (RFC 8866).</summary>
    private static StreamDescription Read(string description)
    {
        var lines = description.Split('\n').Select(l => l.TrimEnd('\r')).ToList();
        if (!lines.Exists(l => l.StartsWith("v=0", StringComparison.Ordinal)))
            throw new FieldTrouble("asked.nonsense");
        string codec = "",
            media = "";
        int? wide = null,
            high = null;
        double? rate = null;
        var sound = false;
        foreach (var line in lines)
        {
            if (line.StartsWith("m=", StringComparison.Ordinal))
            {
                media = line[2..].Split(' ')[0];
                sound |= media == "audio";
            }
            if (media != "video" || !line.StartsWith("a=", StringComparison.Ordinal))
                continue;
            var said = line[2..];
            if (said.StartsWith("rtpmap:", StringComparison.Ordinal) && said.Split(' ') is [_, var map, ..])
                codec = Soap.Short(map.Split('/')[0], 20);
            else if (
                said.StartsWith("framerate:", StringComparison.Ordinal)
                && double.TryParse(said[10..], NumberStyles.Float, CultureInfo.InvariantCulture, out var fps)
                && fps is > 0 and < 1000
            )
                rate = fps;
            else if (
                said.StartsWith("x-dimensions:", StringComparison.Ordinal)
                && said[13..].Split(',') is [var w, var h]
                && int.TryParse(w.Trim(), out var across)
                && int.TryParse(h.Trim(), out var down)
                && across is > 0 and < 100_000
                && down is > 0 and < 100_000
            )
                (wide, high) = (across, down);
        }
        return new(codec, wide, high, rate, sound);
    }
}
