namespace Walkdown.Core.Addressing;

/// <summary>Why a device that is planned does not answer, as far as anybody can know (C41, C42).</summary>
public static class Silence
{
    /// <summary>The nearest reason: what is known to be missing first, then what the plan itself shows, then what is still to be
    /// tried.</summary>
    public static LedgerNote Of(AddressLedger.Terms terms, PlannedDevice device)
    {
        if (device.Powered == false)
            return Note("no-power");
        if (device.LinkUp == false)
            return Note("no-link");
        if (Ipv4Address.Read(device.Address) is { } address && terms.Plan is { } plan)
        {
            if (!plan.Subnet.Contains(address))
                return Note("planned-elsewhere", device.Address, plan.Subnet.ToString());
            if (plan.Pool?.Contains(address) == true)
                return Note("planned-in-pool", device.Address);
        }
        // A cable that is known to be up says that somebody is there, under another address or on another network.
        return device.LinkUp == true ? Note("link-and-silent") : Note("nobody-looked");
    }

    private static LedgerNote Note(string code, params ImmutableArray<string> args) =>
        new("ledger.silent." + code, args, LedgerWeight.Wrong);
}
