using System.Collections.Immutable;
using System.Net;
using System.Net.Sockets;
using System.Text;
using Microsoft.Extensions.DependencyInjection;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Devices;
using Walkdown.Server.Readings;

namespace Walkdown.Server.Tests;

/// <summary>Sources of measurements: who is asked, by how many at once, for how long, and that a new one is one class.</summary>
public sealed class SourceTests
{
    private static readonly Catalogue Shipped = Catalogue.Read(Catalogue.Shipped, Reports.Texts.Shipped("en").Keys.ToHashSet()).Catalogue!;

    private static CheckDefinition Check(string id) => Shipped.CheckById[new CheckId(id)];

    private static SourceQuestion Question(string check, PortName? port = null) => new(Check(check), "CC-07", port, null, Condition.Any);

    private sealed class Answers(Func<HttpRequestMessage, CancellationToken, Task<HttpResponseMessage>> answer) : HttpMessageHandler
    {
        protected override Task<HttpResponseMessage> SendAsync(HttpRequestMessage request, CancellationToken cancel) =>
            answer(request, cancel);
    }

    private static HttpClient Http(string json, HttpStatusCode status = HttpStatusCode.OK) =>
        new(new Answers((_, _) => Task.FromResult(new HttpResponseMessage(status) { Content = new StringContent(json) })))
        {
            BaseAddress = new Uri("http://tester.test"),
        };

    private static MeasureSources All(TimeSpan patience, params IMeasureSource[] sources) => new(sources, new(patience));

    private static readonly TimeSpan Long = TimeSpan.FromMinutes(5);

    [Fact]
    public async Task AnAnswerOfAnotherRunIsNoReadingButIsFound()
    {
        var sources = All(Long, new TesterSource(Http("""{"run":"CC-12","function":"length","value":61,"unit":"m","serial":"CM-0217"}""")));
        var answer = await sources.Ask(Question("cable.length"), TestContext.Current.CancellationToken);
        Assert.Equal("tester.other-run", answer.Trouble!.Code);
        Assert.Equal("CC-12", answer.Found!.Label);
        Assert.Equal("CM-0217", answer.Serial);
        Assert.Empty(answer.Readings);
    }

    [Theory]
    [InlineData("""{"run":"CC-07","function":"length","value":61}""", "tester.nonsense")]
    [InlineData("""{"run":"CC-07","function":"wire-map","value":61,"unit":"m"}""", "tester.nonsense")]
    [InlineData("""{"run":"CC-07","function":"length","value":"61","unit":"m"}""", "tester.nonsense")]
    [InlineData("""{"run":"CC-07","function":"length","value":61,"unit":"kg"}""", "tester.nonsense")]
    [InlineData("""[1]""", "tester.nonsense")]
    [InlineData("", "tester.nonsense")]
    public async Task NonsenseIsTroubleAndNeverThrows(string json, string code) =>
        Assert.Equal(
            code,
            (await All(Long, new TesterSource(Http(json))).Ask(Question("cable.length"), TestContext.Current.CancellationToken))
                .Trouble!
                .Code
        );

    [Fact]
    public async Task UnitsComeInAsTheSourceHasThem()
    {
        var answer = await All(Long, new TesterSource(Http("""{"run":"cc-07","function":"length","value":6150,"unit":"cm"}""")))
            .Ask(Question("cable.length"), TestContext.Current.CancellationToken);
        Assert.Equal(new NumberValue(61.5, Unit.Metre), Assert.Single(answer.Readings).Value);
    }

    private const string AtCamera =
        """{"serial":"TH4121","role":"entry","server":"10.46.8.11","port":8443,"login":"set","id":"10010001","light":"green"}""";
    private const string AtRecorder = """{"port":8443,"login":"unset","id":"","light":"red"}""";

    private static Task<SourceAnswer> Link(string atCamera, string atRecorder, string? address = "10.46.8.13", bool hasChannel = true)
    {
        HttpResponseMessage Said(string said) =>
            int.TryParse(said, out var status) ? new((HttpStatusCode)status) : new(HttpStatusCode.OK) { Content = new StringContent(said) };
        var http = new HttpClient(
            new Answers(
                (request, _) =>
                    Task.FromResult(
                        Said(
                            request.RequestUri!.PathAndQuery switch
                            {
                                "/camera/10.46.8.13/link" => atCamera,
                                "/recorder/R-1/link?channel=4" => atRecorder,
                                var other => throw new InvalidOperationException(other),
                            }
                        )
                    )
            )
        )
        {
            BaseAddress = new Uri("http://field.test"),
        };
        return All(Long, new LinkSource(http))
            .Ask(
                new(Check("plates.link"), "GT-01", null, address, Condition.Any) { Channel = hasChannel ? new("R-1", 4) : null },
                TestContext.Current.CancellationToken
            );
    }

