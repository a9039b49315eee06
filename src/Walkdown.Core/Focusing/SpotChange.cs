using Walkdown.Core.Pictures;

namespace Walkdown.Core.Focusing;

/// <summary>One part of a view against the same part of an earlier picture (docs/calculations.md, N: cover off against on).</summary>
/// <param name="Change">What became of it.</param>
/// <param name="Ratio">Of its detail now to then; null: one of them has none.</param>
/// <param name="Uncertainty">Of that, by noise alone, twice the deviation.</param>
public sealed record SpotChange(FocusChange Change, double? Ratio, double Uncertainty = 0)
{
    /// <summary>So much either way is the same, percent.</summary>
    public const double Allowed = 15;

    /// <param name="then">The earlier one.</param>
    /// <param name="now">The same part.</param>
    public static SpotChange Of(SpotDetail then, SpotDetail now)
    {
        if (then.Detail is not { } before)
            return new(FocusChange.NoDetail, null);
        // It had detail and has none: nothing is softer than that, but by how much is not known.
        if (now.Detail is not { } after)
            return new(FocusChange.Softer, null);
        var (ratio, uncertainty) = (after / before, now.Uncertainty + then.Uncertainty);
        return new(
            ratio < 1 - Allowed / 100 ? FocusChange.Softer
                : ratio > 1 + Allowed / 100 ? FocusChange.Sharper
                : FocusChange.Same,
            ratio,
            ratio * uncertainty
        );
    }
}
