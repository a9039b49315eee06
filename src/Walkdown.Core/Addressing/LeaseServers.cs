using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>An address that a server offered to somebody who asked for one, and did not take it (DHCPOFFER, RFC 2131).</summary>
/// <param name="Server">The server, by its own word; where it gave none, who sent the offer.</param>
/// <param name="From">Who sent it: the server, or who carries for it from another network.</param>
/// <param name="Offered">The address.</param>
/// <param name="Mask">That goes with it; null where none was named.</param>
/// <param name="Gateway">Likewise.</param>
/// <param name="LeaseSeconds">For how long; null where it did not say.</param>
public sealed record LeaseOffer(
    string Server,
    string From,
    string Offered,
    string? Mask = null,
    string? Gateway = null,
    long? LeaseSeconds = null
)
{
    /// <summary>What it would give, piece by piece; what it did not name is not told.</summary>
    public ImmutableArray<Message> Told()
    {
        var told = ImmutableArray.CreateBuilder<Message>();
        told.Add(new("lease.offers", Message.Said(Offered)));
        if (Mask is { } mask)
            told.Add(new("lease.with-mask", Message.Said(mask)));
        if (Gateway is { } gateway)
            told.Add(new("lease.with-gateway", Message.Said(gateway)));
        if (LeaseSeconds is { } seconds)
            told.Add(new("lease.for-hours", Message.Number(seconds / 3600.0, 1)));
        return told.DrainToImmutable();
    }
}

/// <summary>A server that gives addresses on the cameras' network.</summary>
/// <param name="Address">Of the server.</param>
/// <param name="Label">Of the place that has this address by plan; empty where none has.</param>
/// <param name="Offer">As it was heard.</param>
/// <param name="Notes">The gravest first.</param>
public sealed record LeaseServer(string Address, string Label, LeaseOffer Offer, ImmutableArray<LedgerNote> Notes)
{
    /// <summary>What it would give, in words.</summary>
    public ImmutableArray<Message> Offers { get; init; } = Offer.Told();
}

/// <summary>Who gives addresses on the cameras' network, held against the plan (C38).</summary>
/// <param name="Servers">That offered one, those with the gravest notes first.</param>
/// <param name="Notes">On all of them together.</param>
/// <param name="Word">Of the row of a Card that asks for it; null where what was heard does not say so.</param>
public sealed record LeaseServers(ImmutableArray<LeaseServer> Servers, ImmutableArray<LedgerNote> Notes, string? Word)
{
    /// <summary>Address of one that gives addresses and that nobody planned; null: none does.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string? Unplanned => Servers.FirstOrDefault(s => s.Notes.Any(n => n.Code == "lease.unplanned"))?.Address;

    /// <summary>Of the row of a Card that asks who gives addresses; null where what was heard does not say so.</summary>
    public (CheckId Check, ReadingValue Value)? Reading() => Word is { } word ? (new("link.rogue"), new ChoiceValue(word)) : null;

    /// <summary>Judges what was offered.</summary>
    /// <param name="plan">The network.</param>
    /// <param name="planned">The server that should give addresses; null where none is named.</param>
    /// <param name="places">Devices that the register knows.</param>
    /// <param name="offers">All that was heard; of one server the last counts.</param>
    public static LeaseServers Of(
        NetworkPlan.Read plan,
        Ipv4Address? planned,
        IReadOnlyList<PlannedDevice> places,
        IReadOnlyList<LeaseOffer> offers
    )
    {
        var labels = places.Where(p => p.Address.Length > 0).ToLookup(p => p.Address, p => p.Label);
        var servers = offers
            .GroupBy(o => o.Server)
            .Select(g => g.Last())
            .Select(o => new LeaseServer(
                o.Server,
                labels[o.Server].FirstOrDefault(""),
                o,
                [.. Of(plan, planned, labels, o).OrderBy(n => n.Weight)]
            ))
            .OrderBy(s => s.Notes.IsEmpty ? LedgerWeight.Told : s.Notes[0].Weight)
            .ThenBy(s => Ipv4Address.Read(s.Address))
            .ToImmutableArray();
        var leases = planned is not null || plan.Pool is not null;
        var isPlanned = planned is { } own && servers.Any(s => s.Address == own.ToString());
        LedgerNote? whole = servers.Length switch
        {
            0 when planned is { } named => new("lease.silent", [named.ToString()], LedgerWeight.Look),
            0 when leases => new("lease.silent-range", [], LedgerWeight.Look),
            0 => new("lease.none", [], LedgerWeight.Told),
            1 when planned is null && leases => new("lease.unnamed", [servers[0].Address], LedgerWeight.Look),
            1 => null,
            _ => new("lease.several", [servers.Length.ToString(CultureInfo.InvariantCulture)], LedgerWeight.Wrong),
        };
        var word = servers.Length switch
        {
            0 => leases ? null : "none",
            // Where a pool is planned and its server is not named, it may be the one that is meant.
            1 => isPlanned ? "one"
            : planned is null && leases ? null
            : "two",
            _ => "two",
        };
        return new(servers, whole is null ? [] : [whole], word);
    }

    private static IEnumerable<LedgerNote> Of(NetworkPlan.Read plan, Ipv4Address? planned, ILookup<string, string> labels, LeaseOffer offer)
    {
        static LedgerNote Wrong(string code, params ImmutableArray<string> args) => new("lease." + code, args, LedgerWeight.Wrong);
        var named = planned is not null;
        if (named ? offer.Server != planned.ToString() : plan.Pool is null)
            yield return labels[offer.Server].FirstOrDefault() is { } place
                ? Wrong("switched-on", offer.Server, place)
                : Wrong("unplanned", offer.Server);
        else if (named)
            yield return new("lease.as-planned", [offer.Server], LedgerWeight.Told);
        if (Ipv4Address.Read(offer.Offered) is not { } given)
            yield break;
        // What goes with an address of another network is told with it.
        if (!plan.Subnet.IsHost(given))
            yield return Wrong("outside-subnet", given.ToString(), plan.Subnet.ToString());
        else
        {
            if (plan.Pool is { } pool && !pool.Contains(given))
                yield return Wrong("outside-pool", given.ToString(), pool.First.ToString(), pool.Last.ToString());
            if (labels[given.ToString()].FirstOrDefault() is { } label)
                yield return Wrong("takes-planned", given.ToString(), label);
            if (offer.Mask is { } mask && Subnet.PrefixOf(mask) != plan.Subnet.Prefix)
                yield return Wrong("mask", Message.Said(mask), plan.Subnet.Mask.ToString());
            if (offer.Gateway is { } way && plan.Gateway is { } wanted && Ipv4Address.Read(way) != wanted)
                yield return Wrong("gateway", Message.Said(way), wanted.ToString());
        }
        // A server elsewhere has somebody carry for it; one that sits in this network sends for itself.
        if (offer.From != offer.Server && Ipv4Address.Read(offer.Server) is { } server && plan.Subnet.IsHost(server))
            yield return new("lease.another-sends", [offer.Server, offer.From], LedgerWeight.Look);
    }
}