    /// <summary>Both sides come as one reading of the camera's unit; what a side does not have is left out, not made up.</summary>
    [Fact]
    public async Task BothSidesOfALinkAreOneReading()
    {
        var answer = await Link(AtCamera, AtRecorder);
        Assert.Null(answer.Trouble);
        Assert.Equal("TH4121", answer.Serial);
        var line = Assert.IsType<FormValue>(Assert.Single(answer.Readings).Value).Lines[0];
        Assert.Equal(
            ["role entry", "server 10.46.8.11", "port-camera 8443", "port-recorder 8443", "login-camera set", "login-recorder unset"],
            line.Said.Take(6).Select(s => $"{s.Field} {s.Word ?? s.Number?.ToString(System.Globalization.CultureInfo.InvariantCulture)}")
        );
        Assert.Null(line.Of("id-recorder"));
    }

    /// <summary>One side alone is no reading, and whose is missing is said.</summary>
    [Theory]
    [InlineData("404", AtRecorder, "tester.link-camera-unknown")]
    [InlineData("503", AtRecorder, "tester.link-camera-silent")]
    [InlineData("[]", AtRecorder, "tester.link-camera-nonsense")]
    [InlineData("""{"port":"many"}""", AtRecorder, "tester.link-camera-nonsense")]
    [InlineData(AtCamera, "404", "tester.link-recorder-unknown")]
    [InlineData(AtCamera, "503", "tester.link-recorder-silent")]
    [InlineData(AtCamera, "no", "tester.link-recorder-nonsense")]
    [InlineData(AtCamera, """{"port":8443,"login":"perhaps","light":"red"}""", "tester.nonsense")]
    [InlineData(AtCamera, """{"port":8443,"login":"set"}""", "tester.link-recorder-nonsense")]
    [InlineData("""{"login":"set","light":"green"}""", AtRecorder, "tester.link-camera-nonsense")]
    [InlineData("""{"role":"boss","login":"set","light":"green"}""", AtRecorder, "tester.nonsense")]
    [InlineData("""{"role":"entry","login":"set","light":"green","port":99999}""", AtRecorder, "tester.nonsense")]
    public async Task ASideOfALinkThatDoesNotComeIsNamed(string atCamera, string atRecorder, string code) =>
        Assert.Equal(code, (await Link(atCamera, atRecorder)).Trouble?.Code);

    [Fact]
    public async Task ALinkIsAskedOnlyWhereItsSidesAreKnown()
    {
        Assert.Equal("tester.link-no-address", (await Link(AtCamera, AtRecorder, address: "")).Trouble?.Code);
        Assert.Equal("tester.link-no-channel", (await Link(AtCamera, AtRecorder, hasChannel: false)).Trouble?.Code);
    }

    public static TheoryData<string, int, string?> Tables() =>
        new()
        {
            { """[{"port":3,"address":"02:46:08:00:00:03","vlan":7}]""", 200, null },
            { "[]", 200, null },
            { "", 404, "ports.no-table" },
            { "no", 500, "ports.nonsense" },
            { "", 302, "ports.nonsense" },
            { "{}", 200, "ports.nonsense" },
            { "null", 200, "ports.nonsense" },
            { "[null]", 200, "ports.nonsense" },
            { """[{"port":0,"address":"02:46:08:00:00:03"}]""", 200, "ports.nonsense" },
            { """[{"port":3}]""", 200, "ports.nonsense" },
            { """[{"port":3,"address":"%"}]""".Replace("%", new string('0', 60)), 200, "ports.nonsense" },
            { """[{"port":"three","address":"02:46:08:00:00:03"}]""", 200, "ports.nonsense" },
            { "[" + new string('[', 5000), 200, "ports.nonsense" },
            { "[" + string.Join(',', Enumerable.Repeat("""{"port":3,"address":"0"}""", 32_769)) + "]", 200, "ports.nonsense" },
            { new string(' ', 5_000_000), 200, "ports.nonsense" },
        };

