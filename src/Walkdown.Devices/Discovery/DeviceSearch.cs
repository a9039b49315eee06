using System.Collections.Immutable;
using System.Net;
using System.Net.Sockets;
using System.Text;
using System.Xml.Linq;
using Walkdown.Core.Addressing;
using Walkdown.Devices.Field;

namespace Walkdown.Devices.Discovery;

/// <summary>Who answered a search.</summary>
/// <param name="Address">Of the site, that it answered from.</param>
/// <param name="Endpoint">Its own name for itself, which stays the same; empty where it gave none.</param>
/// <param name="ServiceUrls">Where it says that its services are.</param>
/// <param name="Scopes">What it says of itself: name, model, place.</param>
public sealed record SearchAnswer(Ipv4Address Address, string Endpoint, ImmutableArray<string> ServiceUrls, ImmutableArray<string> Scopes);

/// <summary>Asks all devices of a network who is there (WS-Discovery 1.1 over UDP, probes of SOAP 1.2).</summary>
public sealed class DeviceSearch(FieldNetwork network)
{
    private static readonly XNamespace Addressing = "http://schemas.xmlsoap.org/ws/2004/08/addressing";
    private static readonly XNamespace Search = "http://schemas.xmlsoap.org/ws/2005/04/discovery";
    private static readonly XNamespace Network = "http://www.onvif.org/ver10/network/wsdl";

    /// <summary>More answers than any network of cameras gives in one search.</summary>
    private const int MostAnswers = 5_000;

    /// <summary>Searches once, twice repeated within it as datagrams get lost, and listens.</summary>
    /// <param name="networks">That the site is known to have, its own first.</param>
    /// <param name="listen">From the question to the last answer that is waited for.</param>
    /// <param name="seen">Called for each new answer.</param>
    /// <exception cref="FieldTrouble">This machine cannot send a search at all.</exception>
    public async Task<IReadOnlyList<SearchAnswer>> Ask(
        IReadOnlyList<Ipv4Address> networks,
        TimeSpan listen,
        Action<int>? seen,
        CancellationToken cancel
    )
    {
        using var socket = new Socket(AddressFamily.InterNetwork, SocketType.Dgram, ProtocolType.Udp);
        var question = "urn:uuid:" + Guid.NewGuid();
        var probe = Encoding.UTF8.GetBytes(Question(question));
        try
        {
            socket.Bind(new IPEndPoint(network.SearchFrom, 0));
            socket.SetSocketOption(SocketOptionLevel.IP, SocketOptionName.MulticastTimeToLive, network.OnLoopback ? 0 : 1);
            if (network.OnLoopback)
                socket.SetSocketOption(SocketOptionLevel.IP, SocketOptionName.MulticastInterface, IPAddress.Loopback.GetAddressBytes());
            socket.ReceiveBufferSize = 1 << 20;
            await socket.SendToAsync(probe, network.SearchGroup, cancel);
        }
        catch (SocketException)
        {
            throw new FieldTrouble("asked.no-search");
        }
        var answers = new Dictionary<(Ipv4Address, string), SearchAnswer>();
        using var over = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        over.CancelAfter(listen);
        var buffer = new byte[16 * 1024];
        var again = Repeat(socket, probe, listen / 3, over.Token);
        try
        {
            while (answers.Count < MostAnswers)
            {
                var heard = await socket.ReceiveFromAsync(buffer, new IPEndPoint(IPAddress.Any, 0), over.Token);
                var from = network.SiteOf(((IPEndPoint)heard.RemoteEndPoint).Address, networks);
                foreach (var answer in Read(buffer.AsSpan(0, heard.ReceivedBytes), question, from))
                    if (answers.TryAdd((answer.Address, answer.Endpoint), answer))
                        seen?.Invoke(answers.Count);
            }
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            // Listened long enough.
        }
        finally
        {
            await over.CancelAsync();
            await again;
        }
        return [.. answers.Values];
    }

    private async Task Repeat(Socket socket, byte[] probe, TimeSpan after, CancellationToken over)
    {
        try
        {
            await Task.Delay(after, over);
            await socket.SendToAsync(probe, network.SearchGroup, over);
        }
        catch (Exception problem) when (problem is OperationCanceledException or SocketException or ObjectDisposedException)
        {
            // The first one was sent: what it brings is listened for.
        }
    }

    private static string Question(string id) =>
        new XElement(
            Soap.Envelope + "Envelope",
            new XAttribute(XNamespace.Xmlns + "s", Soap.Envelope),
            new XElement(
                Soap.Envelope + "Header",
                new XElement(Addressing + "MessageID", id),
                new XElement(Addressing + "To", "urn:schemas-xmlsoap-org:ws:2005:04:discovery"),
                new XElement(Addressing + "Action", Search.NamespaceName + "/Probe")
            ),
            new XElement(
                Soap.Envelope + "Body",
                new XElement(
                    Search + "Probe",
                    new XElement(Search + "Types", new XAttribute(XNamespace.Xmlns + "n", Network), "n:NetworkVideoTransmitter")
                )
            )
        ).ToString(SaveOptions.DisableFormatting);

    /// <summary>The answers of one datagram; none where it is none to this question, or cannot be read.</summary>
    private static IEnumerable<SearchAnswer> Read(ReadOnlySpan<byte> datagram, string question, Ipv4Address from)
    {
        XElement? root;
        try
        {
            root = Soap.Document(datagram).Root;
        }
        catch (FieldTrouble)
        {
            return [];
        }
        if (root?.Element(Soap.Envelope + "Header")?.Element(Addressing + "RelatesTo")?.Value.Trim() != question)
            return [];
        return
        [
            .. root.Descendants(Search + "ProbeMatch")
                .Take(8)
                .Select(m => new SearchAnswer(
                    from,
                    Soap.Short(m.Element(Addressing + "EndpointReference")?.Element(Addressing + "Address")?.Value ?? "", 100),
                    [.. Words(m.Element(Search + "XAddrs")).Take(8)],
                    [.. Words(m.Element(Search + "Scopes")).Take(40)]
                )),
        ];
    }

    private static IEnumerable<string> Words(XElement? of) =>
        (of?.Value ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Where(w => w.Length <= 300);
}
