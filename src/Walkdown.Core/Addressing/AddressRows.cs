using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Addressing;

/// <summary>What the network showed, as readings of the rows of a Card. What nobody can know from there is left out.</summary>
public static class AddressRows
{
    /// <summary>Values by check.</summary>
    /// <param name="plan">The network.</param>
    /// <param name="row">A planned device that was found.</param>
    public static IEnumerable<(CheckId Check, ReadingValue Value)> Of(NetworkPlan.Read plan, LedgerRow row)
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
        var doubles = row.Notes.Any(n =>
            n.Code is "ledger.found.duplicateAddress" or "ledger.found.factoryAddressShared" or "ledger.several-answer"
        );
        if (doubles || (isKnown && planned.Address == found.Address))
            yield return (new("address.unique"), new YesNoValue(!doubles));
        if (found.Leases == false)
            yield return (
                new("address.policy"),
                new ChoiceValue(Ipv4Address.Read(found.Address) is { } own && plan.Pool?.Contains(own) == true ? "frozen-in-pool" : "fixed")
            );
        if (found.KeptAddress is { } kept)
            yield return (new("address.kept"), new YesNoValue(kept));
        if (found.Logins is { } logins && (logins.OpenToAll || logins.FactoryOpens is not null))
            yield return (new("address.factory-refused"), new YesNoValue(!logins.OpenToAll && logins.FactoryOpens == false));
    }

    /// <summary>Ways that are of two kinds: a search that is repeated is the same way.</summary>
    private static int Ways(FoundDevice found) => found.By.Select(w => w == FoundBy.SearchAgain ? FoundBy.Search : w).Distinct().Count();
}