    /// <summary>A switch that answers anything: one clear line for it, in bounded memory, and nothing of it is taken.</summary>
    [Theory]
    [MemberData(nameof(Tables), DisableDiscoveryEnumeration = true)]
    public async Task WhatASwitchAnswersIsATableOrNothing(string json, int status, string? code)
    {
        var (learned, trouble) = await new SwitchTables(Http(json, (HttpStatusCode)status), Long).Ask(
            "K1 SW-2",
            TestContext.Current.CancellationToken
        );
        Assert.Equal(code, trouble?.Code);
        Assert.Equal(json.Contains("vlan") ? 1 : 0, learned.Length);
    }

    /// <summary>Who asks switches and recorders is sent nowhere else by them.</summary>
    [Fact]
    public async Task NobodyIsSentElsewhere()
    {
        var stop = TestContext.Current.CancellationToken;
        using var first = new TcpListener(IPAddress.Loopback, 0);
        using var second = new TcpListener(IPAddress.Loopback, 0);
        first.Start();
        second.Start();
        var elsewhere = ((IPEndPoint)second.LocalEndpoint).Port;
        var answer = Task.Run(
            async () =>
            {
                using var client = await first.AcceptTcpClientAsync(stop);
                _ = await client.GetStream().ReadAsync(new byte[4096], stop);
                await client
                    .GetStream()
                    .WriteAsync(
                        Encoding.ASCII.GetBytes(
                            $"HTTP/1.1 302 Found\r\nLocation: http://127.0.0.1:{elsewhere}/\r\nContent-Length: 0\r\nConnection: close\r\n\r\n"
                        ),
                        stop
                    );
            },
            stop
        );
        var services = new ServiceCollection();
        services.AddOutside(Sources.Recorders, new Uri($"http://127.0.0.1:{((IPEndPoint)first.LocalEndpoint).Port}/"));
        await using var made = services.BuildServiceProvider();
        var http = made.GetRequiredService<IHttpClientFactory>().CreateClient(Sources.Recorders);
        var (_, trouble) = await new SwitchTables(http, Long).Ask("K1", stop);
        await answer;
        Assert.Equal("ports.nonsense", trouble!.Code);
        Assert.False(second.Pending());
    }

