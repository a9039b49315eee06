using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogue;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Diagnosis;

/// <summary>Core's closed registry of evidence: what on this Card speaks for a cause. No evidence, no cause.</summary>
internal static class Evidence
{
    public static readonly IReadOnlyDictionary<string, Func<RowContext, Attempt, Message?>> All = new Dictionary<
        string,
        Func<RowContext, Attempt, Message?>
    >
    {
        ["two-schemes"] = (c, a) =>
            Has(a, WireMapClass.T568aT568bMixTwoPairCrossover)
                ? c.Facts.Practice.MatchFarEnd && !c.Run!.OwnScheme
                    ? new("evidence.two-schemes.match")
                    : new("evidence.two-schemes", "@scheme." + c.Run!.Scheme)
                : null,
        ["jack-not-punched-down"] = (c, a) =>
            a.Map is { } m && m.Why == LookReason.ConductorsOfDifferentPairsDarkOneJackNotPunchedDown
                ? new("evidence.different-pairs-dark", Pins(m))
                : null,
        ["contact-not-seated"] = (c, a) =>
            a.Map is { } m && m.Why == LookReason.SingleConductorDarkContactNotSeated ? new("evidence.one-dark", Pins(m)) : null,
        ["pair-not-terminated"] = (c, a) =>
            a.Map is { } m && m.Why == LookReason.WholePairDarkNotTerminatedOrDamaged ? new("evidence.pair-dark", Pins(m)) : null,
        ["open-at-distance"] = (c, a) =>
            a.Map is { } m
            && m.Why is LookReason.OpenDistanceIsAtTheFarEnd or LookReason.OpenDistanceIsAtTheNearEnd or LookReason.OpenDistancesAtBothEnds
                ? new("evidence.open-distance", Pins(m), "@map.end." + Codes.Of(m.LookFirst))
                : null,
        // There is no end to open in the middle of a run.
        ["break-in-run"] = (c, a) =>
            a.Map is { Why: LookReason.OpenDistanceIsInsideTheRun } m
                ? new("evidence.open-distance", Pins(m), "@map.end." + Codes.Of(m.LookFirst))
                : null,
        ["wrong-cable"] = (c, a) =>
            a.Map is { } m
            && m.Why is LookReason.NothingArrivesWrongCableOrRemoteUnitNotPlugged or LookReason.WrongCableOrWrongLabelBeforeAnyOtherWork
                ? new("evidence.nothing-arrives")
                : null,
        ["termination-order"] = (c, a) =>
            a.Map is { } m && m.Why is LookReason.TerminationOrderIsSetAtATermination or LookReason.PlugFittedUpsideDown
                ? new("evidence.order")
                : null,
        ["short-in-plug"] = (c, a) =>
            a.Map is { } m
            && m.Why
                is LookReason.ShortUsuallyInAPlugOrJack
                    or LookReason.LostConductorReappearsThroughAShortBeyondIt
                    or LookReason.LostConductorStillShortedOnTheNearSide
                ? new("evidence.short")
                : null,
        ["wrong-material"] = WrongMaterial,
        ["high-contact"] = HighContact,
        ["longer-than-plan"] = (c, a) =>
            Over(a) && c.Run is { } run && Number(a) > run.TotalPlannedMetres
                ? new("evidence.longer", Message.Number(Number(a) - run.TotalPlannedMetres, 1))
                : null,
        ["warm-run"] = (c, a) =>
            Over(a) && c.Run is { TemperatureC.Value: > 25 } run ? new("evidence.warm", Message.Number(run.TemperatureC.Value, 0)) : null,
        ["shorter-than-plan"] = (c, a) =>
            a.Spare is { Value: < 0, Nearest: NearestLimit.Min } && c.Run is { } run
                ? new("evidence.shorter", Message.Number(run.TotalPlannedMetres - Number(a), 1))
                : null,
        ["run-resistance"] = (c, a) =>
            Low(a)
            && PinPair.All.Select(c.MeasuredLoopOhms).OfType<double>().ToList() is { Count: 4 } loops
            && Expectations.LoopOfCable(c).Value is { } e
            && loops.Average() > e.Value * 1.12
                ? new("evidence.run-resistance", Message.Number(loops.Average()), Message.Number(e.Value))
                : null,
        ["excess-resistance"] = (c, a) =>
            a.Because.FirstOrDefault(b => b.Code == "volts.excess") is { } excess
                ? new("evidence.excess-resistance", [.. excess.Args])
                : null,
        ["wrong-velocity"] = WrongVelocity,
        ["reversed-supply"] = (c, a) => a.Because.Any(b => b.Code == "supply.reversedPolarity") ? new("evidence.reversed") : null,
        ["wrong-supply"] = (c, a) =>
            a.Because.Any(b =>
                b.Code
                    is "supply.alternatingWhereDirectExpected"
                        or "supply.directWhereAlternatingExpected"
                        or "supply.directOffsetOnAlternatingSupply"
            )
                ? new("evidence.wrong-supply", "@range." + Codes.Of(c.Facts.Supply!.Range))
                : null,
        ["dead-supply"] = (c, a) => a.Because.Any(b => b.Code == "supply.dead") ? new("evidence.dead-supply", c.Facts.Supply!.Label) : null,
        ["supply-run-too-thin"] = (c, a) =>
            Low(a) && c.Facts.Supply is { Volts: { } at } s && at.Value - Number(a) > at.Value * 0.05
                ? new("evidence.supply-drop", Message.Number(at.Value - Number(a)), s.Taps.Length.ToString(CultureInfo.InvariantCulture))
                : null,
        ["class-too-low"] = (c, a) =>
            a.Because.FirstOrDefault(b => b.Code == "class.reducedPowerFunctionsMaySwitchOff") is { } low
                ? new("evidence.class-low", [.. low.Args])
                : null,
        ["lossy-link"] = (c, a) =>
            a.State == State.Out && c.MeasuredMap is { IsStraight: false } m ? new("evidence.map-is-out", Pins(m))
            : a.State == State.Out ? new("evidence.loss")
            : null,
        ["source-low"] = (c, a) => Low(a) ? new("evidence.volts-low", Message.Number(c.Run?.Port?.SourceVolts.Value ?? 0)) : null,
        ["missing-pairs"] = (c, a) =>
            c.MeasuredMap is { IsStraight: false } m && a.Value is ChoiceValue ? new("evidence.map-is-out", Pins(m)) : null,
        ["hidden-pairs"] = (c, a) =>
            a.State == State.Out && c.MeasuredMap is null or { IsStraight: true } && a.Value is ChoiceValue { Choice: "100" }
                ? new("evidence.suspect-pairs")
                : null,
        ["no-power-or-port"] = (c, a) => a.Value is ChoiceValue { Choice: "none" } ? new("evidence.no-link") : null,
    };

