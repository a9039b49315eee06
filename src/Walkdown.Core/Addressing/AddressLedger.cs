using Walkdown.Core.Catalogues;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>How addresses are given at a job, by its school.</summary>
public enum AddressPolicy
{
    /// <summary>Fixed, reserved for a lease, or leased once and frozen outside the pool.</summary>
    ReservedOrFrozen,

    /// <summary>As the plan says, fixed in each device.</summary>
    FixedPlan,

    /// <summary>As they are leased.</summary>
    Automatic,
}

/// <summary>What the schools of a job say of addresses.</summary>
public static class AddressSchools
{
    /// <summary>How addresses are given.</summary>
    /// <param name="features">Of the sides that the job takes.</param>
    public static AddressPolicy PolicyOf(IReadOnlySet<string> features) =>
        features.Contains("address-fixed-only") ? AddressPolicy.FixedPlan
        : features.Contains("address-may-move") ? AddressPolicy.Automatic
        : AddressPolicy.ReservedOrFrozen;

    /// <summary>A device counts as found once it was found on two ways.</summary>
    public static bool AsksTwoWays(IReadOnlySet<string> features) => features.Contains("search-twice");
}

/// <summary>A device that the register knows, as far as its network goes.</summary>
/// <param name="Id">Of the place.</param>
/// <param name="Label">Of the place.</param>
/// <param name="Name">That it should have.</param>
/// <param name="Address">Planned; empty where none is.</param>
/// <param name="Mac">Of the unit there; empty where nobody has noted it.</param>
/// <param name="Serial">Likewise.</param>
/// <param name="Firmware">That the job asks for; empty where it asks for none.</param>
/// <param name="LinkUp">What the switch or the tester read last; null: nobody looked.</param>
/// <param name="Powered">Likewise.</param>
/// <param name="IsCamera">It has the services of a camera; a switch or a recorder answers, and not as one.</param>
public sealed record PlannedDevice(
    Guid Id,
    string Label,
    string Name,
    string Address,
    string Mac = "",
    string Serial = "",
    string Firmware = "",
    bool? LinkUp = null,
    bool? Powered = null,
    bool IsCamera = true
)
{
    /// <summary>Where its model has what set.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public ImmutableArray<SettingPlace> Places { get; init; } = [];

    /// <summary>Labels of the recorders that it is planned on, one for each of its channels; empty: on none.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public ImmutableArray<string> Recorders { get; init; } = [];

    /// <summary>Where the plate cameras of the site send their events: those that send to its address are told before it changes.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public ImmutableArray<LinkEnd> Links { get; init; } = [];
}

/// <summary>Where a plate camera sends its events.</summary>
/// <param name="Camera">Label of its place.</param>
/// <param name="Server">The address, as it was read at the camera.</param>
public readonly record struct LinkEnd(string Camera, Ipv4Address Server);

/// <summary>A line of a recorder's own list.</summary>
/// <param name="Recorder">Its label.</param>
/// <param name="Channel">From 1.</param>
/// <param name="Name">Of the channel.</param>
/// <param name="Mac">That the recorder knows; empty where it shows none.</param>
/// <param name="Serial">Likewise.</param>
/// <param name="Address">That it asks for the stream at.</param>
public sealed record RegisteredDevice(string Recorder, int Channel, string Name, string Mac, string Serial, string Address)
{
    /// <summary>Its own within all lists.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string Key => $"{Recorder}#{Channel.ToString(CultureInfo.InvariantCulture)}";
}

/// <summary>How much a note matters.</summary>
public enum LedgerWeight
{
    /// <summary>It is not as it should be.</summary>
    Wrong,

    /// <summary>Somebody has to look.</summary>
    Look,

    /// <summary>Told, and nothing to do.</summary>
    Told,
}

/// <summary>What Walkdown itself can do about a note.</summary>
public enum LedgerMend
{
    /// <summary>Gives the device its planned address and the network's mask.</summary>
    SetAddress,

