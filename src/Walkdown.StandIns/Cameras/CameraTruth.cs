namespace Walkdown.StandIns.Cameras;

/// <summary>A camera on the network as it truly is, hidden from Walkdown.</summary>
public sealed record CameraTruth
{
    public required string Label { get; init; }

    /// <summary>False for a switch and its like: it has a page, and no services of a camera.</summary>
    public bool IsCamera { get; init; } = true;
    public required string Address { get; init; }
    public required string Mac { get; init; }
    public required string Serial { get; init; }
    public string Model { get; init; } = "";
    public string Firmware { get; init; } = "3.4.1";
    public string Name { get; init; } = "";
    public int Prefix { get; init; } = 24;
    public string Gateway { get; init; } = "";

    /// <summary>The switch that it is plugged at, and its port; empty: at none.</summary>
    public string Cabinet { get; init; } = "";
    public int Port { get; init; }

    /// <summary>It leases its address.</summary>
    public bool Leases { get; init; }

    /// <summary>The address that it has after its next start; null: the same.</summary>
    public string? AddressAfterStart { get; init; }
    public bool Discoverable { get; init; } = true;

    /// <summary>So many searches pass it by.</summary>
    public int MissesSearches { get; init; }

    /// <summary>No link, or no power: nothing answers.</summary>
    public bool Dead { get; init; }
    public double DelayMs { get; init; }
    public double ClockAheadSeconds { get; init; }
    public bool Ntp { get; init; } = true;

    /// <summary>Who may log in, with what; a factory login is one of them until it is changed.</summary>
    public IReadOnlyDictionary<string, string> Logins { get; init; } = new Dictionary<string, string>();

    /// <summary>It asks for a login in the message instead of over HTTP.</summary>
    public bool AsksInMessage { get; init; }

    /// <summary>Settings that it takes and forgets until it is started again.</summary>
    public bool SettingsAfterStart { get; init; }

    /// <summary>Settings that it does not take: name, address, search, time, gateway.</summary>
    public IReadOnlyList<string> Refuses { get; init; } = [];

    /// <summary>What was taken and waits for the next start.</summary>
    public CameraTruth? Waiting { get; init; }

    /// <summary>Its services announce themselves at another host.</summary>
    public string? AnnouncesHost { get; init; }

    /// <summary>Sensors under one address.</summary>
    public int Heads { get; init; } = 1;
    public int Wide { get; init; } = 2560;
    public int High { get; init; } = 1440;
    public double FramesPerSecond { get; init; } = 15;
    public double KilobitsPerSecond { get; init; } = 3000;
    public string Codec { get; init; } = "H264";

    /// <summary>What its stream is instead; null: what it says.</summary>
    public string? SendsCodec { get; init; }

    /// <summary>Failed logins in a row; after ten it lets nobody in until it is started again.</summary>
    public int Failed { get; init; }
    public string? Note { get; init; }
}
