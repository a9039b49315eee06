using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Handover;

/// <summary>
/// What an acceptance is about, by legs of the signal path: where no Check of a leg is required on any Card, a Verdict says nothing of it,
/// and whoever takes over is told so.
/// </summary>
public static class AcceptanceScope
{
    /// <summary>Legs of which a Card requires something; a row that was exempted by name was asked for.</summary>
    public static IEnumerable<Leg> Asked(Card card) => card.Legs.Where(l => l.IsAsked).Select(l => l.Leg);

    /// <summary>Legs of which none of the Cards requires anything, from the recorder to the fixing.</summary>
    public static ImmutableArray<Leg> NotAsked(IEnumerable<Leg> asked) => [.. Enum.GetValues<Leg>().Except(asked)];
}
