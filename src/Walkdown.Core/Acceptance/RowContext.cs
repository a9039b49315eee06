using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>One row while it is judged: what the registries' functions may look at.</summary>
internal sealed class RowContext(CardFacts facts, Catalogue.Catalogue catalogue, PlannedRow row, CountingReadings counting)
{
    public CardFacts Facts => facts;
    public Catalogue.Catalogue Catalogue => catalogue;
    public CheckKey Key => row.Key;
    public CheckDefinition Check => row.Check;
    public CountingReadings Counting => counting;
    public RunFacts? Run { get; } = row.Key.On.Kind == SubjectKind.Run ? facts.Runs.FirstOrDefault(run => run.Id == row.Key.On.Id) : null;
    public Catalogue.DeviceKind? Kind { get; } = catalogue.Kind(facts.Place.Kind);

    public Catalogue.DeviceModel? Model { get; } = catalogue.Model(facts.Place.Model);

    public int? PowerClass => facts.Place.PowerClass ?? Model?.PowerClass ?? Kind?.PowerClass;
    public int? SpeedMbps => Least(facts.Place.SpeedMbps ?? Model?.SpeedMbps ?? Kind?.SpeedMbps, Run?.Port?.SpeedMbps);

    /// <summary>Length of the run by the reading that counts, metres.</summary>
    public double? MeasuredLengthMetres => Run is { } run ? counting.Number(KnownChecks.Length, new Subject(SubjectKind.Run, run.Id)) : null;

    /// <summary>Loop of one pair by the reading that counts, ohm.</summary>
    public double? MeasuredLoopOhms(PinPair pair) =>
        Run is { } run ? counting.Number(KnownChecks.LoopResistance, new Subject(SubjectKind.Run, run.Id, pair.ToString())) : null;

    /// <summary>The wire map that counts for this run, analysed.</summary>
    public WireMapAnalysis? MeasuredMap => _measuredMap ??=
        Run is { } run && counting.Value(KnownChecks.WireMap, new Subject(SubjectKind.Run, run.Id)) is WireMapValue map ? Analyse(map, null) : null;

    private WireMapAnalysis? _measuredMap;

    /// <summary>Analyses a map with what the job knows of the run.</summary>
    /// <param name="before">Only acts up to this moment say which end was worked last.</param>
    public WireMapAnalysis Analyse(WireMapValue map, DateTimeOffset? before)
    {
        var lastWorked = facts.Events.OfType<Act>()
            .Where(act => act.End is not null && act.On.Id == Run?.Id && !counting.IsWithdrawn(act.Id) && (before is null || act.At <= before))
            .OrderBy(act => act.At).ThenBy(act => act.Sequence).LastOrDefault()?.End;
        return WireMap.Analyse(map.ToReading(), new WireMapContext
        {
            AutoCrossover = Run?.Port?.AutoCrossover ?? true,
            ExpectedRemoteLabel = Run?.Label,
            FoundRemoteLabel = map.RemoteLabel,
            OpenDistanceMetres = map.OpenDistanceMetres?.ToDictionary(d => int.Parse(d.Key, CultureInfo.InvariantCulture), d => d.Value),
            RunLengthMetres = MeasuredLengthMetres ?? Run?.TotalPlannedMetres,
            LastWorkedEnd = lastWorked,
        });
    }

    private static int? Least(int? a, int? b) => a is null ? b : b is null ? a : Math.Min(a.Value, b.Value);
}

/// <summary>Checks that other checks lean on, by name.</summary>
internal static class KnownChecks
{
    public static readonly CheckId WireMap = new("cable.wire-map");
    public static readonly CheckId Length = new("cable.length");
    public static readonly CheckId LoopResistance = new("cable.loop-resistance");
    public static readonly CheckId Speed = new("link.speed");
}
