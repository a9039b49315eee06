using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>The next way to look for what is still missing (C41): the cheapest that has not been tried, and why it is worth it.</summary>
/// <param name="Next">Null: all are found, or all ways are tried.</param>
/// <param name="Missing">Planned devices that did not answer.</param>
/// <param name="Because">In words.</param>
public sealed record DiscoveryLadder(FoundBy? Next, int Missing, ImmutableArray<Message> Because)
{
    /// <summary>Chooses.</summary>
    /// <param name="ledger">As it stands.</param>
    /// <param name="tried">Ways that were gone already.</param>
    /// <param name="twoWays">The job's school asks for two ways before a device counts as found.</param>
    /// <param name="others">Networks beside the plan's that devices may still be on, such as a factory's.</param>
    public static DiscoveryLadder Of(AddressLedger ledger, IReadOnlyCollection<FoundBy> tried, bool twoWays, int others)
    {
        var missing = ledger.Rows.Count(r => r is { Planned: not null, Found: null });
        // A switch or a recorder has no reason to answer a search for cameras.
        var cameras = ledger.Rows.Count(r => r is { Planned.IsCamera: true, Found: null });
        var unknown = ledger.Rows.Count(r => r is { Planned: null, Found: not null });
        var once = ledger.Rows.Count(r => r.Found is { By.Length: 1 });
        var count = Message.Number(missing, 0);
        DiscoveryLadder Say(FoundBy? next, string code, params ImmutableArray<string> args) =>
            new(
                next,
                missing,
                [
                    new Message("ladder." + code, args),
                    .. unknown > 0 && missing > 0 ? [new Message("ladder.unknown", Message.Number(unknown, 0))] : Array.Empty<Message>(),
                ]
            );
        if (!tried.Contains(FoundBy.Search))
            return Say(FoundBy.Search, "first", Message.Number(ledger.Rows.Count(r => r.Planned is { IsCamera: true }), 0));
        if (cameras > 0 && !tried.Contains(FoundBy.SearchAgain))
            return Say(FoundBy.SearchAgain, "again", Message.Number(cameras, 0));
        if (missing > 0 && !tried.Contains(FoundBy.RangeScan))
            return Say(FoundBy.RangeScan, "range", count);
        if (twoWays && once > 0 && !tried.Contains(FoundBy.RangeScan))
            return Say(FoundBy.RangeScan, "two-ways", Message.Number(once, 0));
        if (missing > 0 && others > 0 && !tried.Contains(FoundBy.OtherNetwork))
            return Say(FoundBy.OtherNetwork, "other-network", count, Message.Number(others, 0));
        if (missing > 0)
            return Say(FoundBy.ByHand, "by-hand", count);
        return Say(null, "all-found");
    }
}
