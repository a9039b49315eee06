using System.Collections.Immutable;
using System.Globalization;
using Walkdown.Core.Addressing;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Devices.Discovery;
using Walkdown.Devices.Field;
using Walkdown.Server.Cards;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Addresses;

/// <summary>What Walkdown does at the network itself: it looks, sets what a person asked for, reads it back, and tries logins.</summary>
public sealed class NetworkWork(
    AddressBook book,
    CatalogueStore catalogue,
    CardService cards,
    FieldNetwork field,
    FieldHttp http,
    NetworkSweep.Pace pace,
    TimeProvider time
)
{
    /// <summary>As long is waited for a device to answer again after it was given another address, or was started.</summary>
    private static readonly TimeSpan Settling = TimeSpan.FromSeconds(90);

    /// <summary>More devices than that are not given addresses in one go.</summary>
    private const int MostGiven = 500;

    private readonly NetworkSweep _sweep = new(field, http, time, pace);

    /// <summary>Looks one way, and keeps what answered.</summary>
    public async Task<LookAnswer> Look(Guid jobId, LookRequest request, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        var known = await Of(jobId);
        var logins = new Logins(request.Logins);
        var names = request.Names.IsDefault ? [] : request.Names;
        var range = request.Way switch
        {
            FoundBy.RangeScan => Hosts(known.Made!.Subnet),
            FoundBy.OtherNetwork => [.. known.Plan!.Factory.Select(Ipv4Address.Read).OfType<Ipv4Address>()],
            _ => ImmutableArray<Ipv4Address>.Empty,
        };
        if (range.Length > 0 && !request.Confirmed)
            throw new Refusal(new("lan.not-confirmed", Message.Number(range.Length, 0)));
        if (request.Way == FoundBy.OtherNetwork && range.IsEmpty)
            throw new Refusal(new("lan.no-factory"));
        if (request.Way == FoundBy.ByHand && names.IsEmpty)
            throw new Refusal(new("lan.no-name"));
        var labels = known.Planned.Where(p => p.Address.Length > 0).ToLookup(p => p.Address);
        var byMac = known.Planned.ToLookup(p => HardwareAddress.Read(p.Mac));
        FieldLogin? LoginAt(Ipv4Address address, HardwareAddress? mac)
        {
            var there = (mac is not null ? byMac[mac].FirstOrDefault() : null) ?? labels[address.ToString()].FirstOrDefault();
            return logins.Of(address.ToString(), there?.Label, there?.Serial);
        }
        var found = await _sweep.Run(
            new(request.Way, Networks(known), range, [.. names.Select(n => Named(n, known))], LoginAt),
            progress,
            cancel
        );
        await book.Keep(jobId, LookKind.Network, Codes.Of(request.Way), request.By, found);
        return new(found.Length, []);
    }

    /// <summary>Asks who gives addresses, takes none, and keeps what was offered.</summary>
    public async Task<LookAnswer> AskForLeases(Guid jobId, LeaseSearchRequest request, CancellationToken cancel)
    {
        var known = await Of(jobId);
        var offers = await new LeaseSearch(field).Ask(known.Made!.Subnet, Networks(known), pace.Listen, cancel);
        await book.Keep(jobId, LookKind.Leases, "leases", request.By, offers);
        return new(
            offers.Length,
            [offers.IsEmpty ? new("lan.no-offers") : new("lan.offers", Message.Number(offers.Select(o => o.Server).Distinct().Count(), 0))]
        );
    }

    /// <summary>Sets one thing at one device, and reads back whether it holds.</summary>
    public async Task<LookAnswer> Mend(Guid jobId, MendRequest request, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        var known = await Of(jobId);
        var by = await cards.NameOf(jobId, request.By, cancel);
        var row = RowOf(known, request.DeviceId);
        var (planned, found) = (row.Planned!, row.Found!);
        await cards.NotWhileUpdating(planned.Id, planned.Label);
        if (row.Notes.All(n => n.Mend != request.Mend))
            throw new Refusal(new("lan.nothing-to-mend", planned.Label));
        var login = new Logins(request.Logins).Of(found.Address, planned.Label, planned.Serial, found.Serial);
        progress.Report((0, 3));
        var camera = At(found, login);
        var now = await camera.Read(cancel);
        Same(found, now, planned);
        var restart = false;
        var made = known.Made!;
        switch (request.Mend)
        {
            case LedgerMend.SetAddress:
                restart = await Moved(camera, Ipv4Address.Parse(planned.Address, "address"), made.Subnet.Prefix, cancel);
                await Done(planned, "address-changed", request.By, new("lan.done.address", found.Address, planned.Address));
                break;
            case LedgerMend.SetGateway:
                await camera.SetGateway(made.Gateway ?? throw new Refusal(new("lan.no-gateway")), cancel);
                break;
            case LedgerMend.SetName:
                await camera.SetName(planned.Label, cancel);
                break;
            case LedgerMend.AnswerSearches:
                await camera.SetSearchMode(true, cancel);
                break;
            case LedgerMend.SetTimeSource:
                await camera.SetTimeSource(true, cancel);
                await Done(planned, "time-changed", request.By, new("lan.done.time"));
                break;
            default:
                throw new Refusal(new("lan.nothing-to-mend", planned.Label));
        }
        progress.Report((1, 3));
        var moved = request.Mend == LedgerMend.SetAddress && !restart;
        var after = moved ? found with { Address = planned.Address } : found;
        var read = await Again(after, login, planned, moved ? Settling : pace.Patience, cancel);
        progress.Report((3, 3));
        if (read is null)
        {
            await book.Keep(jobId, LookKind.Network, "mend", by, ImmutableArray<FoundDevice>.Empty);
            return new(0, [new("lan.silent-after", planned.Label, after.Address)]);
        }
        await book.Keep(jobId, LookKind.Network, "mend", by, ImmutableArray.Create(read with { By = found.By }));
        var holds = Readback.Holds(request.Mend, planned, made, read);
        // What was taken and does not show yet may hold after a start; what was refused never got here.
        return new(
            1,
            [
                new(
                    holds ? "lan.holds"
                        : restart ? "lan.needs-start"
                        : "lan.not-held",
                    planned.Label
                ),
            ]
        );
    }

    /// <summary>Starts a device again, and sees whether it answers at the same address.</summary>
    public async Task<LookAnswer> Restart(Guid jobId, RestartRequest request, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        var known = await Of(jobId);
        var by = await cards.NameOf(jobId, request.By, cancel);
        var row = RowOf(known, request.DeviceId);
        var (planned, found) = (row.Planned!, row.Found!);
        await cards.NotWhileUpdating(planned.Id, planned.Label);
        var login = new Logins(request.Logins).Of(found.Address, planned.Label, planned.Serial, found.Serial);
        var camera = At(found, login);
        var before = await camera.Read(cancel);
        Same(found, before, planned);
        await camera.Restart(cancel);
        await Done(planned, "restarted", request.By, new("lan.done.restart"));
        progress.Report((1, 2));
        FoundDevice? read = null;
        // It may be back where it was, or answer elsewhere: whoever is heard in a search with its serial number is the same device.
        for (var until = time.GetUtcNow() + Settling; read is null && time.GetUtcNow() < until; )
            read =
                await Again(found, login, planned, TimeSpan.FromSeconds(2), cancel)
                ?? (
                    await _sweep.Run(new(FoundBy.Search, Networks(known), [], [], (_, mac) => IsHis(mac) ? login : null), null, cancel)
                ).FirstOrDefault(f => f.Serial is not null && f.Serial == before.Serial);
        bool IsHis(HardwareAddress? mac) => mac is not null && mac == HardwareAddress.Read(before.HardwareAddress);
        progress.Report((2, 2));
        if (read is null)
            return new(0, [new("lan.silent-after", planned.Label, found.Address)]);
        var kept = read.Address == found.Address;
        await book.Keep(jobId, LookKind.Network, "restart", by, ImmutableArray.Create(read with { By = found.By, KeptAddress = kept }));
        var changed = Readback.SinceStart(before, read);
        return new(
            1,
            [
                kept ? new("lan.kept", planned.Label, read.Address) : new("lan.moved", planned.Label, found.Address, read.Address),
                .. changed.IsEmpty && read.Trouble is null ? [new Message("lan.start-same")] : changed,
            ]
        );
    }

    /// <summary>
    /// Gives devices that share a factory's address their planned ones: whoever answers there is told by serial number or hardware address,
    /// gets its own, and lets the next one be seen.
    /// </summary>
    public async Task<LookAnswer> Give(Guid jobId, GiveRequest request, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        var known = await Of(jobId);
        var by = await cards.NameOf(jobId, request.By, cancel);
        var made = known.Made!;
        var login = new FieldLogin(request.Factory.User, request.Factory.Password);
        var words = new List<Message>();
        var moved = new List<FoundDevice>();
        var of = known.Ledger.Rows.Count(r => r.Planned is not null && r.Found?.Address != r.Planned.Address);
        foreach (var factory in known.Plan!.Factory.Select(Ipv4Address.Read).OfType<Ipv4Address>())
            while (moved.Count < MostGiven)
            {
                progress.Report((moved.Count, Math.Max(of, moved.Count)));
                try
                {
                    moved.Add(await GiveOne(factory, login, made, known.Planned, request.By, cancel));
                }
                catch (Refusal refusal)
                {
                    words.Add(refusal.What);
                    break;
                }
                catch (FieldTrouble trouble)
                {
                    // Nobody answers there any more: that is the end that was hoped for.
                    if (trouble.Why.Code is not ("asked.unreachable" or "asked.silent") || moved.Count == 0)
                        words.Add(trouble.Why);
                    break;
                }
            }
        await book.Keep(jobId, LookKind.Network, "give", by, moved.ToImmutableArray());
        return new(moved.Count, [new("lan.given", Message.Number(moved.Count, 0)), .. words.Distinct()]);
    }

    /// <summary>Whoever answers at a factory's address gets its planned one, its gateway and its name.</summary>
    /// <exception cref="Refusal">Nobody knows where it belongs, or it does not answer where it should.</exception>
    private async Task<FoundDevice> GiveOne(
        Ipv4Address factory,
        FieldLogin login,
        NetworkPlan.Read made,
        ImmutableArray<PlannedDevice> places,
        Guid by,
        CancellationToken cancel
    )
    {
        var door = new FoundDevice { Address = factory.ToString(), Path = OnvifCamera.UsualPath };
        var there = await At(door, login).Read(cancel);
        if (there is { Trouble: { } why, Serial: null })
            throw new FieldTrouble(why.Code, why.Args);
        if (FoundDevices.PlaceOf(there, places) is not { } planned)
            throw new Refusal(new("lan.give-unknown", factory.ToString(), Message.Said(there.Serial ?? there.HardwareAddress ?? "")));
        if (Ipv4Address.Read(planned.Address) is not { } wanted || !made.Subnet.IsHost(wanted))
            throw new Refusal(new("lan.give-unplanned", planned.Label));
        await cards.NotWhileUpdating(planned.Id, planned.Label);
        var restart = await Moved(At(there, login), wanted, made.Subnet.Prefix, cancel);
        await Done(planned, "address-changed", by, new("lan.done.address", factory.ToString(), wanted.ToString()));
        if (restart)
            await At(door, login).Restart(cancel);
        var read =
            await Again(there with { Address = wanted.ToString() }, login, planned, Settling, cancel)
            ?? throw new Refusal(new("lan.silent-after", planned.Label, wanted.ToString()));
        var camera = At(read, login);
        try
        {
            if (made.Gateway is { } gateway)
                await camera.SetGateway(gateway, cancel);
            await camera.SetName(planned.Label, cancel);
            read = await camera.Read(cancel);
        }
        catch (FieldTrouble)
        {
            // It has its address, and the next one can be seen; the rest is told by its row.
        }
        return read with { By = [FoundBy.OtherNetwork] };
    }

    /// <summary>Tries which logins open which device: each at most once, as some lock themselves after a few wrong ones.</summary>
    public async Task<LookAnswer> Try(Guid jobId, TrialRequest request, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        var known = await Of(jobId);
        var logins = new Logins(request.Own);
        var asked = known
            .Ledger.Rows.Where(r => r.Found is { Path.Length: > 0 } f && f.Trouble?.Code is not "asked.hidden-behind")
            .ToList();
        if (asked.Count == 0)
            throw new Refusal(new("lan.nobody-to-try"));
        var tried = new System.Collections.Concurrent.ConcurrentBag<(FoundDevice Device, LoginTrial Trial, string? Mark)>();
        var done = 0;
        await Parallel.ForEachAsync(
            asked,
            new ParallelOptions { MaxDegreeOfParallelism = pace.AtOnce, CancellationToken = cancel },
            async (row, stop) =>
            {
                var found = row.Found!;
                var own = logins.Of(found.Address, row.Planned?.Label, row.Planned?.Serial, found.Serial);
                try
                {
                    var open = await At(found, null).Opens(stop);
                    bool? factory =
                        request.Factory is { } made && !open ? await At(found, new(made.User, made.Password)).Opens(stop) : null;
                    bool? opens = own is not null && !open ? await At(found, own).Opens(stop) : null;
                    tried.Add((found, new(open, factory, opens), opens == true ? logins.MarkOf(own!) : null));
                }
                catch (FieldTrouble trouble)
                {
                    tried.Add((found with { Trouble = trouble.Why }, new(false, null, null), null));
                }
                progress.Report((Interlocked.Increment(ref done), asked.Count));
            }
        );
        var marks = tried.Where(t => t.Mark is not null).GroupBy(t => t.Mark).ToDictionary(g => g.Key!, g => g.Count());
        await book.Keep(
            jobId,
            LookKind.Network,
            "logins",
            request.By,
            tried
                .OrderBy(t => Ipv4Address.Read(t.Device.Address))
                .Select(t => t.Device with { Logins = t.Trial with { OwnShared = t.Mark is { } mark ? marks[mark] - 1 : 0 } })
                .ToImmutableArray()
        );
        int Count(Func<LoginTrial, bool> of) => tried.Count(t => of(t.Trial));
        return new(
            tried.Count,
            [
                new("lan.tried", Number(tried.Count)),
                new("lan.tried-factory", Number(Count(t => t.FactoryOpens == false)), Number(Count(t => t.FactoryOpens == true))),
                new("lan.tried-own", Number(Count(t => t.OwnOpens == true)), Number(Count(t => t.OwnOpens == false))),
            ]
        );
    }

    /// <summary>What was done at the device from here is work on its Card like any other: what was read before it is void. Told before it
    /// is read back, for what is read then is of afterwards.</summary>
    private async Task Done(PlannedDevice device, string act, Guid by, Message what) =>
        await cards.Append(
            device.Id,
            new ActRequest(Guid.CreateVersion7(), act, by, time.GetUtcNow(), 0, Text: catalogue.Texts.Say(what)),
            CancellationToken.None
        );

    private static string Number(int count) => count.ToString(CultureInfo.InvariantCulture);

    private async Task<AddressBook.Known> Of(Guid jobId)
    {
        var known = await book.Load(jobId) ?? throw new Refusal(new("problem.unknown-job"));
        if (known.IsSimulated && !field.OnLoopback)
            throw new Refusal(new("lan.no-simulated"));
        return known.Made is null ? throw new Refusal(new("lan.none")) : known;
    }

    private static LedgerRow RowOf(AddressBook.Known known, Guid deviceId)
    {
        var row = known.Ledger.Rows.FirstOrDefault(r => r.Planned?.Id == deviceId) ?? throw new Refusal(new("problem.unknown-card"));
        return row.Found is null ? throw new Refusal(new("lan.not-found", row.Planned!.Label)) : row;
    }

    /// <summary>Gives a device another address. Some are there before they have answered: whether it holds is seen at the new
    /// address.</summary>
    /// <returns>Whether it wants to be started first.</returns>
    private static async Task<bool> Moved(OnvifCamera camera, Ipv4Address wanted, int prefix, CancellationToken cancel)
    {
        try
        {
            return await camera.SetAddress(wanted, prefix, cancel);
        }
        catch (FieldTrouble trouble) when (trouble.Why.Code is "asked.broken-off" or "asked.silent")
        {
            return false;
        }
    }

    /// <summary>Nothing is set in a device that is not the one that was meant.</summary>
    private static void Same(FoundDevice found, FoundDevice now, PlannedDevice planned)
    {
        // A login that is refused once is not shown again: some lock themselves after a few.
        if (now.Trouble is { Code: "asked.login-refused" or "asked.login-wanted" } refused)
            throw new FieldTrouble(refused.Code, refused.Args);
        if (
            found.Serial is { } serial
            && now.Serial is { } there
            && !serial.Trim().Equals(there.Trim(), StringComparison.OrdinalIgnoreCase)
        )
            throw new Refusal(new("lan.another-answers", planned.Label, found.Address, Message.Said(there)));
    }

    private OnvifCamera At(FoundDevice device, FieldLogin? login) =>
        new(
            http,
            Ipv4Address.Parse(device.Address, "address"),
            device.Port,
            device.Path.Length > 0 ? device.Path : OnvifCamera.UsualPath,
            device.Tls,
            login,
            pace.Patience,
            time
        );

    /// <summary>Asks until it answers, or nobody waits any longer; null: it does not, or another answers in its place.</summary>
    private async Task<FoundDevice?> Again(
        FoundDevice device,
        FieldLogin? login,
        PlannedDevice planned,
        TimeSpan atMost,
        CancellationToken cancel
    )
    {
        var until = time.GetUtcNow() + atMost;
        do
        {
            try
            {
                var read = await At(device, login).Read(cancel);
                Same(device, read, planned);
                return read;
            }
            catch (FieldTrouble) when (time.GetUtcNow() < until)
            {
                await Task.Delay(TimeSpan.FromMilliseconds(250), time, cancel);
            }
            catch (FieldTrouble)
            {
                return null;
            }
        } while (time.GetUtcNow() < until);
        return null;
    }

    private static ImmutableArray<Ipv4Address> Networks(AddressBook.Known known) =>
        [known.Made!.Subnet.Network, .. known.Plan!.Factory.Select(Ipv4Address.Read).OfType<Ipv4Address>()];

    private static ImmutableArray<Ipv4Address> Hosts(Subnet subnet) =>
        subnet.UsableHosts > RangeScan.MostAddresses
            ? throw new Refusal(new("asked.range-too-wide", Message.Number(RangeScan.MostAddresses, 0)))
            : [.. Enumerable.Range(0, (int)subnet.UsableHosts).Select(i => new Ipv4Address(subnet.FirstHost.Number + (uint)i))];

    /// <summary>A device that somebody names: an address for use inside, never one of the Internet or of this machine.</summary>
    private static NetworkSweep.Named Named(NamedDevice named, AddressBook.Known known)
    {
        if (Ipv4Address.Read(named.Address) is not { } address)
            throw new Refusal(new("lan.no-address", Message.Said(named.Address.Trim())));
        if (
            !known.Made!.Subnet.IsHost(address)
            && address.Kind is not (AddressKind.Private or AddressKind.LinkLocal or AddressKind.SharedCarrier)
        )
            throw new Refusal(new("lan.not-inside", address.ToString()));
        if (named.Port is < 0 or > 65535)
            throw new Refusal(new("lan.no-port"));
        if (named.Path.Length > 200 || named.Path.Any(char.IsControl) || (named.Path.Length > 0 && named.Path[0] != '/'))
            throw new Refusal(new("lan.no-path"));
        return new(address, named.Port, named.Path, named.Tls);
    }
}
