using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Handover;

/// <summary>
/// What an acceptance is about, by parts of the work: where no Check of a part is required on any Card, a Verdict says nothing of it, and
/// whoever takes over is told so.
/// </summary>
public static class AcceptanceScope
{
    /// <summary>Parts of which a Card requires something; a row that was exempted by name was asked for.</summary>
    public static IEnumerable<Section> Asked(Card card) => card.Rows.Where(r => r.Required).Select(r => r.Check.Section).Distinct();

    /// <summary>Parts of which none of the Cards requires anything, in the order of the work. The bench is a place, and no part that a
    /// client could miss.</summary>
    public static ImmutableArray<Section> NotAsked(IEnumerable<Section> asked) =>
        [.. Enum.GetValues<Section>().Except(asked).Where(s => s != Section.Bench)];
}
