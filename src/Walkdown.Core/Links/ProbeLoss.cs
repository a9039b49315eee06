using Walkdown.Core.Measures;

namespace Walkdown.Core.Links;

/// <summary>Lost probes against a limit, with the Wilson interval (docs/calculations.md, G).</summary>
public static class ProbeLoss
{
    /// <param name="ProbesToPass">Clean probes that would show the limit to be kept.</param>
    /// <param name="HighPercent">Upper end of the interval, percent.</param>
    /// <param name="Lost">Probes lost.</param>
    /// <param name="LowPercent">Lower end of the interval, percent.</param>
    /// <param name="Percent">Percent.</param>
    /// <param name="Verdict">What it comes to.</param>
    public sealed record Result(long Lost, double Percent, double LowPercent, double HighPercent, LossVerdict Verdict, long ProbesToPass);

    /// <summary>A count beyond which no longer test is asked for.</summary>
    public const long MostProbes = 10_000_000;

    /// <summary>Least probes in all that would show the limit to be kept if no further one is lost; null beyond <see
    /// cref="MostProbes"/>.</summary>
    public static long? ToPass(long lost, double limitPercent)
    {
        var limit = limitPercent / 100;
        long low = Math.Max(1, lost),
            high = MostProbes;
        if (!Decision.AtMost(Wilson.Interval(lost, high).High, limit))
            return null;
        while (low < high)
        {
            var middle = low + (high - low) / 2;
            if (Decision.AtMost(Wilson.Interval(lost, middle).High, limit))
                high = middle;
            else
                low = middle + 1;
        }
        return low;
    }

    /// <exception cref="BadInputException">More received than sent: duplicates were counted.</exception>
    public static Result Judge(long sent, long received, double limitPercent, double z = Wilson.Z95)
    {
        Require.Number(sent, "sent", 1);
        Require.Number(received, "received", 0);
        Require.Consistent(received <= sent, "received");
        Require.Positive(limitPercent, "loss_limit_percent");
        if (limitPercent >= 100)
            throw new BadInputException(BadInputReason.AboveMaximum, "loss_limit_percent");
        Require.Positive(z, "z");
        var lost = sent - received;
        var (low, high) = Wilson.Interval(lost, sent, z);
        var limit = limitPercent / 100;
        var verdict =
            Decision.AtMost(high, limit) ? LossVerdict.Pass
            : !Decision.AtMost(low, limit) ? LossVerdict.Fail
            : LossVerdict.NeedMoreProbes;
        return new Result(lost, 100.0 * lost / sent, 100 * low, 100 * high, verdict, (long)Math.Ceiling(z * z * (1 / limit - 1)));
    }
}
