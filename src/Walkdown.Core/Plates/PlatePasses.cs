using Walkdown.Core.Links;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Plates;

/// <summary>When a reader writes the same plate down again; products differ, so it is found out which one a system uses.</summary>
public enum RepeatRule
{
    /// <summary>So long after the last record.</summary>
    SinceLastRecord,

    /// <summary>So long after it was last seen: a vehicle that circles is never written down again.</summary>
    SinceLastSeen,
}

/// <summary>A plate that passed.</summary>
/// <param name="Plate">As read.</param>
/// <param name="AtSeconds">When.</param>
public sealed record PlatePass(string Plate, double AtSeconds);

/// <summary>The records that passes should give (docs/calculations.md, O).</summary>
/// <param name="Recorded">Passes that give one, by their place in the list, in order of time.</param>
/// <param name="PerPlate">Records of each plate as compared: letters and digits, upper case.</param>
public sealed record RepeatRecords(ImmutableArray<int> Recorded, ImmutableSortedDictionary<string, int> PerPlate)
{
    /// <param name="passes">In any order; at one time the first in the list comes first.</param>
    /// <param name="intervalSeconds">At least 0.</param>
    /// <param name="rule">Of the system under test.</param>
    public static RepeatRecords Of(IReadOnlyList<PlatePass> passes, double intervalSeconds, RepeatRule rule)
    {
        Require.Number(intervalSeconds, "interval_s", 0);
        var plates = passes.Select(p => Compared(p.Plate)).ToArray();
        var last = new Dictionary<string, double>();
        var recorded = ImmutableArray.CreateBuilder<int>();
        foreach (var i in Enumerable.Range(0, passes.Count).OrderBy(i => Require.Number(passes[i].AtSeconds, "passes.at_s")))
        {
            var at = passes[i].AtSeconds;
            var isNew =
                !last.TryGetValue(plates[i], out var before) || at - before >= intervalSeconds - 1e-9 * Math.Max(1, intervalSeconds);
            if (isNew)
                recorded.Add(i);
            if (isNew || rule == RepeatRule.SinceLastSeen)
                last[plates[i]] = at;
        }
        return new(
            recorded.ToImmutable(),
            recorded.GroupBy(i => plates[i]).ToImmutableSortedDictionary(g => g.Key, g => g.Count(), StringComparer.Ordinal)
        );
    }

    /// <summary>A plate as it is compared: letters and digits of any alphabet, upper case.</summary>
    /// <exception cref="BadInputException">There is none.</exception>
    public static string Compared(string? plate)
    {
        var text = string.Concat((plate ?? "").Where(char.IsLetterOrDigit)).ToUpperInvariant();
        return text.Length > 0 ? text : throw new BadInputException(BadInputReason.Missing, "passes.plate");
    }
}

/// <summary>How often plates are read right, with what the count can say (Wilson's interval).</summary>
/// <param name="Percent">Read right.</param>
/// <param name="LowPercent">At least, as far as the count can say.</param>
/// <param name="HighPercent">At most.</param>
/// <param name="Verdict">Against what is required.</param>
public sealed record ReadRate(double Percent, double LowPercent, double HighPercent, ReadVerdict Verdict)
{
    /// <param name="passes">Driven, at least 1.</param>
    /// <param name="right">Read right, 0 to all.</param>
    /// <param name="requiredPercent">Above 0, under 100.</param>
    /// <param name="z">How sure: 1.959964 is 95 %.</param>
    public static ReadRate Of(int passes, int right, double requiredPercent, double z = 1.959964)
    {
        Require.Number(passes, "passes", 1);
        Require.Number(right, "read_right", 0);
        Require.Consistent(right <= passes, "read_right");
        Require.Positive(requiredPercent, "required_percent", Math.BitDecrement(100));
        Require.Positive(z, "z");
        var (low, high) = Wilson.Interval(right, passes, z);
        (low, high) = (right == 0 ? 0 : 100 * low, right == passes ? 100 : 100 * high);
        return new(
            100.0 * right / passes,
            low,
            high,
            low >= requiredPercent - 1e-9 ? ReadVerdict.Pass
                : high < requiredPercent - 1e-9 ? ReadVerdict.Fail
                : ReadVerdict.NeedMorePasses
        );
    }

    /// <summary>The fewest passes after which so few misses show a rate, and the chance of that at just the rate asked for.</summary>
    /// <param name="requiredPercent">Above 0, under 100.</param>
    /// <param name="confidencePercent">Above 0, under 100.</param>
    /// <param name="allowedMisses">0 to 50.</param>
    public static (int Passes, double ChancePercent) Needed(double requiredPercent, double confidencePercent, int allowedMisses)
    {
        var rate = Require.Positive(requiredPercent, "required_percent", Math.BitDecrement(100)) / 100;
        var enough = 1 - Require.Positive(confidencePercent, "confidence_percent", Math.BitDecrement(100)) / 100;
        Require.Number(allowedMisses, "allowed_misses", 0, 50);
        double Chance(int n)
        {
            // By logarithms: the terms of a thousand passes are too small to multiply.
            var term = n * Math.Log(rate);
            var sum = Math.Exp(term);
            for (var k = 1; k <= allowedMisses; k++)
            {
                term += Math.Log((n - k + 1) / (double)k) + Math.Log((1 - rate) / rate);
                sum += Math.Exp(term);
            }
            return sum;
        }
        // The chance only falls with more passes: double until it is small enough, then halve the gap.
        var (low, high) = (allowedMisses, allowedMisses + 1);
        while (Chance(high) > enough + 1e-12)
        {
            (low, high) = (high, high * 2);
            Require.Number(high, "required_percent", max: 500_000_000);
        }
        while (high - low > 1)
        {
            var middle = low + (high - low) / 2;
            (low, high) = Chance(middle) > enough + 1e-12 ? (middle, high) : (low, middle);
        }
        return (high, 100 * Chance(high));
    }
}

/// <summary>What a count of passes says.</summary>
public enum ReadVerdict
{
    /// <summary>It is as good as required.</summary>
    Pass,

    /// <summary>It is not.</summary>
    Fail,

    /// <summary>It cannot be told yet.</summary>
    NeedMorePasses,
}
