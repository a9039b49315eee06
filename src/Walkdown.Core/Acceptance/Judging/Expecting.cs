using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>How an expectation is put together from an estimate, and what would bring it to a reading.</summary>
internal static class Expecting
{
    /// <summary>An estimate as a row's expectation: its middle, its interval, and every input with where its half width comes
    /// from.</summary>
    /// <param name="explain">What would bring it to a reading, each with how far that is in half widths; null where nothing could.</param>
    /// <param name="more">Terms beside its inputs.</param>
    /// <param name="method">Code of how it was computed.</param>
    /// <param name="estimate">The estimate.</param>
    /// <param name="unit">Its unit.</param>
    internal static Expectation Of(
        string method,
        Estimate estimate,
        Unit unit,
        Func<Estimate, double, ImmutableArray<(double HalfWidths, Message What)?>>? explain = null,
        Func<IEnumerable<Term>>? more = null
    )
    {
        if (estimate.Middle is not { } middle || estimate.Ends() is not { } ends)
            return None(method, "expect.none.no-number");
        return new(new(middle, unit), (ends.High - ends.Low) / 2, null, method, default)
        {
            Between = ends,
            InWords = more is null ? () => TermsOf(estimate) : () => [.. TermsOf(estimate), .. more()],
            Explain = explain is null
                ? null
                : read =>
                    explain(estimate, read)
                        .OfType<(double HalfWidths, Message What)>()
                        .OrderBy(e => e.HalfWidths)
                        .Select(e => e.What)
                        .ToImmutableArray()
                        is { IsEmpty: false } some
                        ? some
                        : [new Message("unexpected.nothing-alone")],
        };
    }

    internal static ImmutableArray<Term> TermsOf(Estimate estimate) =>
        [
            .. estimate.Inputs.Select(i => new Term(
                i.Name,
                $"{Message.Number(i.Middle)} {SignOf(i.Unit)}",
                i.Origin,
                $"{Message.Number(i.HalfWidth)} {(i.Unit == Unit.DegreeCelsius ? "K" : SignOf(i.Unit))}",
                i.From
            )),
        ];

    internal static string SignOf(Unit unit) =>
        unit switch
        {
            Unit.Metre => "m",
            Unit.Ohm => "ohm",
            Unit.Volt => "V",
            Unit.Watt => "W",
            Unit.DegreeCelsius => "\u00b0C",
            Unit.Nanosecond => "ns",
            _ => "",
        };

    internal static (double, Message)? Says(string what, Explanation? by, string sign) =>
        by is null
            ? null
            : (
                by.HalfWidths,
                new Message("unexpected." + what, Message.Number(by.Value, 1) + " " + sign, Message.Number(by.Middle, 1) + " " + sign)
            );

    internal static Expectation None(string method, string why) => None(method, new Message(why));

    internal static Expectation None(string method, Message why) => new(null, null, null, method, [], why);
}
