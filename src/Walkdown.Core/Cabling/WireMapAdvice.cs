namespace Walkdown.Core.Cabling;

/// <summary>Which end to open first, and why: the first rule that applies (practice; docs/calculations.md, B).</summary>
internal static class WireMapAdvice
{
    internal static (LookAt, LookReason) LookFirst(
        ImmutableArray<WireMapClass> classes,
        ImmutableArray<int> openNear,
        ImmutableArray<ShortedNode> shorts,
        WireMapContext known
    )
    {
        if (classes.All(c => c is WireMapClass.StraightThrough or WireMapClass.ShieldPresentNotExpected))
            return (LookAt.Nowhere, LookReason.NoFault);
        if (Has(WireMapClass.LabelMismatch))
            return (LookAt.FarEnd, LookReason.WrongCableOrWrongLabelBeforeAnyOtherWork);
        if (ByDistance(openNear, known) is { } byDistance)
            return byDistance;
        if (shorts.Any(s => s.Lies == ShortLies.BetweenTheOpenAndTheFarEnd))
            return (LookAt.NearEnd, LookReason.LostConductorReappearsThroughAShortBeyondIt);
        if (shorts.Any(s => s.Lies == ShortLies.BetweenTheOpenAndTheNearEnd))
            return (LookAt.FarEnd, LookReason.LostConductorStillShortedOnTheNearSide);
        if (openNear.Length == 8)
            return (LookAt.FarEnd, LookReason.NothingArrivesWrongCableOrRemoteUnitNotPlugged);
        if (Has(WireMapClass.TwoPairCable))
            return (LookAt.FarEnd, LookReason.TwoPairCableOrSharedSheath);
        if (openNear.Length == 2 && PinPair.Of(openNear[0]) == PinPair.Of(openNear[1]))
            return Either(LookReason.WholePairDarkNotTerminatedOrDamaged);
        if (openNear.Length >= 2)
            return Either(LookReason.ConductorsOfDifferentPairsDarkOneJackNotPunchedDown);
        if (openNear.Length == 1)
            return Either(LookReason.SingleConductorDarkContactNotSeated);
        if (Has(WireMapClass.Rolled))
            return Either(LookReason.PlugFittedUpsideDown);
        if (Has(WireMapClass.T568aT568bMixTwoPairCrossover))
            return Either(LookReason.TwoEndsUseDifferentPairColourSchemes);
        if (Has(WireMapClass.Short))
            return Either(LookReason.ShortUsuallyInAPlugOrJack);
        if (Has(WireMapClass.SplitPair))
            return (LookAt.BothEnds, LookReason.SameWrongOrderAtBothEnds);
        if (classes.All(c => c is WireMapClass.StraightThrough or WireMapClass.ShieldOpen))
            return Either(LookReason.DrainOrShieldClampNotBonded);
        return Either(LookReason.TerminationOrderIsSetAtATermination);

        bool Has(WireMapClass what) => classes.Contains(what);

        // The end touched last is the likelier one.
        (LookAt, LookReason) Either(LookReason why) =>
            (
                known.LastWorkedEnd switch
                {
                    CableEnd.Near => LookAt.NearEnd,
                    CableEnd.Far => LookAt.FarEnd,
                    _ => LookAt.EitherEnd,
                },
                why
            );
    }

    private static (LookAt, LookReason)? ByDistance(ImmutableArray<int> openNear, WireMapContext known)
    {
        if (openNear.IsEmpty || known.OpenDistanceMetres is not { Count: > 0 } distances || known.RunLengthMetres is not { } length)
            return null;
        var reach = Math.Max(2, 0.05 * length);
        var all = distances.Values;
        if (all.All(Near))
            return (LookAt.NearEnd, LookReason.OpenDistanceIsAtTheNearEnd);
        if (all.All(Far))
            return (LookAt.FarEnd, LookReason.OpenDistanceIsAtTheFarEnd);
        if (all.All(d => Near(d) || Far(d)))
            return (LookAt.BothEnds, LookReason.OpenDistancesAtBothEnds);
        return (LookAt.MidRun, LookReason.OpenDistanceIsInsideTheRun);

        bool Near(double metres) => metres <= reach;
        bool Far(double metres) => Math.Abs(length - metres) <= reach;
    }
}