    /// <summary>One that never answers is left after a while, and one that is called off at once.</summary>
    [Fact]
    public async Task ASwitchThatIsSilentIsLeft()
    {
        var silent = new HttpClient(
            new Answers((_, cancel) => Task.Delay(Timeout.Infinite, cancel).ContinueWith(_ => new HttpResponseMessage(), cancel))
        )
        {
            BaseAddress = new Uri("http://switch.test"),
        };
        var (_, trouble) = await new SwitchTables(silent, TimeSpan.FromMilliseconds(20)).Ask("K1", TestContext.Current.CancellationToken);
        Assert.Equal("ports.silent", trouble!.Code);
        using var off = new CancellationTokenSource();
        await off.CancelAsync();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => new SwitchTables(silent, Long).Ask("K1", off.Token));
    }

    [Fact]
    public async Task APresetThatIsNeverReachedHasNoReading()
    {
        const string json =
            """{"run":"CC-07","function":"preset-return","pairs":{"preset-1":0.1,"preset-2":null,"preset-3":-1.4},"unit":"deg"}""";
        var answer = await All(Long, new TesterSource(Http(json))).Ask(Question("aim.preset-error"), TestContext.Current.CancellationToken);
        Assert.Equal([("preset-1", 0.1), ("preset-3", -1.4)], answer.Readings.Select(r => (r.Part, ((NumberValue)r.Value).Value)));
    }

    /// <summary>Presets and white lights of the made-up site are read, and what is wrong with one is mended.</summary>
    [Fact]
    public async Task PresetsAndWhiteLightsAreReadAtTheStandIn()
    {
        using var site = new Site();
        async Task<System.Text.Json.Nodes.JsonNode> Read(string label, string check, string part = "")
        {
            var row = (await site.Card(label))["card"]!["rows"]!
                .AsArray()
                .Single(r => r!["key"]!["check"]!.ToString() == check && (r["key"]!["on"]!["part"]?.ToString() ?? "") == part)!;
            var (status, read) = await site.Send($"/api/cards/{site.Stops[label]}/tester", new { row = row["id"]!.ToString() });
            Assert.True(status == 200, read.ToJsonString());
            return read;
        }
        string[] States(System.Text.Json.Nodes.JsonNode read) => [.. read["rows"]!.AsArray().Select(r => r!["state"]?.ToString() ?? "")];
        Assert.Equal(["in", "in", "out", "in"], States(await Read("VL-10", "aim.preset-error", "preset-2")));
        using var mended = await site.Outside.PostAsync(
            "/panel/runs/VL-10/work",
            System.Net.Http.Json.JsonContent.Create(new { act = "mend", end = "aim.preset-error" }),
            TestContext.Current.CancellationToken
        );
        Assert.Equal(["in", "in", "in", "in"], States(await Read("VL-10", "aim.preset-error", "preset-3")));
        var light = await Read("GT-07", "light.white");
        Assert.Contains("goes-off", light["rows"]![0]!["value"]!.ToJsonString());
    }

    [Fact]
    public async Task WhatNobodyReadsAndWhereNobodyCanBeAskedIsSaid()
    {
        var sources = All(Long, new TesterSource(Http("{}")), new SwitchSource(Http("{}")));
        Assert.Equal(
            "tester.no-function",
            (await sources.Ask(Question("cable.label"), TestContext.Current.CancellationToken)).Trouble!.Code
        );
        Assert.Equal(
            "expect.none.no-port",
            (await sources.Ask(Question("link.duplex"), TestContext.Current.CancellationToken)).Trouble!.Code
        );
        Assert.Equal(ReadingSource.Switch, sources.For(Check("link.duplex"))!.Marks);
        // A check that names a source which is not here is read by nobody, and is typed.
        Assert.Null(sources.For(Check("cable.length") with { ReadFrom = "oscilloscope" }));
    }

    /// <summary>A source as a newcomer would write one: it reads a clock.</summary>
    private sealed class ClockSource : IMeasureSource
    {
        public int Asked,
            Together,
            MostTogether;
        public TaskCompletionSource Open { get; } = new();

        public string Id => "clock";
        public ReadingSource Marks => ReadingSource.Tester;
        public int MostAtOnce => 2;

        public bool CanRead(CheckDefinition check) => check.Entry == EntryKind.Number && check.Unit == Unit.Second;

        public string? HostOf(SourceQuestion question) => question.Address;

        public async Task<SourceAnswer> Ask(SourceQuestion question, CancellationToken cancel)
        {
            Interlocked.Increment(ref Asked);
            MostTogether = Math.Max(MostTogether, Interlocked.Increment(ref Together));
            try
            {
                await Open.Task.WaitAsync(cancel);
            }
            finally
            {
                Interlocked.Decrement(ref Together);
            }
            return new SourceAnswer([new("", new NumberValue(1.5, Unit.Second))], "CLK-1", null, "raw");
        }
    }

    private static SourceQuestion Clock(string address) =>
        new(
            Check("power.boot") with
            {
                Entry = EntryKind.Number,
                Unit = Unit.Second,
                ReadFrom = "clock",
            },
            "CC-07",
            null,
            address,
            Condition.Any
        );

    [Fact]
    public async Task OneHostIsAskedByAFewAtATimeAndAnotherIsNotHeldUpByIt()
    {
        var source = new ClockSource();
        var sources = All(Long, source);
        var cancel = TestContext.Current.CancellationToken;
        var asked = Enumerable.Range(0, 6).Select(_ => sources.Ask(Clock("10.46.8.17"), cancel)).ToList();
        Assert.Equal(2, source.Asked);
        var other = sources.Ask(Clock("10.46.8.18"), cancel);
        Assert.Equal(3, source.Asked);
        source.Open.SetResult();
        Assert.All(await Task.WhenAll([.. asked, other]), a => Assert.Equal("CLK-1", a.Serial));
        Assert.Equal(7, source.Asked);
        Assert.True(source.MostTogether <= 3);
    }

    [Fact]
    public async Task SilenceIsTroubleAndGivingUpIsGivingUp()
    {
        var source = new ClockSource();
        Assert.Equal(
            "tester.silent",
            (await All(TimeSpan.FromMilliseconds(1), source).Ask(Clock("a"), TestContext.Current.CancellationToken)).Trouble!.Code
        );
        using var gone = new CancellationTokenSource();
        var sources = All(Long, source);
        var asked = sources.Ask(Clock("a"), gone.Token);
        await gone.CancelAsync();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => asked);
        // Who gave up holds up nobody.
        source.Open.SetResult();
        Assert.Null((await sources.Ask(Clock("a"), TestContext.Current.CancellationToken)).Trouble);
    }
}
