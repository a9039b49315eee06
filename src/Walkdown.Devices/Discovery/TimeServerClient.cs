using System.Buffers.Binary;
using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using System.Security.Cryptography;
using Walkdown.Core.Addressing;
using Walkdown.Core.Clocks;
using Walkdown.Devices.Field;

namespace Walkdown.Devices.Discovery;

/// <summary>Asks a server of time (SNTP, RFC 4330; stamps by RFC 5905). Several times; the answer that came soonest counts.</summary>
public sealed class TimeServerClient(FieldNetwork network, TimeProvider time)
{
    private const int Times = 4;
    private const int Length = 48;
    private const byte Client = 0b00_100_011,
        Server = 4;

    /// <summary>Of seconds since 1900; what is smaller counts from 2036 on.</summary>
    private static readonly DateTimeOffset Era = new(1900, 1, 1, 0, 0, 0, TimeSpan.Zero);

    /// <summary>Asks it.</summary>
    /// <param name="server">Of the site.</param>
    /// <param name="patience">For each answer.</param>
    /// <exception cref="FieldTrouble">It does not answer, says something else, or has no time itself.</exception>
    public async Task<ClockReference> Ask(Ipv4Address server, TimeSpan patience, CancellationToken cancel)
    {
        var to = network.TimeServer(server);
        var samples = new List<ClockStamps>();
        var (dispersion, stratum) = (0.0, 0);
        FieldTrouble? trouble = null;
        for (var i = 0; i < Times; i++)
            try
            {
                var (stamps, own, level) = await Once(to, server, patience, cancel);
                samples.Add(stamps);
                (dispersion, stratum) = (own, level);
            }
            catch (FieldTrouble problem)
            {
                // One that is lost is asked again; one that has no time will not have it sooner.
                trouble = problem;
                if (problem.Why.Code != "asked.time-silent")
                    break;
            }
        if (samples.Count == 0)
            throw trouble!;
        return ClockOffset.BestOf(samples) is { UncertaintySeconds: { } u } best
            ? new(server.ToString(), best.OffsetSeconds, u + dispersion, stratum)
            : throw new FieldTrouble("asked.time-nonsense", server.ToString());
    }

    private async Task<(ClockStamps Stamps, double Dispersion, int Stratum)> Once(
        IPEndPoint to,
        Ipv4Address site,
        TimeSpan patience,
        CancellationToken cancel
    )
    {
        using var socket = new Socket(AddressFamily.InterNetwork, SocketType.Dgram, ProtocolType.Udp);
        using var over = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        over.CancelAfter(patience);
        var question = new byte[Length];
        question[0] = Client;
        // Not our time, which is nobody's business, but a number that only an answer to this question knows.
        RandomNumberGenerator.Fill(question.AsSpan(40, 8));
        var buffer = new byte[512];
        try
        {
            await socket.ConnectAsync(to, over.Token);
            var (origin, began) = (time.GetUtcNow(), Stopwatch.GetTimestamp());
            await socket.SendAsync(question, over.Token);
            while (true)
            {
                var length = await socket.ReceiveAsync(buffer, over.Token);
                var took = Stopwatch.GetElapsedTime(began).TotalSeconds;
                // An answer to another question is none.
                if (length < Length || !buffer.AsSpan(24, 8).SequenceEqual(question.AsSpan(40, 8)))
                    continue;
                return Read(buffer, origin, took, site);
            }
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            throw new FieldTrouble("asked.time-silent", site.ToString());
        }
        catch (SocketException)
        {
            throw new FieldTrouble("asked.time-silent", site.ToString());
        }
    }

    private static (ClockStamps Stamps, double Dispersion, int Stratum) Read(
        byte[] said,
        DateTimeOffset origin,
        double took,
        Ipv4Address site
    )
    {
        var (leap, mode, stratum) = (said[0] >> 6, said[0] & 7, said[1]);
        if (mode != Server)
            throw new FieldTrouble("asked.time-nonsense", site.ToString());
        // It says itself that it has no time, or wants to be left alone.
        if (leap == 3 || stratum is 0 or > 15)
            throw new FieldTrouble("asked.time-none", site.ToString());
        if (
            Moment(said.AsSpan(32, 8), origin) is not { } heard
            || Moment(said.AsSpan(40, 8), origin) is not { } answered
            || answered < heard
        )
            throw new FieldTrouble("asked.time-nonsense", site.ToString());
        var precision = Math.Pow(2, Math.Clamp((int)(sbyte)said[3], -30, 3));
        // Half of its way to its own source, and what it adds by itself (RFC 5905, root distance).
        var distance = Short(said.AsSpan(4, 4)) / 2 + Short(said.AsSpan(8, 4));
        return (
            new(0, (heard - origin).TotalSeconds, (answered - origin).TotalSeconds, took, precision, 1e-6),
            Math.Min(Math.Abs(distance), 16),
            stratum
        );
    }

    private static double Short(ReadOnlySpan<byte> said) => BinaryPrimitives.ReadUInt32BigEndian(said) / 65536.0;

    /// <summary>Of the two eras the one that is nearer to us; null: not set.</summary>
    private static DateTimeOffset? Moment(ReadOnlySpan<byte> said, DateTimeOffset near)
    {
        var (seconds, part) = (BinaryPrimitives.ReadUInt32BigEndian(said), BinaryPrimitives.ReadUInt32BigEndian(said[4..]));
        if (seconds == 0 && part == 0)
            return null;
        var first = Era.AddSeconds(seconds) + TimeSpan.FromTicks((long)(part / 4294967296.0 * TimeSpan.TicksPerSecond));
        var second = first.AddSeconds(4294967296.0);
        return (second - near).Duration() < (first - near).Duration() ? second : first;
    }
}