    /// <summary>At most three likely causes of a row that is out or too close, in the catalogue's order, which is by likelihood.</summary>
    public static ImmutableArray<LikelyCause> CausesOf(RowContext context, Attempt attempt, Catalogue.Catalogue catalogue)
    {
        var list = ImmutableArray.CreateBuilder<LikelyCause>();
        foreach (var cause in catalogue.CausesByCheck.GetValueOrDefault(context.Check.Id, []))
            if (list.Count < 3 && All[cause.Evidence](context, attempt) is { } evidence)
                list.Add(new LikelyCause(cause.Id, evidence, cause.Severity, cause.Minutes));
        return list.ToImmutable();
    }

    private static double Number(Attempt a) => a.Value is NumberValue n ? n.Value : 0;

    private static bool Over(Attempt a) => a.Spare is { } s && s.Nearest == NearestLimit.Max && a.State != State.In;

    private static bool Low(Attempt a) => a.Spare is { } s && s.Nearest == NearestLimit.Min && a.State != State.In;

    private static bool Has(Attempt a, WireMapClass what) => a.Map?.Classes.Contains(what) == true;

    private static string Pins(WireMapAnalysis m) => string.Join(", ", m.OpenNearPins.IsEmpty ? m.CrossedPins : m.OpenNearPins);

    /// <summary>Resistance and length together: copper-clad aluminium and a thinner gauge read alike, so both are named.</summary>
    private static Message? WrongMaterial(RowContext c, Attempt a)
    {
        if (!Over(a) || c.Run is not { } run || c.MeasuredLengthMetres is not { } length || Number(a) <= 0 || length <= 0)
            return null;
        var found = MaterialInference.Infer(Number(a), length, run.TemperatureC.Value, run.GaugeAwg.Value, run.Material.Value);
        return found.Verdict == MaterialVerdict.WrongMaterialOrGaugeSuspected
            ? new(
                "evidence.wrong-material",
                Message.Number(found.Ratio),
                found.CopperCladPossible ? "@material.copperCladAluminium" : "@material.thinner",
                string.Join(", ", found.Candidates.Select(k => Message.Number(k.GaugeAwg)).Distinct())
            )
            : null;
    }

    /// <summary>Length by delay and resistance disagree the other way round: the tester's velocity, and the one that would make both
    /// agree.</summary>
    private static Message? WrongVelocity(RowContext c, Attempt a)
    {
        if (c.Run is not { } run || c.MeasuredLengthMetres is not > 0 || a.Spare is not { Value: < 0 })
            return null;
        var loops = PinPair.All.Select(c.MeasuredLoopOhms).OfType<double>().ToList();
        if (loops.Count == 0 || Expectations.LoopOfCable(c).Value is not { Value: > 0 } expected)
            return null;
        var ratio = loops.Average() / expected.Value;
        // Of a plain cable by its conductor; with cords and contacts in it, in proportion.
        var byLoop =
            run.Pieces.IsEmpty && run.CordsMetres <= 0
                ? Conductor.LengthFromLoopMetres(loops.Average(), run.GaugeAwg.Value, run.TemperatureC.Value, run.Material.Value)
                : c.MeasuredLengthMetres.Value * ratio;
        return ratio < 0.93
            ? new(
                "evidence.velocity",
                Message.Number(c.MeasuredLengthMetres.Value, 1),
                Message.Number(byLoop, 1),
                Message.Number(100 * ratio, 0)
            )
            : null;
    }

    /// <summary>Only some pairs high: a contact or a cord, not the conductor.</summary>
    private static Message? HighContact(RowContext c, Attempt a)
    {
        if (!Over(a) || c.Run is null)
            return null;
        var others = PinPair.All.Where(p => p.ToString() != c.Key.On.Part).Select(c.MeasuredLoopOhms).OfType<double>().ToList();
        if (others.Count == 0)
            return new("evidence.loop-high");
        return Number(a) > others.Average() * 1.1
            ? new("evidence.one-pair-high", c.Key.On.Part, Message.Number(Number(a) - others.Average()))
            : new("evidence.all-pairs-high", Message.Number(others.Average()));
    }
}
