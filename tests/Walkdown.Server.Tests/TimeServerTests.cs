using System.Buffers.Binary;
using System.Net;
using System.Net.Sockets;
using System.Text.Json.Nodes;
using Walkdown.Core.Addressing;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Devices.Discovery;
using Walkdown.Devices.Field;

namespace Walkdown.Server.Tests;

/// <summary>Our own clock against a server of time, whatever answers there.</summary>
public sealed class TimeServerTests : IDisposable
{
    private static int s_next;
    private readonly FieldNetwork _network = new(true, 41_000 + Interlocked.Increment(ref s_next) * 7);
    private readonly Socket _server = new(AddressFamily.InterNetwork, SocketType.Dgram, ProtocolType.Udp);
    private static readonly Ipv4Address At = Ipv4Address.Parse("10.46.8.2", "");

    public void Dispose() => _server.Dispose();

    private static readonly DateTimeOffset Era = new(1900, 1, 1, 0, 0, 0, TimeSpan.Zero);

    private static void Stamp(Span<byte> to, DateTimeOffset at)
    {
        var since = (at - Era).TotalSeconds;
        BinaryPrimitives.WriteUInt32BigEndian(to, unchecked((uint)(long)Math.Floor(since)));
        BinaryPrimitives.WriteUInt32BigEndian(to[4..], (uint)((since - Math.Floor(since)) * 4294967296.0));
    }

    /// <summary>An answer as it should be, of a server that is ahead by so much.</summary>
    private static byte[] Good(byte[] question, double ahead = 0)
    {
        var answer = new byte[48];
        (answer[0], answer[1], answer[3]) = (0b00_100_100, 2, unchecked((byte)-20));
        question.AsSpan(40, 8).CopyTo(answer.AsSpan(24));
        Stamp(answer.AsSpan(32), DateTimeOffset.UtcNow.AddSeconds(ahead));
        Stamp(answer.AsSpan(40), DateTimeOffset.UtcNow.AddSeconds(ahead));
        return answer;
    }

    private Task<ClockReference> Ask(params Func<byte[], byte[]>[] answers)
    {
        _server.Bind(_network.TimeServer(At));
        _ = Task.Run(async () =>
        {
            var buffer = new byte[512];
            for (var n = 0; ; n++)
            {
                var heard = await _server.ReceiveFromAsync(buffer, new IPEndPoint(IPAddress.Any, 0));
                foreach (var answer in answers)
                    await _server.SendToAsync(answer(buffer[..heard.ReceivedBytes]), heard.RemoteEndPoint);
            }
        });
        return new TimeServerClient(_network, TimeProvider.System).Ask(At, TimeSpan.FromSeconds(0.5), CancellationToken.None);
    }

    private async Task<string> Trouble(params Func<byte[], byte[]>[] answers) =>
        (await Assert.ThrowsAsync<FieldTrouble>(() => Ask(answers))).Why.Code;

    [Theory]
    [InlineData(0)]
    [InlineData(3600.4)]
    [InlineData(-41.25)]
    public async Task HowFarItIsAheadIsRead(double ahead)
    {
        var read = await Ask(q => Good(q, ahead));
        Assert.Equal(("10.46.8.2", 2), (read.Server, read.Stratum));
        Assert.True(Math.Abs(read.OffsetSeconds - ahead) <= read.UncertaintySeconds + 0.002, $"{read}");
        Assert.Equal(Math.Abs(ahead) > 2 ? Outcome.Out : Outcome.In, read.Ours(2));
    }

    [Fact]
    public async Task TheEraAfter2036IsRead()
    {
        var read = await Ask(q => Good(q, 20 * 365.25 * 86400));
        Assert.InRange(read.OffsetSeconds / 86400 / 365.25, 19.9, 20.1);
    }

    [Fact]
    public async Task WhatItMayBeOffItselfIsAdded()
    {
        var read = await Ask(q =>
        {
            var answer = Good(q);
            // Half a second to its own source and back, and a quarter of its own.
            BinaryPrimitives.WriteUInt32BigEndian(answer.AsSpan(4), 32768);
            BinaryPrimitives.WriteUInt32BigEndian(answer.AsSpan(8), 16384);
            return answer;
        });
        Assert.InRange(read.UncertaintySeconds, 0.5, 0.7);
        // Against it our own error falls out, and both may be off.
        var (offset, u) = new ClockReference("", 2, 0.5, 1).Of(3, 0.25);
        Assert.Equal((1.0, 0.75), (offset, u));
    }

    [Fact]
    public async Task AnswersToOtherQuestionsAreNone()
    {
        var read = await Ask(
            q =>
            {
                var other = Good(q, 500);
                other[25] ^= 1;
                return other;
            },
            q => q[..20],
            q => Good(q, 7)
        );
        Assert.InRange(read.OffsetSeconds, 6.9, 7.1);
    }

    [Fact]
    public async Task OneThatHasNoTimeIsNotTakenForOne()
    {
        static Func<byte[], byte[]> With(Action<byte[]> change) =>
            q =>
            {
                var answer = Good(q);
                change(answer);
                return answer;
            };
        Assert.Equal("asked.time-none", await Trouble(With(a => a[0] |= 0b11_000_000)));
    }

