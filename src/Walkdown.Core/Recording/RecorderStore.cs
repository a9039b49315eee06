using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>What a recorder has to keep its promise with, as a person says it of this one.</summary>
/// <param name="Level">How its disks are put together.</param>
/// <param name="Disks">Disks in it, with the spares.</param>
/// <param name="DiskTb">Of each, 10^12 bytes: as it is sold.</param>
/// <param name="HotSpares">Disks that wait for another to fail.</param>
/// <param name="ReservePercent">That the recorder and its file system keep for themselves.</param>
/// <param name="DaysPromised">Days that were promised.</param>
/// <param name="IntakeMbps">That it can take in, Mbit/s; null: nobody has said, and nothing is judged by it.</param>
public sealed record RecorderStore(
    ArrayLevel Level,
    int Disks,
    double DiskTb,
    int HotSpares,
    double ReservePercent,
    double DaysPromised,
    double? IntakeMbps
)
{
    /// <summary>Where nobody has said what the recorder keeps for itself (practice).</summary>
    private const double UsualReservePercent = 5;

    /// <summary>Why its disks are none that hold anything; null: they do. What each figure may be at all is its field's to say.</summary>
    public Message? Trouble()
    {
        try
        {
            _ = Array;
            return null;
        }
        catch (BadInputException problem)
        {
            return new(problem.Reason == BadInputReason.Inconsistent ? "store.odd" : "store.few", "@array." + Codes.Of(Level));
        }
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
            ? new(
                level,
                (int)disks,
                gigabytes / 1000,
                (int)(Said("spares") ?? 0),
                Said("reserve") ?? UsualReservePercent,
                days,
                Said("intake")
            )
            : null;
    }

    /// <summary>Gigabytes written in a full day, where they were read at the recorder; null: they were estimated, or not said.</summary>
    public static double? WrittenGbPerDay(FormLine line) => line.Of("source")?.Word == "recorder" ? line.Of("written")?.Number : null;

    /// <summary>
    /// With what the recorder says itself: its bays, the smallest of their disks, what it takes in. A missing disk is one of the array
    /// still. What it does not say stays as the Card says.
    /// </summary>
    public RecorderStore With(RecorderReading reading)
    {
        var sizes = reading.Disks.Select(d => d.Tb).OfType<double>().Where(t => t > 0).ToList();
        return this with
        {
            Disks = sizes.Count > 0 ? reading.Disks.Length : Disks,
            DiskTb = sizes.Count > 0 ? sizes.Min() : DiskTb,
            IntakeMbps = IntakeMbps ?? reading.IntakeMbps,
        };
    }

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
