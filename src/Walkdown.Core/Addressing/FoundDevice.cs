using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>How a device was found.</summary>
public enum FoundBy
{
    /// <summary>It answered a search.</summary>
    Search,

    /// <summary>It answered a later one, after a wait.</summary>
    SearchAgain,

    /// <summary>Its address took a connection.</summary>
    RangeScan,

    /// <summary>On another network than the plan's, such as the factory's.</summary>
    OtherNetwork,

    /// <summary>Somebody gave its address.</summary>
    ByHand,
}

/// <summary>One stream that a camera offers.</summary>
/// <param name="Name">As the camera calls it.</param>
/// <param name="Codec">Such as H264; empty where it did not say.</param>
/// <param name="Wide">Pixels; null where it did not say.</param>
/// <param name="High">Likewise.</param>
/// <param name="FramesPerSecond">At most.</param>
/// <param name="KilobitsPerSecond">At most.</param>
/// <param name="StreamUrl">Where it is had; no login stands in it.</param>
/// <param name="SnapshotUrl">Where one picture is had.</param>
/// <param name="Described">What the stream itself says: codec and size; empty where it was not asked, or said nothing.</param>
public sealed record CameraStream(
    string Name,
    string Codec = "",
    int? Wide = null,
    int? High = null,
    double? FramesPerSecond = null,
    double? KilobitsPerSecond = null,
    string StreamUrl = "",
    string SnapshotUrl = "",
    string Described = ""
)
{
    /// <summary>What the camera says of it: codec and size, as a stream describes itself; empty where it says neither.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string Says => Of(Codec, Wide, High);

    /// <summary>Codec and size in one way of writing: "H264 2560x1440".</summary>
    public static string Of(string codec, int? wide, int? high) =>
        string.Join(
            ' ',
            new[]
            {
                codec.ToUpperInvariant(),
                wide is { } w && high is { } h ? string.Create(CultureInfo.InvariantCulture, $"{w}x{h}") : "",
            }.Where(s => s.Length > 0)
        );
}

/// <summary>What a trial of logins showed. No login is in it.</summary>
/// <param name="OpenToAll">It answers what only a login should be told, without one.</param>
/// <param name="FactoryOpens">The factory's login opens it; null: not tried.</param>
/// <param name="OwnOpens">The job's login opens it; null: not tried.</param>
/// <param name="OwnShared">So many other devices are opened by the same one.</param>
public sealed record LoginTrial(bool OpenToAll, bool? FactoryOpens, bool? OwnOpens, int OwnShared = 0);

/// <summary>What a device on the network says of itself. What it did not say, or not without a login, is null.</summary>
public sealed record FoundDevice
{
    /// <summary>Of the site, that it answered from.</summary>
    public required string Address { get; init; }

    /// <summary>How it was found, in the order of the ways.</summary>
    public ImmutableArray<FoundBy> By { get; init; } = [];

    /// <summary>Where its services answer.</summary>
    public int Port { get; init; } = 80;

    /// <summary>Path of its device service; empty where it has none that we know.</summary>
    public string Path { get; init; } = "";

    /// <summary>Its services are reached over TLS.</summary>
    public bool Tls { get; init; }

    /// <summary>SHA-256 of the certificate that it showed, hexadecimal.</summary>
    public string? Fingerprint { get; init; }

    /// <summary>Another that it showed in an earlier look; null where it always showed the same.</summary>
    public string? FingerprintBefore { get; init; }

    /// <summary>Its own name for itself, which stays the same when its address changes.</summary>
    public string Endpoint { get; init; } = "";

    /// <summary>Who made it, by its own word.</summary>
    public string? Maker { get; init; }

    /// <summary>Its model.</summary>
    public string? Model { get; init; }

    /// <summary>Its serial number.</summary>
    public string? Serial { get; init; }

    /// <summary>Its software.</summary>
    public string? Firmware { get; init; }

    /// <summary>Its hardware address, as it writes it.</summary>
    public string? HardwareAddress { get; init; }

    /// <summary>Its name.</summary>
    public string? Name { get; init; }

    /// <summary>The address that it says it has; where it answered from is <see cref="Address"/>.</summary>
    public string? OwnAddress { get; init; }

    /// <summary>Its mask.</summary>
    public string? Mask { get; init; }

