using System.Collections.Concurrent;
using System.Net;
using System.Net.Http.Headers;
using System.Net.Security;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Text;
using Walkdown.Core.Addressing;

namespace Walkdown.Devices.Field;

/// <summary>
/// HTTP to what hangs on a site's network, which may be anything: nothing is followed elsewhere, nothing is heard for longer or at more
/// length than a device needs, and any certificate is taken, its fingerprint kept to be compared the next time.
/// </summary>
public sealed class FieldHttp : IDisposable
{
    /// <summary>As much of one answer is heard.</summary>
    public const int MostBytes = 256 * 1024;

    private readonly ConcurrentDictionary<string, string> _fingerprints = new();
    private readonly HttpClient _http;

    /// <param name="network">How a site's addresses are reached.</param>
    /// <param name="wrap">Puts retries around it; null: none.</param>
    public FieldHttp(FieldNetwork network, Func<HttpMessageHandler, HttpMessageHandler>? wrap = null)
    {
        var sockets = new SocketsHttpHandler
        {
            AllowAutoRedirect = false,
            UseCookies = false,
            UseProxy = false,
            Proxy = null,
            AutomaticDecompression = DecompressionMethods.None,
            MaxResponseHeadersLength = 16,
            MaxConnectionsPerServer = 2,
            PooledConnectionIdleTimeout = TimeSpan.FromSeconds(5),
            ConnectCallback = async (context, cancel) =>
            {
                // A name is no address of the plan: nobody is asked what it means.
                var site = Ipv4Address.Read(context.DnsEndPoint.Host) ?? throw new HttpRequestException("no address");
                var socket = new Socket(AddressFamily.InterNetwork, SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
                try
                {
                    await socket.ConnectAsync(network.EndpointOf(site, context.DnsEndPoint.Port), cancel);
                    return new NetworkStream(socket, ownsSocket: true);
                }
                catch
                {
                    socket.Dispose();
                    throw;
                }
            },
            SslOptions = new SslClientAuthenticationOptions
            {
                RemoteCertificateValidationCallback = (sender, certificate, _, _) =>
                {
                    if (sender is SslStream stream && certificate is not null)
                        _fingerprints[stream.TargetHostName] = Convert.ToHexString(SHA256.HashData(certificate.GetRawCertData()));
                    return true;
                },
            },
        };
        _http = new HttpClient(wrap?.Invoke(sockets) ?? sockets) { Timeout = Timeout.InfiniteTimeSpan };
    }

    /// <summary>SHA-256 of the certificate that a device showed last, hexadecimal; null where it showed none.</summary>
    public string? FingerprintOf(Ipv4Address address) => _fingerprints.GetValueOrDefault(address.ToString());

    /// <summary>One answer, bounded.</summary>
    /// <param name="Status">As HTTP says it.</param>
    /// <param name="Body">No longer than was asked for.</param>
    /// <param name="Challenges">How it wants to be shown a login.</param>
    public sealed record Answer(HttpStatusCode Status, byte[] Body, IReadOnlyList<string> Challenges);

    /// <summary>Puts one question.</summary>
    /// <param name="body">XML to post; null: it is a GET.</param>
    /// <param name="authorization">That a challenge was answered with; null: none.</param>
    /// <param name="mostBytes">As much of the answer is heard.</param>
    /// <exception cref="FieldTrouble">It cannot be reached, is too slow, says too much, or breaks off.</exception>
    public async Task<Answer> Ask(
        Uri url,
        string? body,
        string? authorization,
        TimeSpan patience,
        CancellationToken cancel,
        int mostBytes = MostBytes
    )
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(patience);
        using var request = new HttpRequestMessage(body is null ? HttpMethod.Get : HttpMethod.Post, url);
        if (body is not null)
        {
            request.Content = new StringContent(body, Encoding.UTF8);
            request.Content.Headers.ContentType = MediaTypeHeaderValue.Parse("application/soap+xml; charset=utf-8");
        }
        if (authorization is not null)
            request.Headers.TryAddWithoutValidation("Authorization", authorization);
        try
        {
            using var response = await _http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, limit.Token);
            if (response.Content.Headers.ContentLength > mostBytes)
                throw new FieldTrouble("asked.too-long");
            var heard = await JsonQuestion.ReadBounded(response, mostBytes, limit.Token);
            return new(response.StatusCode, heard, [.. response.Headers.WwwAuthenticate.Select(h => h.ToString())]);
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            throw new FieldTrouble("asked.silent", Core.Measures.Message.Number(patience.TotalSeconds, 1));
        }
        catch (HttpRequestException problem)
        {
            throw new FieldTrouble(problem.InnerException is SocketException ? "asked.unreachable" : "asked.broken-off");
        }
        catch (InvalidDataException)
        {
            throw new FieldTrouble("asked.too-long");
        }
        catch (IOException)
        {
            throw new FieldTrouble("asked.broken-off");
        }
    }

    /// <inheritdoc/>
    public void Dispose() => _http.Dispose();
}
