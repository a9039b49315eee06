using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;

namespace Walkdown.Core.Acceptance;

/// <summary>Everything one Card needs to be planned and judged. Core asks for nothing else.</summary>
public sealed record CardFacts
{
    public required PlaceFacts Place { get; init; }
    public UnitFacts? Unit { get; init; }

    /// <summary>Every unit that hung here, oldest first; empty where only the present one is known.</summary>
    public ImmutableArray<UnitFacts> Units { get; init; } = [];
    public ImmutableArray<HeadFacts> Heads { get; init; } = [];
    public ImmutableArray<RunFacts> Runs { get; init; } = [];
    public ImmutableArray<ChannelFacts> Channels { get; init; } = [];

    /// <summary>The low-voltage supply that feeds it; null where its port does.</summary>
    public SupplyFacts? Supply { get; init; }
    public required Practice Practice { get; init; }
    public ImmutableArray<Instrument> Instruments { get; init; } = [];
    public ImmutableArray<Reading> Readings { get; init; } = [];
    public ImmutableArray<CardEvent> Events { get; init; } = [];
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

/// <summary>A row of the register that cannot be read as it stands on record.</summary>
/// <param name="On">What it is of. Of the place: everything on the Card leans on it.</param>
/// <param name="Cells">Table and column, separated by commas.</param>
public sealed record DamagedRow(SubjectKind On, Guid Id, string Cells)
{
    /// <summary>A run carries the data and the power of all but the picture; a head's number belongs to its channel.</summary>
    internal bool Reaches(Subject on) =>
        On switch
        {
            SubjectKind.Run or SubjectKind.Port => on.Kind is not (SubjectKind.Head or SubjectKind.Channel),
            SubjectKind.Head => on.Kind == SubjectKind.Channel || on.Kind == SubjectKind.Head && on.Id == Id,
            _ => on.Kind == On && on.Id == Id,
        };
}

/// <summary>A place of the schedule.</summary>
/// <param name="Kind">Id of the device kind.</param>
/// <param name="Features">Features of the place beside those of its kind.</param>
/// <param name="Height">Metres above the ground, where planned.</param>
public sealed record PlaceFacts(
    Guid Id,
    string Label,
    string Name,
    string Area,
    string Kind,
    string Model,
    ImmutableArray<string> Features,
    int? PowerClass,
    double? WattsInfraredOff,
    double? WattsInfraredOn,
    int? SpeedMbps,
    string? Address,
    double? HeightMetres,
    string? Mount = null,
    string? CableEntry = null
);

/// <summary>A unit at the place, from, until.</summary>
/// <param name="Until">Null: it hangs there now.</param>
public sealed record UnitFacts(Guid Id, string Serial, string? HardwareAddress, DateTimeOffset From, DateTimeOffset? Until = null);

public sealed record HeadFacts(Guid Id, int Number);

/// <param name="RecorderFirmware">Version last read at the recorder, where it was.</param>
public sealed record ChannelFacts(Guid Id, string Recorder, int Number, string? RecorderFirmware = null)
{
    /// <summary>What says which version the recorder runs; where it is given, that decides.</summary>
    public CardFacts? RecorderFacts { get; init; }

