using System.Collections.Immutable;
using System.Globalization;
using System.Net;
using System.Xml.Linq;
using Walkdown.Core.Addressing;
using Walkdown.Core.Focusing;
using Walkdown.Devices.Field;

namespace Walkdown.Devices.Discovery;

/// <summary>
/// One camera's device and media services (ONVIF Core and Media, version 10), asked question by question. Hosts that it names are not
/// believed: all is asked at the address that it answers from.
/// </summary>
/// <param name="http">Bounded HTTP.</param>
/// <param name="address">Of the site.</param>
/// <param name="port">Of its services.</param>
/// <param name="path">Of its device service.</param>
/// <param name="tls">Over TLS.</param>
/// <param name="login">To be shown where it asks for one; null: none.</param>
/// <param name="patience">For one question.</param>
/// <param name="time">Our clock.</param>
public sealed class OnvifCamera(
    FieldHttp http,
    Ipv4Address address,
    int port,
    string path,
    bool tls,
    FieldLogin? login,
    TimeSpan patience,
    TimeProvider time
)
{
    /// <summary>Where cameras have their device service, by the standard.</summary>
    public const string UsualPath = "/onvif/device_service";

    private static readonly XNamespace Device = "http://www.onvif.org/ver10/device/wsdl";
    private static readonly XNamespace Media = "http://www.onvif.org/ver10/media/wsdl";
    private static readonly XNamespace Imaging = "http://www.onvif.org/ver20/imaging/wsdl";
    private static readonly XNamespace Schema = "http://www.onvif.org/ver10/schema";

    /// <summary>Streams of one camera that are asked for.</summary>
    private const int MostStreams = 8;

    /// <summary>Its clock against ours; known once it told its time.</summary>
    private TimeSpan? _ahead;
    private string? _announced;

    /// <summary>Everything that it says of itself. What it keeps to itself is left out, and why is told.</summary>
    /// <exception cref="FieldTrouble">It does not answer as a camera at all.</exception>
    public async Task<FoundDevice> Read(CancellationToken cancel)
    {
        var facts = new FoundDevice
        {
            Address = address.ToString(),
            Port = port,
            Path = path,
            Tls = tls,
        };
        // Its time is what it tells anybody: who cannot say it is no camera that we know how to ask.
        facts = await Clock(facts, cancel);
        FieldTrouble? trouble = null;
        async Task<T> Or<T>(T before, Func<Task<T>> ask)
        {
            // A wrong login that is shown again and again locks a camera.
            if (trouble?.WantsLogin == true)
                return before;
            try
            {
                return await ask();
            }
            catch (FieldTrouble why)
            {
                if (trouble is null || why.WantsLogin)
                    trouble = why;
                return before;
            }
        }
        facts = await Or(facts, () => Information(facts, cancel));
        facts = await Or(facts, () => Interfaces(facts, cancel));
        facts = await Or(facts, () => Gateway(facts, cancel));
        facts = await Or(facts, () => HostName(facts, cancel));
        facts = await Or(facts, () => SearchMode(facts, cancel));
        facts = await Or(facts, () => Users(facts, cancel));
        facts = await Or(facts, () => Streams(facts, cancel));
        // Of two on one address now one answers and now the other: what was told must be of one.
        if (facts.Serial is not null && (await Or(facts, () => Information(facts, cancel))).Serial != facts.Serial)
            throw new FieldTrouble("asked.two-answer");
        return facts with
        {
            Trouble = trouble?.Why,
            Fingerprint = tls ? http.FingerprintOf(address) : null,
            AnnouncesElsewhere = _announced,
        };
    }

    /// <summary>Whether a login opens it. The password leaves this machine as a digest only.</summary>
    /// <exception cref="FieldTrouble">It gave no answer to that.</exception>
    public async Task<bool> Opens(CancellationToken cancel)
    {
        try
        {
            await Clock(new FoundDevice { Address = address.ToString() }, cancel);
            await Ask("device", new XElement(Device + "GetUsers"), cancel);
            return true;
        }
        catch (FieldTrouble why) when (why.WantsLogin)
        {
            return false;
        }
    }

    /// <summary>Gives it a name.</summary>
    public Task SetName(string name, CancellationToken cancel) =>
        Ask("device", new XElement(Device + "SetHostname", new XElement(Device + "Name", name)), cancel);

    /// <summary>Has it answer searches, or not.</summary>
    public Task SetSearchMode(bool answers, CancellationToken cancel) =>
        Ask(
            "device",
            new XElement(Device + "SetDiscoveryMode", new XElement(Device + "DiscoveryMode", answers ? "Discoverable" : "NonDiscoverable")),
            cancel
        );

    /// <summary>Gives it a fixed address. It answers there from then on, or after its next start.</summary>
    /// <returns>Whether it wants to be started again first.</returns>
    public async Task<bool> SetAddress(Ipv4Address wanted, int prefix, CancellationToken cancel)
    {
        var interfaces = await Ask("device", new XElement(Device + "GetNetworkInterfaces"), cancel);
        var token = interfaces.Elements(Device + "NetworkInterfaces").FirstOrDefault()?.Attribute("token")?.Value ?? "eth0";
        var answer = await Ask(
            "device",
            new XElement(
                Device + "SetNetworkInterfaces",
                new XElement(Device + "InterfaceToken", token),
                new XElement(
                    Device + "NetworkInterface",
                    new XElement(
                        Schema + "IPv4",
                        new XElement(Schema + "Enabled", "true"),
                        new XElement(
                            Schema + "Manual",
                            new XElement(Schema + "Address", wanted.ToString()),
                            new XElement(Schema + "PrefixLength", prefix)
                        ),
                        new XElement(Schema + "DHCP", "false")
                    )
                )
            ),
            cancel
        );
        return answer.Element(Device + "RebootNeeded")?.Value.Trim() == "true";
    }

    /// <summary>Tells it the way out of its network.</summary>
    public Task SetGateway(Ipv4Address gateway, CancellationToken cancel) =>
        Ask("device", new XElement(Device + "SetNetworkDefaultGateway", new XElement(Device + "IPv4Address", gateway.ToString())), cancel);

    /// <summary>Has it take its time from a server, or as it is set by hand.</summary>
    public Task SetTimeSource(bool ntp, CancellationToken cancel) =>
        Ask(
            "device",
            new XElement(
                Device + "SetSystemDateAndTime",
                new XElement(Device + "DateTimeType", ntp ? "NTP" : "Manual"),
                new XElement(Device + "DaylightSavings", "false")
            ),
            cancel
        );

    /// <summary>Starts it again.</summary>
    public Task Restart(CancellationToken cancel) => Ask("device", new XElement(Device + "SystemReboot"), cancel);

    private async Task<FoundDevice> Clock(FoundDevice facts, CancellationToken cancel)
    {
        var sent = time.GetUtcNow();
        var answer = await Ask("device", new XElement(Device + "GetSystemDateAndTime"), cancel, open: true);
        var took = time.GetUtcNow() - sent;
        var middle = sent + took / 2;
        if (answer.Name != Device + "GetSystemDateAndTimeResponse")
            throw new FieldTrouble("asked.nonsense");
        var said = answer.Element(Device + "SystemDateAndTime");
        var utc = said?.Element(Schema + "UTCDateTime");
        int? Part(string group, string name) =>
            int.TryParse(
                utc?.Element(Schema + group)?.Element(Schema + name)?.Value,
                NumberStyles.None,
                CultureInfo.InvariantCulture,
                out var n
            )
                ? n
                : null;
        if (
            Part("Date", "Year") is { } year and >= 1970 and <= 2200
            && Part("Date", "Month") is { } month and >= 1 and <= 12
            && Part("Date", "Day") is { } day
            && day >= 1
            && day <= DateTime.DaysInMonth(year, month)
            && Part("Time", "Hour") is { } hour and < 24
            && Part("Time", "Minute") is { } minute and < 60
            && Part("Time", "Second") is { } second and < 60
        )
        {
            // It tells whole seconds: half of one is nearest.
            var device = new DateTimeOffset(year, month, day, hour, minute, second, TimeSpan.Zero).AddSeconds(0.5);
            _ahead = device - middle;
            facts = facts with
            {
                ClockAheadSeconds = Math.Round(_ahead.Value.TotalSeconds, 1),
                ClockUncertaintySeconds = Math.Round(took.TotalSeconds / 2 + 0.55, 2),
            };
        }
        return facts with
        {
            TimeSource = said?.Element(Schema + "DateTimeType")?.Value.Trim() switch
            {
                "NTP" => "ntp",
                "Manual" => "manual",
                _ => null,
            },
            TimeZone = Said(said?.Element(Schema + "TimeZone")?.Element(Schema + "TZ")),
        };
    }

    private async Task<FoundDevice> Information(FoundDevice facts, CancellationToken cancel)
    {
        var answer = await Ask("device", new XElement(Device + "GetDeviceInformation"), cancel);
        return facts with
        {
            Maker = Said(answer.Element(Device + "Manufacturer")),
            Model = Said(answer.Element(Device + "Model")),
            Firmware = Said(answer.Element(Device + "FirmwareVersion")),
            Serial = Said(answer.Element(Device + "SerialNumber")),
        };
    }

    private async Task<FoundDevice> Interfaces(FoundDevice facts, CancellationToken cancel)
    {
        var answer = await Ask("device", new XElement(Device + "GetNetworkInterfaces"), cancel);
        var one = answer.Elements(Device + "NetworkInterfaces").FirstOrDefault();
        var config = one?.Element(Schema + "IPv4")?.Element(Schema + "Config");
        var leases = config?.Element(Schema + "DHCP")?.Value.Trim();
        var held = (leases == "true" ? config?.Element(Schema + "FromDHCP") : null) ?? config?.Element(Schema + "Manual");
        return facts with
        {
            HardwareAddress = Said(one?.Element(Schema + "Info")?.Element(Schema + "HwAddress")),
            OwnAddress = Said(held?.Element(Schema + "Address")),
            Mask =
                int.TryParse(held?.Element(Schema + "PrefixLength")?.Value, NumberStyles.None, CultureInfo.InvariantCulture, out var prefix)
                && prefix <= 32
                    ? Subnet.Around(address, prefix).Mask.ToString()
                    : null,
            Leases = leases switch
            {
                "true" => true,
                "false" => false,
                _ => null,
            },
        };
    }

    private async Task<FoundDevice> Gateway(FoundDevice facts, CancellationToken cancel)
    {
        var answer = await Ask("device", new XElement(Device + "GetNetworkDefaultGateway"), cancel);
        return facts with { Gateway = Said(answer.Descendants(Schema + "IPv4Address").FirstOrDefault()) };
    }

    private async Task<FoundDevice> HostName(FoundDevice facts, CancellationToken cancel)
    {
        var answer = await Ask("device", new XElement(Device + "GetHostname"), cancel);
        return facts with { Name = Said(answer.Descendants(Schema + "Name").FirstOrDefault()) };
    }

    private async Task<FoundDevice> SearchMode(FoundDevice facts, CancellationToken cancel)
    {
        var answer = await Ask("device", new XElement(Device + "GetDiscoveryMode"), cancel);
        return facts with
        {
            AnswersSearches = answer.Element(Device + "DiscoveryMode")?.Value.Trim() switch
            {
                "Discoverable" => true,
                "NonDiscoverable" => false,
                _ => null,
            },
        };
    }

    private async Task<FoundDevice> Users(FoundDevice facts, CancellationToken cancel)
    {
        var answer = await Ask("device", new XElement(Device + "GetUsers"), cancel);
        return facts with
        {
            Users = [.. answer.Elements(Device + "User").Take(50).Select(u => Said(u.Element(Schema + "Username"))).OfType<string>()],
        };
    }

    /// <summary>Where its pictures are had, head by head in the order in which it names its sensors.</summary>
    /// <exception cref="FieldTrouble">It does not say.</exception>
    public async Task<ImmutableArray<SnapshotPlace>> SnapshotPlaces(CancellationToken cancel)
    {
        var profiles = (await Ask("media", new XElement(Media + "GetProfiles"), cancel)).Elements(Media + "Profiles").Take(MostProfiles);
        var sensors = new List<string>();
        var places = ImmutableArray.CreateBuilder<SnapshotPlace>();
        foreach (var profile in profiles)
        {
            if (profile.Attribute("token")?.Value is not { Length: > 0 and <= 64 } token)
                continue;
            var sensor = profile.Element(Schema + "VideoSourceConfiguration")?.Element(Schema + "SourceToken")?.Value ?? "";
            if (!sensors.Contains(sensor))
                sensors.Add(sensor);
            var size = profile.Element(Schema + "VideoEncoderConfiguration")?.Element(Schema + "Resolution");
            var answer = await Ask("media", new XElement(Media + "GetSnapshotUri", new XElement(Media + "ProfileToken", token)), cancel);
            // The host that it names is not believed: it is asked where it answers from.
            if (Uri.TryCreate(answer.Descendants(Schema + "Uri").FirstOrDefault()?.Value.Trim(), UriKind.Absolute, out var url))
                places.Add(
                    new(
                        sensors.IndexOf(sensor) + 1,
                        Whole(size?.Element(Schema + "Width")),
                        Whole(size?.Element(Schema + "Height")),
                        url.PathAndQuery
                    )
                );
        }
        _sensors = sensors;
        return places.Count > 0 ? places.DrainToImmutable() : throw new FieldTrouble("asked.no-snapshot");
    }

    /// <summary>One picture, as it comes.</summary>
    /// <exception cref="FieldTrouble">It gives none.</exception>
    public async Task<byte[]> Snapshot(SnapshotPlace place, CancellationToken cancel)
    {
        var url = new Uri(new UriBuilder(tls ? "https" : "http", address.ToString(), port).Uri, place.Path);
        var answer = await http.Ask(url, null, null, patience, cancel, MostPicture);
        if (answer.Status == HttpStatusCode.Unauthorized)
        {
            if (login is null)
                throw new FieldTrouble("asked.login-wanted");
            var shown =
                DigestLogin.Answer(answer.Challenges, login, "GET", url.PathAndQuery) ?? throw new FieldTrouble("asked.login-in-clear");
            answer = await http.Ask(url, null, shown, patience, cancel, MostPicture);
            if (answer.Status == HttpStatusCode.Unauthorized)
                throw new FieldTrouble("asked.login-refused");
        }
        var status = (int)answer.Status;
        return status is >= 300 and < 400 ? throw new FieldTrouble("asked.sends-elsewhere")
            : status != 200 || answer.Body.Length == 0 ? throw new FieldTrouble("asked.no-snapshot")
            : answer.Body;
    }

    /// <summary>As long may one picture be: 3840 x 2160 in good quality is a third of it.</summary>
    private const int MostPicture = 16 * 1024 * 1024;

    private const int MostProfiles = 24;

    private async Task<FoundDevice> Streams(FoundDevice facts, CancellationToken cancel)
    {
        var answer = await Ask("media", new XElement(Media + "GetProfiles"), cancel);
        var streams = ImmutableArray.CreateBuilder<CameraStream>();
        foreach (var profile in answer.Elements(Media + "Profiles").Take(MostStreams))
        {
            if (profile.Attribute("token")?.Value is not { Length: > 0 and <= 64 } token)
                continue;
            var video = profile.Element(Schema + "VideoEncoderConfiguration");
            var size = video?.Element(Schema + "Resolution");
            var rate = video?.Element(Schema + "RateControl");
            var stream = await Ask(
                "media",
                new XElement(
                    Media + "GetStreamUri",
                    new XElement(
                        Media + "StreamSetup",
                        new XElement(Schema + "Stream", "RTP-Unicast"),
                        new XElement(Schema + "Transport", new XElement(Schema + "Protocol", "RTSP"))
                    ),
                    new XElement(Media + "ProfileToken", token)
                ),
                cancel
            );
            var snapshot = await Ask("media", new XElement(Media + "GetSnapshotUri", new XElement(Media + "ProfileToken", token)), cancel);
            streams.Add(
                new(
                    Said(profile.Element(Schema + "Name")) ?? token,
                    Said(video?.Element(Schema + "Encoding")) ?? "",
                    Whole(size?.Element(Schema + "Width")),
                    Whole(size?.Element(Schema + "Height")),
                    Whole(rate?.Element(Schema + "FrameRateLimit")),
                    Whole(rate?.Element(Schema + "BitrateLimit")),
                    WithoutLogin(stream.Descendants(Schema + "Uri").FirstOrDefault()?.Value),
                    WithoutLogin(snapshot.Descendants(Schema + "Uri").FirstOrDefault()?.Value)
                )
            );
        }
        return facts with { Streams = streams.DrainToImmutable() };
    }

    /// <summary>Asks; where a login is wanted, shows it: by digest of HTTP where that is asked for, else in the message.</summary>
    /// <param name="open">Anybody may ask that: no login is shown.</param>
    private async Task<XElement> Ask(string service, XElement body, CancellationToken cancel, bool open = false)
    {
        var where = service == "device" ? path : await PathOf(service, cancel);
        var url = new UriBuilder(tls ? "https" : "http", address.ToString(), port, where).Uri;
        var answer = await http.Ask(url, Soap.Write(body), null, patience, cancel);
        if (answer.Status == HttpStatusCode.Unauthorized && !open)
        {
            if (login is null)
                throw new FieldTrouble("asked.login-wanted");
            var shown =
                DigestLogin.Answer(answer.Challenges, login, "POST", url.PathAndQuery) ?? throw new FieldTrouble("asked.login-in-clear");
            answer = await http.Ask(url, Soap.Write(body), shown, patience, cancel);
            if (answer.Status == HttpStatusCode.Unauthorized)
                throw new FieldTrouble("asked.login-refused");
            return Took(answer);
        }
        try
        {
            return Took(answer);
        }
        catch (FieldTrouble why) when (why.Why.Code == "asked.login-wanted" && login is not null && !open)
        {
            answer = await http.Ask(url, Soap.Write(body, login, time.GetUtcNow() + (_ahead ?? TimeSpan.Zero)), null, patience, cancel);
            try
            {
                return Took(answer);
            }
            catch (FieldTrouble again) when (again.Why.Code == "asked.login-wanted")
            {
                throw new FieldTrouble("asked.login-refused");
            }
        }
    }

    private static XElement Took(FieldHttp.Answer answer)
    {
        var status = (int)answer.Status;
        if (status is >= 300 and < 400)
            throw new FieldTrouble("asked.sends-elsewhere");
        // Faults of SOAP come with status 400 or 500, and say more than that.
        if (status is 401 or 403)
            throw new FieldTrouble("asked.login-wanted");
        if (status is not (200 or 400 or 500))
            throw new FieldTrouble("asked.no-camera", status.ToString(CultureInfo.InvariantCulture));
        return Soap.Read(answer.Body);
    }

    private readonly Dictionary<string, string> _paths = [];

    /// <summary>Where its media or imaging service is: the path of what it says, never the host.</summary>
    private async Task<string> PathOf(string service, CancellationToken cancel)
    {
        if (_paths.TryGetValue(service, out var known))
            return known;
        var name = service == "media" ? "Media" : "Imaging";
        var answer = await Ask("device", new XElement(Device + "GetCapabilities", new XElement(Device + "Category", name)), cancel);
        var said = answer.Descendants(Schema + name).FirstOrDefault()?.Element(Schema + "XAddr")?.Value.Trim();
        if (!Uri.TryCreate(said, UriKind.Absolute, out var url))
            return _paths[service] = $"/onvif/{service}_service";
        if (url.Host != address.ToString())
            _announced = Soap.Short(url.Host, 60);
        return _paths[service] = url.AbsolutePath;
    }

    /// <summary>How the motor that focuses a head can be driven (ONVIF Imaging, version 20).</summary>
    /// <param name="head">From 1, in the order in which it names its sensors.</param>
    /// <returns>Null: it has none, or none that says how.</returns>
    /// <exception cref="FieldTrouble">It gave no answer to that, or wants a login.</exception>
    public async Task<FocusMoves?> FocusMoves(int head, CancellationToken cancel)
    {
        if (await SensorOf(head, cancel) is not { } sensor)
            return null;
        XElement answer;
        try
        {
            answer = await Ask("imaging", new XElement(Imaging + "GetMoveOptions", sensor), cancel);
        }
        catch (FieldTrouble why) when (!why.WantsLogin)
        {
            // Who has no motor says so by a fault, each in its own way.
            return null;
        }
        MotorTravel? Range(string way, string of)
        {
            var range = answer.Descendants(Schema + way).FirstOrDefault()?.Element(Schema + of);
            return Real(range?.Element(Schema + "Min")) is { } least && Real(range?.Element(Schema + "Max")) is { } most
                ? new MotorTravel(least, most) is { IsSound: true } sound
                    ? sound
                    : null
                : null;
        }
        var moves = new FocusMoves(Range("Absolute", "Position"), Range("Continuous", "Speed") is { Most: > 0 } speed ? speed.Most : null);
        return moves is { Places: null, Speed: null } ? null : moves;
    }

    /// <summary>Has it leave its focus alone, so that it stays where it is driven. Not all can be told so: those have nothing to leave.</summary>
    public async Task FocusByHand(int head, CancellationToken cancel)
    {
        if (await SensorOf(head, cancel) is not { } sensor)
            return;
        try
        {
            await Ask(
                "imaging",
                new XElement(
                    Imaging + "SetImagingSettings",
                    sensor,
                    new XElement(
                        Imaging + "ImagingSettings",
                        new XElement(Schema + "Focus", new XElement(Schema + "AutoFocusMode", "MANUAL"))
                    ),
                    new XElement(Imaging + "ForcePersistence", "true")
                ),
                cancel
            );
        }
        catch (FieldTrouble why) when (!why.WantsLogin) { }
    }

    /// <summary>Drives the motor that focuses a head.</summary>
    /// <exception cref="FieldTrouble">It does not take it.</exception>
    public Task DriveFocus(int head, double position, CancellationToken cancel) =>
        MoveFocus(head, "Absolute", "Position", position, cancel);

    /// <summary>Lets the motor that focuses a head run until it is stopped.</summary>
    /// <param name="speed">In its own figures, negative: towards near.</param>
    /// <exception cref="FieldTrouble">It does not take it.</exception>
    public Task RunFocus(int head, double speed, CancellationToken cancel) => MoveFocus(head, "Continuous", "Speed", speed, cancel);

    private async Task MoveFocus(int head, string way, string by, double figure, CancellationToken cancel) =>
        await Ask(
            "imaging",
            new XElement(
                Imaging + "Move",
                await SensorOf(head, cancel),
                new XElement(Imaging + "Focus", new XElement(Schema + way, new XElement(Schema + by, figure)))
            ),
            cancel
        );

    /// <summary>Stops the motor that focuses a head.</summary>
    /// <exception cref="FieldTrouble">It does not take it.</exception>
    public async Task StopFocus(int head, CancellationToken cancel) =>
        await Ask("imaging", new XElement(Imaging + "Stop", await SensorOf(head, cancel)), cancel);

    /// <summary>Where the motor that focuses a head stands.</summary>
    /// <returns>Its place, null where it does not say; whether it still moves.</returns>
    public async Task<(double? Position, bool IsMoving)> FocusStatus(int head, CancellationToken cancel)
    {
        var answer = await Ask("imaging", new XElement(Imaging + "GetStatus", await SensorOf(head, cancel)), cancel);
        var status = answer.Descendants(Schema + "FocusStatus20").FirstOrDefault();
        return (Real(status?.Element(Schema + "Position")), status?.Element(Schema + "MoveStatus")?.Value.Trim() == "MOVING");
    }

    private List<string>? _sensors;

    private async Task<XElement?> SensorOf(int head, CancellationToken cancel)
    {
        if (_sensors is null)
            await SnapshotPlaces(cancel);
        return head >= 1 && head <= _sensors!.Count && _sensors[head - 1].Length > 0
            ? new XElement(Imaging + "VideoSourceToken", _sensors[head - 1])
            : null;
    }

    /// <summary>An address of a stream with whatever login stands in it left out.</summary>
    private static string WithoutLogin(string? said)
    {
        if (!Uri.TryCreate(said?.Trim(), UriKind.Absolute, out var url) || said!.Length > 500)
            return "";
        return new UriBuilder(url) { UserName = "", Password = "" }.Uri.ToString();
    }

    private static string? Said(XElement? of) => of is { Value: { } text } && Soap.Short(text, 100) is { Length: > 0 } said ? said : null;

    private static double? Real(XElement? of) =>
        double.TryParse(of?.Value, NumberStyles.Float, CultureInfo.InvariantCulture, out var n) && double.IsFinite(n) ? n : null;

    private static int? Whole(XElement? of) =>
        double.TryParse(of?.Value, NumberStyles.Float, CultureInfo.InvariantCulture, out var n) && n is > 0 and < 1e9 ? (int)n : null;
}

/// <summary>Where a picture of one head is had.</summary>
/// <param name="Head">From 1, in the order in which the camera names its sensors.</param>
/// <param name="Wide">Pixels; null: it did not say.</param>
/// <param name="High">Likewise.</param>
/// <param name="Path">With its query; the host is the camera's own.</param>
public sealed record SnapshotPlace(int Head, int? Wide, int? High, string Path)
{
    /// <summary>The smallest picture of a head that is wide enough; else its widest.</summary>
    /// <exception cref="FieldTrouble">The camera names no such head.</exception>
    public static SnapshotPlace Choose(IReadOnlyCollection<SnapshotPlace> places, int head, int leastWide)
    {
        var of = places.Where(p => p.Head == head).ToList();
        return of.Where(p => p.Wide >= leastWide).MinBy(p => p.Wide) ?? of.MaxBy(p => p.Wide ?? 0) ?? throw new FieldTrouble("aim.no-head");
    }
}
