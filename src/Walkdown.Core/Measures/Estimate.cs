namespace Walkdown.Core.Measures;

/// <summary>
/// An expectation as an interval. The formulas in use rise or fall with each input over its half width, so the ends are found by
/// calculating twice, each input at the end
/// that lowers or raises the result; where one does neither, both its ends are tried.
/// </summary>
/// <param name="inputs">Its inputs, in the order in which the formula takes them.</param>
/// <param name="formula">Null where there is no result, such as a load that the run cannot carry.</param>
public sealed class Estimate(ImmutableArray<EstimateInput> inputs, Estimate.Formula formula)
{
    /// <summary>The result for values of the inputs, in their units and order; null where there is none.</summary>
    public delegate double? Formula(ReadOnlySpan<double> inputs);

    /// <summary>What it is computed from.</summary>
    public ImmutableArray<EstimateInput> Inputs => inputs;

    /// <summary>The result with every input at its middle; null where there is none.</summary>
    public double? Middle { get; } = formula(Middles(inputs, stackalloc double[inputs.Length]));

    private static Span<double> Middles(ImmutableArray<EstimateInput> inputs, Span<double> into)
    {
        for (var i = 0; i < inputs.Length; i++)
            into[i] = inputs[i].Middle;
        return into;
    }

    /// <summary>Both ends; null where not even the middle has a result. An end without a result is open: nothing, or without
    /// bound.</summary>
    public Band? Ends()
    {
        if (Middle is not { } middle)
            return null;
        var low = Middles(inputs, stackalloc double[inputs.Length]);
        var high = Middles(inputs, stackalloc double[inputs.Length]);
        for (var i = 0; i < inputs.Length; i++)
        {
            double? atLow = Alone(i, inputs[i].Low),
                atHigh = Alone(i, inputs[i].High);
            // Without a result is less than any: what cannot be carried arrives with nothing.
            var rises = (atHigh ?? double.NegativeInfinity) >= (atLow ?? double.NegativeInfinity);
            (low[i], high[i]) = rises ? (inputs[i].Low, inputs[i].High) : (inputs[i].High, inputs[i].Low);
            // Both ends on one side of the middle: that side is the worse of them, the other is the middle itself.
            if (atLow > middle && atHigh > middle)
                low[i] = inputs[i].Middle;
            if (atLow < middle && atHigh < middle)
                high[i] = inputs[i].Middle;
        }
        return new Band(formula(low) ?? 0, formula(high) ?? middle);
    }

    /// <summary>The value of one input that alone brings the result to a reading, all others at their middle; null where none within what
    /// is possible does.</summary>
    /// <param name="least">Least that the input can be at all.</param>
    /// <param name="most">Most that it can be at all.</param>
    /// <param name="input">The input that is changed.</param>
    /// <param name="reading">What the result should be.</param>
    public Explanation? Explain(int input, double reading, double least, double most)
    {
        if (Middle is null || most <= least)
            return null;
        double a = least,
            b = most;
        double? fa = Alone(input, a),
            fb = Alone(input, b);
        // Beyond where the formula ends there is nothing to find: the bound moves to where it still gives something.
        for (var i = 0; i < 60 && fb is null; i++)
        {
            var mid = (a + b) / 2;
            if (Alone(input, mid) is { } there)
                (a, fa) = (mid, there);
            else
                b = mid;
            if (b - a < 1e-9 * Math.Max(1, Math.Abs(b)))
                (b, fb, a, fa) = (a, fa, least, Alone(input, least));
        }
        if (fa is not { } atA || fb is not { } atB || (atA - reading) * (atB - reading) > 0)
            return null;
        for (var i = 0; i < 100 && b - a > 1e-12 * Math.Max(1, Math.Abs(b)); i++)
        {
            var mid = (a + b) / 2;
            if (Alone(input, mid) is not { } there)
                return null;
            if ((there - reading) * (atA - reading) > 0)
                a = mid;
            else
                b = mid;
        }
        var value = (a + b) / 2;
        var half = inputs[input].HalfWidth;
        return new Explanation(
            inputs[input].Name,
            value,
            inputs[input].Middle,
            half > 0 ? Math.Abs(value - inputs[input].Middle) / half : double.PositiveInfinity
        );
    }

    private double? Alone(int input, double value)
    {
        var at = Middles(inputs, stackalloc double[inputs.Length]);
        at[input] = value;
        return formula(at);
    }
}
