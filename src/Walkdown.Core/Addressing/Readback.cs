using Walkdown.Core.Measures;

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

    /// <summary>
    /// What a device says otherwise after it was started than before: what only a start made true, and what a start took back. Where it
    /// said nothing before or after, nothing is known of it.
    /// </summary>
    public static ImmutableArray<Message> SinceStart(FoundDevice before, FoundDevice after)
    {
        var changed = ImmutableArray.CreateBuilder<Message>();
        void Held(string what, string? was, string? reads, bool coded = false)
        {
            if (was is not null && reads is not null && was != reads)
                changed.Add(new("lan.since-start", "@lan.what." + what, coded ? was : Said(was), coded ? reads : Said(reads)));
        }
        Held("name", before.Name, after.Name);
        Held("mask", before.Mask, after.Mask);
        Held("gateway", before.Gateway, after.Gateway);
        Held("leases", Word(before.Leases), Word(after.Leases), coded: true);
        Held("searches", Word(before.AnswersSearches), Word(after.AnswersSearches), coded: true);
        Held("time", before.TimeSource, after.TimeSource);
        Held("zone", before.TimeZone, after.TimeZone);
        Held("firmware", before.Firmware, after.Firmware);
        if (before.Users is { } had && after.Users is { } has)
            Held("users", string.Join(", ", had.Order(StringComparer.Ordinal)), string.Join(", ", has.Order(StringComparer.Ordinal)));
        foreach (var stream in before.Streams)
            if (after.Streams.FirstOrDefault(s => s.Name == stream.Name) is { } now)
                Held("stream", stream.Says, now.Says);
            else if (!after.Streams.IsEmpty)
                Held("stream", stream.Name, "");
        return changed.DrainToImmutable();

        static string? Word(bool? says) =>
            says switch
            {
                true => "@ui.yes",
                false => "@ui.no",
                null => null,
            };
        static string Said(string text) => text.Length == 0 ? "\u2013" : Message.Said(text);
    }
}
