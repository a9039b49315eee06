using Walkdown.Core.Measures;

namespace Walkdown.Core.Links;

/// <summary>Negotiated speed and duplex against the plan (docs/calculations.md, G). Faster than planned is no fault.</summary>
public static class Negotiated
{
    /// <summary>Speeds in use, Mb/s.</summary>
    public static readonly ImmutableArray<int> SpeedsMbps = [10, 100, 1000, 2500, 10000];

    /// <summary>Findings in the order of docs/calculations.md; all but speed above expected fail.</summary>
    /// <param name="nearMbps">One of <see cref="SpeedsMbps"/>, or 0 for no link.</param>
    /// <param name="pairsGood">Whole pairs by the wire map, 0 to 4.</param>
    /// <param name="expectedMbps">Planned speed, Mb/s.</param>
    /// <param name="expectedDuplex">Planned duplex.</param>
    /// <param name="nearDuplex">Duplex at the port.</param>
    /// <param name="farMbps">The device's speed, Mb/s; null: not known.</param>
    /// <param name="farDuplex">The device's duplex.</param>
    public static ImmutableArray<SpeedFinding> Judge(
        int expectedMbps,
        Duplex expectedDuplex,
        int nearMbps,
        Duplex nearDuplex,
        int? farMbps = null,
        Duplex? farDuplex = null,
        int pairsGood = 4
    )
    {
        Known(expectedMbps, "expected_mbps");
        if (nearMbps != 0)
            Known(nearMbps, "near_mbps");
        if (farMbps is { } f and not 0)
            Known(f, "far_mbps");
        if (expectedDuplex == Duplex.Unknown)
            throw new BadInputException(BadInputReason.UnknownValue, "expected_duplex");
        Require.Number(pairsGood, "pairs_good", 0, 4);
        if (nearMbps == 0)
            return [SpeedFinding.NoLink];
        var list = ImmutableArray.CreateBuilder<SpeedFinding>();
        if (farMbps is { } far && far != nearMbps)
            list.Add(SpeedFinding.EndsReportDifferentSpeed);
        if (farDuplex is { } other && other != Duplex.Unknown && nearDuplex != Duplex.Unknown && other != nearDuplex)
            list.Add(SpeedFinding.DuplexMismatch);
        if (nearMbps < expectedMbps)
        {
            list.Add(SpeedFinding.SpeedBelowExpected);
            if (nearMbps == 100 && expectedMbps >= 1000)
                list.Add(pairsGood < 4 ? SpeedFinding.FallbackExplainedByMissingPairs : SpeedFinding.SuspectPairs45Or78);
        }
        if (nearMbps > expectedMbps)
            list.Add(SpeedFinding.SpeedAboveExpected);
        if (nearDuplex == Duplex.Half && expectedDuplex == Duplex.Full)
            list.Add(SpeedFinding.HalfDuplex);
        return list.ToImmutable();

        static void Known(int mbps, string field)
        {
            if (!SpeedsMbps.Contains(mbps))
                throw new BadInputException(BadInputReason.UnknownValue, field);
        }
    }

    /// <summary>Whether findings leave the link good.</summary>
    public static bool Passes(ImmutableArray<SpeedFinding> findings) => findings.All(f => f == SpeedFinding.SpeedAboveExpected);
}
