using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;

namespace Walkdown.Core.Acceptance;

/// <summary>One row while it is judged: what the registries' functions may look at.</summary>
internal sealed class RowContext(CardFacts facts, Catalogue catalogue, PlannedRow row, CountingReadings counting, JudgeMemo memo)
{
    public JudgeMemo Memo => memo;
    public PlannedRow Row => row;

    public CardFacts Facts => facts;
    public Catalogue Catalogue => catalogue;
    public CheckKey Key => row.Key;
    public CheckDefinition Check => row.Check;
    public CountingReadings Counting => counting;
    public RunFacts? Run { get; } = row.Key.On.Kind == SubjectKind.Run ? RunOf(facts, row.Key.On.Id) : null;
    public DeviceKind? Kind => memo.Kind;

    public DeviceModel? Model => memo.Model;

    /// <summary>The items of the row's list that apply here.</summary>
    public ImmutableArray<CheckItem> Items => row.Items;

    public IReadOnlySet<string> Features => memo.Features;

    public bool Has(string feature) => Features.Contains(feature);

    /// <summary>Light patterns of the model.</summary>
    public ImmutableArray<LightPattern> Lights => Model?.Lights ?? [];

    /// <summary>Watts at the heaviest the device draws.</summary>
    public double? MostWatts => Nameplate.MostWatts;

    private Nameplate Nameplate => memo.Nameplate;

    /// <summary>What feeds the device by plan, as the choices of <c>power.feed</c>; null where nothing says so.</summary>
    public string? PlannedFeed =>
        facts.Supply is not null ? "supply"
        : facts.Runs.FirstOrDefault(r => r.Port is not null) is { } fed
            ? fed.Port!.Mode switch
            {
                SourceMode.LegacyHighPower => "legacy-injector",
                SourceMode.Passive => "passive",
                _ => fed.Pieces.Any(p => p.Kind == PieceKind.Injector) ? "injector" : "port",
            }
        : null;

    /// <summary>Position of the power-mode switch at the first look, where it was read.</summary>
    public string? ModeSwitch =>
        Counting.Value(KnownChecks.ModeSwitch, new Subject(SubjectKind.Place, facts.Place.Id)) is ChoiceValue choice ? choice.Choice : null;

    public int? PowerClass => Nameplate.PowerClass;

    /// <summary>The least of what the device, its port and two pairs alone can do.</summary>
    public int? SpeedMbps =>
        Least(
            Least(facts.Place.SpeedMbps ?? Model?.SpeedMbps ?? Kind?.SpeedMbps, Run?.Port?.SpeedMbps),
            Run is { Shared: true } ? 100 : null
        );

    /// <summary>Length of the run by the reading that counts, metres.</summary>
    public double? MeasuredLengthMetres =>
        Run is { } run ? counting.Number(KnownChecks.Length, new Subject(SubjectKind.Run, run.Id)) : null;

    /// <summary>Loop of one pair by the reading that counts, ohm.</summary>
    public double? MeasuredLoopOhms(PinPair pair) =>
        Run is { } run ? counting.Number(KnownChecks.LoopResistance, new Subject(SubjectKind.Run, run.Id, pair.ToString())) : null;

    /// <summary>The wire map that counts for this run, analysed.</summary>
    public WireMapAnalysis? MeasuredMap
    {
        get
        {
            if (Run is not { } run)
                return null;
            if (!memo.Maps.TryGetValue(run.Id, out var map))
                memo.Maps[run.Id] = map = counting.Value(KnownChecks.WireMap, new Subject(SubjectKind.Run, run.Id)) is WireMapValue value
                    ? Analyse(value, null)
                    : null;
            return map;
        }
    }

    /// <summary>Analyses a map with what the job knows of the run.</summary>
    /// <param name="before">Only acts up to this moment say which end was worked last.</param>
    /// <param name="map">The map as it was read.</param>
    public WireMapAnalysis Analyse(WireMapValue map, DateTimeOffset? before)
    {
        var lastWorked = facts
            .Events.OfType<Act>()
            .Where(act =>
                act.End is not null && act.On.Id == Run?.Id && !counting.IsWithdrawn(act.Id) && (before is null || act.At <= before)
            )
            .OrderBy(act => act.At)
            .ThenBy(act => act.Sequence)
            .LastOrDefault()
            ?.End;
        if (memo.Analyses.TryGetValue((map, lastWorked), out var known))
            return known;
        return memo.Analyses[(map, lastWorked)] = WireMap.Analyse(
            map.ToReading(),
            new WireMapContext
            {
                ShieldExpected = Run is { Screened: true } && map.ShieldArrives is not null,
                TwistedPairsNear = map.TwistedPairs is { } twists ? [.. twists.Select(p => (p[0], p[1]))] : null,
                AutoCrossover = Run?.Port?.AutoCrossover ?? true,
                ExpectedRemoteLabel = Run?.Label,
                FoundRemoteLabel = map.RemoteLabel,
                OpenDistanceMetres = map.OpenDistanceMetres?.ToDictionary(
                    d => int.Parse(d.Key, CultureInfo.InvariantCulture),
                    d => d.Value
                ),
                RunLengthMetres = MeasuredLengthMetres ?? Run?.TotalPlannedMetres,
                LastWorkedEnd = lastWorked,
            }
        );
    }