    /// <summary>Its gateway.</summary>
    public string? Gateway { get; init; }

    /// <summary>It leases its address.</summary>
    public bool? Leases { get; init; }

    /// <summary>It answers searches.</summary>
    public bool? AnswersSearches { get; init; }

    /// <summary>How far its clock is before ours, seconds.</summary>
    public double? ClockAheadSeconds { get; init; }

    /// <summary>What that may be off by: half of the way, and half of the step that it tells; null where it was not read so.</summary>
    public double? ClockUncertaintySeconds { get; init; }

    /// <summary>Where its time comes from: ntp or manual.</summary>
    public string? TimeSource { get; init; }

    /// <summary>Its time zone, as it writes it.</summary>
    public string? TimeZone { get; init; }

    /// <summary>Who may log in, by user name; null where it does not say.</summary>
    public ImmutableArray<string>? Users { get; init; }

    /// <summary>The streams that it offers.</summary>
    public ImmutableArray<CameraStream> Streams { get; init; } = [];

    /// <summary>It announces itself at another address than it answers from.</summary>
    public string? AnnouncesElsewhere { get; init; }

    /// <summary>Several devices answered at this address, now one and now another: their serial numbers or hardware addresses.</summary>
    public ImmutableArray<string> Others { get; init; } = [];

    /// <summary>What a trial of its logins showed; null: none was made.</summary>
    public LoginTrial? Logins { get; init; }

    /// <summary>After a start that was asked for it answered at the same address; null: none was asked for.</summary>
    public bool? KeptAddress { get; init; }

    /// <summary>What it did not say, and why; null where it said all that was asked.</summary>
    public Message? Trouble { get; init; }

    /// <summary>What it is held together by through a sweep: its serial number, else its hardware address, its own name for itself, its
    /// address.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string Key =>
        Serial is { Length: > 0 } serial ? "serial:" + serial.Trim().ToUpperInvariant()
        : Addressing.HardwareAddress.Read(HardwareAddress) is { } mac ? "mac:" + mac
        : Endpoint.Length > 0 ? "endpoint:" + Endpoint
        : "address:" + Address;

    /// <summary>Two looks at one device, made one: what the later did not say is as the earlier said.</summary>
    public FoundDevice With(FoundDevice later) =>
        later with
        {
            By = [.. By.Union(later.By).Order()],
            Fingerprint = later.Fingerprint ?? Fingerprint,
            FingerprintBefore =
                later.Fingerprint is { } shown && Fingerprint is { } before && shown != before
                    ? before
                    : later.FingerprintBefore ?? FingerprintBefore,
            Endpoint = later.Endpoint.Length > 0 ? later.Endpoint : Endpoint,
            Path = later.Path.Length > 0 ? later.Path : Path,
            Maker = later.Maker ?? Maker,
            Model = later.Model ?? Model,
            Serial = later.Serial ?? Serial,
            Firmware = later.Firmware ?? Firmware,
            HardwareAddress = later.HardwareAddress ?? HardwareAddress,
            Name = later.Name ?? Name,
            OwnAddress = later.OwnAddress ?? OwnAddress,
            Mask = later.Mask ?? Mask,
            Gateway = later.Gateway ?? Gateway,
            Leases = later.Leases ?? Leases,
            AnswersSearches = later.AnswersSearches ?? AnswersSearches,
            ClockAheadSeconds = later.ClockAheadSeconds ?? ClockAheadSeconds,
            ClockUncertaintySeconds = later.ClockAheadSeconds is null ? ClockUncertaintySeconds : later.ClockUncertaintySeconds,
            TimeSource = later.TimeSource ?? TimeSource,
            TimeZone = later.TimeZone ?? TimeZone,
            Users = later.Users ?? Users,
            Streams = later.Streams.IsEmpty ? Streams : later.Streams,
            Logins = later.Logins ?? Logins,
            KeptAddress = later.KeptAddress ?? KeptAddress,
            // A look without a login says that one is wanted: what was told with one still stands.
            Trouble = later.Serial is null && Serial is not null && later.Trouble?.Code == "asked.login-wanted" ? Trouble : later.Trouble,
            // Who has moved has left those behind that shared his address.
            Others = later.Address == Address ? [.. Others.Union(later.Others).Order(StringComparer.Ordinal)] : later.Others,
        };
}
