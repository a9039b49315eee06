using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Addressing;

/// <summary>What the network showed, as readings of the rows of a Card. What nobody can know from there is left out.</summary>
public static class AddressRows
{
    /// <summary>Values by check.</summary>
    /// <param name="plan">The network.</param>
    /// <param name="row">A planned device that was found.</param>
    /// <param name="clockLimit">Of its clock, seconds; null: there is none.</param>
    public static IEnumerable<(CheckId Check, ReadingValue Value)> Of(NetworkPlan.Read plan, LedgerRow row, double? clockLimit = null)
    {
        if (row is not { Planned: { } planned, Found: { } found } || row.Class == ListClass.ReplacedDevice)
            yield break;
        yield return (
            new("address.found"),
            new ChoiceValue(
                Ways(found) > 1 ? "two-ways"
                : found.By is [FoundBy.ByHand] ? "by-hand"
                : "first-search"
            )
        );
        // Who has not told who he is may be anybody.
        var isKnown = found.Serial is not null || found.HardwareAddress is not null;
        var doubles = row.IsDouble;
        if (doubles || (isKnown && planned.Address == found.Address))
            yield return (new("address.unique"), new YesNoValue(!doubles));
        if (found.Leases == false)
            yield return (
                new("address.policy"),
                new ChoiceValue(Ipv4Address.Read(found.Address) is { } own && plan.Pool?.Contains(own) == true ? "frozen-in-pool" : "fixed")
            );
        // Read from the device: which of both is not as the network's, or that neither is not.
        if (found.Mask is not null && (found.Gateway is not null || plan.Gateway is null))
        {
            var mask = Subnet.PrefixOf(found.Mask) != plan.Subnet.Prefix;
            var gateway = plan.Gateway is { } way && Ipv4Address.Read(found.Gateway) != way;
            yield return (
                new("address.network"),
                new ChoiceValue(
                    (mask, gateway) switch
                    {
                        (true, true) => "both",
                        (true, false) => "mask",
                        (false, true) => "gateway",
                        _ => "as-plan",
                    }
                )
            );
        }
        if (found.Name is { } name && isKnown)
            yield return (new("address.name"), new YesNoValue(name == planned.Label || (planned.Name.Length > 0 && name == planned.Name)));
        if (found.KeptAddress is { } kept)
            yield return (new("address.kept"), new YesNoValue(kept));
        // It tells whole seconds: what that may hide must not decide it.
        if (
            clockLimit is { } limit
            && found is { ClockAheadSeconds: { } ahead, ClockUncertaintySeconds: { } u }
            && Math.Abs(Math.Abs(ahead) - limit) > u
        )
            yield return (new("time.offset"), new NumberValue(ahead, Measures.Unit.Second));
        if (found.Logins is { } logins && (logins.OpenToAll || logins.FactoryOpens is not null))
            yield return (new("address.factory-refused"), new YesNoValue(!logins.OpenToAll && logins.FactoryOpens == false));
    }

    /// <summary>Ways that are of two kinds: a search that is repeated is the same way.</summary>
    private static int Ways(FoundDevice found) => found.By.Select(w => w == FoundBy.SearchAgain ? FoundBy.Search : w).Distinct().Count();
}
