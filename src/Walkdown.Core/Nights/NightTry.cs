namespace Walkdown.Core.Nights;

/// <summary>What somebody does to find out why light lies over a picture, or to mend it.</summary>
public enum NightAct
{
    /// <summary>The cover was wiped.</summary>
    Wiped,

    /// <summary>Its film was taken off.</summary>
    FilmOff,

    /// <summary>The light barrier was put in, or pressed on.</summary>
    FoamPressed,

    /// <summary>The camera was turned steeper, or away from what is near.</summary>
    Turned,

    /// <summary>The cover was taken off.</summary>
    CoverOff,

    /// <summary>Infrared was switched off, with another light in its place.</summary>
    InfraredOff,

    /// <summary>A hand or a card was held between its lamps and what is near.</summary>
    Shaded,
}

/// <summary>What became of the veil when somebody did something.</summary>
/// <param name="Act">What was done.</param>
/// <param name="Before">The veil's share of the light where it was worst.</param>
/// <param name="After">The same since; null: no picture tells yet.</param>
public sealed record NightTry(NightAct Act, double Before, double? After)
{
    /// <summary>It is gone or much less, or as much as before; null: neither, or not known yet.</summary>
    public bool? Helped =>
        After is not { } after ? null
        : after <= MuchLess * Before ? true
        : after >= 0.85 * Before ? false
        : null;

    /// <summary>A veil that is much less, against before.</summary>
    internal const double MuchLess = 0.6;

    /// <summary>The veil as a newer picture shows it. A hand comes down again, a cover and infrared go back on: of these the least counts.</summary>
    internal NightTry Since(double worst) =>
        this with
        {
            After = Act is NightAct.Shaded or NightAct.CoverOff or NightAct.InfraredOff ? Math.Min(After ?? worst, worst) : worst,
        };
}

/// <summary>What helps against what (docs/calculations.md, N), and what is worth doing first.</summary>
public static class NightTries
{
    /// <summary>That an act does away with a veil that has a reason.</summary>
    public static double Helps(NightAct act, VeilReason reason) =>
        (act, reason) switch
        {
            (NightAct.Wiped, VeilReason.Finger or VeilReason.Smudge) => 0.95,
            (NightAct.FilmOff, VeilReason.Film) => 0.97,
            (NightAct.FoamPressed, VeilReason.Foam) => 0.95,
            (NightAct.FoamPressed, VeilReason.Rim) => 0.15,
            (NightAct.Turned, VeilReason.Tilt) => 0.9,
            (NightAct.Turned, VeilReason.Rim) => 0.8,
            (NightAct.Turned, VeilReason.Wall) => 0.6,
            (NightAct.CoverOff, VeilReason.Wall) => 0.05,
            (NightAct.CoverOff, _) => 0.95,
            // What is on the cover is lit by any other light too, only less.
            (NightAct.InfraredOff, VeilReason.Film) => 0.3,
            (NightAct.InfraredOff, VeilReason.Finger or VeilReason.Smudge) => 0.5,
            (NightAct.InfraredOff, _) => 0.97,
            (NightAct.Shaded, VeilReason.Wall) => 0.9,
            _ => 0.04,
        };

    /// <summary>How long an act takes on a ladder.</summary>
    private static double Minutes(NightAct act) =>
        act switch
        {
            NightAct.Wiped or NightAct.Shaded or NightAct.InfraredOff => 2,
            NightAct.FilmOff => 1.5,
            NightAct.CoverOff or NightAct.Turned => 5,
            _ => 4,
        };

    /// <summary>Reasons after what was tried.</summary>
    /// <param name="guesses">By the picture alone.</param>
    /// <param name="tries">What was done since.</param>
    public static ImmutableArray<VeilGuess> After(ImmutableArray<VeilGuess> guesses, IEnumerable<NightTry> tries)
    {
        var chances = guesses.Select(g => g.Chance).ToArray();
        foreach (var tried in tries)
            if (tried.Helped is { } helped)
                for (var i = 0; i < chances.Length; i++)
                    chances[i] *= helped ? Helps(tried.Act, guesses[i].Reason) : 1 - Helps(tried.Act, guesses[i].Reason);
        var sum = chances.Sum();
        return [.. guesses.Select((g, i) => g with { Chance = sum > 0 ? chances[i] / sum : 0 }).OrderByDescending(g => g.Chance)];
    }

    /// <summary>What is worth doing, the best first: by how much it would tell for each minute that it takes.</summary>
    /// <param name="guesses">Reasons as they are known now.</param>
    /// <param name="hasCover">There is a cover to take off; null: not known.</param>
    /// <param name="tried">What need not be done again.</param>
    /// <param name="isGone">It is gone, and what did it is asked: each can have, the likeliest first.</param>
    public static ImmutableArray<NightAct> Next(
        ImmutableArray<VeilGuess> guesses,
        bool? hasCover,
        IEnumerable<NightTry> tried,
        bool isGone = false
    )
    {
        if (guesses.IsEmpty)
            return [];
        var done = tried.Select(t => t.Act).ToHashSet();
        return
        [
            .. Enum.GetValues<NightAct>()
                .Where(act => !done.Contains(act) && (hasCover != false || act != NightAct.CoverOff))
                .Select(act => (Act: act, Worth: isGone ? guesses.Sum(g => g.Chance * Helps(act, g.Reason)) : Worth(act)))
                .Where(a => isGone || a.Worth > 0.03)
                .OrderByDescending(a => a.Worth)
                .Select(a => a.Act),
        ];

        double Worth(NightAct act)
        {
            var helps = guesses.Sum(g => g.Chance * Helps(act, g.Reason));
            var told =
                Doubt(guesses.Select(g => g.Chance))
                - helps * Doubt(guesses.Select(g => g.Chance * Helps(act, g.Reason) / Math.Max(1e-9, helps)))
                - (1 - helps) * Doubt(guesses.Select(g => g.Chance * (1 - Helps(act, g.Reason)) / Math.Max(1e-9, 1 - helps)));
            // What mends as well is worth more than what only tells.
            var mends = act is NightAct.CoverOff or NightAct.InfraredOff or NightAct.Shaded ? 0 : helps;
            return (told + mends) / Minutes(act);
        }

        static double Doubt(IEnumerable<double> chances) => -chances.Where(c => c > 0).Sum(c => c * Math.Log2(c));
    }
}
