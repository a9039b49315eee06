using Walkdown.Core.Addressing;

namespace Walkdown.Core.Recording;

/// <summary>How a disk is, by the recorder's word.</summary>
public enum DiskState
{
    /// <summary>It did not say, or in a word that we do not know.</summary>
    Untold,

    /// <summary>Sound.</summary>
    Healthy,

    /// <summary>There, and with errors.</summary>
    Failing,

    /// <summary>The bay should have one, and has none.</summary>
    Missing,
}

/// <summary>A bay of a recorder.</summary>
/// <param name="Bay">From 1.</param>
/// <param name="Tb">Of its disk, 10^12 bytes; null where it did not say.</param>
/// <param name="State">By the recorder's word.</param>
public sealed record RecorderDisk(int Bay, double? Tb, DiskState State);

/// <summary>Whether a camera answers its recorder.</summary>
public enum ChannelState
{
    /// <summary>It did not say.</summary>
    Untold,

    /// <summary>A picture arrives.</summary>
    Live,

    /// <summary>Assigned, and nobody answers.</summary>
    Offline,

    /// <summary>Nobody is assigned.</summary>
    Empty,
}

/// <summary>When a channel is recorded, by the recorder's word.</summary>
public enum RecordedWhen
{
    /// <summary>It did not say, or in a word that we do not know.</summary>
    Untold,

    /// <summary>All day.</summary>
    Always,

    /// <summary>When something moves.</summary>
    Motion,

    /// <summary>By the clock.</summary>
    Schedule,

    /// <summary>When an input of the recorder is closed, or another device rings.</summary>
    Alarm,

    /// <summary>Never.</summary>
    Off,
}

/// <summary>One channel as a recorder tells of it. What it did not say is null or empty.</summary>
/// <param name="Number">From 1.</param>
/// <param name="Name">That it shows in the picture.</param>
/// <param name="Serial">Of the device that is assigned.</param>
/// <param name="HardwareAddress">Likewise.</param>
/// <param name="Address">That it asks.</param>
/// <param name="Input">Which of the device's pictures, from 1; null where it did not say.</param>
/// <param name="State">Whether a picture arrives.</param>
/// <param name="When">When it is recorded.</param>
/// <param name="Codec">Such as H264.</param>
/// <param name="Wide">Pixels.</param>
/// <param name="High">Pixels.</param>
/// <param name="FramesPerSecond">Of what is written.</param>
/// <param name="PeakMbps">The most that arrives when everything moves, Mbit/s.</param>
/// <param name="MeanMbps">Written over the last full day, Mbit/s on the mean.</param>
/// <param name="RecordedPercent">Of the last full day that is on the disk.</param>
/// <param name="Oldest">Of what is on the disk, by its clock.</param>
/// <param name="Newest">Likewise.</param>
/// <param name="Week">Hours in which a schedule records; null where it did not say.</param>
/// <param name="Rang">When its zones rang in the last two days, by our clock; null where it did not say.</param>
public sealed record RecorderChannel(
    int Number,
    string Name = "",
    string Serial = "",
    string HardwareAddress = "",
    string Address = "",
    int? Input = null,
    ChannelState State = ChannelState.Untold,
    RecordedWhen When = RecordedWhen.Untold,
    string Codec = "",
    int? Wide = null,
    int? High = null,
    double? FramesPerSecond = null,
    double? PeakMbps = null,
    double? MeanMbps = null,
    double? RecordedPercent = null,
    DateTimeOffset? Oldest = null,
    DateTimeOffset? Newest = null,
    ImmutableArray<WeekSpan>? Week = null,
    ImmutableArray<DateTimeOffset>? Rang = null
)
{
    /// <summary>By what its device is told from another: serial number, else hardware address, else address; empty: by nothing.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string Who =>
        Serial.Length > 0 ? Serial
        : HardwareAddress.Length > 0 ? HardwareAddress
        : Address;

    /// <summary>The same with which of its pictures: what a clip is of.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string View => Who.Length == 0 ? "" : string.Create(CultureInfo.InvariantCulture, $"{Who.ToUpperInvariant()}/{Input ?? 1}");

    /// <summary>Whether something is written without a signal from elsewhere; null: it did not say.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool? IsKept =>
        When switch
        {
            RecordedWhen.Always or RecordedWhen.Motion or RecordedWhen.Schedule => true,
            RecordedWhen.Alarm or RecordedWhen.Off => false,
            _ => null,
        };
}

/// <summary>A recorder's clock against ours.</summary>
/// <param name="OffsetSeconds">Positive: it is ahead.</param>
/// <param name="UncertaintySeconds">No path hides more.</param>
/// <param name="Source">Where its time comes from, by its word; empty where it did not say.</param>
/// <param name="Zone">As it writes it; empty likewise.</param>
public sealed record RecorderClock(double OffsetSeconds, double UncertaintySeconds, string Source = "", string Zone = "");

/// <summary>What a recorder said of itself in one look. What it did not say is null or empty, and means nothing.</summary>
/// <param name="Serial">Of the recorder.</param>
/// <param name="Firmware">Its software.</param>
/// <param name="Clock">Null where its clock could not be read.</param>
/// <param name="StartedAt">Its last start, by our clock; null where it did not say.</param>
/// <param name="IntakeMbps">That it takes in at most, Mbit/s.</param>
/// <param name="Disks">Bay by bay.</param>
/// <param name="Channels">By number.</param>
/// <param name="Users">Who may log in, by name; null where it did not say.</param>
/// <param name="Notifies">Who is told of its troubles; null likewise.</param>
/// <param name="IsTyped">Of a list that a person exported or typed: it says who is registered, and nothing of what runs.</param>
public sealed record RecorderReading(
    string Serial,
    string Firmware,
    RecorderClock? Clock,
    DateTimeOffset? StartedAt,
    double? IntakeMbps,
    ImmutableArray<RecorderDisk> Disks,
    ImmutableArray<RecorderChannel> Channels,
    ImmutableArray<string>? Users = null,
    ImmutableArray<string>? Notifies = null,
    bool IsTyped = false
)
{
    /// <summary>Of a list that a person exported: who is registered, and nothing of what runs.</summary>
    public static RecorderReading OfList(IEnumerable<RegisteredDevice> list) =>
        new(
            "",
            "",
            null,
            null,
            null,
            [],
            [
                .. list.GroupBy(r => r.Channel)
                    .Select(g => g.First())
                    .Select(r => new RecorderChannel(r.Channel, r.Name, r.Serial, r.Mac, r.Address)),
            ],
            IsTyped: true
        );

    /// <summary>Who is registered, for the three lists of addresses.</summary>
    /// <param name="recorder">Its label.</param>
    public ImmutableArray<RegisteredDevice> ListOf(string recorder) =>
        [
            .. Channels
                .Where(c => c.State != ChannelState.Empty)
                .Select(c => new RegisteredDevice(recorder, c.Number, c.Name, c.HardwareAddress, c.Serial, c.Address)),
        ];

    /// <summary>What its disks say together, in the words of the row of its Card; null where it told of none, or not of each.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string? Disk =>
        Disks.IsDefaultOrEmpty ? null
        : Disks.Any(d => d.State == DiskState.Missing) ? "missing"
        : Disks.Any(d => d.State == DiskState.Failing) ? "warns"
        : Disks.All(d => d.State == DiskState.Healthy) ? "healthy"
        : null;
}
