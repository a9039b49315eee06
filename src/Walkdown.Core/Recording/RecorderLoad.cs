using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>What a recorder takes in, sends on and writes.</summary>
/// <param name="IngestMbps">All streams at their worst.</param>
/// <param name="IngestPercent">Of what it can take in.</param>
/// <param name="IngestOk">It can.</param>
/// <param name="UplinkMbps">With what viewers ask for on top.</param>
/// <param name="UplinkPercent">Of its link.</param>
/// <param name="UplinkOk">Within the share of the link that may be used.</param>
/// <param name="DiskWriteMbPerSecond">10^6 bytes a second.</param>
public sealed record RecorderLoad(
    double IngestMbps,
    double IngestPercent,
    bool IngestOk,
    double UplinkMbps,
    double UplinkPercent,
    bool UplinkOk,
    double DiskWriteMbPerSecond
)
{
    /// <param name="streams">That it records.</param>
    /// <param name="ingestLimitMbps">That it can take in.</param>
    /// <param name="uplinkLimitMbps">Of its link.</param>
    /// <param name="viewers">That look at once.</param>
    /// <param name="liveMbps">That each of them is sent.</param>
    /// <param name="usePercent">Of the link that may be used.</param>
    public static RecorderLoad Of(
        IReadOnlyCollection<RecordedStream> streams,
        double ingestLimitMbps,
        double uplinkLimitMbps,
        int viewers = 0,
        double liveMbps = 0,
        double usePercent = 70
    )
    {
        Require.Positive(ingestLimitMbps, "ingest_limit_mbps");
        Require.Positive(uplinkLimitMbps, "uplink_limit_mbps");
        Require.Number(viewers, "live_viewers", 0);
        Require.Number(liveMbps, "live_stream_mbps", 0);
        Require.Positive(usePercent, "uplink_use_limit_percent", 100);
        var ingest = streams.Sum(s => s.PeakMbps);
        // A stream whose duty cannot be is refused, though the peak does not need it.
        _ = streams.Sum(s => s.Duty);
        var uplink = ingest + viewers * liveMbps;
        static bool Within(double value, double limit) => value <= limit + 1e-9 * Math.Max(1, limit);
        return new(
            ingest,
            100 * ingest / ingestLimitMbps,
            Within(ingest, ingestLimitMbps),
            uplink,
            100 * uplink / uplinkLimitMbps,
            Within(uplink, uplinkLimitMbps * usePercent / 100),
            ingest / 8
        );
    }
}

/// <summary>How the disks of a recorder are put together.</summary>
public enum ArrayLevel
{
    /// <summary>One after another.</summary>
    None,

    /// <summary>Striped: one gone, all gone.</summary>
    Level0,

    /// <summary>Mirrored.</summary>
    Level1,

    /// <summary>One disk's worth of parity.</summary>
    Level5,

    /// <summary>Two disks' worth.</summary>
    Level6,

    /// <summary>Striped mirrors.</summary>
    Level10,
}

/// <summary>What an array of disks holds.</summary>
/// <param name="UsableTb">10^12 bytes.</param>
/// <param name="UsableTib">2^40 bytes: what a recorder shows.</param>
/// <param name="DataDisks">Disks' worth of recordings.</param>
/// <param name="FailuresSurvived">So many may fail at once, whichever they are.</param>
public sealed record DiskArray(double UsableTb, double UsableTib, int DataDisks, int FailuresSurvived)
{
    /// <exception cref="BadInputException">Too few disks, or an odd number in mirrors.</exception>
    public static DiskArray Of(ArrayLevel level, int disks, double diskTb, int hotSpares = 0)
    {
        Require.Number(disks, "disks", 1);
        Require.Positive(diskTb, "disk_tb");
        Require.Number(hotSpares, "hot_spares", 0);
        var n = disks - hotSpares;
        var least = level switch
        {
            ArrayLevel.None => 1,
            ArrayLevel.Level0 or ArrayLevel.Level1 => 2,
            ArrayLevel.Level5 => 3,
            _ => 4,
        };
        if (n < least)
            throw new BadInputException(BadInputReason.BelowMinimum, "disks");
        Require.Consistent(level != ArrayLevel.Level10 || n % 2 == 0, "disks");
        var (data, survives) = level switch
        {
            ArrayLevel.None or ArrayLevel.Level0 => (n, 0),
            ArrayLevel.Level1 => (1, n - 1),
            ArrayLevel.Level5 => (n - 1, 1),
            ArrayLevel.Level6 => (n - 2, 2),
            _ => (n / 2, 1),
        };
        return new(data * diskTb, data * diskTb * 1e12 / Retention.BytesOf(1, CapacityUnit.Tib), data, survives);
    }
}

/// <summary>What a memory card in a camera must do, and how long it lasts (speed classes of the SD Association).</summary>
/// <param name="NeededMbPerSecond">10^6 bytes a second, with headroom.</param>
/// <param name="LowestClass">The least class that writes so fast; null: none does.</param>
/// <param name="Days">That it holds; null: its size is not known.</param>
/// <param name="WearOutDays">Until its cells are written out; null: nobody knows how much they take.</param>
public sealed record MemoryCard(double NeededMbPerSecond, string? LowestClass, double? Days, double? WearOutDays)
{
    private static readonly (string Class, double MbPerSecond)[] Classes =
    [
        ("C2", 2),
        ("C4", 4),
        ("V6", 6),
        ("C10", 10),
        ("V30", 30),
        ("V60", 60),
        ("V90", 90),
    ];

    /// <param name="bitRateMbps">Of what is written.</param>
    /// <param name="headroom">Over the mean: writing comes in bursts.</param>
    /// <param name="cardGb">10^9 bytes; null: not known.</param>
    /// <param name="dutyPercent">Of the time that is written.</param>
    /// <param name="enduranceTbw">10^12 bytes that its cells take; null: not known.</param>
    public static MemoryCard Of(
        double bitRateMbps,
        double headroom = 2,
        double? cardGb = null,
        double dutyPercent = 100,
        double? enduranceTbw = null
    )
    {
        Require.Positive(bitRateMbps, "bit_rate_mbps");
        Require.Number(headroom, "headroom", 1);
        Require.Positive(dutyPercent, "duty_percent", 100);
        if (cardGb is { } size)
            Require.Number(size, "card_gb", 0);
        if (enduranceTbw is { } takes)
            Require.Number(takes, "endurance_tbw", 0);
        var needed = bitRateMbps / 8 * headroom;
        var daily = Retention.BytesPerDayOf(bitRateMbps) * dutyPercent / 100;
        return new(
            needed,
            Classes.FirstOrDefault(c => needed <= c.MbPerSecond + 1e-9 * c.MbPerSecond).Class,
            cardGb * 1e9 / daily,
            enduranceTbw * 1e12 / daily
        );
    }
}
