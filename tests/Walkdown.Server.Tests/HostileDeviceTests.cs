using System.Diagnostics;
using System.Net;
using System.Net.Security;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using Walkdown.Core.Addressing;
using Walkdown.Core.Focusing;
using Walkdown.Devices.Discovery;
using Walkdown.Devices.Field;

namespace Walkdown.Server.Tests;

/// <summary>What hangs on a network may be anything: one clear line for it, in bounded time and memory, and the sweep goes on.</summary>
public sealed class HostileDeviceTests : IDisposable
{
    private static int s_next;
    private readonly FieldNetwork _network;
    private readonly FieldHttp _http;
    private readonly List<TcpListener> _open = [];
    private readonly CancellationTokenSource _over = new();

    public HostileDeviceTests()
    {
        _network = new FieldNetwork(true, 31_000 + Interlocked.Increment(ref s_next) * 7);
        _http = new FieldHttp(_network);
    }

    public void Dispose()
    {
        _over.Cancel();
        foreach (var listener in _open)
            listener.Stop();
        _http.Dispose();
        _over.Dispose();
    }

    private void Listen(string address, int port, Func<Stream, CancellationToken, Task> answer)
    {
        var listener = new TcpListener(_network.EndpointOf(Ipv4Address.Parse(address, ""), port));
        listener.Start();
        _open.Add(listener);
        _ = Task.Run(async () =>
        {
            while (!_over.IsCancellationRequested)
            {
                var client = await listener.AcceptTcpClientAsync(_over.Token);
                _ = Task.Run(async () =>
                {
                    using (client)
                        await answer(client.GetStream(), _over.Token);
                });
            }
        });
    }

    private static async Task<string> Head(Stream stream, CancellationToken cancel)
    {
        var buffer = new byte[16 * 1024];
        var length = await stream.ReadAsync(buffer, cancel);
        return Encoding.ASCII.GetString(buffer, 0, length);
    }

    private static byte[] Http(string body, string head = "HTTP/1.1 200 OK", int? length = null) =>
        Encoding.UTF8.GetBytes($"{head}\r\nContent-Length: {length ?? Encoding.UTF8.GetByteCount(body)}\r\n\r\n{body}");

    /// <summary>Whatever is asked, that is the answer, and nothing more.</summary>
    private static Func<Stream, CancellationToken, Task> Saying(byte[] answer) =>
        async (stream, cancel) =>
        {
            await Head(stream, cancel);
            await stream.WriteAsync(answer, cancel);
        };

    /// <param name="isSilent">It is not expected to answer: it is not waited for long. Who answers has the time that a busy machine takes.</param>
    private async Task<(FoundDevice Device, TimeSpan Took)> Ask(
        string address = "10.46.8.29",
        bool tls = false,
        FieldLogin? login = null,
        bool isSilent = false
    )
    {
        var pace = new NetworkSweep.Pace(
            TimeSpan.FromMilliseconds(200),
            TimeSpan.FromMilliseconds(200),
            TimeSpan.FromSeconds(isSilent ? 1 : 20)
        );
        var since = Stopwatch.StartNew();
        var found = await new NetworkSweep(_network, _http, TimeProvider.System, pace).Run(
            new(FoundBy.ByHand, [Ipv4Address.Parse("10.46.8.0", "")], [], [new(Ipv4Address.Parse(address, ""), Tls: tls)], (_, _) => login),
            null,
            TestContext.Current.CancellationToken
        );
        return (Assert.Single(found), since.Elapsed);
    }

    private const string Soap = "<s:Envelope xmlns:s=\"http://www.w3.org/2003/05/soap-envelope\"><s:Body>{0}</s:Body></s:Envelope>";