    /// <summary>Tells it the network's gateway.</summary>
    SetGateway,

    /// <summary>Gives it its planned name.</summary>
    SetName,

    /// <summary>Has it answer searches.</summary>
    AnswerSearches,

    /// <summary>Has it take its time from the network.</summary>
    SetTimeSource,

    /// <summary>Writes the serial number and hardware address that were found into the register.</summary>
    NoteUnit,

    /// <summary>Takes the address that was found into the plan.</summary>
    PlanFollows,
}

/// <summary>One thing about a device that is told.</summary>
/// <param name="Code">Its meaning stands in the texts under this code, what to do under the code and ".mend".</param>
/// <param name="Args">Of both.</param>
/// <param name="Weight">How much it matters.</param>
/// <param name="Mend">What one press can do; null: nothing.</param>
public sealed record LedgerNote(string Code, ImmutableArray<string> Args, LedgerWeight Weight, LedgerMend? Mend = null);

/// <summary>How one device stands, by what is told of it.</summary>
public enum RowStanding
{
    /// <summary>Nothing is wrong with what was compared.</summary>
    AsPlanned,

    /// <summary>Something is not as it should be.</summary>
    ToMend,

    /// <summary>Somebody has to look.</summary>
    ToLook,

    /// <summary>It is planned, somebody looked, and it does not answer.</summary>
    Silent,

    /// <summary>It is planned, and nobody has looked in a way that it would answer.</summary>
    Unlooked,
}

/// <summary>One device in the three lists.</summary>
/// <param name="Planned">Null where nobody planned it.</param>
/// <param name="Found">Null where it did not answer.</param>
/// <param name="Registered">Null where no recorder has it.</param>
/// <param name="Class">How it stands.</param>
/// <param name="FoundBy">What plan and network met by.</param>
/// <param name="Differences">Fields that the lists name otherwise.</param>
/// <param name="Notes">The gravest first.</param>
public sealed record LedgerRow(
    PlannedDevice? Planned,
    FoundDevice? Found,
    RegisteredDevice? Registered,
    ListClass Class,
    DeviceKey? FoundBy,
    ImmutableArray<ThreeLists.Difference> Differences,
    ImmutableArray<LedgerNote> Notes
)
{
    /// <summary>Its own within the ledger: the place, else who answers where, else the channel.</summary>
    public string Key { get; init; } =
        Planned is { } p ? p.Id.ToString()
        : Found is { } f ? $"found {f.Address} {f.Serial ?? f.HardwareAddress}"
        : $"list {Registered?.Key}";

    /// <summary>What it is called in a list.</summary>
    public string Name { get; init; } = Planned?.Label ?? Found?.Name ?? Registered?.Name ?? Found?.Address ?? "";

    /// <summary>How it stands.</summary>
    public RowStanding Standing =>
        Notes.Any(n => n.Code.StartsWith("ledger.silent.", StringComparison.Ordinal)) ? RowStanding.Silent
        : Notes.Any(n => n.Weight == LedgerWeight.Wrong) ? RowStanding.ToMend
        : Notes.Any(n => n.Weight == LedgerWeight.Look) ? RowStanding.ToLook
        : IsUnlooked ? RowStanding.Unlooked
        : RowStanding.AsPlanned;

    /// <summary>Nobody has looked for it in a way that it would answer.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsUnlooked => Notes.Any(n => n.Code is NotLooked or NoSearch or OnRecorder);

    internal const string NotLooked = "ledger.not-looked",
        NoSearch = "ledger.no-search",
        OnRecorder = "ledger.unplanned-on-recorder";

    /// <summary>Why no recorder's list has it here; null: one has.</summary>
    public Message? Unregistered { get; init; }

    /// <summary>Another has its address too, or is heard there.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsDouble =>
        Notes.Any(n => n.Code is "ledger.found.duplicateAddress" or "ledger.found.factoryAddressShared" or "ledger.several-answer");

    /// <summary>It is still on an address that it left its factory with.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsAsMade => Notes.Any(n => n.Code is "ledger.found.factoryAddress" or "ledger.found.factoryAddressShared");

    /// <summary>Who asks for it, or sends to it, where it is now, and hears nothing once it has its planned address.</summary>
    public ImmutableArray<Message> Breaks { get; init; } =
        Found is { } f && Planned is { Address.Length: > 0 } p && p.Address != f.Address
            ?
            [
                .. Registered is { } asks && asks.Address == f.Address
                    ? new[]
                    {
                        new Message("ledger.breaks", Message.Said(asks.Recorder), asks.Channel.ToString(CultureInfo.InvariantCulture)),
                    }
                    : [],
                .. p
                    .Links.Where(l => Ipv4Address.Read(f.Address) == l.Server)
                    .Select(l => new Message("ledger.breaks-link", Message.Said(l.Camera))),
            ]
            : [];

    /// <summary>Where its model has set what the notes are about.</summary>
    public ImmutableArray<Message> SetAt { get; init; } = Planned is { } of ? SettingsTouched.Told(of.Places, Notes) : [];
}

