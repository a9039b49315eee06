using Walkdown.Core.Measures;

namespace Walkdown.Core.Cabling;

public enum MaterialVerdict
{
    ConsistentWithExpected,
    ResistanceTooLowForLength,
    ExcessResistanceNoMaterialFits,
    WrongMaterialOrGaugeSuspected,
}

/// <summary>
/// What resistance and length together say about the conductor (docs/calculations.md, A). Copper-clad aluminium of one gauge and copper two
/// gauges
/// thinner read alike: both are listed, and only the sheath print, a cut end or the diameter can tell them apart.
/// </summary>
public static class MaterialInference
{
    public readonly record struct Candidate(double GaugeAwg, ConductorMaterial Material, double Ratio);

    public sealed record Result(
        double ExpectedLoopOhms,
        double Ratio,
        double RatioLow,
        double RatioHigh,
        ImmutableArray<Candidate> Candidates,
        MaterialVerdict Verdict
    )
    {
        public bool CopperCladPossible => Candidates.Any(c => c.Material == ConductorMaterial.CopperCladAluminium);
    }

    public static readonly ImmutableArray<double> UsualGaugesAwg = [22, 23, 24, 26];

    /// <param name="loopOhms">Loop resistance of one pair, ohm.</param>
    /// <param name="lengthMetres">Length by delay, metres.</param>
    public static Result Infer(
        double loopOhms,
        double lengthMetres,
        double temperatureC,
        double expectedGaugeAwg,
        ConductorMaterial expectedMaterial = ConductorMaterial.SolidCopper,
        double resistanceAccuracyPercent = 2,
        double lengthAccuracyPercent = 5,
        ImmutableArray<double>? candidateGauges = null
    )
    {
        Require.Positive(loopOhms, "loop_resistance_ohm");
        Require.Positive(lengthMetres, "time_domain_length_m");
        double a = Require.Number(resistanceAccuracyPercent, "resistance_accuracy_percent", 0, 50) / 100;
        double b = Require.Number(lengthAccuracyPercent, "length_accuracy_percent", 0, 50) / 100;
        var expected = Conductor.PairLoopOhms(expectedGaugeAwg, lengthMetres, temperatureC, expectedMaterial);
        double q = loopOhms / expected,
            low = q * (1 - a) / (1 + b),
            high = q * (1 + a) / (1 - b);
        var expectedPerMetre = Conductor.OhmsPerMetre(expectedGaugeAwg, temperatureC, expectedMaterial);
        var candidates = (
            from gauge in candidateGauges ?? UsualGaugesAwg
            from material in Enum.GetValues<ConductorMaterial>()
            let ratio = Conductor.OhmsPerMetre(gauge, temperatureC, material) / expectedPerMetre
            where Decision.AtMost(low, ratio) && Decision.AtMost(ratio, high)
            orderby Math.Abs(Math.Log(ratio / q)), gauge, material.ToString()
            select new Candidate(gauge, material, ratio)
        ).ToImmutableArray();
        var verdict =
            Decision.AtMost(low, 1) && Decision.AtMost(1, high) ? MaterialVerdict.ConsistentWithExpected
            : high < 1 ? MaterialVerdict.ResistanceTooLowForLength
            : candidates.IsEmpty ? MaterialVerdict.ExcessResistanceNoMaterialFits
            : MaterialVerdict.WrongMaterialOrGaugeSuspected;
        return new Result(expected, q, low, high, candidates, verdict);
    }
}