    public static TheoryData<string, string, string> Answers()
    {
        var deep = string.Concat(Enumerable.Repeat("<a>", 5_000)) + string.Concat(Enumerable.Repeat("</a>", 5_000));
        var bomb = "<!DOCTYPE b [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b \"&a;&a;&a;&a;&a;&a;&a;&a;\">]>" + string.Format(Soap, "<x>&b;</x>");
        return new()
        {
            { "nothing", "", "asked.nonsense" },
            { "no XML", "hello", "asked.nonsense" },
            { "cut off", string.Format(Soap, "<x>")[..60], "asked.nonsense" },
            { "a bomb of entities", bomb, "asked.nonsense" },
            {
                "a file of ours",
                "<!DOCTYPE x [<!ENTITY e SYSTEM \"file:///etc/passwd\">]>" + string.Format(Soap, "<x>&e;</x>"),
                "asked.nonsense"
            },
            { "five thousand deep", string.Format(Soap, deep), "asked.nonsense" },
            { "another message", string.Format(Soap, "<x xmlns=\"urn:x\"/>"), "asked.nonsense" },
            { "no body", "<s:Envelope xmlns:s=\"http://www.w3.org/2003/05/soap-envelope\"/>", "asked.nonsense" },
        };
    }

    [Theory]
    [MemberData(nameof(Answers))]
    public async Task WhatCannotBeReadIsSaidInOneLine(string what, string answer, string code)
    {
        Listen("10.46.8.29", 80, Saying(Http(answer)));
        var (device, _) = await Ask();
        Assert.True(device.Trouble?.Code == code, $"{what}: {device.Trouble}");
        Assert.Null(device.Serial);
    }

    [Fact]
    public async Task AHundredMegabytesAreNotHeard()
    {
        var sent = 0L;
        Listen(
            "10.46.8.29",
            80,
            async (stream, cancel) =>
            {
                await Head(stream, cancel);
                await stream.WriteAsync(Encoding.ASCII.GetBytes("HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n"), cancel);
                var chunk = Encoding.ASCII.GetBytes("10000\r\n" + new string('a', 0x10000) + "\r\n");
                try
                {
                    for (; sent < 100 << 20; sent += chunk.Length)
                        await stream.WriteAsync(chunk, cancel);
                }
                catch (IOException)
                {
                    // Nobody listens any more, as it should be.
                }
            }
        );
        Assert.Equal("asked.too-long", (await Ask()).Device.Trouble?.Code);
        Assert.True(sent < 20 << 20);
        Listen("10.46.8.30", 80, Saying(Http("x", length: 200 << 20)));
        Assert.Equal("asked.too-long", (await Ask("10.46.8.30")).Device.Trouble?.Code);
    }

    [Fact]
    public async Task WhoSaysNothingOrDribblesIsLeftInTime()
    {
        Listen("10.46.8.29", 80, async (stream, cancel) => await Task.Delay(Timeout.Infinite, cancel));
        var (device, took) = await Ask(isSilent: true);
        Assert.Equal("asked.silent", device.Trouble?.Code);
        Assert.True(took < TimeSpan.FromSeconds(20));
        Listen(
            "10.46.8.30",
            80,
            async (stream, cancel) =>
            {
                await Head(stream, cancel);
                var head = Encoding.ASCII.GetBytes("HTTP/1.1 200 OK\r\nContent-Length: 100000\r\n\r\n");
                await stream.WriteAsync(head, cancel);
                using var timer = new PeriodicTimer(TimeSpan.FromMilliseconds(50));
                while (await timer.WaitForNextTickAsync(cancel))
                    await stream.WriteAsync("a"u8.ToArray(), cancel);
            }
        );
        Assert.Equal("asked.silent", (await Ask("10.46.8.30", isSilent: true)).Device.Trouble?.Code);
    }

    [Fact]
    public async Task WhoBreaksOffOrPromisesMoreThanItSendsIsTold()
    {
        Listen("10.46.8.29", 80, Saying(Http("<x/>", length: 4000)));
        Assert.Equal("asked.broken-off", (await Ask()).Device.Trouble?.Code);
        Listen("10.46.8.30", 80, async (stream, cancel) => await Head(stream, cancel));
        Assert.Equal("asked.broken-off", (await Ask("10.46.8.30")).Device.Trouble?.Code);
        Assert.Equal("asked.unreachable", (await Ask("10.46.8.31")).Device.Trouble?.Code);
    }

