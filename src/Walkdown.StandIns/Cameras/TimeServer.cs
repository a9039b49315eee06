using System.Buffers.Binary;
using System.Net;
using System.Net.Sockets;

namespace Walkdown.StandIns.Cameras;

/// <summary>The server of time of the simulated network (SNTP, RFC 4330), on its own loopback address.</summary>
public sealed class TimeServer(IPAddress address, int port, Func<DateTimeOffset> now) : IDisposable
{
    private static readonly DateTimeOffset Era = new(1900, 1, 1, 0, 0, 0, TimeSpan.Zero);
    private readonly CancellationTokenSource _over = new();
    private Socket? _socket;

    /// <summary>It is ahead by so much; of its own it does not know.</summary>
    public double AheadSeconds { get; set; }

    /// <summary>It has lost its source, and says so.</summary>
    public bool Lost { get; set; }

    /// <exception cref="SocketException">The port is taken.</exception>
    public void Open()
    {
        _socket = new Socket(AddressFamily.InterNetwork, SocketType.Dgram, ProtocolType.Udp);
        _socket.Bind(new IPEndPoint(address, port));
        _ = Serve();
    }

    private async Task Serve()
    {
        var buffer = new byte[512];
        try
        {
            while (!_over.IsCancellationRequested)
            {
                var heard = await _socket!.ReceiveFromAsync(buffer, new IPEndPoint(IPAddress.Any, 0), _over.Token);
                if (heard.ReceivedBytes < 48 || (buffer[0] & 7) != 3)
                    continue;
                var answer = new byte[48];
                answer[0] = (byte)((Lost ? 0b11_000_000 : 0) | 0b00_100_100);
                answer[1] = (byte)(Lost ? 16 : 2);
                answer[3] = unchecked((byte)-20);
                // A millisecond to its own source, and another of its own.
                answer[6] = answer[10] = 0;
                answer[7] = answer[11] = 66;
                buffer.AsSpan(40, 8).CopyTo(answer.AsSpan(24));
                Write(answer.AsSpan(32), now());
                Write(answer.AsSpan(40), now());
                await _socket.SendToAsync(answer, heard.RemoteEndPoint, _over.Token);
            }
        }
        catch (Exception problem) when (problem is OperationCanceledException or SocketException or ObjectDisposedException)
        {
            // It is put away.
        }
    }

    private void Write(Span<byte> to, DateTimeOffset at)
    {
        var since = (at.AddSeconds(AheadSeconds) - Era).TotalSeconds;
        BinaryPrimitives.WriteUInt32BigEndian(to, (uint)(long)Math.Floor(since));
        BinaryPrimitives.WriteUInt32BigEndian(to[4..], (uint)((since - Math.Floor(since)) * 4294967296.0));
    }

    public void Dispose()
    {
        _over.Cancel();
        _socket?.Dispose();
        _over.Dispose();
    }
}
