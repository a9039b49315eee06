namespace Walkdown.Storage.Entities;

/// <summary>What a look brought.</summary>
public enum LookKind
{
    /// <summary>Devices that answered on the network.</summary>
    Network,

    /// <summary>A recorder's own list.</summary>
    List,

    /// <summary>Addresses that were offered to who asked for one.</summary>
    Leases,

    /// <summary>Hardware addresses that switches have learned at their ports.</summary>
    Ports,

    /// <summary>What a recorder said of itself.</summary>
    Recorder,

    /// <summary>Events that somebody made before cameras, to be found again at a recorder.</summary>
    Events,

    /// <summary>What the clips of such events prove.</summary>
    Proofs,

    /// <summary>Our clock against a server of time.</summary>
    Clock,
}

/// <summary>One look at a job's network, or at a recorder's list, with everything that answered. Rows are only added; no login is ever in
/// one.</summary>
public sealed class NetworkLook
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public LookKind Kind { get; set; }

    /// <summary>The way that was gone, as Core names it, or the recorder's label.</summary>
    public required string Of { get; set; }

    /// <summary>Who looked; empty where nobody was chosen.</summary>
    public string By { get; set; } = "";

    /// <summary>When the last answer was in, by the server's clock.</summary>
    public DateTimeOffset At { get; set; }

    /// <summary>What answered, as a list of Core's shape.</summary>
    public required string FoundJson { get; set; }
}