    [Fact]
    public async Task NobodyIsFollowedElsewhereAndNoPasswordIsGivenInClear()
    {
        var elsewhere = 0;
        Listen(
            "10.46.8.66",
            80,
            async (stream, cancel) =>
            {
                Interlocked.Increment(ref elsewhere);
                await Head(stream, cancel);
            }
        );
        Listen(
            "10.46.8.29",
            80,
            Saying(Encoding.ASCII.GetBytes("HTTP/1.1 302 Found\r\nLocation: http://10.46.8.66/\r\nContent-Length: 0\r\n\r\n"))
        );
        Assert.Equal("asked.sends-elsewhere", (await Ask()).Device.Trouble?.Code);
        var heard = new StringBuilder();
        Listen(
            "10.46.8.30",
            80,
            async (stream, cancel) =>
            {
                while (await Head(stream, cancel) is { Length: > 0 } said)
                {
                    lock (heard)
                        heard.Append(said);
                    var open = said.Contains("GetSystemDateAndTime", StringComparison.Ordinal);
                    await stream.WriteAsync(
                        open
                            ? Http(string.Format(Soap, "<GetSystemDateAndTimeResponse xmlns=\"http://www.onvif.org/ver10/device/wsdl\"/>"))
                            : Encoding.ASCII.GetBytes(
                                "HTTP/1.1 401 No\r\nWWW-Authenticate: Basic realm=\"give it to me\"\r\nContent-Length: 0\r\n\r\n"
                            ),
                        cancel
                    );
                }
            }
        );
        var (device, _) = await Ask("10.46.8.30", login: new FieldLogin("site", "the-secret-word"));
        Assert.Equal("asked.login-in-clear", device.Trouble?.Code);
        Assert.Equal(0, elsewhere);
        lock (heard)
        {
            Assert.DoesNotContain("the-secret-word", heard.ToString(), StringComparison.Ordinal);
            Assert.DoesNotContain(
                Convert.ToBase64String(Encoding.UTF8.GetBytes("site:the-secret-word")),
                heard.ToString(),
                StringComparison.Ordinal
            );
        }
    }

    [Fact]
    public async Task AWrongLoginIsShownOnceAndNotAgain()
    {
        var shown = 0;
        Listen(
            "10.46.8.29",
            80,
            async (stream, cancel) =>
            {
                while (await Head(stream, cancel) is { Length: > 0 } said)
                {
                    if (said.Contains("Authorization: Digest", StringComparison.Ordinal))
                        Interlocked.Increment(ref shown);
                    await stream.WriteAsync(
                        said.Contains("GetSystemDateAndTime", StringComparison.Ordinal)
                            ? Http(string.Format(Soap, "<GetSystemDateAndTimeResponse xmlns=\"http://www.onvif.org/ver10/device/wsdl\"/>"))
                            : Encoding.ASCII.GetBytes(
                                "HTTP/1.1 401 No\r\nWWW-Authenticate: Digest realm=\"camera\", nonce=\"n\", qop=\"auth\"\r\nContent-Length: 0\r\n\r\n"
                            ),
                        cancel
                    );
                }
            }
        );
        Assert.Equal("asked.login-refused", (await Ask(login: new FieldLogin("site", "guess"))).Device.Trouble?.Code);
        Assert.Equal(1, shown);
    }

    [Fact]
    public async Task AnyCertificateIsTakenAndItsFingerprintKept()
    {
        using var key = RSA.Create(2048);
        var request = new CertificateRequest("CN=camera", key, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1);
        using var certificate = X509CertificateLoader.LoadPkcs12(
            request.CreateSelfSigned(DateTimeOffset.UtcNow.AddYears(-20), DateTimeOffset.UtcNow.AddYears(-10)).Export(X509ContentType.Pfx),
            null
        );
        Listen(
            "10.46.8.29",
            443,
            async (stream, cancel) =>
            {
                await using var tls = new SslStream(stream);
                await tls.AuthenticateAsServerAsync(certificate, false, false);
                while (await Head(tls, cancel) is { Length: > 0 })
                    await tls.WriteAsync(
                        Http(string.Format(Soap, "<GetSystemDateAndTimeResponse xmlns=\"http://www.onvif.org/ver10/device/wsdl\"/>")),
                        cancel
                    );
            }
        );
        var (device, _) = await Ask(tls: true);
        Assert.Equal(Convert.ToHexString(SHA256.HashData(certificate.RawData)), device.Fingerprint);
    }

