namespace Walkdown.Core.Addressing;

/// <summary>Whether what a device was told is what it says afterwards (C45).</summary>
public static class Readback
{
    /// <summary>Whether one setting holds.</summary>
    /// <param name="what">That was set.</param>
    /// <param name="wanted">The place: its address and name.</param>
    /// <param name="plan">The network: its mask and gateway.</param>
    /// <param name="read">What the device says of itself.</param>
    public static bool Holds(LedgerMend what, PlannedDevice wanted, NetworkPlan.Read plan, FoundDevice read) =>
        what switch
        {
            LedgerMend.SetAddress => Ipv4Address.Read(read.OwnAddress) == Ipv4Address.Read(wanted.Address)
                && Subnet.PrefixOf(read.Mask) == plan.Subnet.Prefix,
            LedgerMend.SetGateway => Ipv4Address.Read(read.Gateway) == plan.Gateway,
            LedgerMend.SetName => read.Name == wanted.Label,
            LedgerMend.AnswerSearches => read.AnswersSearches == true,
            LedgerMend.SetTimeSource => read.TimeSource == "ntp",
            _ => false,
        };
}
