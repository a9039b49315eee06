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
        new(
            "excess-resistance",
            (c, a) =>
                a.Because.FirstOrDefault(b => b.Code == "volts.excess") is { } excess
                    ? new("evidence.excess-resistance", [.. excess.Args])
                    : null
        ),
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
        new(
            "class-too-low",
            (c, a) =>
                a.Because.FirstOrDefault(b => b.Code == "class.reducedPowerFunctionsMaySwitchOff") is { } low
                    ? new("evidence.class-low", [.. low.Args])
                    : null
        ),
        new("source-low", (c, a) => Low(a) ? new("evidence.volts-low", Message.Number(c.Run?.Port?.SourceVolts.Value ?? 0)) : null),
    ];
}