    [Fact]
    public async Task AnswersThatWereNotAskedForAreNotTaken()
    {
        using var forged = new UdpClient(new IPEndPoint(IPAddress.Parse("127.46.8.66"), 0));
        using var group = new Socket(AddressFamily.InterNetwork, SocketType.Dgram, ProtocolType.Udp);
        group.SetSocketOption(SocketOptionLevel.Socket, SocketOptionName.ReuseAddress, true);
        group.Bind(_network.SearchGroup);
        group.SetSocketOption(
            SocketOptionLevel.IP,
            SocketOptionName.AddMembership,
            new MulticastOption(_network.SearchGroup.Address, IPAddress.Loopback)
        );
        _ = Task.Run(async () =>
        {
            var buffer = new byte[8192];
            var heard = await group.ReceiveFromAsync(buffer, new IPEndPoint(IPAddress.Any, 0), _over.Token);
            string Match(string to) =>
                $"<s:Envelope xmlns:s=\"http://www.w3.org/2003/05/soap-envelope\" xmlns:a=\"http://schemas.xmlsoap.org/ws/2004/08/addressing\" xmlns:d=\"http://schemas.xmlsoap.org/ws/2005/04/discovery\"><s:Header><a:RelatesTo>{to}</a:RelatesTo></s:Header><s:Body><d:ProbeMatches><d:ProbeMatch><a:EndpointReference><a:Address>urn:uuid:1</a:Address></a:EndpointReference><d:XAddrs>http://10.46.8.66/x</d:XAddrs></d:ProbeMatch></d:ProbeMatches></s:Body></s:Envelope>";
            foreach (
                var datagram in (string[])
                    ["", "garbage", "<a/>", Match("urn:uuid:another question"), "<!DOCTYPE a [<!ENTITY b \"c\">]><a>&b;</a>"]
            )
                await forged.SendAsync(Encoding.UTF8.GetBytes(datagram), (IPEndPoint)heard.RemoteEndPoint);
        });
        var answers = await new DeviceSearch(_network).Ask(
            [Ipv4Address.Parse("10.46.8.0", "")],
            TimeSpan.FromMilliseconds(400),
            null,
            TestContext.Current.CancellationToken
        );
        Assert.Empty(answers);
    }

    [Theory]
    [InlineData("RTSP/1.0 200 OK\r\nCSeq: 1\r\nContent-Length: 99999999\r\n\r\n", "asked.too-long")]
    [InlineData("RTSP/1.0 200 OK\r\nContent-Length: -4\r\n\r\n", "asked.nonsense")]
    [InlineData("HTTP/1.1 200 OK\r\n\r\n", "asked.nonsense")]
    [InlineData("RTSP/1.0 404 No\r\nCSeq: 1\r\n\r\n", "asked.no-stream")]
    [InlineData("RTSP/1.0 200 OK\r\nCSeq", "asked.broken-off")]
    public async Task AStreamThatSaysNonsenseIsLeft(string answer, string code)
    {
        Listen("10.46.8.29", 554, Saying(Encoding.ASCII.GetBytes(answer)));
        var trouble = await Assert.ThrowsAsync<FieldTrouble>(() =>
            new StreamQuestion(_network).Ask(
                Ipv4Address.Parse("10.46.8.29", ""),
                "rtsp://10.46.8.99/stream/1",
                null,
                TimeSpan.FromSeconds(2),
                TestContext.Current.CancellationToken
            )
        );
        Assert.Equal(code, trouble.Why.Code);
    }

    [Fact]
    public async Task AStreamSaysItsCodecAndSize()
    {
        var description =
            "v=0\r\ns=x\r\nm=audio 0 RTP/AVP 0\r\nm=video 0 RTP/AVP 96\r\na=rtpmap:96 H265/90000\r\na=framerate:12.5\r\na=x-dimensions:2560,1440\r\n";
        Listen(
            "10.46.8.29",
            554,
            async (stream, cancel) =>
            {
                while (await Head(stream, cancel) is { Length: > 0 } said)
                    await stream.WriteAsync(
                        Encoding.ASCII.GetBytes(
                            said.StartsWith("DESCRIBE rtsp://10.46.8.29", StringComparison.Ordinal)
                                ? $"RTSP/1.0 200 OK\r\nCSeq: 2\r\nContent-Length: {description.Length}\r\n\r\n{description}"
                                : "RTSP/1.0 200 OK\r\nCSeq: 1\r\n\r\n"
                        ),
                        cancel
                    );
            }
        );
        var told = await new StreamQuestion(_network).Ask(
            Ipv4Address.Parse("10.46.8.29", ""),
            "rtsp://10.46.8.99/stream/1",
            null,
            TimeSpan.FromSeconds(2),
            TestContext.Current.CancellationToken
        );
        Assert.Equal(new StreamDescription("H265", 2560, 1440, 12.5, true), told);
    }