/// <summary>What is planned, found and registered, side by side, with every difference and what to do about it.</summary>
/// <param name="Rows">Planned ones in their order, then what was only found, then what is only registered.</param>
/// <param name="Network">Of the plan itself.</param>
/// <param name="Ambiguous">Values that stand twice in a list and were not used.</param>
public sealed record AddressLedger(
    ImmutableArray<LedgerRow> Rows,
    ImmutableArray<NetworkFinding> Network,
    ImmutableArray<ThreeLists.Ambiguous> Ambiguous
)
{
    /// <summary>What was found of each planned place, by its id.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public IReadOnlyDictionary<Guid, FoundDevice> Found =>
        Rows.Where(r => r is { Planned: not null, Found: not null }).ToDictionary(r => r.Planned!.Id, r => r.Found!);

    /// <summary>So many that are as planned may stand in a recorder's list that nobody has read.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public int Uncompared => Rows.Count(r => r is { Standing: RowStanding.AsPlanned, Unregistered.Code: not NotRegistered });

    private const string NotRegistered = "ledger.list.not-registered";

    /// <summary>Who answers and is in no plan, by hardware address.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public ImmutableArray<KnownStranger> Strangers =>
        [
            .. Rows.Where(r => r is { Planned: null, Found.HardwareAddress: not null })
                .Select(r => new KnownStranger(r.Found!.HardwareAddress!, r.Found.Address)),
        ];

    /// <param name="Plan">The network; null where none is planned: then only the lists are compared.</param>
    /// <param name="Policy">How addresses are given.</param>
    /// <param name="Factory">Addresses that devices leave their factory with.</param>
    /// <param name="Tried">Ways that somebody looked by: what no way would have found is not missing.</param>
    /// <param name="Lists">Recorders of the job, and whether the list of each was read: what may stand in one that nobody read is not
    /// unregistered.</param>
    /// <param name="NetworkTime">The job asks for time from the network.</param>
    public sealed record Terms(
        NetworkPlan.Read? Plan,
        AddressPolicy Policy,
        ImmutableArray<string> Factory,
        ImmutableHashSet<FoundBy> Tried,
        ImmutableDictionary<string, bool> Lists,
        bool NetworkTime = true
    )
    {
        /// <summary>Somebody looked at all of the network.</summary>
        public bool HasSearched => Tried.Overlaps([FoundBy.Search, FoundBy.SearchAgain, FoundBy.RangeScan]);

        /// <summary>Somebody looked in a way that it would have answered. A switch or a recorder answers no search for cameras; other
        /// networks and single addresses say nothing of who is not there.</summary>
        public bool LookedFor(PlannedDevice device) => Tried.Contains(FoundBy.RangeScan) || device.IsCamera && HasSearched;

        /// <summary>Recorders whose lists would have it, and which nobody read.</summary>
        /// <param name="device">Null: nobody planned it, so any may.</param>
        public ImmutableArray<string> Unread(PlannedDevice? device) =>
            [.. (device is { Recorders.Length: > 0 } ? device.Recorders.Distinct() : Lists.Keys).Where(r => !Lists.GetValueOrDefault(r))];
    }

    /// <summary>A clock that is further off than that is told; how far it may be is a matter of its own check.</summary>
    private const double ClockWorthTelling = 5;

    /// <summary>Puts them side by side.</summary>
    public static AddressLedger Of(
        Terms terms,
        IReadOnlyList<PlannedDevice> planned,
        IReadOnlyList<FoundDevice> found,
        IReadOnlyList<RegisteredDevice> registered
    )
    {
        registered = Together(planned, registered);
        static string? None(string? text) => string.IsNullOrWhiteSpace(text) ? null : text;
        var lists = ThreeLists.Of(
            [.. planned.Select(p => new ListedDevice(p.Id.ToString(), None(p.Mac), None(p.Serial), None(p.Address)))],
            [.. found.Select((f, i) => new ListedDevice(Index(i), f.HardwareAddress, f.Serial, f.Address))],
            [.. registered.Select((r, i) => new ListedDevice(Index(i), None(r.Mac), None(r.Serial), None(r.Address)))]
        );
        var plans = planned.ToDictionary(p => p.Id.ToString());
        var audits = Audits(terms, planned, found);
        return new(
            [
                .. lists.Rows.Select(row =>
                {
                    var p = row.Planned is { } id ? plans[id] : null;
                    var f = row.Found is { } at ? found[int.Parse(at, CultureInfo.InvariantCulture)] : null;
                    var r = row.Registered is { } on ? registered[int.Parse(on, CultureInfo.InvariantCulture)] : null;
                    var notes = new List<LedgerNote>();
                    var doubles =
                        f is not null
                        && audits.Found.TryGetValue(f, out var audited)
                        && (audited.Contains(AddressFinding.FactoryAddressShared) || audited.Contains(AddressFinding.DuplicateAddress));
                    Standing(terms, row, p, f, r, doubles, notes);
                    Addresses(terms, row, p, f, r, doubles, audits, notes);
                    if (f is not null)
                        Settings(terms, p, f, notes);
                    return new LedgerRow(
                        p,
                        f,
                        r,
                        row.Class,
                        row.FoundBy,
                        row.Differences,
                        [.. notes.OrderBy(n => n.Weight).Select(n => WithoutReach(p, n))]
                    )
                    {
                        Unregistered = r is null && p?.IsCamera != false ? Unregistered(terms, p) : null,
                    };
                }),
            ],
            audits.Network,
            lists.AmbiguousKeys
        );
    }

    /// <summary>Channels of a device of several heads are one entry of its recorder, as many of them as are planned there: each has the
    /// same serial number, and tells nothing apart from the others.</summary>
    private static IReadOnlyList<RegisteredDevice> Together(
        IReadOnlyList<PlannedDevice> planned,
        IReadOnlyList<RegisteredDevice> registered
    )
    {
        var several = planned.Where(p => p.Recorders.Length > 1).ToList();
        static bool Same(string one, string other) => one.Length > 0 && one.Trim().Equals(other.Trim(), StringComparison.OrdinalIgnoreCase);
        bool IsOne(RegisteredDevice r, int channels) =>
            several.Exists(p =>
                (Same(r.Serial, p.Serial) || Same(r.Mac, p.Mac) || Same(r.Address, p.Address))
                && channels <= p.Recorders.Count(on => Same(on, r.Recorder))
            );
        return several.Count == 0
            ? registered
            :
            [
                .. registered
                    .GroupBy(r => (r.Recorder.ToUpperInvariant(), r.Mac, r.Serial, r.Address))
                    .SelectMany(g => g.Count() is > 1 and var channels && IsOne(g.First(), channels) ? g.Take(1) : g),
            ];
    }

    private static Message Unregistered(Terms terms, PlannedDevice? planned) =>
        terms.Unread(planned) switch
        {
            [] => new(terms.Lists.IsEmpty ? "ledger.list.none" : NotRegistered),
            [var one] => new("ledger.list.unread", Message.Said(one)),
            var several => new("ledger.list.several-unread", Index(several.Length)),
        };

    /// <summary>No press is offered for what this model has set elsewhere than over the network.</summary>
    private static LedgerNote WithoutReach(PlannedDevice? planned, LedgerNote note) =>
        planned is not null && note.Mend is not null && !SettingsTouched.CanBeSet(planned.Places, SettingsTouched.Of(note.Code))
            ? note with
            {
                Mend = null,
            }
            : note;

    private sealed record Audited(
        ImmutableArray<NetworkFinding> Network,
        IReadOnlyDictionary<string, ImmutableArray<AddressFinding>> Planned,
        IReadOnlyDictionary<FoundDevice, ImmutableArray<AddressFinding>> Found
    );

    private static Audited Audits(Terms terms, IReadOnlyList<PlannedDevice> planned, IReadOnlyList<FoundDevice> found)
    {
        if (terms.Plan is not { } plan)
            return new(
                [],
                ImmutableDictionary<string, ImmutableArray<AddressFinding>>.Empty,
                ImmutableDictionary<FoundDevice, ImmutableArray<AddressFinding>>.Empty
            );
        var ofPlan = AddressAudit.Of(
            plan.Subnet,
            plan.Gateway,
            [
                .. planned.Select(p => new AuditedDevice(
                    p.Id.ToString(),
                    p.Address.Length == 0 ? null : p.Address,
                    Mac: p.Mac.Length == 0 ? null : p.Mac,
                    Fixed: terms.Policy != AddressPolicy.Automatic
                )),
            ],
            plan.Pool,
            terms.Factory
        );
        var ofFound = AddressAudit.Of(
            plan.Subnet,
            plan.Gateway,
            [.. found.Select((f, i) => new AuditedDevice(Index(i), f.Address, f.Mask, f.Gateway, f.HardwareAddress, f.Leases == false))],
            plan.Pool,
            terms.Factory
        );
        return new(
            ofPlan.Network,
            ofPlan.Devices.ToDictionary(d => d.Id, d => d.Findings),
            ofFound
                .Devices.Select((d, i) => (found[i], d.Findings))
                .ToDictionary(d => d.Item1, d => d.Findings, (IEqualityComparer<FoundDevice>)ReferenceEqualityComparer.Instance)
        );
    }

    /// <summary>What its place in the three lists means.</summary>
    private static void Standing(
        Terms terms,
        ThreeLists.Row row,
        PlannedDevice? p,
        FoundDevice? f,
        RegisteredDevice? r,
        bool doubles,
        List<LedgerNote> notes
    )
    {
        void Note(string code, LedgerWeight weight, LedgerMend? mend = null, params ImmutableArray<string> args) =>
            notes.Add(new("ledger." + code, args, weight, mend));
        switch (row.Class)
        {
            case ListClass.ReplacedDevice:
                Note("replaced-device", LedgerWeight.Wrong, LedgerMend.NoteUnit, f!.Address, Said(f.Serial ?? f.HardwareAddress));
                break;
            case ListClass.UnknownDevice:
                Note("unknown-device", LedgerWeight.Look, null, f!.Address);
                break;
            case ListClass.UnplannedRegistered:
                Note("unplanned-registered", LedgerWeight.Look, null, Said(r!.Recorder), Index(r.Channel));
                break;
            case ListClass.StaleRegistration:
                notes.Add(
                    new(
                        terms.HasSearched ? "ledger.stale-registration" : LedgerRow.OnRecorder,
                        [Said(r!.Recorder), Index(r.Channel)],
                        terms.HasSearched ? LedgerWeight.Wrong : LedgerWeight.Look
                    )
                );
                break;
        }
        if (p is not null && f is null)
            notes.Add(
                terms.LookedFor(p)
                    ? Silence.Of(terms, p)
                    : new(terms.Tried.IsEmpty || p.IsCamera ? LedgerRow.NotLooked : LedgerRow.NoSearch, [], LedgerWeight.Told)
            );
        if (p is { IsCamera: true } && r is null && !terms.Lists.IsEmpty && terms.Unread(p).IsEmpty)
            Note("not-registered", LedgerWeight.Wrong);
        if (p is { Recorders.Length: > 0 } && r is not null && !p.Recorders.Contains(r.Recorder, StringComparer.OrdinalIgnoreCase))
            Note(
                "other-recorder",
                LedgerWeight.Look,
                null,
                Said(r.Recorder),
                Index(r.Channel),
                Said(string.Join(", ", p.Recorders.Distinct()))
            );
        // Where both are known, the audit says that they are doubles.
        if (f?.Others is { IsEmpty: false } others && !doubles)
            Note("several-answer", LedgerWeight.Wrong, null, f.Address, Said(string.Join(", ", others)));
        if (p is not null && f is not null && (p.Serial.Length == 0 || p.Mac.Length == 0) && (f.Serial ?? f.HardwareAddress) is not null)
            if (row.Class != ListClass.ReplacedDevice)
                Note("unit-not-noted", LedgerWeight.Look, LedgerMend.NoteUnit, Said(f.Serial ?? f.HardwareAddress));
    }

    /// <summary>What its addresses are, against the plan, the network and the recorder.</summary>
    private static void Addresses(
        Terms terms,
        ThreeLists.Row row,
        PlannedDevice? p,
        FoundDevice? f,
        RegisteredDevice? r,
        bool doubles,
        Audited audits,
        List<LedgerNote> notes
    )
    {
        void Note(string code, LedgerWeight weight, LedgerMend? mend = null, params ImmutableArray<string> args) =>
            notes.Add(new("ledger." + code, args, weight, mend));
        var differs = row.Differences;
        bool Differs(DeviceKey key, DeviceList one, DeviceList other) => differs.Contains(new(key, one, other));
        ImmutableArray<AddressFinding> there = f is not null && audits.Found.TryGetValue(f, out var audited) ? audited : [];
        foreach (var finding in there)
        {
            // Where it is tells that it is elsewhere, and not as planned.
            if (finding == AddressFinding.OutsideSubnet && there.Any(Elsewhere))
                continue;
            var mend = finding switch
            {
                AddressFinding.MaskInvalid
                or AddressFinding.MaskTooNarrow
                or AddressFinding.MaskTooWide
                or AddressFinding.FactoryAddress
                or AddressFinding.OutsideSubnet
                or AddressFinding.AddressLinkLocalNoLease when p is { Address.Length: > 0 } => LedgerMend.SetAddress,
                AddressFinding.GatewayDiffers or AddressFinding.GatewayInvalid => LedgerMend.SetGateway,
                _ => (LedgerMend?)null,
            };
            Note(
                "found." + Codes.Of(finding),
                finding == AddressFinding.MacLocallyAdministered ? LedgerWeight.Told : LedgerWeight.Wrong,
                doubles ? null : mend,
                f!.Address,
                Said(f.Mask),
                Said(f.Gateway)
            );
        }
        if (Differs(DeviceKey.Address, DeviceList.Planned, DeviceList.Found) && !there.Any(Elsewhere))
            // Several devices on one address hide each other: what is set there is set in one that nobody chose.
            Note("address-differs", LedgerWeight.Wrong, doubles ? null : LedgerMend.SetAddress, p!.Address, f!.Address);
        // Where the recorder asks as it is planned, it is the device that has to move.
        var asksAsPlanned = p is { Address.Length: > 0 } && !Differs(DeviceKey.Address, DeviceList.Planned, DeviceList.Registered);
        if (Differs(DeviceKey.Address, DeviceList.Found, DeviceList.Registered))
            Note(
                asksAsPlanned ? "recorder-asks-as-planned" : "recorder-asks-elsewhere",
                asksAsPlanned ? LedgerWeight.Told : LedgerWeight.Wrong,
                null,
                Said(r!.Recorder),
                Index(r.Channel),
                r.Address,
                f!.Address
            );
        else if (f is null && Differs(DeviceKey.Address, DeviceList.Planned, DeviceList.Registered))
            Note("recorder-not-as-planned", LedgerWeight.Look, null, Said(r!.Recorder), Index(r.Channel), r.Address, p!.Address);
        if (row.Class != ListClass.ReplacedDevice)
        {
            if (Differs(DeviceKey.Serial, DeviceList.Planned, DeviceList.Found))
                Note("serial-differs", LedgerWeight.Wrong, LedgerMend.NoteUnit, Said(p!.Serial), Said(f!.Serial));
            if (Differs(DeviceKey.Mac, DeviceList.Planned, DeviceList.Found))
                Note("mac-differs", LedgerWeight.Wrong, LedgerMend.NoteUnit, Said(p!.Mac), Said(f!.HardwareAddress));
        }
        if (
            Differs(DeviceKey.Serial, DeviceList.Found, DeviceList.Registered)
            || Differs(DeviceKey.Mac, DeviceList.Found, DeviceList.Registered)
        )
            Note("recorder-knows-another", LedgerWeight.Wrong, null, Said(r!.Recorder), Index(r.Channel));
        if (p is not null && f is not null && p.Address.Length == 0)
            Note("no-planned-address", LedgerWeight.Look, LedgerMend.PlanFollows, f.Address);
        if (p is not null && audits.Planned.TryGetValue(p.Id.ToString(), out var wrong))
            foreach (var finding in wrong)
                // A place without an address may be one that has none yet, and how a unit's hardware address was given is no matter of a
                // plan.
                if (finding is not (AddressFinding.AddressMissing or AddressFinding.MacLocallyAdministered))
                    Note("plan." + Codes.Of(finding), LedgerWeight.Wrong, null, Said(p.Address));
        if (f is not null)
            Policy(terms, p, f, r, Note);
    }

    private static bool Elsewhere(AddressFinding finding) =>
        finding is AddressFinding.FactoryAddress or AddressFinding.FactoryAddressShared or AddressFinding.AddressLinkLocalNoLease;

    private static void Policy(Terms terms, PlannedDevice? p, FoundDevice f, RegisteredDevice? r, NoteOf note)
    {
        if (f.Leases != true)
            return;
        // Who is asked for at an address must stay there.
        if (r is { Address.Length: > 0 })
            note(
                "leased-and-asked-for",
                LedgerWeight.Wrong,
                p is { Address.Length: > 0 } ? LedgerMend.SetAddress : null,
                Said(r.Recorder),
                Index(r.Channel)
            );
        else if (terms.Policy == AddressPolicy.FixedPlan)
            note("leased-in-fixed-plan", LedgerWeight.Wrong, p is { Address.Length: > 0 } ? LedgerMend.SetAddress : null);
        else if (terms.Policy == AddressPolicy.ReservedOrFrozen)
            note("leased-needs-reservation", LedgerWeight.Look, p is { Address.Length: > 0 } ? LedgerMend.SetAddress : null);
    }

    private delegate void NoteOf(string code, LedgerWeight weight, LedgerMend? mend = null, params ImmutableArray<string> args);

    /// <summary>What it says of itself beside its addresses.</summary>
    private static void Settings(Terms terms, PlannedDevice? p, FoundDevice f, List<LedgerNote> notes)
    {
        void Note(string code, LedgerWeight weight, LedgerMend? mend = null, params ImmutableArray<string> args) =>
            notes.Add(new("ledger." + code, args, weight, mend));
        if (f.Logins is { } logins)
            Logins(logins, Note);
        if (f.KeptAddress == false)
            Note("moved-at-start", LedgerWeight.Wrong, null, f.Address);
        if (f.Trouble is { } trouble)
            notes.Add(
                new(
                    trouble.Code,
                    trouble.Args,
                    p is { IsCamera: false } && trouble.Code == "asked.no-camera" ? LedgerWeight.Told : LedgerWeight.Look
                )
            );
        foreach (var stream in f.Streams)
            if (stream.Described.Length > 0 && stream.Described != stream.Says)
                Note("stream-not-as-said", LedgerWeight.Look, null, Said(stream.Name), Said(stream.Says), Said(stream.Described));
        if (f.FingerprintBefore is not null)
            Note("certificate-changed", LedgerWeight.Look);
        if (p is not null && f.Name is { } name && name != p.Name && name != p.Label)
            Note("name-differs", LedgerWeight.Wrong, LedgerMend.SetName, Said(name), Said(p.Label));
        if (p is { Firmware.Length: > 0 } && f.Firmware is { } firmware && firmware != p.Firmware)
            Note("firmware-differs", LedgerWeight.Wrong, null, Said(firmware), Said(p.Firmware));
        if (f.AnswersSearches == false)
            Note("search-off", LedgerWeight.Told, LedgerMend.AnswerSearches);
        if (terms.NetworkTime && f.TimeSource == "manual")
            Note("time-by-hand", LedgerWeight.Look, LedgerMend.SetTimeSource);
        if (f.ClockAheadSeconds is { } ahead && Math.Abs(ahead) > ClockWorthTelling)
            Clock(ahead, Note);
        if (f.AnnouncesElsewhere is { } elsewhere)
            Note("announces-elsewhere", LedgerWeight.Look, null, Said(elsewhere));
        if (f.OwnAddress is { } own && Ipv4Address.Read(own)?.ToString() != f.Address)
            Note("answers-for-another", LedgerWeight.Wrong, null, f.Address, Said(own));
    }

    /// <summary>How far a clock is off, and where that lies on a step of zones: that.</summary>
    private static void Clock(double ahead, NoteOf note)
    {
        var step = ZoneMistake.Of(ahead, ClockWorthTelling);
        if (step.Mistake is ClockMistake.DriftOrNeverSet or ClockMistake.ClockLostDate)
            note(ahead > 0 ? "clock-ahead" : "clock-behind", LedgerWeight.Look, null, Message.Number(Math.Abs(ahead), 0));
        else
            note(
                ahead > 0 ? "clock-step-ahead" : "clock-step-behind",
                LedgerWeight.Look,
                null,
                Message.Number(Math.Abs(step.QuarterHours) / 4.0),
                "@clock.is." + Codes.Of(step.Mistake),
                Message.Number(Math.Abs(step.ResidualSeconds), 0)
            );
    }

    private static void Logins(LoginTrial trial, NoteOf note)
    {
        if (trial.OpenToAll)
            note("open-to-all", LedgerWeight.Wrong);
        if (trial.FactoryOpens == true)
            note("factory-login-opens", LedgerWeight.Wrong);
        if (trial.OwnOpens == false)
            note("own-login-refused", LedgerWeight.Wrong);
        if (trial.OwnShared > 0)
            note("login-shared", LedgerWeight.Look, null, Index(trial.OwnShared));
    }

    private static string Said(string? text) => Message.Said(text ?? "");

    private static string Index(int number) => number.ToString(CultureInfo.InvariantCulture);
}
