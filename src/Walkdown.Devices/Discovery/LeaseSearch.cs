using System.Buffers.Binary;
using System.Collections.Immutable;
using System.Net;
using System.Net.Sockets;
using System.Security.Cryptography;
using Walkdown.Core.Addressing;
using Walkdown.Devices.Field;

namespace Walkdown.Devices.Discovery;

/// <summary>
/// Asks the network for an address, hears every offer and takes none (DHCPDISCOVER and DHCPOFFER, RFC 2131; options by RFC 2132). Each
/// server sets its offer aside for a moment and forgets it.
/// </summary>
public sealed class LeaseSearch(FieldNetwork network)
{
    /// <summary>More offers than any network gives to one question.</summary>
    public const int MostOffers = 64;

    private const int HeaderLength = 240;
    private const uint Cookie = 0x6382_5363;

    private enum Option : byte
    {
        Pad = 0,
        Mask = 1,
        Router = 3,
        LeaseTime = 51,
        MessageType = 53,
        Server = 54,
        Wanted = 55,
        End = 255,
    }

    private const byte Discover = 1,
        Offer = 2;

    /// <summary>Asks, once more within it as datagrams get lost, and listens.</summary>
    /// <param name="subnet">Of the cameras: its own broadcast is asked too, since the general one leaves a machine with several network
    /// cards by one of them only.</param>
    /// <param name="networks">That the site is known to have, its own first.</param>
    /// <param name="listen">From the question to the last offer that is waited for.</param>
    /// <exception cref="FieldTrouble">This machine may not listen where offers arrive, or cannot ask.</exception>
    public async Task<ImmutableArray<LeaseOffer>> Ask(
        Subnet subnet,
        IReadOnlyList<Ipv4Address> networks,
        TimeSpan listen,
        CancellationToken cancel
    )
    {
        using var socket = new Socket(AddressFamily.InterNetwork, SocketType.Dgram, ProtocolType.Udp);
        socket.EnableBroadcast = true;
        try
        {
            // A client of the machine's own may listen there too.
            socket.SetSocketOption(SocketOptionLevel.Socket, SocketOptionName.ReuseAddress, true);
            socket.Bind(network.OffersTo);
        }
        catch (SocketException problem)
        {
            throw new FieldTrouble(
                problem.SocketErrorCode == SocketError.AccessDenied ? "asked.lease-port-refused" : "asked.lease-port-taken",
                $"{network.OffersTo.Port}"
            );
        }
        var number = BinaryPrimitives.ReadUInt32BigEndian(RandomNumberGenerator.GetBytes(4));
        var question = Question(number);
        var to = network.LeaseServers(subnet);
        if (await Send(socket, question, to, cancel) == 0)
            throw new FieldTrouble("asked.no-broadcast");
        var offers = new Dictionary<(string, string), LeaseOffer>();
        using var over = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        over.CancelAfter(listen);
        var again = Again(socket, question, to, listen / 3, over.Token);
        var buffer = new byte[2048];
        try
        {
            while (offers.Count < MostOffers)
            {
                var heard = await socket.ReceiveFromAsync(buffer, new IPEndPoint(IPAddress.Any, 0), over.Token);
                var from = network.SiteOf(((IPEndPoint)heard.RemoteEndPoint).Address, networks);
                if (Read(buffer.AsSpan(0, heard.ReceivedBytes), number, from) is { } offer)
                    offers[(offer.Server, offer.From)] = offer;
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
        return [.. offers.Values];
    }

    /// <summary>How many of the addresses took it.</summary>
    private static async Task<int> Send(Socket socket, byte[] question, ImmutableArray<IPEndPoint> to, CancellationToken cancel)
    {
        var sent = 0;
        foreach (var one in to)
            try
            {
                await socket.SendToAsync(question, one, cancel);
                sent++;
            }
            catch (SocketException)
            {
                // No way there from here: the other may do.
            }
        return sent;
    }

    private static async Task Again(Socket socket, byte[] question, ImmutableArray<IPEndPoint> to, TimeSpan after, CancellationToken over)
    {
        try
        {
            await Task.Delay(after, over);
            await Send(socket, question, to, over);
        }
        catch (Exception problem) when (problem is OperationCanceledException or ObjectDisposedException)
        {
            // The first one was sent: what it brings is listened for.
        }
    }

    /// <summary>A question by a hardware address that nobody was given by a maker, and that is another each time: no server keeps
    /// it.</summary>
    private static byte[] Question(uint number)
    {
        var packet = new byte[300];
        packet[0] = 1;
        packet[1] = 1;
        packet[2] = 6;
        BinaryPrimitives.WriteUInt32BigEndian(packet.AsSpan(4), number);
        // To all: nobody has an address to be answered at.
        BinaryPrimitives.WriteUInt16BigEndian(packet.AsSpan(10), 0x8000);
        RandomNumberGenerator.Fill(packet.AsSpan(28, 6));
        packet[28] = 0x02;
        BinaryPrimitives.WriteUInt32BigEndian(packet.AsSpan(236), Cookie);
        byte[] options =
        [
            (byte)Option.MessageType,
            1,
            Discover,
            (byte)Option.Wanted,
            4,
            (byte)Option.Mask,
            (byte)Option.Router,
            (byte)Option.LeaseTime,
            (byte)Option.Server,
            (byte)Option.End,
        ];
        options.CopyTo(packet, HeaderLength);
        return packet;
    }

    /// <summary>The offer in a datagram; null where it is none to this question, or cannot be read.</summary>
    private static LeaseOffer? Read(ReadOnlySpan<byte> packet, uint number, Ipv4Address from)
    {
        if (
            packet.Length < HeaderLength
            || packet[0] != 2
            || BinaryPrimitives.ReadUInt32BigEndian(packet[4..]) != number
            || BinaryPrimitives.ReadUInt32BigEndian(packet[236..]) != Cookie
        )
            return null;
        var offered = AddressAt(packet[16..]);
        Ipv4Address? server = null,
            mask = null,
            router = null;
        long? seconds = null;
        var isOffer = false;
        for (var at = HeaderLength; at < packet.Length && packet[at] != (byte)Option.End; )
        {
            if (packet[at] == (byte)Option.Pad)
            {
                at++;
                continue;
            }
            // A length that leads out of the datagram: the rest is nothing.
            if (at + 1 >= packet.Length || at + 2 + packet[at + 1] > packet.Length)
                break;
            var value = packet.Slice(at + 2, packet[at + 1]);
            switch ((Option)packet[at])
            {
                case Option.MessageType when value.Length == 1:
                    isOffer = value[0] == Offer;
                    break;
                case Option.Mask when value.Length == 4:
                    mask = AddressAt(value);
                    break;
                case Option.Router when value.Length >= 4:
                    router = AddressAt(value);
                    break;
                case Option.Server when value.Length == 4:
                    server = AddressAt(value);
                    break;
                case Option.LeaseTime when value.Length == 4:
                    seconds = BinaryPrimitives.ReadUInt32BigEndian(value);
                    break;
            }
            at += 2 + value.Length;
        }
        return isOffer && offered.Number != 0
            ? new($"{server ?? from}", $"{from}", $"{offered}", mask?.ToString(), router?.ToString(), seconds)
            : null;
    }

    private static Ipv4Address AddressAt(ReadOnlySpan<byte> bytes) => new(BinaryPrimitives.ReadUInt32BigEndian(bytes));
}