    [Fact]
    public async Task ARangeIsAskedWithinItsBounds()
    {
        Listen("10.46.8.29", 80, Saying(Http("")));
        Listen("10.46.8.31", 443, Saying(Http("")));
        Ipv4Address[] range =
        [
            .. Enumerable.Range(0, 254).Select(i => new Ipv4Address(Ipv4Address.Parse("10.46.8.1", "").Number + (uint)i)),
        ];
        var most = 0;
        var open = await new RangeScan(_network).Ask(
            range,
            [80, 443],
            32,
            TimeSpan.FromMilliseconds(300),
            done => most = Math.Max(most, done),
            TestContext.Current.CancellationToken
        );
        Assert.Equal([("10.46.8.29", 80), ("10.46.8.31", 443)], open.Select(o => (o.Address.ToString(), o.Port)));
        Assert.Equal(254, most);
        await Assert.ThrowsAsync<FieldTrouble>(() =>
            new RangeScan(_network).Ask(
                new Ipv4Address[5000],
                [80],
                32,
                TimeSpan.FromMilliseconds(1),
                null,
                TestContext.Current.CancellationToken
            )
        );
    }

    /// <summary>Whoever asks for an address gets these answers, made of his question.</summary>
    private Task<System.Collections.Immutable.ImmutableArray<LeaseOffer>> AskForLeases(params Func<byte[], byte[]>[] answers)
    {
        var plan = Subnet.Parse("10.46.8.0/24");
        var server = new Socket(AddressFamily.InterNetwork, SocketType.Dgram, ProtocolType.Udp);
        server.Bind(_network.LeaseServers(plan)[0]);
        _ = Task.Run(async () =>
        {
            using (server)
            {
                var buffer = new byte[2048];
                var heard = await server.ReceiveFromAsync(buffer, new IPEndPoint(IPAddress.Any, 0), _over.Token);
                using var from = new Socket(AddressFamily.InterNetwork, SocketType.Dgram, ProtocolType.Udp);
                from.Bind(new IPEndPoint(IPAddress.Parse("127.46.8.77"), 0));
                foreach (var answer in answers)
                    await from.SendToAsync(answer(buffer[..heard.ReceivedBytes]), heard.RemoteEndPoint, _over.Token);
            }
        });
        return new LeaseSearch(_network).Ask(plan, [plan.Network], TimeSpan.FromMilliseconds(600), default);
    }

    private static byte[] OfferOf(byte[] question, params byte[] options)
    {
        var packet = question[..240];
        packet[0] = 2;
        new byte[] { 10, 46, 8, 216 }.CopyTo(packet, 16);
        return [.. packet, 53, 1, 2, .. options];
    }

    [Fact]
    public async Task OffersThatAreNoneAreNotTakenForOne()
    {
        var offers = await AskForLeases(
            q => [],
            q => q[..100],
            q => q,
            // Of another question, without its mark, of another kind, of no address.
            q => OfferOf([.. q[..4], 9, 9, 9, 9, .. q[8..]]),
            q => OfferOf([.. q[..236], 1, 2, 3, 4]),
            q => [.. OfferOf(q)[..240], 53, 1, 5],
            q =>
            {
                var nobody = OfferOf(q);
                new byte[4].CopyTo(nobody, 16);
                return nobody;
            },
            q => new byte[2000],
            // Lengths that lead out of the datagram, or are not as they must be: what was read before counts.
            q => OfferOf(q, 54, 4, 10, 46, 8, 78, 1, 200, 1),
            q => OfferOf(q, 54, 4, 10, 46, 8, 79, 1, 2, 255, 255, 51, 0, 3, 0, 0, 0, 255)
        );
        Assert.Equal(["10.46.8.78", "10.46.8.79"], offers.Select(o => o.Server));
        Assert.All(offers, o => Assert.Equal(("10.46.8.77", "10.46.8.216", null), (o.From, o.Offered, o.Mask)));
    }