    /// <summary>Version of the recorder by the reading that counts there; null where none does.</summary>
    internal string? FirmwareThatCounts(Catalogue.Catalogue catalogue) =>
        RecorderFacts is not { } facts ? RecorderFirmware
        : new CountingReadings(facts, catalogue).Value(KnownChecks.Firmware, new Subject(SubjectKind.Place, facts.Place.Id))
            is TextValue text
            ? text.Text
        : null;
}

/// <summary>One device on a supply's run.</summary>
/// <param name="Metres">From the supply along the run.</param>
public sealed record SupplyTap(
    Guid DeviceId,
    string Label,
    string Kind,
    string Model,
    double Metres,
    double? WattsInfraredOff,
    double? WattsInfraredOn
);

/// <summary>A low-voltage supply with everything that hangs on its run.</summary>
/// <param name="RegulationPercent">Rise from full load to none; 0 for a regulated supply.</param>
/// <param name="Volts">Null where nobody knows them: the device hangs on a supply all the same.</param>
/// <param name="CableAmperes">What its conductors may carry.</param>
public sealed record SupplyFacts(
    Guid Id,
    string Label,
    SupplyRange Range,
    Sourced<double>? Volts,
    double RegulationPercent,
    double? RatedAmperes,
    double? FuseAmperes,
    double? CableAmperes,
    LowVoltage.Wire Wire,
    double TemperatureC,
    ImmutableArray<SupplyTap> Taps
);

/// <summary>One cable run with its ends, as planned or as built.</summary>
/// <param name="LengthMetres">The fixed cable, without cords.</param>
/// <param name="OwnScheme">True where the run says its scheme itself; else the job's holds.</param>
/// <param name="CordsMetres">Cords in the path, both ends together; 0 for a permanent link.</param>
public sealed record RunFacts(
    Guid Id,
    string Label,
    LinkConfiguration Configuration,
    Sourced<double> LengthMetres,
    Sourced<double> GaugeAwg,
    Sourced<ConductorMaterial> Material,
    bool Screened,
    Sourced<double> TemperatureC,
    double CordsMetres,
    double CordGaugeAwg,
    WiringScheme Scheme,
    PortFacts? Port,
    bool OwnScheme = false,
    bool Shared = false
)
{
    /// <summary>Everything in the path from the port to the device, where it was drawn; else what the length and the cords give.</summary>
    public ImmutableArray<PathPiece> Pieces { get; init; } = [];

    /// <summary>The path as arithmetic takes it.</summary>
    public RunPath Path =>
        Pieces.IsEmpty ? RunPath.Of(LengthMetres.Value, GaugeAwg.Value, Material.Value, CordsMetres, CordGaugeAwg) : new RunPath(Pieces);

    /// <summary>Fixed cable and cords together.</summary>
    public double TotalPlannedMetres => LengthMetres.Value + CordsMetres;
}

/// <summary>The switch port or injector that a run ends at.</summary>
/// <param name="Mode">What kind of power it gives.</param>
/// <param name="LimitWatts">Most that this port gives, where its switch or injector has such a limit.</param>
/// <param name="IsUplink">Planned as an uplink: no camera belongs there.</param>
public sealed record PortFacts(
    Guid Id,
    string Cabinet,
    int Number,
    Sourced<double> SourceVolts,
    int SpeedMbps,
    bool AutoCrossover = true,
    SourceMode Mode = SourceMode.Standard,
    double? LimitWatts = null,
    bool IsUplink = false
);

/// <summary>How this job works where practitioners differ.</summary>
/// <param name="BenchFirst">Each device is tried on the bench before it is fixed; else it is mounted first and tried there.</param>
/// <param name="SwitchFirst">Power comes up at the switch, the recorder, the monitor; else at the recorder, then the cameras.</param>
/// <param name="MatchFarEnd">New plugs follow what is found at the far end, in the place of one scheme for the job; a run that says its own
/// keeps it.</param>
/// <param name="UnexpectedRefuses">A required reading that is in, and further from what was expected than both uncertainties, refuses until
/// somebody explains it.</param>
public sealed record Practice(
    DecisionRule Rule,
    WiringScheme Scheme,
    bool BenchFirst = false,
    bool MatchFarEnd = false,
    bool SwitchFirst = false,
    bool UnexpectedRefuses = false
)
{
    /// <summary>What the school of work adds to every device, for the rules of checks.</summary>
    public ImmutableArray<string> Features =>
        (BenchFirst, SwitchFirst) switch
        {
            (true, true) => BenchAndSwitch,
            (true, false) => BenchAndRecorder,
            (false, true) => Switch,
            _ => Recorder,
        };

    private static readonly ImmutableArray<string> BenchAndSwitch = ["bench-first", "switch-first"],
        BenchAndRecorder = ["bench-first", "recorder-first"],
        Switch = ["switch-first"],
        Recorder = ["recorder-first"];
}

/// <summary>Accuracy of one function of an instrument in one range.</summary>
/// <param name="UpTo">Greatest magnitude that it holds for, in the unit; null: for all above the ranges before.</param>
public sealed record InstrumentFunction(Unit Unit, Accuracy Accuracy, double? UpTo = null);

/// <summary>A reading of a known reference on site, to see that an instrument still reads true.</summary>
/// <param name="Reference">What the reference is, in the unit.</param>
public sealed record FieldCheck(Unit Unit, double Reference, double Reading, DateTimeOffset At);

/// <summary>A calibration before the present one.</summary>
public sealed record CalibrationPeriod(DateOnly From, DateOnly Until, string Certificate);

/// <summary>An instrument with the accuracy of each of its functions by range, its calibration and its reference checks on site.</summary>
public sealed record Instrument(
    Guid Id,
    string Name,
    string Serial,
    ImmutableArray<InstrumentFunction> Functions,
    DateOnly? CalibratedOn,
    DateOnly? CalibrationDue,
    ImmutableArray<FieldCheck> Checks,
    ImmutableArray<CalibrationPeriod> Earlier
)
{
    /// <summary>What is on record of it cannot be read: nothing that it reads can be leaned on.</summary>
    public bool Unreadable { get; init; }

    /// <summary>Taken out of use; what it read before stands.</summary>
    public DateTimeOffset? RetiredAt { get; init; }

    /// <summary>Whether a reading of this day counts: some calibration held on it.</summary>
    public bool CalibratedAt(DateOnly day) =>
        Calibration.On(day, CalibratedOn, CalibrationDue).Counts || Earlier.Any(p => Calibration.On(day, p.From, p.Until).Counts);

    /// <summary>Accuracy at a reading; null where the data sheet gives none for the unit or beyond its ranges.</summary>
    public Accuracy? AccuracyAt(Unit unit, double reading)
    {
        InstrumentFunction? best = null;
        foreach (var function in Functions)
            if (
                function.Unit == unit
                && (function.UpTo is not { } most || Math.Abs(reading) <= most)
                && (best is null || (function.UpTo ?? double.MaxValue) < (best.UpTo ?? double.MaxValue))
            )
                best = function;
        return best?.Accuracy;
    }

    /// <summary>What is wrong with its functions, by the position of the first that cannot be; null where all can.</summary>
    public static int? BadFunction(ImmutableArray<InstrumentFunction> functions)
    {
        for (var i = 0; i < functions.Length; i++)
            if (
                functions[i] is not { Accuracy: { } accuracy } f
                || !accuracy.IsSound
                || f.Unit == Unit.None
                || !Enum.IsDefined(f.Unit)
                || f.UpTo is { } most && !(double.IsFinite(most) && most > 0)
            )
                return i;
        return null;
    }

    /// <summary>Whether a reference check was in: reference and reading agree within the accuracy. Null where no accuracy is
    /// known.</summary>
    public bool? IsIn(FieldCheck check) =>
        AccuracyAt(check.Unit, check.Reading) is { IsSound: true } accuracy
            ? Math.Abs(check.Reading - check.Reference) <= accuracy.HalfWidthAt(check.Reading) + 1e-12
            : null;

    /// <summary>
    /// True where a reading at this moment cannot be leaned on: the nearest reference check of its unit before it, or the nearest after it,
    /// was out. Between
    /// the last check that was in and the first that was out nobody knows when the instrument went.
    /// </summary>
    public bool InDoubt(Unit unit, DateTimeOffset at)
    {
        FieldCheck? before = null,
            after = null;
        foreach (var check in Checks)
        {
            if (check.Unit != unit)
                continue;
            if (check.At <= at && (before is null || check.At > before.At))
                before = check;
            if (check.At > at && (after is null || check.At < after.At))
                after = check;
        }
        return before is not null && IsIn(before) == false || after is not null && IsIn(after) == false;
    }
}
