using Walkdown.Core.Measures;

namespace Walkdown.Core.Cabling;

/// <summary>
/// Resistance of one conductor from gauge, material, length and temperature. Diameter by ASTM B258; resistivity of annealed copper by IEC
/// 60028,
/// of copper-clad aluminium (about 10 % copper by volume) by ASTM B566 class 10A.
/// </summary>
public static class Conductor
{
    /// <summary>Diameter in millimetres; gauges may be fractional, 10 to 40.</summary>
    public static double DiameterMm(double gaugeAwg) => 0.127 * Math.Pow(92, (36 - Require.Number(gaugeAwg, "gauge_awg", 10, 40)) / 39);

    /// <summary>Cross-section in square millimetres.</summary>
    public static double AreaMm2(double gaugeAwg) =>
        gaugeAwg is >= 10 and <= 40 && gaugeAwg == (int)gaugeAwg ? WholeGauges[(int)gaugeAwg - 10] : AreaOf(gaugeAwg);

    private static double AreaOf(double gaugeAwg) => Math.PI * Math.Pow(DiameterMm(gaugeAwg), 2) / 4;

    private static readonly double[] WholeGauges = [.. Enumerable.Range(10, 31).Select(gauge => AreaOf(gauge))];

    /// <summary>Resistance of one conductor, ohm per metre.</summary>
    public static double OhmsPerMetre(double gaugeAwg, double temperatureC, ConductorMaterial material)
    {
        Require.Number(temperatureC, "temperature_c", -60, 120);
        var (resistivity, alpha, lay) = material switch
        {
            ConductorMaterial.SolidCopper => (1.7241e-8, 0.00393, 1.00),
            ConductorMaterial.StrandedCopper => (1.7241e-8, 0.00393, 1.04),
            ConductorMaterial.CopperCladAluminium => (2.743e-8, 0.00405, 1.00),
            _ => throw new BadInputException(BadInputReason.UnknownValue, "material"),
        };
        return resistivity * lay / (AreaMm2(gaugeAwg) * 1e-6) * (1 + alpha * (temperatureC - 20));
    }

    /// <summary>Loop of one pair (out on one conductor, back on the other), ohm: what a cable tester shows.</summary>
    public static double PairLoopOhms(double gaugeAwg, double lengthMetres, double temperatureC, ConductorMaterial material) =>
        2 * OhmsPerMetre(gaugeAwg, temperatureC, material) * Require.Number(lengthMetres, "run_length_m", 0, 100_000);

    /// <summary>Length whose loop reads <paramref name="loopOhms"/>, in metres, the test leads taken off.</summary>
    /// <exception cref="BadInputException">Leads of more resistance than the reading.</exception>
    public static double LengthFromLoopMetres(
        double loopOhms,
        double gaugeAwg,
        double temperatureC,
        ConductorMaterial material,
        double leadOhms = 0
    )
    {
        Require.Number(loopOhms, "loop_resistance_ohm", 0);
        Require.Number(leadOhms, "lead_resistance_ohm", 0);
        Require.Consistent(leadOhms <= loopOhms, "lead_resistance_ohm");
        return (loopOhms - leadOhms) / (2 * OhmsPerMetre(gaugeAwg, temperatureC, material));
    }
}