    [Theory]
    [InlineData(1, 0, "asked.time-none")]
    [InlineData(1, 16, "asked.time-none")]
    [InlineData(0, 0b00_100_011, "asked.time-nonsense")]
    public async Task WhatIsNoAnswerIsSaidSo(int at, int value, string code) =>
        Assert.Equal(
            code,
            await Trouble(q =>
            {
                var answer = Good(q);
                answer[at] = (byte)value;
                return answer;
            })
        );

    [Fact]
    public async Task StampsThatContradictThemselvesAreNone()
    {
        Assert.Equal(
            "asked.time-nonsense",
            await Trouble(q =>
            {
                var answer = Good(q);
                Stamp(answer.AsSpan(40), DateTimeOffset.UtcNow.AddSeconds(-9));
                return answer;
            })
        );
    }

    [Fact]
    public async Task NobodyThereIsSaid() =>
        Assert.Equal(
            "asked.time-silent",
            (
                await Assert.ThrowsAsync<FieldTrouble>(() =>
                    new TimeServerClient(_network, TimeProvider.System).Ask(At, TimeSpan.FromMilliseconds(100), CancellationToken.None)
                )
            )
                .Why
                .Code
        );

    private static async Task<JsonNode> Do(Site site, string path, object body)
    {
        var (status, work) = await site.Post($"/api/jobs/{site.JobId}/{path}", body);
        Assert.True(status == 200, work.ToJsonString());
        return await site.Over(work);
    }

    /// <summary>Ours against the server, the recorder's against both, and a camera's against its recorder's.</summary>
    [Fact]
    public async Task EveryClockIsComparedWithEveryOther()
    {
        using var site = Site.WithField();
        var list = await site.Get($"/api/jobs/{site.JobId}/recorders");
        string Of(string label) => list["recorders"]!.AsArray().Single(r => r!["label"]!.ToString() == label)!["id"]!.ToString();
        async Task<JsonNode> Page(string label) => await site.Get($"/api/jobs/{site.JobId}/recorders/{Of(label)}");
        var by = new { by = "Ina Solberg" };
        var page = await Page("R-1");
        // Nobody has compared it: that is not in order by default.
        Assert.Empty(page["reference"]!.AsArray());
        Assert.True(page["hasTimeServer"]!.GetValue<bool>());
        await Do(site, "recorders/clock", by);
        await Do(site, $"recorders/{Of("R-1")}/read", by);
        await Do(
            site,
            "network/looks",
            new
            {
                way = "search",
                confirmed = true,
                names = Array.Empty<object>(),
                logins = Array.Empty<object>(),
                by = "Ina Solberg",
            }
        );
        page = await Page("R-1");
        Assert.Equal(("in", 2), (page["reference"]![0]!["outcome"]!.ToString(), page["reference"]![0]!["stratum"]!.GetValue<int>()));
        Assert.InRange(page["clock"]![0]!["against"]![0]!["differenceSeconds"]!.GetValue<double>(), 0.6, 1.0);
        JsonNode Clock(int channel) => page["channels"]!.AsArray().Single(c => c!["number"]!.GetValue<int>() == channel)!["clock"]![0]!;
        // CC-02 is 41 s ahead, CC-14 an hour behind; the others are as they should be, and a reader of plates has a second.
        Assert.Equal("out", Clock(18)["outcome"]!.ToString());
        Assert.InRange(Clock(18)["differenceSeconds"]!.GetValue<double>(), 39, 41.5);
        Assert.InRange(Clock(33)["differenceSeconds"]!.GetValue<double>(), -3602, -3599);
        Assert.Equal("in", Clock(2)["outcome"]!.ToString());
        Assert.Equal((1, 2), (Clock(1)["limitSeconds"]!.GetValue<double>(), Clock(2)["limitSeconds"]!.GetValue<double>()));
        // The server of time loses its source, and says so.
        (await site.Outside.PostAsync("/panel/time", JsonContent(new { aheadSeconds = 0, lost = true }))).EnsureSuccessStatusCode();
        Assert.Contains("has no time itself", (await Do(site, "recorders/clock", by))["why"]!.ToString());
        // Ours is wrong: what was read against ours is told against the server, too.
        (await site.Outside.PostAsync("/panel/time", JsonContent(new { aheadSeconds = 90, lost = false }))).EnsureSuccessStatusCode();
        await Do(site, "recorders/clock", by);
        page = await Page("R-1");
        Assert.Equal("out", page["reference"]![0]!["outcome"]!.ToString());
        Assert.InRange(page["reference"]![0]!["aheadSeconds"]!.GetValue<double>(), -90.1, -89.9);
        Assert.InRange(page["clock"]![0]!["against"]![0]!["differenceSeconds"]!.GetValue<double>(), -89.5, -89);
    }

    private static System.Net.Http.Json.JsonContent JsonContent(object body) => System.Net.Http.Json.JsonContent.Create(body);
}
