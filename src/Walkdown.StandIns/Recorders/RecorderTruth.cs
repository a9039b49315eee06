using System.Text.Json;

namespace Walkdown.StandIns.Recorders;

/// <summary>One channel as it truly is, where it is not as it should be.</summary>
public sealed record ChannelTruth
{
    /// <summary>Label of the device whose picture arrives; null: the planned one.</summary>
    public string? Carries { get; init; }

    /// <summary>Which of its pictures; null: the planned one.</summary>
    public int? Input { get; init; }

    /// <summary>Of a device that the schedule does not know.</summary>
    public string? Serial { get; init; }

    /// <summary>That is asked; null: the planned one.</summary>
    public string? Address { get; init; }

    /// <summary>Its name; null: the label.</summary>
    public string? Name { get; init; }

    /// <summary>always, motion, schedule, alarm or off.</summary>
    public string? Mode { get; init; }

    /// <summary>Hours of the day, UTC, from and to, in which a schedule records.</summary>
    public int[] Hours { get; init; } = [];

    /// <summary>What is set is set until the next start; then it is as it was made: this mode.</summary>
    public string? ModeAfterStart { get; init; }

    /// <summary>Likewise its name.</summary>
    public string? NameAfterStart { get; init; }

    /// <summary>Size of what it takes from the camera, pixels; none: its largest.</summary>
    public int[] Size { get; init; } = [];

    /// <summary>Pictures a second that are written of the twelve that it tells; null: all.</summary>
    public double? Written { get; init; }

    /// <summary>Its zones ring so often, minutes: a road or a tree is in them; null: a few times a day.</summary>
    public double? RingsEveryMinutes { get; init; }

    /// <summary>Nobody answers.</summary>
    public bool Offline { get; init; }

    /// <summary>Seconds after an event from which and to which no picture is written.</summary>
    public double[] Gap { get; init; } = [];

    /// <summary>What was recorded before a start is gone after it.</summary>
    public bool Forgets { get; init; }

    /// <summary>The sending breaks off after so many pictures, once.</summary>
    public int? BreaksAfter { get; init; }

    /// <summary>Its camera's side of the event link; null: as it should be.</summary>
    public LinkSide? LinkAtCamera { get; init; }

    /// <summary>The recorder's side of it; null: as it should be.</summary>
    public LinkSide? LinkAtRecorder { get; init; }
    public string? Note { get; init; }
}

/// <summary>What one side of an event link has; null: nothing there.</summary>
/// <param name="Server">Whom the camera sends to; a recorder has none.</param>
/// <param name="Login">The other's is set.</param>
/// <param name="Id">By which the camera is known.</param>
public sealed record LinkSide(string? Server = null, int? Port = null, bool Login = false, string? Id = null);

/// <summary>The event link of a plate camera as it should be.</summary>
/// <param name="Role">entry, exit or other.</param>
public sealed record LinkTruth(string Label, string Role, string Id);

/// <summary>A bay whose disk is not sound.</summary>
public sealed record DiskTruth(int Bay, string State);

/// <summary>A recorder as it truly is.</summary>
public sealed record RecorderTruth
{
    public string Label { get; init; } = "";
    public string Firmware { get; init; } = "4.2.0";
    public double ClockAheadSeconds { get; init; }
    public string Zone { get; init; } = "Europe/Dublin";
    public string TimeSource { get; init; } = "ntp";
    public double? IntakeMbps { get; init; }
    public int Bays { get; init; } = 6;
    public double DiskTb { get; init; } = 12;
    public DiskTruth[] Disks { get; init; } = [];
    public double DaysKept { get; init; } = 31;

    /// <summary>Simulated seconds in which it answers nobody after a start.</summary>
    public double BootSeconds { get; init; } = 5;
    public string[] Users { get; init; } = [];
    public string[] Notifies { get; init; } = [];
    public Dictionary<int, ChannelTruth> Channels { get; init; } = [];
    public string? Note { get; init; }
}

/// <summary>What is planted at the recorders of the demo.</summary>
public sealed record RecorderFile(RecorderTruth[] Recorders, LinkTruth[]? Links = null)
{
    public static RecorderFile Read(string json) => JsonSerializer.Deserialize<RecorderFile>(json, JsonSerializerOptions.Web)!;
}
