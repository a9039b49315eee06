using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>What a recorder has to keep its promise with, as a person says it of this one.</summary>
public sealed record RecorderStore
{
    /// <summary>How its disks are put together.</summary>
    public ArrayLevel Level { get; init; } = ArrayLevel.None;

    /// <summary>Disks in it, with the spares.</summary>
    public int Disks { get; init; } = 1;

    /// <summary>Of each, 10^12 bytes: as it is sold.</summary>
    public double DiskTb { get; init; } = 8;

    /// <summary>Disks that wait for another to fail.</summary>
    public int HotSpares { get; init; }

    /// <summary>That the recorder and its file system keep for themselves.</summary>
    public double ReservePercent { get; init; } = 5;

    /// <summary>Days that were promised.</summary>
    public double DaysPromised { get; init; } = 31;

    /// <summary>That it can take in, Mbit/s.</summary>
    public double IntakeMbps { get; init; } = 256;

    /// <summary>Of its link, Mbit/s.</summary>
    public double UplinkMbps { get; init; } = 1000;

    /// <summary>Who look at once, live.</summary>
    public int Viewers { get; init; }

    /// <summary>That each of them is sent, Mbit/s.</summary>
    public double ViewerMbps { get; init; } = 2;

    /// <summary>What is wrong with it, field by field; empty: nothing is.</summary>
    public ImmutableArray<(string Field, Message Why)> Check()
    {
        var wrong = ImmutableArray.CreateBuilder<(string, Message)>();
        void Within(string field, double value, double least, double most)
        {
            if (!(value >= least && value <= most))
                wrong.Add((field, new("store.range", Message.Number(least), Message.Number(most))));
        }
        Within("disks", Disks, 1, 200);
        Within("diskTb", DiskTb, 0.01, 1000);
        Within("hotSpares", HotSpares, 0, 20);
        Within("reservePercent", ReservePercent, 0, 90);
        Within("daysPromised", DaysPromised, 0.01, 4000);
        Within("intakeMbps", IntakeMbps, 0.1, 1_000_000);
        Within("uplinkMbps", UplinkMbps, 0.1, 1_000_000);
        Within("viewers", Viewers, 0, 1000);
        Within("viewerMbps", ViewerMbps, 0, 1000);
        if (wrong.Count > 0)
            return wrong.DrainToImmutable();
        try
        {
            _ = Array;
        }
        catch (BadInputException problem)
        {
            wrong.Add(
                ("disks", new(problem.Reason == BadInputReason.Inconsistent ? "store.odd" : "store.few", "@array." + Codes.Of(Level)))
            );
        }
        return wrong.DrainToImmutable();
    }

    /// <summary>The row of a recorder's Card that says what it has, and what was promised.</summary>
    public static readonly CheckId Row = new("recorder.store");

    /// <summary>The row of a channel that says when it is recorded.</summary>
    public static readonly CheckId Mode = new("recorder.mode");

    private static readonly Dictionary<string, ArrayLevel> Levels = new()
    {
        ["none"] = ArrayLevel.None,
        ["stripe"] = ArrayLevel.Level0,
        ["mirror"] = ArrayLevel.Level1,
        ["one-parity"] = ArrayLevel.Level5,
        ["two-parity"] = ArrayLevel.Level6,
        ["mirror-stripe"] = ArrayLevel.Level10,
    };

    /// <summary>As a reading of its row says it; null where that leaves out what is needed.</summary>
    public static RecorderStore? Of(FormLine line)
    {
        double? Said(string field) => line.Of(field)?.Number;
        return
            line.Of("level")?.Word is { } word
            && Levels.TryGetValue(word, out var level)
            && Said("disks") is { } disks
            && Said("disk") is { } gigabytes
            && Said("days") is { } days
            ? new RecorderStore
            {
                Level = level,
                Disks = (int)disks,
                DiskTb = gigabytes / 1000,
                HotSpares = (int)(Said("spares") ?? 0),
                ReservePercent = Said("reserve") ?? 5,
                DaysPromised = days,
                IntakeMbps = Said("intake") ?? 256,
            }
            : null;
    }

    /// <summary>Gigabytes written in a full day, where they were read at the recorder; null: they were estimated, or not said.</summary>
    public static double? WrittenGbPerDay(FormLine line) => line.Of("source")?.Word == "recorder" ? line.Of("written")?.Number : null;

    /// <summary>What its disks hold.</summary>
    /// <exception cref="BadInputException">Too few of them.</exception>
    [System.Text.Json.Serialization.JsonIgnore]
    public DiskArray Array => DiskArray.Of(Level, Disks, DiskTb, HotSpares);
}

/// <summary>Where a rate comes from.</summary>
public enum RateOrigin
{
    /// <summary>Of what was recorded.</summary>
    Recorded,

    /// <summary>The most that the camera says it sends.</summary>
    Said,

    /// <summary>Of size, frames and codec: easily off by a factor of two.</summary>
    Estimated,
}

/// <summary>One channel as it is recorded.</summary>
/// <param name="Channel">From 1.</param>
/// <param name="Label">Of the place; empty where none belongs to it.</param>
/// <param name="Area">Of the place.</param>
/// <param name="Stream">What is written.</param>
/// <param name="Origin">Where its rate comes from.</param>
/// <param name="FramesPerSecond">Null where nobody knows.</param>
public sealed record ChannelLoad(
    int Channel,
    string Label,
    string Area,
    RecordedStream Stream,
    RateOrigin Origin,
    double? FramesPerSecond = null
);
