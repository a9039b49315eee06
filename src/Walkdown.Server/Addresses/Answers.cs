using System.Collections.Immutable;
using Walkdown.Core.Addressing;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Addresses;

/// <summary>Something wrong with one field of the plan.</summary>
/// <param name="Field">Which.</param>
/// <param name="Why">In a technician's words.</param>
public sealed record PlanTrouble(string Field, Message Why);

/// <summary>A plan as a file has it; nothing is kept of it.</summary>
/// <param name="Plan">Its fields, as they stand there.</param>
/// <param name="Wrong">What is wrong with them.</param>
public sealed record PlanRead(NetworkPlan Plan, ImmutableArray<PlanTrouble> Wrong);

/// <summary>A look at the network, or a recorder's list as it was read.</summary>
/// <param name="Of">The way, or the recorder's label.</param>
/// <param name="By">Who looked.</param>
/// <param name="Count">Devices or lines in it.</param>
/// <param name="Kind">Of what.</param>
public sealed record LookLine(Guid Id, string Of, string By, DateTimeOffset At, int Count, LookKind Kind);

/// <summary>What a look or a change at the network brought.</summary>
/// <param name="Found">Devices that answered.</param>
/// <param name="Words">What became of it, line by line; empty where the count says all.</param>
public sealed record LookAnswer(int Found, ImmutableArray<Message> Words);

/// <summary>The addresses of a job: the plan, the three lists side by side, and what to do next.</summary>
/// <param name="Plan">As it was typed; null where nobody has made one.</param>
/// <param name="Wrong">With it, field by field.</param>
/// <param name="Policy">How addresses are given, by the school that the job follows.</param>
/// <param name="TwoWays">A device counts as found once it was found on two ways.</param>
/// <param name="Rows">All devices, as a list shows them.</param>
/// <param name="Strip">The network address by address; null where none is planned.</param>
/// <param name="HasSearched">Somebody has looked at the network.</param>
/// <param name="Uncompared">So many that are as planned may stand in a recorder's list that nobody has read.</param>
/// <param name="HasAsMade">Somebody answers at an address of the factory.</param>
/// <param name="Leases">Who gives addresses; null: nobody has asked.</param>
/// <param name="Ports">Which device hangs on which port, by the switches; null: nobody has asked them.</param>
/// <param name="Network">What is wrong with the plan itself.</param>
/// <param name="Ambiguous">Values that stand twice in a list.</param>
/// <param name="Next">The next way to look; null: all are found, or nothing is left to try.</param>
/// <param name="Because">Why.</param>
/// <param name="Tester">The tester's own address; null where no network is planned.</param>
/// <param name="Looks">The newest first.</param>
/// <param name="Recorders">Labels of the job's recorders.</param>
/// <param name="RangeSize">Addresses that a scan of the range asks.</param>
/// <param name="CanReadLists">The recorders of this installation answer.</param>
public sealed record NetworkLedger(
    NetworkPlan? Plan,
    ImmutableArray<PlanTrouble> Wrong,
    AddressPolicy Policy,
    bool TwoWays,
    ImmutableArray<LedgerLine> Rows,
    NetworkStrip? Strip,
    ImmutableArray<NetworkFinding> Network,
    ImmutableArray<ThreeLists.Ambiguous> Ambiguous,
    FoundBy? Next,
    ImmutableArray<Message> Because,
    TesterAddress? Tester,
    ImmutableArray<LookLine> Looks,
    ImmutableArray<string> Recorders,
    int RangeSize,
    bool CanReadLists,
    bool HasSearched,
    int Uncompared,
    bool HasAsMade,
    LeaseServers? Leases,
    PortTables? Ports
);

/// <summary>Rows with all that is known of them.</summary>
/// <param name="Of">How many there are.</param>
public sealed record LedgerRows(int Of, ImmutableArray<LedgerRow> Rows);

/// <param name="Plan">As it was typed.</param>
public sealed record PlanRequest(NetworkPlan Plan);

/// <summary>An address that a device would get.</summary>
/// <param name="From">That it has in the plan; empty where it has none.</param>
/// <param name="To">That it would get; empty where none is left.</param>
public sealed record ProposedAddress(Guid DeviceId, string Label, string From, string To);

/// <param name="Anew">Those that have one get one too; else they keep it.</param>
/// <param name="Areas">Only these; empty: all.</param>
public sealed record ProposeRequest(bool Anew, ImmutableArray<string> Areas);

/// <summary>A login that is tried, kept in memory for the one work that it is given with.</summary>
/// <param name="At">Address, label or serial number of the one device that it is for; empty: for all.</param>
public sealed record GivenLogin(string User, string Password, string At = "")
{
    /// <summary>Never the secret.</summary>
    public override string ToString() => $"login at {At}";
}

/// <param name="Address">Of the device.</param>
/// <param name="Port">0: the usual ones.</param>
/// <param name="Path">Empty: the usual one.</param>
public sealed record NamedDevice(string Address, int Port = 0, string Path = "", bool Tls = false);

/// <summary>Look at the network.</summary>
/// <param name="Way">How.</param>
/// <param name="Confirmed">Somebody has seen which addresses are asked, and may ask them.</param>
/// <param name="Names">Devices that somebody names.</param>
/// <param name="Logins">To read more than a device tells anybody.</param>
/// <param name="By">Who looks.</param>
public sealed record LookRequest(
    FoundBy Way,
    bool Confirmed,
    ImmutableArray<NamedDevice> Names,
    ImmutableArray<GivenLogin> Logins,
    string By = ""
);

/// <summary>Ask who gives addresses; none is taken.</summary>
/// <param name="By">Who asks.</param>
public sealed record LeaseSearchRequest(string By = "");

/// <summary>Ask the job's switches which hardware addresses they have learned at which port.</summary>
/// <param name="By">Who asks.</param>
public sealed record AskSwitchesRequest(string By = "");

/// <summary>Do what Walkdown can do about one note.</summary>
/// <param name="DeviceId">Of the place.</param>
/// <param name="Mend">What.</param>
public sealed record MendRequest(Guid DeviceId, LedgerMend Mend, ImmutableArray<GivenLogin> Logins, Guid By) : Core.Entries.IAsked;

/// <summary>Start a device again, and see whether it answers at the same address.</summary>
public sealed record RestartRequest(Guid DeviceId, ImmutableArray<GivenLogin> Logins, Guid By) : Core.Entries.IAsked;

/// <summary>Give devices on a factory's address their planned ones, one after another.</summary>
/// <param name="Factory">The factory's login.</param>
public sealed record GiveRequest(GivenLogin Factory, Guid By) : Core.Entries.IAsked;

/// <summary>Try which logins open which device.</summary>
/// <param name="Factory">That should be refused; null: not tried.</param>
/// <param name="Own">That should open it.</param>
public sealed record TrialRequest(ImmutableArray<GivenLogin> Own, GivenLogin? Factory = null, string By = "");

/// <param name="Recorder">Its label.</param>
/// <param name="By">Who reads it.</param>
public sealed record ListRequest(string Recorder, string By = "");

/// <summary>Channels read off a recorder's page and typed.</summary>
/// <param name="Recorder">Its label.</param>
/// <param name="Channels">Of which something was typed.</param>
/// <param name="By">Who typed.</param>
public sealed record TypedListRequest(string Recorder, ImmutableArray<WrittenChannel> Channels, string By = "");
