using System.Buffers.Binary;
using System.Net;
using System.Net.Sockets;

namespace Walkdown.StandIns.Cameras;

/// <summary>The servers of addresses of the simulated network: they hear a question and answer from their own loopback address (RFC 2131).
/// What they offer is never given: nobody can take it.</summary>
internal sealed class LeaseServers(IReadOnlyList<LeaseServerTruth> servers, int shift) : IDisposable
{
    private const int Header = 240;
    private const byte Discover = 1,
        Offer = 2;
    private readonly Lock _lock = new();
    private readonly Dictionary<string, LeaseServerTruth> _servers = servers.ToDictionary(s => s.Label, StringComparer.OrdinalIgnoreCase);
    private readonly CancellationTokenSource _over = new();
    private Socket? _socket;

    /// <exception cref="SocketException">The port is taken.</exception>
    public void Open()
    {
        _socket = new Socket(AddressFamily.InterNetwork, SocketType.Dgram, ProtocolType.Udp);
        // The broadcast of the loopback interface: nothing from outside this machine gets here.
        _socket.Bind(new IPEndPoint(IPAddress.Parse("127.255.255.255"), 67 + shift));
        _ = Serve();
    }

    public IReadOnlyList<LeaseServerTruth> All()
    {
        lock (_lock)
            return [.. _servers.Values.OrderBy(s => s.Label, StringComparer.Ordinal)];
    }

    /// <summary>Pulls the plug of one that should not be there.</summary>
    public LeaseServerTruth? Mend(string label)
    {
        lock (_lock)
            return _servers.TryGetValue(label, out var was) ? _servers[label] = was with { Off = was.Note is not null, Note = null } : null;
    }

    public void Dispose()
    {
        _over.Cancel();
        _socket?.Dispose();
        _over.Dispose();
    }

    private async Task Serve()
    {
        var buffer = new byte[2048];
        while (!_over.IsCancellationRequested)
        {
            SocketReceiveFromResult heard;
            try
            {
                heard = await _socket!.ReceiveFromAsync(buffer, new IPEndPoint(IPAddress.Any, 0), _over.Token);
            }
            catch (Exception problem) when (problem is OperationCanceledException or SocketException or ObjectDisposedException)
            {
                return;
            }
            if (!IPAddress.IsLoopback(((IPEndPoint)heard.RemoteEndPoint).Address) || !Asks(buffer.AsSpan(0, heard.ReceivedBytes)))
                continue;
            foreach (var server in All().Where(s => !s.Off))
                try
                {
                    using var from = new Socket(AddressFamily.InterNetwork, SocketType.Dgram, ProtocolType.Udp);
                    from.Bind(new IPEndPoint(FieldSite.Loopback(server.Address), 0));
                    await from.SendToAsync(Answer(buffer.AsSpan(0, heard.ReceivedBytes), server), heard.RemoteEndPoint);
                }
                catch (SocketException)
                {
                    // Whoever asked has gone.
                }
        }
    }

    private static bool Asks(ReadOnlySpan<byte> packet)
    {
        if (packet.Length <= Header || packet[0] != 1)
            return false;
        for (var at = Header; at + 2 < packet.Length && packet[at] != 255; at += packet[at] == 0 ? 1 : 2 + packet[at + 1])
            if (packet[at] == 53)
                return packet[at + 2] == Discover;
        return false;
    }

    private static byte[] Answer(ReadOnlySpan<byte> question, LeaseServerTruth server)
    {
        var packet = question[..Header].ToArray();
        packet[0] = 2;
        IPAddress.Parse(server.Offers).GetAddressBytes().CopyTo(packet, 16);
        var seconds = new byte[4];
        BinaryPrimitives.WriteInt32BigEndian(seconds, server.Hours * 3600);
        return
        [
            .. packet,
            53,
            1,
            Offer,
            54,
            4,
            .. IPAddress.Parse(server.Address).GetAddressBytes(),
            1,
            4,
            .. IPAddress.Parse(server.Mask).GetAddressBytes(),
            .. server.Gateway.Length > 0 ? [3, 4, .. IPAddress.Parse(server.Gateway).GetAddressBytes()] : Array.Empty<byte>(),
            51,
            4,
            .. seconds,
            255,
        ];
    }
}
