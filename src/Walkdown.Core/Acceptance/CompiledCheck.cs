using System.Collections.Frozen;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>
/// A check as judging uses it: the names of its judge, its limits and its expectation looked up once a catalogue, with every other check
/// whose readings enter (its leaning), so that a reading judges anew what leans on it and nothing else.
/// </summary>
internal sealed class CompiledCheck
{
    public CompiledCheck(CheckDefinition definition, Catalogue.Catalogue catalogue)
    {
        Definition = definition;
        Judge = Judges.All.GetValueOrDefault(definition.Judge);
        Expect = definition.Expect is { } expect ? Expectations.All.GetValueOrDefault(expect) : null;
        var functions = definition.Limits.Where(l => !l.StartsWith("set:", StringComparison.Ordinal)).Select(l => l[3..]).ToArray();
        Limits =
        [
            .. definition
                .Limits.Select(l =>
                    l.StartsWith("set:", StringComparison.Ordinal)
                        ? (catalogue.Limit(l[4..]), null)
                        : ((Limit?)null, (LimitFunctions.Function?)LimitFunctions.All[l[3..]])
                )
                .Where(l => l is not (null, null)),
        ];
        VoidedBy = definition.VoidedBy.ToFrozenSet();
        LeansOn = LeansOnOf(definition, functions, catalogue).ToFrozenSet();
    }

    public CheckDefinition Definition { get; }

    /// <summary>Null where the catalogue names none that there is; such a catalogue is refused when it is read.</summary>
    public Judges.Judge? Judge { get; }
    public Func<RowContext, Expectation>? Expect { get; }

    /// <summary>Its limits in order: one that is the same on every Card, or one that is made for the row.</summary>
    public ImmutableArray<(Limit? Fixed, LimitFunctions.Function? Made)> Limits { get; }
    public FrozenSet<string> VoidedBy { get; }

    /// <summary>Other checks whose readings enter into this one's limits, expectation, judgement or causes.</summary>
    public FrozenSet<CheckId> LeansOn { get; }

    /// <summary>What a check leans on by what it is made of: each function of the registries says so of itself.</summary>
    internal static IEnumerable<CheckId> LeansOnOf(CheckDefinition check, IEnumerable<string> functions, Catalogue.Catalogue catalogue) =>
        Leaning
            .OfJudge(check)
            .Concat(functions.SelectMany(f => Leaning.OfLimits.GetValueOrDefault(f, [])))
            .Concat(check.Expect is { } expect ? Leaning.OfExpectations.GetValueOrDefault(expect, []) : [])
            .Concat(
                catalogue
                    .CausesByCheck.GetValueOrDefault(check.Id, [])
                    .SelectMany(c => Leaning.OfEvidence.GetValueOrDefault(c.Evidence, []))
            )
            .Distinct();
}

/// <summary>
/// The map of what leans on what, by the names of the registries: which other checks' readings a judge, a limit, an expectation or a piece
/// of evidence looks at. A test reads along while Cards are judged and fails where one looks at what it does not say.
/// </summary>
internal static class Leaning
{
    private static readonly ImmutableArray<CheckId> Length = [KnownChecks.Length],
        Loops = [KnownChecks.LoopResistance],
        LengthAndLoops = [KnownChecks.Length, KnownChecks.LoopResistance],
        Map = [KnownChecks.WireMap, KnownChecks.Length],
        MapLengthAndLoops = [KnownChecks.WireMap, KnownChecks.Length, KnownChecks.LoopResistance];

    public static readonly IReadOnlyDictionary<string, ImmutableArray<CheckId>> OfJudges = new Dictionary<string, ImmutableArray<CheckId>>
    {
        ["wire-map"] = Length,
        ["loop"] = Loops,
        ["tone"] = Map,
        ["poe-class"] = [KnownChecks.ModeSwitch],
        ["mode-switch"] = [KnownChecks.ModeSwitch],
        ["poe-volts"] = [KnownChecks.WattsAtDevice, KnownChecks.Length, KnownChecks.LoopResistance],
        ["supply-volts"] = [KnownChecks.SupplyStray],
        ["link-speed"] = Map,
    };

    public static readonly IReadOnlyDictionary<string, ImmutableArray<CheckId>> OfLimits = new Dictionary<string, ImmutableArray<CheckId>>
    {
        ["loop-agrees-with-cable"] = Length,
        ["unbalance-within"] = LengthAndLoops,
    };

    public static readonly IReadOnlyDictionary<string, ImmutableArray<CheckId>> OfExpectations = new Dictionary<
        string,
        ImmutableArray<CheckId>
    >
    {
        ["loop-of-cable"] = Length,
        ["delay-of-length"] = Length,
        ["poe-volts"] = LengthAndLoops,
        ["watts-at-port"] = LengthAndLoops,
    };

    public static readonly IReadOnlyDictionary<string, ImmutableArray<CheckId>> OfEvidence = new Dictionary<string, ImmutableArray<CheckId>>
    {
        ["wrong-material"] = Length,
        ["high-contact"] = Loops,
        ["run-resistance"] = LengthAndLoops,
        ["wrong-velocity"] = LengthAndLoops,
        ["lossy-link"] = Map,
        ["missing-pairs"] = Map,
        ["hidden-pairs"] = Map,
    };

    /// <summary>The delay of a pair is held against its other pairs: the same check.</summary>
    public static IEnumerable<CheckId> OfJudge(CheckDefinition check) =>
        check.Judge == "delay" ? [check.Id] : OfJudges.GetValueOrDefault(check.Judge, []);
}
