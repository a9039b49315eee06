using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>Something that is told of a channel.</summary>
/// <param name="Said">In words.</param>
/// <param name="IsWrong">False: it tells neither way, and is to be looked at again.</param>
public sealed record ChannelNote(Message Said, bool IsWrong);

/// <summary>What a recorder's words and clips mean, in words; what is as it should be is not told.</summary>
public static class RecorderNotes
{
    /// <summary>Of the recorder itself.</summary>
    /// <param name="reading">Its own word.</param>
    /// <param name="serial">Of the unit that should answer; empty: not known.</param>
    /// <param name="limitSeconds">Of its clock.</param>
    /// <param name="store">As its Card says; null: nobody has said.</param>
    public static ImmutableArray<Message> Of(RecorderReading reading, string serial, double limitSeconds, RecorderStore? store)
    {
        var notes = ImmutableArray.CreateBuilder<Message>();
        if (IsOther(reading, serial))
            notes.Add(new("recorder.other-unit", Message.Said(reading.Serial), Message.Said(serial)));
        if (reading.IsTyped)
            return notes.ToImmutable();
        if (reading.Clock is not { } clock)
            notes.Add(new("recorder.no-clock"));
        else if (ClockTopic.Told(clock.OffsetSeconds, limitSeconds) is { } wrong)
            notes.Add(wrong);
        foreach (var disk in reading.Disks.Where(d => d.State is DiskState.Missing or DiskState.Failing))
            notes.Add(new(disk.State == DiskState.Missing ? "recorder.disk-missing" : "recorder.disk-failing", Message.Number(disk.Bay)));
        if (reading.Disks.Any(d => d.State == DiskState.Untold))
            notes.Add(new("recorder.disk-untold", Message.Number(reading.Disks.Count(d => d.State == DiskState.Untold))));
        if (store is not null && store.With(reading) is var read && (read.Disks, read.DiskTb) != (store.Disks, store.DiskTb))
            notes.Add(
                new(
                    "recorder.disks-differ",
                    Message.Number(store.Disks),
                    Message.Number(store.DiskTb),
                    Message.Number(read.Disks),
                    Message.Number(read.DiskTb)
                )
            );
        if (reading.Notifies is { IsEmpty: true })
            notes.Add(new("recorder.notifies-nobody"));
        if (store?.DaysPromised is { } promised && DaysKept(reading) is { } kept && kept < promised)
            notes.Add(new("recorder.days-short", Message.Number(kept, 1), Message.Number(promised)));
        if (Peak(reading) is { } peak && reading.IntakeMbps is { } intake && peak > intake)
            notes.Add(new("recorder.too-much", Message.Number(peak, 1), Message.Number(intake)));
        return notes.ToImmutable();
    }

    /// <summary>Another unit answers than the one that is written down.</summary>
    public static bool IsOther(RecorderReading reading, string serial) =>
        serial.Trim().Length > 0
        && reading.Serial.Length > 0
        && !string.Equals(serial.Trim(), reading.Serial, StringComparison.OrdinalIgnoreCase);

    /// <summary>What arrives when all move, Mbit/s; null where a live channel did not say.</summary>
    public static double? Peak(RecorderReading reading)
    {
        var live = reading.Channels.Where(c => c.State == ChannelState.Live && c.IsKept != false).ToList();
        return live.Count > 0 && live.All(c => c.PeakMbps is not null) ? live.Sum(c => c.PeakMbps!.Value) : null;
    }

    /// <summary>Days that are on its disks, of the channel that holds the fewest; null where none says. A recorder that runs for less has
    /// not yet got there.</summary>
    public static double? DaysKept(RecorderReading reading)
    {
        var kept = reading
            .Channels.Where(c => c is { Oldest: not null, Newest: not null } && c.Newest >= c.Oldest && c.IsKept == true)
            .Select(c => (c.Newest!.Value - c.Oldest!.Value).TotalDays)
            .ToList();
        return kept.Count == 0 ? null : kept.Min();
    }

    /// <summary>Of one channel.</summary>
    /// <param name="standing">Against the plan.</param>
    /// <param name="proof">Null: nobody has made an event.</param>
    public static ImmutableArray<ChannelNote> Of(ChannelStanding standing, ChannelProof? proof)
    {
        var notes = new List<ChannelNote>();
        void Add(string code, params ImmutableArray<string> args) => notes.Add(new(new(code, args), true));
        void Clip(ClipProof of)
        {
            // What both clips say alike is said once.
            if (of.Verdict != ClipVerdict.Found && notes.All(n => n.Said != of.Because))
                notes.Add(new(of.Because, of.Proves == false));
        }
        var (planned, read) = (standing.Planned, standing.Read);
        var carries = standing.Carries is { } view ? Message.Said(ChannelMap.NameOf(view)) : "";
        switch (standing.Finding)
        {
            case ChannelFinding.Exchanged:
                Add("map.exchanged", carries, Message.Number(standing.Carries!.Number));
                break;
            case ChannelFinding.OtherHead:
                Add("map.other-head", carries);
                break;
            case ChannelFinding.Twice:
                Add("map.twice", carries);
                break;
            case ChannelFinding.Stranger:
                Add("map.stranger", Message.Said(Who(read!)));
                break;
            case ChannelFinding.Unplanned:
                if (standing.Carries is null)
                    Add("map.unplanned", Message.Said(Who(read!)));
                else
                    Add("map.unplanned-known", carries);
                break;
            case ChannelFinding.Missing:
                Add("map.missing");
                break;
            case ChannelFinding.Untold:
                notes.Add(new(new("map.untold"), false));
                break;
        }
        if (read?.State == ChannelState.Offline)
            Add("map.offline");
        if (planned is not null && read is not null)
        {
            if (read.When == RecordedWhen.Alarm)
                Add("map.on-alarm");
            else if (read.When == RecordedWhen.Off)
                Add("map.off");
            else if (read is { When: RecordedWhen.Schedule, Week: { } week })
            {
                var gaps = WeekHours.Without(WeekHours.All, week);
                if (week.IsEmpty)
                    Add("map.no-hours");
                else
                    // Whether somebody wants these hours, the Card knows.
                    notes.AddRange(RecordingTopic.GapsToTell(gaps).Select(g => new ChannelNote(g, false)));
            }
            else if (read.IsKept == true && read.State == ChannelState.Live && read.RecordedPercent == 0)
                Add("map.nothing-written");
        }
        if (standing.NameDiffers)
            Add("map.name", Message.Said(read!.Name), Message.Said(ChannelMap.NameOf(planned!)));
        if (proof?.Before?.Proof is { } before)
            Clip(before);
        if (proof?.After is { } after)
        {
            if (after.Proof is { } late)
                Clip(late);
            if (proof.IsProven == true && after.Proof?.Proves == false)
                Add("clip.not-since");
            if (after.Earlier == false)
                Add("clip.earlier-gone");
        }
        return [.. notes];
    }

    private static string Who(RecorderChannel read) => read.Who.Length > 0 ? read.Who : read.Name;
}
