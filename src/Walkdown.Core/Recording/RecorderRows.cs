using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>What a recorder said and what its clips prove, as readings of the rows of Cards. What nobody can know from there is left
/// out.</summary>
public static class RecorderRows
{
    private static readonly CheckId Registered = new("recorder.registered"),
        Name = new("recorder.name"),
        Disk = new("recorder.disk"),
        Week = new("recorder.week"),
        Stream = new("recorder.stream"),
        Walk = new("recorder.zone-walk"),
        Offset = new("time.offset");

    /// <summary>Of the place whose picture belongs on a channel.</summary>
    /// <param name="lines">Every channel of it: a device of several heads is registered with all of them.</param>
    public static IEnumerable<(CheckId Check, ReadingValue Value)> OfPlace(IReadOnlyCollection<ChannelStanding> lines)
    {
        // An address alone may be anybody's.
        if (
            lines.Count > 0
            && lines.All(l => l is { Finding: ChannelFinding.AsPlanned, By: not KnownBy.Address, Read.State: ChannelState.Live })
        )
            yield return (Registered, new ChoiceValue("recorder"));
    }

    /// <summary>Of a channel.</summary>
    /// <param name="line">Against the plan.</param>
    /// <param name="proof">Null: nobody has made an event.</param>
    /// <param name="stream">Against what was asked for; null: not known.</param>
    public static IEnumerable<(CheckId Check, ReadingValue Value, DateTimeOffset? At)> OfChannel(
        ChannelStanding line,
        ChannelProof? proof,
        StreamStanding? stream
    )
    {
        if (line is not { Planned: not null, Read: { } read })
            yield break;
        if (read.Name.Length > 0)
            yield return (Name, new YesNoValue(!line.NameDiffers), null);
        // Whose recording it is must be known: on another's channel the mode is the other's.
        if (line.Finding == ChannelFinding.AsPlanned && Word(read.When) is { } mode)
            yield return (RecorderStore.Mode, new ChoiceValue(mode), null);
        // Hours that nobody wants are wanted by nobody yet: every hour counts until a person says otherwise.
        if (line.Finding == ChannelFinding.AsPlanned && read is { When: RecordedWhen.Schedule, Week: { } week })
            yield return (Week, new WeekValue(WeekHours.Together(week)), null);
        if (line.Finding == ChannelFinding.AsPlanned && stream?.Word is { } smooth)
            yield return (Stream, new ChoiceValue(smooth), null);
        if (line.Finding != ChannelFinding.AsPlanned || proof is null)
            yield break;
        if (proof is { IsProven: { } before, Before.EventAt: var at })
            yield return (ClipProof.Row, new YesNoValue(before), at);
        if (proof is { IsProvenAfter: { } after, After.EventAt: var since })
            yield return (ClipProof.RowAfter, new YesNoValue(after), since);
    }

    /// <summary>How often its zones rang, where the device on the channel is the planned one; null: nobody told, or it is too
    /// soon.</summary>
    /// <param name="line">Against the plan.</param>
    /// <param name="readAt">When the recorder was asked.</param>
    /// <param name="card">Of the place: when zones were changed is an act of it.</param>
    /// <param name="catalogue">In force.</param>
    /// <param name="made">Events that somebody made before it; those of its walk test are found on its Card.</param>
    public static FormValue? Nuisance(
        ChannelStanding line,
        DateTimeOffset readAt,
        CardFacts card,
        Catalogue catalogue,
        IEnumerable<DateTimeOffset> made
    )
    {
        if (line is not { Finding: ChannelFinding.AsPlanned, Read.Rang: { } rang })
            return null;
        var walked = card.Readings.Where(r => r.Key.Check == Walk).Select(r => r.Value).OfType<FormValue>().SelectMany(f => f.Lines);
        return NuisanceCount
            .Of(
                rang,
                readAt,
                new CountingReadings(card, catalogue).LastAct(NuisanceCount.Changed)?.At,
                [.. made, .. walked.Select(l => l.At).OfType<DateTimeOffset>()]
            )
            ?.Value();
    }

    /// <summary>Of the recorder itself.</summary>
    /// <param name="reading">Its own word.</param>
    /// <param name="limit">Of its clock, seconds.</param>
    public static IEnumerable<(CheckId Check, ReadingValue Value)> OfRecorder(RecorderReading reading, double limit)
    {
        if (reading.Disk is { } disk)
            yield return (Disk, new ChoiceValue(disk));
        // What the path may hide must not decide it.
        if (reading.Clock is { } clock && Math.Abs(Math.Abs(clock.OffsetSeconds) - limit) > clock.UncertaintySeconds)
            yield return (Offset, new NumberValue(Math.Round(clock.OffsetSeconds, 3), Unit.Second));
    }

    private static string? Word(RecordedWhen when) =>
        when switch
        {
            RecordedWhen.Always => "always",
            RecordedWhen.Motion => "motion",
            RecordedWhen.Schedule => "schedule",
            // Nobody sends the signal, as far as anybody knows: a person looks.
            RecordedWhen.Off => "off",
            _ => null,
        };
}
