using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>A network card of the machine that tests.</summary>
/// <param name="Name">As the machine calls it.</param>
/// <param name="Address">That it has; empty where it has none.</param>
/// <param name="Prefix">Of its mask.</param>
/// <param name="Up">A cable is plugged in and answers.</param>
public sealed record NetworkCard(string Name, string Address, int Prefix, bool Up);

/// <summary>Which network card reaches the cameras, and which address it should have (C42).</summary>
/// <param name="Card">The one to take; null where none will do.</param>
/// <param name="Address">That it should have; empty where what it has is right, or none is free.</param>
/// <param name="Mask">Of the cameras' network.</param>
/// <param name="Because">Why, and what speaks against the others.</param>
public sealed record TesterAddress(string? Card, string Address, string Mask, ImmutableArray<Message> Because)
{
    /// <summary>Chooses. A card that is on the network already and has an address that nobody else has is taken before one that would have
    /// to be set; one on another network is left, as its owner may need it.</summary>
    /// <param name="plan">The cameras' network.</param>
    /// <param name="cards">Of this machine.</param>
    /// <param name="taken">Addresses that are planned, found or registered.</param>
    /// <param name="wanted">Set aside for the tester; null: the highest that is free is proposed.</param>
    public static TesterAddress Of(
        NetworkPlan.Read plan,
        IReadOnlyList<NetworkCard> cards,
        IReadOnlySet<Ipv4Address> taken,
        Ipv4Address? wanted = null
    )
    {
        var because = ImmutableArray.CreateBuilder<Message>();
        var mask = plan.Subnet.Mask.ToString();
        var up = cards.Where(c => c.Up).ToList();
        foreach (var card in cards.Where(c => !c.Up))
            because.Add(new("tester-address.down", card.Name));
        var inside = up.Where(c => Ipv4Address.Read(c.Address) is { } own && plan.Subnet.Contains(own)).ToList();
        if (inside.Count > 1)
            because.Add(new("tester-address.several", string.Join(", ", inside.Select(c => c.Name))));
        foreach (var card in inside)
        {
            var own = Ipv4Address.Read(card.Address)!.Value;
            if (taken.Contains(own) || own == plan.Gateway)
            {
                because.Add(new("tester-address.double", card.Name, own.ToString()));
                return new(card.Name, Free(plan, taken, wanted, because)?.ToString() ?? "", mask, because.DrainToImmutable());
            }
            if (card.Prefix != plan.Subnet.Prefix)
            {
                // Under another mask some cameras are looked for in the wrong place.
                because.Add(
                    new(
                        card.Prefix > plan.Subnet.Prefix ? "tester-address.narrow" : "tester-address.wide",
                        card.Name,
                        Message.Number(card.Prefix, 0),
                        Message.Number(plan.Subnet.Prefix, 0)
                    )
                );
                return new(card.Name, own.ToString(), mask, because.DrainToImmutable());
            }
            if (plan.Pool?.Contains(own) == true)
                because.Add(new("tester-address.leased", card.Name, own.ToString()));
            because.Add(new("tester-address.right", card.Name, own.ToString()));
            return new(card.Name, "", mask, because.DrainToImmutable());
        }
        foreach (var card in up.Where(c => Ipv4Address.Read(c.Address) is not null))
            because.Add(new("tester-address.elsewhere", card.Name, card.Address));
        var spare =
            up.FirstOrDefault(c => Ipv4Address.Read(c.Address) is null)
            ?? up.FirstOrDefault(c => Ipv4Address.Read(c.Address)?.Kind == AddressKind.LinkLocal)
            ?? up.FirstOrDefault();
        if (spare is null)
        {
            because.Add(new("tester-address.none"));
            return new(null, "", mask, because.DrainToImmutable());
        }
        return new(spare.Name, Free(plan, taken, wanted, because)?.ToString() ?? "", mask, because.DrainToImmutable());
    }

    private static Ipv4Address? Free(
        NetworkPlan.Read plan,
        IReadOnlySet<Ipv4Address> taken,
        Ipv4Address? wanted,
        ImmutableArray<Message>.Builder because
    )
    {
        bool May(Ipv4Address address) => plan.Subnet.IsHost(address) && !taken.Contains(address) && address != plan.Gateway;
        if (wanted is { } own && May(own))
            return own;
        if (wanted is { } not)
            because.Add(new("tester-address.wanted-taken", not.ToString()));
        for (var at = (long)plan.Subnet.LastHost.Number; at >= plan.Subnet.FirstHost.Number; at--)
        {
            var address = new Ipv4Address((uint)at);
            if (May(address) && plan.Pool?.Contains(address) != true && !plan.Reserved.Any(r => r.Contains(address)))
                return address;
        }
        because.Add(new("tester-address.full"));
        return null;
    }
}