    [Fact]
    public async Task WhereOffersCannotArriveNobodyIsAskedAndItIsSaidWhy()
    {
        using var taken = new Socket(AddressFamily.InterNetwork, SocketType.Dgram, ProtocolType.Udp);
        taken.Bind(_network.OffersTo);
        var trouble = await Assert.ThrowsAsync<FieldTrouble>(() => AskForLeases(q => OfferOf(q)));
        Assert.Equal("asked.lease-port-taken", trouble.Why.Code);
    }

    [Fact]
    public async Task AFloodOfServersIsBounded()
    {
        var offers = await AskForLeases([
            .. Enumerable.Range(0, 3_000).Select(i => (Func<byte[], byte[]>)(q => OfferOf(q, 54, 4, 10, 1, (byte)(i >> 8), (byte)i))),
        ]);
        Assert.InRange(offers.Length, 1, LeaseSearch.MostOffers);
    }

    /// <summary>A camera that answers each question with what is given for it; what is not given it does not know.</summary>
    private static Func<Stream, CancellationToken, Task> Answering(params (string What, string Said)[] answers) =>
        async (stream, cancel) =>
        {
            var asked = "";
            var buffer = new byte[16 * 1024];
            // Head and body may come apart.
            while (!asked.Contains("Envelope>", StringComparison.Ordinal) && await stream.ReadAsync(buffer, cancel) is > 0 and var length)
                asked += Encoding.UTF8.GetString(buffer, 0, length);
            var said = answers.FirstOrDefault(a => asked.Contains(a.What, StringComparison.Ordinal)).Said;
            await stream.WriteAsync(
                said is null
                    ? Http(string.Format(Soap, "<s:Fault/>"), "HTTP/1.1 500 Internal Server Error\r\nConnection: close")
                    : Http(string.Format(Soap, said), "HTTP/1.1 200 OK\r\nConnection: close"),
                cancel
            );
        };

    private const string MediaSpace = "xmlns=\"http://www.onvif.org/ver10/media/wsdl\" xmlns:tt=\"http://www.onvif.org/ver10/schema\"",
        ImagingSpace = "xmlns=\"http://www.onvif.org/ver20/imaging/wsdl\" xmlns:tt=\"http://www.onvif.org/ver10/schema\"";

    private static readonly (string, string)[] OneHead =
    [
        ("GetCapabilities", "<GetCapabilitiesResponse xmlns=\"http://www.onvif.org/ver10/device/wsdl\"/>"),
        (
            "GetProfiles",
            $"<GetProfilesResponse {MediaSpace}><Profiles token=\"1\"><tt:VideoSourceConfiguration><tt:SourceToken>eye</tt:SourceToken>"
                + "</tt:VideoSourceConfiguration></Profiles></GetProfilesResponse>"
        ),
        (
            "GetSnapshotUri",
            $"<GetSnapshotUriResponse {MediaSpace}><MediaUri><tt:Uri>http://10.46.8.29/p.jpg</tt:Uri></MediaUri></GetSnapshotUriResponse>"
        ),
    ];

    private OnvifCamera Camera() =>
        new(
            _http,
            Ipv4Address.Parse("10.46.8.29", ""),
            80,
            OnvifCamera.UsualPath,
            false,
            null,
            TimeSpan.FromSeconds(5),
            TimeProvider.System
        );

    private FocusMotor Motor(int head = 1) => new(Camera(), head, TimeProvider.System);

