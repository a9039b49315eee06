using System.Collections.Concurrent;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Text;

namespace Walkdown.StandIns.Cameras;

/// <summary>A question of HTTP or RTSP, which look alike.</summary>
public sealed record TextQuestion(string Method, string Url, IReadOnlyDictionary<string, string> Headers, string Body);

/// <summary>Its answer.</summary>
public sealed record TextAnswer(
    int Status,
    string Body = "",
    string Kind = "application/soap+xml; charset=utf-8",
    IReadOnlyList<string>? Challenges = null,
    byte[]? File = null
);

/// <summary>One port of one simulated device: it answers questions of HTTP or RTSP, and nothing else.</summary>
public sealed class TextServer : IDisposable
{
    private const int MostHead = 16 * 1024;
    private const int MostBody = 64 * 1024;
    private readonly CancellationTokenSource _over = new();
    private volatile bool _isClosing;
    private readonly TcpListener _listener;
    private readonly Func<TextQuestion, CancellationToken, Task<TextAnswer>> _answer;
    private readonly ConcurrentDictionary<TcpClient, byte> _open = new();

    public TextServer(IPEndPoint at, Func<TextQuestion, CancellationToken, Task<TextAnswer>> answer)
    {
        _answer = answer;
        _listener = new TcpListener(at);
        _listener.Server.SetSocketOption(SocketOptionLevel.Socket, SocketOptionName.ReuseAddress, true);
        _listener.Start();
        _ = Listen();
    }

    /// <summary>Takes nobody any more; what is being answered is answered.</summary>
    public void Close()
    {
        _isClosing = true;
        _listener.Stop();
    }

    public void Dispose()
    {
        _over.Cancel();
        _listener.Stop();
        foreach (var client in _open.Keys)
            client.Dispose();
        _over.Dispose();
    }

    private async Task Listen()
    {
        var over = _over.Token;
        while (!over.IsCancellationRequested)
        {
            try
            {
                var client = await _listener.AcceptTcpClientAsync(over);
                client.NoDelay = true;
                _open[client] = 0;
                _ = Serve(client, over);
            }
            catch (Exception problem) when (problem is OperationCanceledException or SocketException or ObjectDisposedException)
            {
                return;
            }
        }
    }

    private async Task Serve(TcpClient client, CancellationToken over)
    {
        try
        {
            await using var stream = client.GetStream();
            await using var input = new BufferedStream(stream);
            while (await Read(input, over) is { } question)
            {
                var answer = await _answer(question, over);
                var rtsp = question.Url.StartsWith("rtsp:", StringComparison.OrdinalIgnoreCase);
                var body = answer.File ?? Encoding.UTF8.GetBytes(answer.Body);
                var head = new StringBuilder().Append(
                    CultureInfo.InvariantCulture,
                    $"{(rtsp ? "RTSP/1.0" : "HTTP/1.1")} {answer.Status} {(answer.Status == 200 ? "OK" : "No")}\r\nContent-Length: {body.Length}\r\n"
                );
                if (body.Length > 0)
                    head.Append(CultureInfo.InvariantCulture, $"Content-Type: {answer.Kind}\r\n");
                if (question.Headers.TryGetValue("CSeq", out var number))
                    head.Append(CultureInfo.InvariantCulture, $"CSeq: {number}\r\n");
                foreach (var challenge in answer.Challenges ?? [])
                    head.Append(CultureInfo.InvariantCulture, $"WWW-Authenticate: {challenge}\r\n");
                head.Append("\r\n");
                await stream.WriteAsync(Encoding.ASCII.GetBytes(head.ToString()), over);
                await stream.WriteAsync(body, over);
                if (_isClosing)
                    return;
            }
        }
        catch (Exception problem) when (problem is OperationCanceledException or IOException or SocketException or ObjectDisposedException)
        {
            // Whoever asked has gone.
        }
        finally
        {
            _open.TryRemove(client, out _);
            client.Dispose();
        }
    }

    private static async Task<TextQuestion?> Read(Stream stream, CancellationToken over)
    {
        var head = new List<byte>(512);
        var one = new byte[1];
        while (head.Count < 4 || !(head[^4] == '\r' && head[^3] == '\n' && head[^2] == '\r' && head[^1] == '\n'))
        {
            if (head.Count >= MostHead || await stream.ReadAsync(one, over) == 0)
                return null;
            head.Add(one[0]);
        }
        var lines = Encoding.ASCII.GetString([.. head]).Split("\r\n", StringSplitOptions.RemoveEmptyEntries);
        var first = lines[0].Split(' ');
        if (first.Length != 3)
            return null;
        var headers = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
        foreach (var line in lines.Skip(1))
            if (line.IndexOf(':') is > 0 and var colon)
                headers[line[..colon].Trim()] = line[(colon + 1)..].Trim();
        var length =
            headers.TryGetValue("Content-Length", out var told)
            && int.TryParse(told, NumberStyles.None, CultureInfo.InvariantCulture, out var n)
                ? n
                : 0;
        if (length > MostBody)
            return null;
        var body = new byte[length];
        await stream.ReadExactlyAsync(body, over);
        return new(first[0], first[1], headers, Encoding.UTF8.GetString(body));
    }
}
