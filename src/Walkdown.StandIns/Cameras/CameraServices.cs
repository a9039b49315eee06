using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Xml;
using System.Xml.Linq;

namespace Walkdown.StandIns.Cameras;

/// <summary>What one simulated camera answers: device and media services, and the description of its streams.</summary>
public sealed class CameraServices(FieldSite site, string label)
{
    private static readonly XNamespace Envelope = "http://www.w3.org/2003/05/soap-envelope";
    private static readonly XNamespace Device = "http://www.onvif.org/ver10/device/wsdl";
    private static readonly XNamespace Media = "http://www.onvif.org/ver10/media/wsdl";
    private static readonly XNamespace Imaging = "http://www.onvif.org/ver20/imaging/wsdl";
    private static readonly XNamespace Schema = "http://www.onvif.org/ver10/schema";
    private static readonly XNamespace Error = "http://www.onvif.org/ver10/error";
    private static readonly XNamespace Security = "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd";
    private static readonly XNamespace Utility = "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-utility-1.0.xsd";
    private static readonly string[] Open = ["GetSystemDateAndTime", "GetCapabilities", "GetHostname"];
    private readonly string _nonce = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(12));

    private sealed class Fault(string code, string text, int status = 400) : Exception(text)
    {
        public string Code { get; } = code;
        public int Status { get; } = status;
    }

    public async Task<TextAnswer> Http(TextQuestion question, CancellationToken cancel)
    {
        var truth = site.Of(label);
        if (truth is null || truth.Dead)
            return new(503);
        if (truth.DelayMs > 0)
            await Task.Delay(TimeSpan.FromMilliseconds(truth.DelayMs), cancel);
        if (!truth.IsCamera && question.Method != "GET")
            return new(404);
        if (question.Method == "GET" && truth.IsCamera && question.Url.StartsWith("/snapshot.jpg", StringComparison.Ordinal))
            return Snapshot(question, truth);
        if (question.Method == "GET")
            return new(200, "<html><title>Camera</title></html>", "text/html");
        XElement? said,
            header;
        try
        {
            var settings = new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null };
            using var reader = XmlReader.Create(new StringReader(question.Body), settings);
            var root = XDocument.Load(reader).Root;
            said = root?.Element(Envelope + "Body")?.Elements().FirstOrDefault();
            header = root?.Element(Envelope + "Header");
        }
        catch (XmlException)
        {
            return new(400);
        }
        if (said is null)
            return new(400);
        try
        {
            var what = said.Name.LocalName;
            if (!Open.Contains(what) && truth.Logins.Count > 0)
            {
                var shown = truth.AsksInMessage ? InMessage(header, truth) : ByDigest(question, truth, "POST");
                site.Tried(label, shown);
                if (shown is not true)
                    return truth.AsksInMessage ? Told(new Fault("NotAuthorized", "Sender not authorized")) : Challenge();
            }
            var answer =
                said.Name.Namespace == Media ? OfMedia(what, said, truth)
                : said.Name.Namespace == Imaging ? OfImaging(what, said)
                : OfDevice(what, said, truth);
            return new(200, Enveloped(answer));
        }
        catch (Fault fault)
        {
            return Told(fault);
        }
    }

    /// <summary>One picture: of a head, in the size of a stream.</summary>
    private TextAnswer Snapshot(TextQuestion question, CameraTruth truth)
    {
        if (truth.Logins.Count > 0)
        {
            var shown = ByDigest(question, truth, "GET");
            site.Tried(label, shown);
            if (shown is not true)
                return Challenge();
        }
        int Asked(string name) =>
            question.Url.Split('?', '&').FirstOrDefault(p => p.StartsWith(name + "=", StringComparison.Ordinal)) is { } part
            && int.TryParse(part[(name.Length + 1)..], out var n)
                ? n
                : 1;
        return site.Picture(label, Asked("head"), Asked("stream") == 2 ? 640 : truth.Wide) is { } picture
            ? new(200, Kind: "image/jpeg", File: picture)
            : new(404);
    }

    public async Task<TextAnswer> Rtsp(TextQuestion question, CancellationToken cancel)
    {
        var truth = site.Of(label);
        if (truth is null || truth.Dead)
            return new(503);
        if (truth.DelayMs > 0)
            await Task.Delay(TimeSpan.FromMilliseconds(truth.DelayMs), cancel);
        switch (question.Method)
        {
            case "OPTIONS":
                return new(200);
            case "DESCRIBE":
                if (truth.Logins.Count > 0 && ByDigest(question, truth, "DESCRIBE") is not true)
                    return Challenge();
                var second = question.Url.Contains("/2", StringComparison.Ordinal);
                return new(
                    200,
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"v=0\r\no=- 1 1 IN IP4 {truth.Address}\r\ns={truth.Name}\r\nt=0 0\r\nm=video 0 RTP/AVP 96\r\na=rtpmap:96 {truth.SendsCodec ?? truth.Codec}/90000\r\na=framerate:{truth.FramesPerSecond}\r\na=x-dimensions:{(second ? 640 : truth.Wide)},{(second ? 360 : truth.High)}\r\n"
                    ),
                    "application/sdp"
                );
            default:
                return new(405);
        }
    }

    private TextAnswer Challenge() => new(401, Challenges: [$"Digest realm=\"camera\", qop=\"auth\", algorithm=MD5, nonce=\"{_nonce}\""]);

    private static TextAnswer Told(Fault fault) =>
        new(
            fault.Status,
            Enveloped(
                new XElement(
                    Envelope + "Fault",
                    new XElement(
                        Envelope + "Code",
                        new XElement(Envelope + "Value", "s:Sender"),
                        new XElement(
                            Envelope + "Subcode",
                            new XElement(Envelope + "Value", new XAttribute(XNamespace.Xmlns + "ter", Error), "ter:" + fault.Code)
                        )
                    ),
                    new XElement(Envelope + "Reason", new XElement(Envelope + "Text", fault.Message))
                )
            )
        );

    private static string Enveloped(XElement body) =>
        new XElement(
            Envelope + "Envelope",
            new XAttribute(XNamespace.Xmlns + "s", Envelope),
            new XElement(Envelope + "Body", body)
        ).ToString(SaveOptions.DisableFormatting);

    private XElement OfDevice(string what, XElement said, CameraTruth truth)
    {
        XElement Done() => new(Device + (what + "Response"));
        void Set(string setting, Func<CameraTruth, CameraTruth> change)
        {
            if (truth.Refuses.Contains(setting))
                throw new Fault("ActionNotSupported", "This setting cannot be changed here", 500);
            site.Change(label, change);
        }
        switch (what)
        {
            case "GetSystemDateAndTime":
                var now = site.Now.AddSeconds(truth.ClockAheadSeconds);
                return new(
                    Device + "GetSystemDateAndTimeResponse",
                    new XElement(
                        Device + "SystemDateAndTime",
                        new XElement(Schema + "DateTimeType", truth.Ntp ? "NTP" : "Manual"),
                        new XElement(Schema + "DaylightSavings", "false"),
                        new XElement(Schema + "TimeZone", new XElement(Schema + "TZ", "UTC0")),
                        new XElement(
                            Schema + "UTCDateTime",
                            new XElement(
                                Schema + "Time",
                                new XElement(Schema + "Hour", now.Hour),
                                new XElement(Schema + "Minute", now.Minute),
                                new XElement(Schema + "Second", now.Second)
                            ),
                            new XElement(
                                Schema + "Date",
                                new XElement(Schema + "Year", now.Year),
                                new XElement(Schema + "Month", now.Month),
                                new XElement(Schema + "Day", now.Day)
                            )
                        )
                    )
                );
            case "GetCapabilities":
                return new(
                    Device + "GetCapabilitiesResponse",
                    new XElement(
                        Device + "Capabilities",
                        new XElement(
                            Schema + "Media",
                            new XElement(Schema + "XAddr", $"http://{truth.AnnouncesHost ?? truth.Address}/onvif/media_service")
                        ),
                        new XElement(
                            Schema + "Imaging",
                            new XElement(Schema + "XAddr", $"http://{truth.AnnouncesHost ?? truth.Address}/onvif/imaging_service")
                        )
                    )
                );
            case "GetDeviceInformation":
                return new(
                    Device + "GetDeviceInformationResponse",
                    new XElement(Device + "Manufacturer", "Ternhaven"),
                    new XElement(Device + "Model", truth.Model),
                    new XElement(Device + "FirmwareVersion", truth.Firmware),
                    new XElement(Device + "SerialNumber", truth.Serial),
                    new XElement(Device + "HardwareId", "1")
                );
            case "GetNetworkInterfaces":
                var held = new[] { new XElement(Schema + "Address", truth.Address), new XElement(Schema + "PrefixLength", truth.Prefix) };
                return new(
                    Device + "GetNetworkInterfacesResponse",
                    new XElement(
                        Device + "NetworkInterfaces",
                        new XAttribute("token", "eth0"),
                        new XElement(Schema + "Enabled", "true"),
                        new XElement(Schema + "Info", new XElement(Schema + "Name", "eth0"), new XElement(Schema + "HwAddress", truth.Mac)),
                        new XElement(
                            Schema + "IPv4",
                            new XElement(Schema + "Enabled", "true"),
                            new XElement(
                                Schema + "Config",
                                new XElement(Schema + (truth.Leases ? "FromDHCP" : "Manual"), held),
                                new XElement(Schema + "DHCP", truth.Leases ? "true" : "false")
                            )
                        )
                    )
                );
            case "GetNetworkDefaultGateway":
                return new(
                    Device + "GetNetworkDefaultGatewayResponse",
                    new XElement(
                        Device + "NetworkGateway",
                        truth.Gateway.Length > 0 ? new XElement(Schema + "IPv4Address", truth.Gateway) : null
                    )
                );
            case "GetHostname":
                return new(
                    Device + "GetHostnameResponse",
                    new XElement(
                        Device + "HostnameInformation",
                        new XElement(Schema + "FromDHCP", "false"),
                        new XElement(Schema + "Name", truth.Name)
                    )
                );
            case "GetDiscoveryMode":
                return new(
                    Device + "GetDiscoveryModeResponse",
                    new XElement(Device + "DiscoveryMode", truth.Discoverable ? "Discoverable" : "NonDiscoverable")
                );
            case "GetUsers":
                return new(
                    Device + "GetUsersResponse",
                    truth.Logins.Keys.Select(u => new XElement(
                        Device + "User",
                        new XElement(Schema + "Username", u),
                        new XElement(Schema + "UserLevel", "Administrator")
                    ))
                );
            case "SetHostname":
                var name = said.Element(Device + "Name")?.Value ?? "";
                Set("name", t => t with { Name = name });
                return Done();
            case "SetDiscoveryMode":
                var answers = said.Element(Device + "DiscoveryMode")?.Value == "Discoverable";
                Set("search", t => t with { Discoverable = answers });
                return Done();
            case "SetSystemDateAndTime":
                var ntp = said.Element(Device + "DateTimeType")?.Value == "NTP";
                Set("time", t => t with { Ntp = ntp, ClockAheadSeconds = ntp ? 0 : t.ClockAheadSeconds });
                return Done();
            case "SetNetworkDefaultGateway":
                var way = said.Element(Device + "IPv4Address")?.Value ?? "";
                Set("gateway", t => t with { Gateway = way });
                return Done();
            case "SetNetworkInterfaces":
                var manual = said.Descendants(Schema + "Manual").FirstOrDefault();
                var address = manual?.Element(Schema + "Address")?.Value ?? throw new Fault("InvalidArgVal", "No address");
                var prefix = int.Parse(manual.Element(Schema + "PrefixLength")?.Value ?? "24", CultureInfo.InvariantCulture);
                Set("address", t => t with { Address = address, Prefix = prefix, Leases = false, AddressAfterStart = null });
                return new(
                    Device + "SetNetworkInterfacesResponse",
                    new XElement(Device + "RebootNeeded", truth.SettingsAfterStart ? "true" : "false")
                );
            case "SystemReboot":
                site.Restart(label);
                return new(Device + "SystemRebootResponse", new XElement(Device + "Message", "Starting again"));
            default:
                throw new Fault("ActionNotSupported", "Not known here", 500);
        }
    }

    /// <summary>The motor of a head's lens: its travel is from 0 to 1, where it takes a place.</summary>
    private XElement OfImaging(string what, XElement said)
    {
        var token = said.Element(Imaging + "VideoSourceToken")?.Value ?? "";
        var head = int.TryParse(token.Replace("sensor", "", StringComparison.Ordinal), CultureInfo.InvariantCulture, out var n) ? n : 0;
        if (site.Motors is not { } motors || motors.Motor(label, head, null) is not var (at, isMoving))
            throw new Fault("ActionNotSupported", "This lens has no motor", 500);
        switch (what)
        {
            case "GetMoveOptions":
                return new(
                    Imaging + "GetMoveOptionsResponse",
                    new XElement(
                        Imaging + "MoveOptions",
                        motors.OnlyRuns(label, head)
                            ? new XElement(
                                Schema + "Continuous",
                                new XElement(Schema + "Speed", new XElement(Schema + "Min", -1), new XElement(Schema + "Max", 1))
                            )
                            : new XElement(
                                Schema + "Absolute",
                                new XElement(Schema + "Position", new XElement(Schema + "Min", 0), new XElement(Schema + "Max", 1))
                            )
                    )
                );
            case "Move" when motors.OnlyRuns(label, head):
                var runs = said.Descendants(Schema + "Continuous").FirstOrDefault()?.Element(Schema + "Speed")?.Value;
                if (!double.TryParse(runs, CultureInfo.InvariantCulture, out var speed) || speed is < -1 or > 1)
                    throw new Fault("InvalidArgVal", "It can only run");
                motors.Run(label, head, speed);
                return new(Imaging + "MoveResponse");
            case "Stop":
                motors.Run(label, head, 0);
                return new(Imaging + "StopResponse");
            case "Move":
                var to = said.Descendants(Schema + "Absolute").FirstOrDefault()?.Element(Schema + "Position")?.Value;
                if (!double.TryParse(to, CultureInfo.InvariantCulture, out var position) || position is < 0 or > 1)
                    throw new Fault("InvalidArgVal", "No place of its travel");
                motors.Motor(label, head, position);
                return new(Imaging + "MoveResponse");
            case "GetStatus":
                return new(
                    Imaging + "GetStatusResponse",
                    new XElement(
                        Imaging + "Status",
                        new XElement(
                            Schema + "FocusStatus20",
                            motors.OnlyRuns(label, head) ? null : new XElement(Schema + "Position", at),
                            new XElement(Schema + "MoveStatus", isMoving ? "MOVING" : "IDLE")
                        )
                    )
                );
            case "SetImagingSettings":
                return new(Imaging + "SetImagingSettingsResponse");
            default:
                throw new Fault("ActionNotSupported", "Not known here", 500);
        }
    }

    private static XElement OfMedia(string what, XElement said, CameraTruth truth)
    {
        XElement Profile(int head, int stream, string name, int wide, int high, double kilobits) =>
            new(
                Media + "Profiles",
                new XAttribute("token", Token(head, stream)),
                new XElement(Schema + "Name", truth.Heads > 1 ? $"{name} {head}" : name),
                new XElement(
                    Schema + "VideoSourceConfiguration",
                    new XElement(Schema + "SourceToken", string.Create(CultureInfo.InvariantCulture, $"sensor{head}"))
                ),
                new XElement(
                    Schema + "VideoEncoderConfiguration",
                    new XElement(Schema + "Encoding", truth.Codec),
                    new XElement(Schema + "Resolution", new XElement(Schema + "Width", wide), new XElement(Schema + "Height", high)),
                    new XElement(
                        Schema + "RateControl",
                        new XElement(Schema + "FrameRateLimit", truth.FramesPerSecond),
                        new XElement(Schema + "BitrateLimit", kilobits)
                    )
                )
            );
        // The first head's tokens are plain: 1 and 2.
        static string Token(int head, int stream) => (stream + (head - 1) * 2).ToString(CultureInfo.InvariantCulture);
        var asked = int.TryParse(said.Element(Media + "ProfileToken")?.Value, out var token) && token >= 1 ? token : 1;
        var (of, stream) = ((asked - 1) / 2 + 1, (asked - 1) % 2 + 1);
        return what switch
        {
            "GetProfiles" => new(
                Media + "GetProfilesResponse",
                Enumerable
                    .Range(1, truth.Heads)
                    .SelectMany(h =>
                        new[]
                        {
                            Profile(h, 1, "Record", truth.Wide, truth.High, truth.KilobitsPerSecond),
                            Profile(h, 2, "View", 640, 360, 512),
                        }
                    )
            ),
            "GetStreamUri" => new(
                Media + "GetStreamUriResponse",
                new XElement(Media + "MediaUri", new XElement(Schema + "Uri", $"rtsp://{truth.Address}/stream/1"))
            ),
            "GetSnapshotUri" => new(
                Media + "GetSnapshotUriResponse",
                new XElement(
                    Media + "MediaUri",
                    new XElement(Schema + "Uri", $"http://{truth.Address}/snapshot.jpg?head={of}&stream={stream}")
                )
            ),
            _ => throw new Fault("ActionNotSupported", "Not known here", 500),
        };
    }

    /// <summary>Whether the login in a message is right; null where there is none.</summary>
    private static bool? InMessage(XElement? header, CameraTruth truth)
    {
        var token = header?.Element(Security + "Security")?.Element(Security + "UsernameToken");
        if (token is null)
            return null;
        if (truth.Failed >= 10 || !truth.Logins.TryGetValue(token.Element(Security + "Username")?.Value ?? "", out var password))
            return false;
        var nonce = Convert.FromBase64String(token.Element(Security + "Nonce")?.Value ?? "");
        var created = token.Element(Utility + "Created")?.Value ?? "";
#pragma warning disable CA5350
        var right = Convert.ToBase64String(SHA1.HashData([.. nonce, .. Encoding.UTF8.GetBytes(created + password)]));
#pragma warning restore CA5350
        return token.Element(Security + "Password")?.Value == right;
    }

    /// <summary>Whether a digest of HTTP or RTSP is right; null where there is none.</summary>
    private bool? ByDigest(TextQuestion question, CameraTruth truth, string method)
    {
        if (!question.Headers.TryGetValue("Authorization", out var given) || !given.StartsWith("Digest ", StringComparison.Ordinal))
            return null;
        string Part(string name)
        {
            var at = given.IndexOf(name + "=", StringComparison.Ordinal);
            if (at < 0)
                return "";
            var value = given[(at + name.Length + 1)..];
            return value.StartsWith('"') ? value[1..value.IndexOf('"', 1)] : value.Split(',')[0].Trim();
        }
        if (truth.Failed >= 10 || !truth.Logins.TryGetValue(Part(" username"), out var password) || Part(" nonce") != _nonce)
            return false;
#pragma warning disable CA5351
        static string Hash(string text) => Convert.ToHexStringLower(MD5.HashData(Encoding.UTF8.GetBytes(text)));
#pragma warning restore CA5351
        var right = Hash(
            $"{Hash($"{Part(" username")}:camera:{password}")}:{_nonce}:{Part(" nc")}:{Part(" cnonce")}:auth:{Hash($"{method}:{Part(" uri")}")}"
        );
        return Part(" response") == right;
    }
}