    /// <summary>A motor that takes no place can be told to run, where it says how quickly; nothing else is a motor.</summary>
    [Theory]
    [InlineData("<tt:Continuous><tt:Speed><tt:Min>-7</tt:Min><tt:Max>7</tt:Max></tt:Speed></tt:Continuous>", true)]
    [InlineData("<tt:Continuous><tt:Speed><tt:Min>-7</tt:Min><tt:Max>0</tt:Max></tt:Speed></tt:Continuous>", false)]
    [InlineData("<tt:Continuous><tt:Speed><tt:Min>0</tt:Min></tt:Speed></tt:Continuous>", false)]
    [InlineData("<tt:Continuous/>", false)]
    [InlineData("<tt:Relative><tt:Distance><tt:Min>-1</tt:Min><tt:Max>1</tt:Max></tt:Distance></tt:Relative>", false)]
    public async Task AMotorThatOnlyRunsIsCountedFromItsEnd(string moves, bool isOne)
    {
        Listen(
            "10.46.8.29",
            80,
            Answering([
                .. OneHead,
                ("GetMoveOptions", $"<GetMoveOptionsResponse {ImagingSpace}><MoveOptions>{moves}</MoveOptions></GetMoveOptionsResponse>"),
            ])
        );
        var motor = Motor();
        var travel = await motor.Travel(TestContext.Current.CancellationToken);
        Assert.Equal(isOne ? new MotorTravel(0, FocusMotor.Through) : null, travel);
        // Nobody has run it against its end: where it stands is not known.
        Assert.False(motor.IsSure);
        // This one takes neither the run nor the stop: that is said, and it is not taken to have run.
        if (isOne)
            await Assert.ThrowsAsync<FieldTrouble>(() => motor.Drive(0, TestContext.Current.CancellationToken));
        Assert.False(motor.IsSure);
    }

    /// <summary>A lens is driven only through a travel that is one; whatever else a camera says of its motor, it has none from here.</summary>
    [Theory]
    [InlineData("<tt:Min>0</tt:Min><tt:Max>1</tt:Max>", true)]
    [InlineData("<tt:Min>-120</tt:Min><tt:Max>4800.5</tt:Max>", true)]
    [InlineData("<tt:Min>1</tt:Min><tt:Max>1</tt:Max>", false)]
    [InlineData("<tt:Min>1</tt:Min><tt:Max>0</tt:Max>", false)]
    [InlineData("<tt:Min>0</tt:Min>", false)]
    [InlineData("<tt:Min>near</tt:Min><tt:Max>far</tt:Max>", false)]
    [InlineData("<tt:Min>NaN</tt:Min><tt:Max>1</tt:Max>", false)]
    [InlineData("<tt:Min>0</tt:Min><tt:Max>1e999</tt:Max>", false)]
    [InlineData("<tt:Min>-1e308</tt:Min><tt:Max>1e308</tt:Max>", false)]
    [InlineData("", false)]
    public async Task AMotorIsDrivenOnlyThroughATravelThatIsOne(string position, bool isOne)
    {
        var moves = $"<MoveOptions><tt:Absolute><tt:Position>{position}</tt:Position></tt:Absolute></MoveOptions>";
        Listen(
            "10.46.8.29",
            80,
            Answering([.. OneHead, ("GetMoveOptions", $"<GetMoveOptionsResponse {ImagingSpace}>{moves}</GetMoveOptionsResponse>")])
        );
        Assert.Equal(isOne, await Motor().Travel(TestContext.Current.CancellationToken) is not null);
        // There is no second head.
        Assert.Null(await Motor(2).Travel(TestContext.Current.CancellationToken));
    }

    [Fact]
    public async Task AMotorThatSaysNothingOfItselfIsNoneAndOneWithoutAPlaceIsNotGuessed()
    {
        Listen(
            "10.46.8.29",
            80,
            Answering([
                .. OneHead,
                ("GetStatus", $"<GetStatusResponse {ImagingSpace}><Status><tt:FocusStatus20/></Status></GetStatusResponse>"),
            ])
        );
        Assert.Null(await Motor().Travel(TestContext.Current.CancellationToken));
        Assert.Equal((null, false), await Camera().FocusStatus(1, TestContext.Current.CancellationToken));
        // What it does not take is said, and setting its autofocus aside is no condition.
        await Camera().FocusByHand(1, TestContext.Current.CancellationToken);
        await Assert.ThrowsAsync<FieldTrouble>(() => Camera().DriveFocus(1, 0.5, TestContext.Current.CancellationToken));
    }
}
