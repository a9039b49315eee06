using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;
using static Walkdown.Core.Diagnosis.Telling;

namespace Walkdown.Core.Cabling;

/// <summary>What on a Card speaks for a cause in the run.</summary>
internal static class CableEvidence
{
    /// <summary>By the names that causes of the catalogue give.</summary>
    public static readonly ImmutableArray<EvidenceFunction> All =
    [
        new(
            "two-schemes",
            (c, a) =>
                Has(a, WireMapClass.T568aT568bMixTwoPairCrossover)
                    ? c.Has(PracticeFeatures.MatchFarEnd) && !c.Run!.OwnScheme
                        ? new("evidence.two-schemes.match")
                        : new("evidence.two-schemes", "@scheme." + c.Run!.Scheme)
                    : null
        ),
        new(
            "jack-not-punched-down",
            (c, a) =>
                a.Map is { } m && m.Why == LookReason.ConductorsOfDifferentPairsDarkOneJackNotPunchedDown
                    ? new("evidence.different-pairs-dark", Pins(m))
                    : null
        ),
        new(
            "contact-not-seated",
            (c, a) => a.Map is { } m && m.Why == LookReason.SingleConductorDarkContactNotSeated ? new("evidence.one-dark", Pins(m)) : null
        ),
        new(
            "pair-not-terminated",
            (c, a) => a.Map is { } m && m.Why == LookReason.WholePairDarkNotTerminatedOrDamaged ? new("evidence.pair-dark", Pins(m)) : null
        ),
        new(
            "open-at-distance",
            (c, a) =>
                a.Map is { } m
                && m.Why
                    is LookReason.OpenDistanceIsAtTheFarEnd
                        or LookReason.OpenDistanceIsAtTheNearEnd
                        or LookReason.OpenDistancesAtBothEnds
                    ? new("evidence.open-distance", Pins(m), "@map.end." + Codes.Of(m.LookFirst))
                    : null
        ),
        // There is no end to open in the middle of a run.
        new(
            "break-in-run",
            (c, a) =>
                a.Map is { Why: LookReason.OpenDistanceIsInsideTheRun } m
                    ? new("evidence.open-distance", Pins(m), "@map.end." + Codes.Of(m.LookFirst))
                    : null
        ),
        new(
            "wrong-cable",
            (c, a) =>
                a.Map is { } m
                && m.Why is LookReason.NothingArrivesWrongCableOrRemoteUnitNotPlugged or LookReason.WrongCableOrWrongLabelBeforeAnyOtherWork
                    ? new("evidence.nothing-arrives")
                    : null
        ),
        new(
            "termination-order",
            (c, a) =>
                a.Map is { } m && m.Why is LookReason.TerminationOrderIsSetAtATermination or LookReason.PlugFittedUpsideDown
                    ? new("evidence.order")
                    : null
        ),
        new(
            "short-in-plug",
            (c, a) =>
                a.Map is { } m
                && m.Why
                    is LookReason.ShortUsuallyInAPlugOrJack
                        or LookReason.LostConductorReappearsThroughAShortBeyondIt
                        or LookReason.LostConductorStillShortedOnTheNearSide
                    ? new("evidence.short")
                    : null
        ),
        new("unlisted-cord", UnlistedCord) { LeansOn = Rows.LengthAndLoops },
        new("wrong-material", WrongMaterial) { LeansOn = Rows.Length },
        new("high-contact", HighContact) { LeansOn = Rows.Loops },
        new(
            "longer-than-plan",
            (c, a) =>
                Over(a) && c.Run is { } run && Number(a) > run.TotalPlannedMetres
                    ? new("evidence.longer", Message.Number(Number(a) - run.TotalPlannedMetres, 1))
                    : null
        ),
        new(
            "warm-run",
            (c, a) =>
                Over(a) && c.Run is { TemperatureC.Value: > 25 } run
                    ? new("evidence.warm", Message.Number(run.TemperatureC.Value, 0))
                    : null
        ),
        new(
            "shorter-than-plan",
            (c, a) =>
                a.Spare is { Value: < 0, Nearest: NearestLimit.Min } && c.Run is { } run
                    ? new("evidence.shorter", Message.Number(run.TotalPlannedMetres - Number(a), 1))
                    : null
        ),
        new("wrong-velocity", WrongVelocity) { LeansOn = Rows.LengthAndLoops },
    ];

    /// <summary>
    /// Metres and ohms beyond the plan belong to each other as those of a thin cord do: what was planned is there, and more beside it. The
    /// excess ohms over the excess metres are a conductor's, thinner than the cable's, and of a gauge that cords have.
    /// </summary>
    internal static Message? UnlistedCord(RowContext c, Attempt a)
    {
        if (!Over(a) || c.Run is not { } run || c.MeasuredLengthMetres is not { } length || run.TotalPlannedMetres <= 0)
            return null;
        var extra = length - run.TotalPlannedMetres;
        var loops = PinPair.All.Select(c.MeasuredLoopOhms).OfType<double>().ToList();
        // Less than this is the tester's velocity as well as a cord.
        if (extra < Math.Max(3, 0.06 * run.TotalPlannedMetres) || loops.Count == 0)
            return null;
        double planned = Conductor.PairLoopOhms(run.GaugeAwg.Value, 1, run.TemperatureC.Value, run.Material.Value),
            excess = loops.Average() - planned * run.TotalPlannedMetres,
            perMetre = excess / extra;
        var cord = CordGaugesAwg.MinBy(awg => Math.Abs(Ratio(awg) - 1));
        return perMetre > 1.2 * planned && Math.Abs(Ratio(cord) - 1) < 0.3
            ? new("evidence.unlisted-cord", Message.Number(extra, 1), Message.Number(excess, 1), Message.Number(cord, 0))
            : null;

        double Ratio(double awg) => perMetre / Conductor.PairLoopOhms(awg, 1, run.TemperatureC.Value, ConductorMaterial.StrandedCopper);
    }

    /// <summary>Gauges that cords are sold in, AWG, thinner than the cables they are plugged to.</summary>
    private static readonly ImmutableArray<double> CordGaugesAwg = [26, 28, 30];

    /// <summary>Resistance and length together: copper-clad aluminium and a thinner gauge read alike, so both are named.</summary>
    internal static Message? WrongMaterial(RowContext c, Attempt a)
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
    internal static Message? WrongVelocity(RowContext c, Attempt a)
    {
        if (c.Run is not { } run || c.MeasuredLengthMetres is not > 0 || a.Spare is not { Value: < 0 })
            return null;
        var loops = PinPair.All.Select(c.MeasuredLoopOhms).OfType<double>().ToList();
        if (loops.Count == 0 || CableExpectations.LoopOfCable(c).Value is not { Value: > 0 } expected)
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
    internal static Message? HighContact(RowContext c, Attempt a)
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
