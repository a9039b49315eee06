using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;
using static Walkdown.Core.Diagnosis.Telling;

namespace Walkdown.Core.Power;

/// <summary>What on a Card speaks for a cause in what feeds the device.</summary>
internal static class PowerEvidence
{
    /// <summary>By the names that causes of the catalogue give.</summary>
    public static readonly ImmutableArray<EvidenceFunction> All =
    [
        new(
            "run-resistance",
            (c, a) =>
                Low(a)
                && PinPair.All.Select(c.MeasuredLoopOhms).OfType<double>().ToList() is { Count: 4 } loops
                && CableExpectations.LoopOfCable(c).Value is { } e
                && loops.Average() > e.Value * 1.12
                    ? new("evidence.run-resistance", Message.Number(loops.Average()), Message.Number(e.Value))
                    : null
        )
        {
            LeansOn = Rows.LengthAndLoops,
        },
        new("excess-resistance", (_, a) => Said(a, "evidence.excess-resistance", "volts.excess")),
        new("reversed-supply", (c, a) => a.Because.Any(b => b.Code == "supply.reversedPolarity") ? new("evidence.reversed") : null),
        new(
            "wrong-supply",
            (c, a) =>
                a.Because.Any(b =>
                    b.Code
                        is "supply.alternatingWhereDirectExpected"
                            or "supply.directWhereAlternatingExpected"
                            or "supply.directOffsetOnAlternatingSupply"
                )
                    ? new("evidence.wrong-supply", "@range." + Codes.Of(c.Facts.Supply!.Range))
                    : null
        ),
        new(
            "dead-supply",
            (c, a) => a.Because.Any(b => b.Code == "supply.dead") ? new("evidence.dead-supply", c.Facts.Supply!.Label) : null
        ),
        new(
            "supply-run-too-thin",
            (c, a) =>
                Low(a) && c.Facts.Supply is { Volts: { } at } s && at.Value - Number(a) > at.Value * 0.05
                    ? new(
                        "evidence.supply-drop",
                        Message.Number(at.Value - Number(a)),
                        s.Taps.Length.ToString(CultureInfo.InvariantCulture)
                    )
                    : null
        ),
        new("class-too-low", (_, a) => Said(a, "evidence.class-low", "class.reducedPowerFunctionsMaySwitchOff", "class.sourceTooSmall")),
        new("device-on-standard", (_, a) => Said(a, "evidence.device-limits", "class.deviceLimitsItselfSetTheDeviceToLegacyHighPower")),
        new("device-on-legacy", (_, a) => Said(a, "evidence.device-draws", "class.overloadRiskDeviceMayDrawMoreThanGranted")),
        new("no-power-offered", (_, a) => Said(a, "evidence.no-class", "class.none")),
        new("source-low", (c, a) => Low(a) ? new("evidence.volts-low", Message.Number(c.Run?.Port?.SourceVolts.Value ?? 0)) : null),
    ];

    /// <summary>What the judge said already, as evidence: with its figures.</summary>
    private static Message? Said(Attempt a, string evidence, params ReadOnlySpan<string> codes)
    {
        foreach (var because in a.Because)
            if (codes.Contains(because.Code))
                return new(evidence, [.. because.Args]);
        return null;
    }
}
