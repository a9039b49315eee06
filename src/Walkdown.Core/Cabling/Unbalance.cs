using Walkdown.Core.Measures;

namespace Walkdown.Core.Cabling;

/// <summary>Direct-current unbalance within and between pairs (ISO/IEC 11801-1, TIA-568.2-D, channel; docs/calculations.md, A).</summary>
public static class Unbalance
{
    /// <param name="WithinPercent">Percent of the pair's sum; with <paramref name="WithinOhms"/> the larger allows.</param>
    /// <param name="BetweenOhms">Allowed between pairs, ohms.</param>
    /// <param name="BetweenPercent">Allowed between pairs, percent.</param>
    /// <param name="WithinOhms">Allowed within a pair, ohms.</param>
    public sealed record Limits(double WithinPercent = 3, double WithinOhms = 0.2, double BetweenPercent = 7, double BetweenOhms = 0.1);

    /// <summary>Difference of one pair, or between pairs: ohms, percent of the mean, what is allowed.</summary>
    public readonly record struct Line(string Of, double Ohms, double Percent, double AllowedOhms, bool InLimit);

    /// <summary>Within each pair and between pairs.</summary>
    public sealed record Result(ImmutableArray<Line> WithinPairs, Line WorstBetweenPairs, bool AllInLimit);

    /// <param name="conductorOhms">Resistance of the conductors on pins 1 to 8, index 0 is pin 1.</param>
    /// <param name="limits">What is allowed.</param>
    public static Result Of(ReadOnlySpan<double> conductorOhms, Limits? limits = null)
    {
        var allow = limits ?? new Limits();
        if (conductorOhms.Length != 8)
            throw new BadInputException(BadInputReason.Missing, "conductor_resistances_ohm");
        foreach (var ohms in conductorOhms)
            Require.Positive(ohms, "conductor_resistances_ohm");
        var within = ImmutableArray.CreateBuilder<Line>(4);
        var parallel = new List<(string Pair, double Ohms)>(4);
        foreach (var pair in PinPair.All)
        {
            double a = conductorOhms[pair.First - 1],
                b = conductorOhms[pair.Second - 1];
            within.Add(Compare(pair.ToString(), a, b, allow.WithinPercent, allow.WithinOhms));
            parallel.Add((pair.ToString(), a * b / (a + b)));
        }
        var between = (
            from i in Enumerable.Range(0, 4)
            from j in Enumerable.Range(i + 1, 3 - i)
            select Compare(
                $"{parallel[i].Pair}/{parallel[j].Pair}",
                parallel[i].Ohms,
                parallel[j].Ohms,
                allow.BetweenPercent,
                allow.BetweenOhms
            )
        ).ToList();
        var worst = between.MaxBy(line => line.Ohms / line.AllowedOhms);
        return new Result(within.ToImmutable(), worst, within.Concat(between).All(line => line.InLimit));
    }

    private static Line Compare(string of, double a, double b, double percent, double ohms)
    {
        double difference = Math.Abs(a - b),
            allowed = Math.Max(percent / 100 * (a + b), ohms);
        return new Line(of, difference, 100 * difference / (a + b), allowed, Decision.AtMost(difference, allowed));
    }
}
