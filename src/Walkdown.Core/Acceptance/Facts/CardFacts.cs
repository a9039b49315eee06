using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Everything one Card needs to be planned and judged. Core asks for nothing else.</summary>
public sealed record CardFacts
{
    /// <summary>The place.</summary>
    public required PlaceFacts Place { get; init; }

    /// <summary>The unit that hangs there now; null: none is known.</summary>
    public UnitFacts? Unit { get; init; }

    /// <summary>Every unit that hung here, oldest first; empty where only the present one is known.</summary>
    public ImmutableArray<UnitFacts> Units { get; init; } = [];

    /// <summary>Its heads.</summary>
    public ImmutableArray<HeadFacts> Heads { get; init; } = [];

    /// <summary>Its runs.</summary>
    public ImmutableArray<RunFacts> Runs { get; init; } = [];

    /// <summary>Its channels.</summary>
    public ImmutableArray<ChannelFacts> Channels { get; init; } = [];

    /// <summary>The low-voltage supply that feeds it; null where its port does.</summary>
    public SupplyFacts? Supply { get; init; }

    /// <summary>How the job works where practitioners differ.</summary>
    public required Practice Practice { get; init; }

    /// <summary>Where the site is, and what is there that rows wait for.</summary>
    public SiteFacts Site { get; init; } = SiteFacts.Unsaid;

    /// <summary>The Kit.</summary>
    public ImmutableArray<Instrument> Instruments { get; init; } = [];

    /// <summary>Every reading of it, in the journal's order.</summary>
    public ImmutableArray<Reading> Readings { get; init; } = [];

    /// <summary>What happened to it beside readings, in the journal's order.</summary>
    public ImmutableArray<CardEvent> Events { get; init; } = [];

    /// <summary>Faults raised on it.</summary>
    public ImmutableArray<FaultRecord> Faults { get; init; } = [];

    /// <summary>Rows of the register that cannot be read as they stand on record: what leans on them is not judged.</summary>
    public ImmutableArray<DamagedRow> Damaged { get; init; } = [];

    /// <summary>What cannot be read of all that a row leans on; null where all of it can.</summary>
    internal DamagedRow? DamageUnder(Subject on)
    {
        foreach (var damaged in Damaged)
            if (damaged.On == SubjectKind.Place || damaged.Reaches(on))
                return damaged;
        return null;
    }

    /// <summary>Which head, run, port or channel something is of; null where there is one of that kind, or it is of the place.</summary>
    public Message? WhichOf(Subject on)
    {
        static string N(int number) => number.ToString(CultureInfo.InvariantCulture);
        return on.Kind switch
        {
            SubjectKind.Head when Heads.Length > 1 => Heads.FirstOrDefault(h => h.Id == on.Id) is { } head
                ? new("subject.head", N(head.Number))
                : null,
            SubjectKind.Channel when Channels.Length > 1 => Channels.FirstOrDefault(c => c.Id == on.Id) is { } channel
                ? new("subject.channel", Message.Said(channel.Recorder), N(channel.Number))
                : null,
            SubjectKind.Run when Runs.Length > 1 => Runs.FirstOrDefault(r => r.Id == on.Id) is { } run
                ? new("subject.run", Message.Said(run.Label))
                : null,
            SubjectKind.Port when Runs.Length > 1 => Runs.Select(r => r.Port).FirstOrDefault(p => p?.Id == on.Id) is { } port
                ? new("subject.port", Message.Said(port.Cabinet), N(port.Number))
                : null,
            _ => null,
        };
    }

    /// <summary>The row that an entry is of now: what was said of the place, of something that is asked of each head by now, is the only
    /// head's. Of several nobody knows whose it was, and it stays the place's.</summary>
    internal CheckKey KeyNow(CheckKey key, Catalogues.Catalogue catalogue) =>
        key.On.Kind == SubjectKind.Place && Heads is [var only] && catalogue.OfHeads.Contains(key.Check)
            ? key with
            {
                On = new(SubjectKind.Head, only.Id, key.On.Part),
            }
            : key;

    /// <summary>How a head should look: the last that was agreed, else nothing.</summary>
    /// <param name="headId">The head.</param>
    public PlannedView? AgreedView(Guid headId)
    {
        PlannedView? last = null;
        foreach (var e in Events)
            if (e is PlannedView { AgreedBy: not null } view && view.HeadId == headId)
                last = view;
        return last;
    }

    /// <summary>With the offset of the site, whose days count.</summary>
    public required DateTimeOffset Now { get; init; }

    /// <summary>The site's zone, by its name in the tz database.</summary>
    public string TimeZone { get; init; } = "UTC";

    /// <summary>The day that it was at the site.</summary>
    public DateOnly DayOf(DateTimeOffset moment) => Clocks.SiteTime.DayOf(TimeZone, moment);

    /// <summary>
    /// The unit that hung here at a moment: by its interval, not by what hangs here when an entry arrives. Before the first that is on
    /// record it is that first one; between two,
    /// none.
    /// </summary>
    public UnitFacts? UnitAt(DateTimeOffset moment)
    {
        if (Units.IsDefaultOrEmpty)
            return Unit;
        UnitFacts? found = null;
        foreach (var unit in Units)
            if (unit.From <= moment && (unit.Until is not { } until || moment < until))
                found = unit;
        return found ?? (moment < Units[0].From ? Units[0] : null);
    }
}