    private static RunFacts? RunOf(CardFacts facts, Guid id)
    {
        foreach (var run in facts.Runs)
            if (run.Id == id)
                return run;
        return null;
    }

    private static int? Least(int? a, int? b) =>
        a is null ? b
        : b is null ? a
        : Math.Min(a.Value, b.Value);
}

/// <summary>What several rows of one Card ask for, worked out once.</summary>
internal sealed class JudgeMemo(IReadOnlySet<string> features, CardFacts facts, Catalogue catalogue)
{
    public IReadOnlySet<string> Features => features;
    public DeviceKind? Kind { get; } = catalogue.Kind(facts.Place.Kind);
    public DeviceModel? Model { get; } = catalogue.Model(facts.Place.Model);
    public Nameplate Nameplate { get; } =
        catalogue.NameplateOf(
            facts.Place.Kind,
            facts.Place.Model,
            facts.Place.PowerClass,
            facts.Place.WattsInfraredOff,
            facts.Place.WattsInfraredOn
        );

    /// <summary>For the limits of one row at a time.</summary>
    public List<Limit> Limits { get; } = new(4);
    public Dictionary<Guid, Cabling.RunPath> Paths { get; } = [];
    public Dictionary<Guid, WireMapAnalysis?> Maps { get; } = [];
    public Dictionary<(WireMapValue Map, CableEnd? LastWorked), WireMapAnalysis> Analyses { get; } = [];
    public Dictionary<Guid, Expectation> Loops { get; } = [];
    public Dictionary<double, Clocks.Sun.Night?> Nights { get; } = [];

    private readonly Dictionary<(Guid, CheckId), DateTimeOffset?> _recorders = [];

    private readonly Dictionary<(Guid, CheckId), State?> _recorderStates = [];

    /// <summary>How a check stands on the Card of a recorder; null: it has no such row.</summary>
    public State? RecorderState(CardFacts recorder, CheckId check) =>
        _recorderStates.TryGetValue((recorder.Place.Id, check), out var known)
            ? known
            : _recorderStates[(recorder.Place.Id, check)] = new CardJudge(recorder, catalogue).StateOf(check);

    /// <summary>Since when a check counts on the Card of a recorder; null: it does not.</summary>
    public DateTimeOffset? RecorderCounts(CardFacts recorder, CheckId check)
    {
        if (_recorders.TryGetValue((recorder.Place.Id, check), out var known))
            return known;
        var key = new CheckKey(check, new Subject(SubjectKind.Place, recorder.Place.Id), Condition.Any);
        return _recorders[(recorder.Place.Id, check)] = new CountingReadings(recorder, catalogue).Counts(key)?.TakenAt;
    }
}

/// <summary>Checks that other checks lean on, by name.</summary>
public static class KnownChecks
{
    /// <summary>Far pins by near pin.</summary>
    public static readonly CheckId WireMap = new("cable.wire-map");

    /// <summary>Length of the run.</summary>
    public static readonly CheckId Length = new("cable.length");

    /// <summary>Loop of a pair.</summary>
    public static readonly CheckId LoopResistance = new("cable.loop-resistance");

    /// <summary>Position of a mode switch.</summary>
    public static readonly CheckId ModeSwitch = new("power.mode-switch");

    /// <summary>Watts that the device draws.</summary>
    public static readonly CheckId WattsAtDevice = new("power.watts-at-device");

    /// <summary>Watts that the port gives.</summary>
    public static readonly CheckId WattsAtPort = new("power.watts-at-port");

    /// <summary>Stray volts at a supply.</summary>
    public static readonly CheckId SupplyStray = new("power.supply-stray");

    /// <summary>Height above the ground.</summary>
    public static readonly CheckId Height = new("fixing.height");

    /// <summary>What hinders at the place.</summary>
    public static readonly CheckId Access = new("before.access");

    /// <summary>How warm it is around the box.</summary>
    public static readonly CheckId Ambient = new("before.ambient");

    /// <summary>The pack's list.</summary>
    public static readonly CheckId Pack = new("before.pack");

    /// <summary>Firmware.</summary>
    public static readonly CheckId Firmware = new("before.firmware");

    /// <summary>Time to start.</summary>
    public static readonly CheckId Boot = new("power.boot");

    /// <summary>Negotiated speed.</summary>
    public static readonly CheckId Speed = new("link.speed");
}
