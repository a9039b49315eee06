using Walkdown.Core.Measures;

namespace Walkdown.Core.Cabling;

/// <summary>
/// What resistance and length together say about the conductor (docs/calculations.md, A). Copper-clad aluminium of one gauge and copper two
/// gauges
/// thinner read alike: both are listed, and only the sheath print, a cut end or the diameter can tell them apart.
/// </summary>
public static class MaterialInference
{
    /// <summary>A conductor that fits what was measured: gauge, material, and measured over expected.</summary>
    public readonly record struct Candidate(double GaugeAwg, ConductorMaterial Material, double Ratio);

    /// <summary>What resistance and length say of the conductor.</summary>
    /// <param name="ExpectedLoopOhms">Loop of the expected conductor, ohms.</param>
    /// <param name="Ratio">Measured over expected.</param>
    /// <param name="RatioLow">Its least, by both accuracies.</param>
    /// <param name="RatioHigh">Its greatest.</param>
    /// <param name="Candidates">Conductors that fit, nearest first.</param>
    /// <param name="Verdict">The word.</param>
    public sealed record Result(
        double ExpectedLoopOhms,
        double Ratio,
        double RatioLow,
        double RatioHigh,
        ImmutableArray<Candidate> Candidates,
        MaterialVerdict Verdict
    )
    {
        /// <summary>Copper-clad aluminium is among those that fit.</summary>
        public bool CopperCladPossible => Candidates.Any(c => c.Material == ConductorMaterial.CopperCladAluminium);
    }

    /// <summary>Gauges in use, AWG.</summary>
    public static readonly ImmutableArray<double> UsualGaugesAwg = [22, 23, 24, 26];

    /// <param name="loopOhms">Loop resistance of one pair, ohm.</param>
    /// <param name="lengthMetres">Length by delay, metres.</param>
    /// <param name="temperatureC">Degrees Celsius.</param>
    /// <param name="expectedGaugeAwg">Gauge by the plan, AWG.</param>
    /// <param name="expectedMaterial">Material by the plan.</param>
    /// <param name="resistanceAccuracyPercent">How well the resistance was measured, percent.</param>
    /// <param name="lengthAccuracyPercent">How well the length was, percent.</param>
    /// <param name="candidateGauges">Gauges to try, AWG.</param>
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
