using Walkdown.Core.Acceptance;
using Walkdown.Core.Aiming;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Focusing;

/// <summary>What a picture of a head tells the rows of focus.</summary>
public static class FocusRows
{
    private static readonly CheckId Off = new("focus.cover-off"),
        On = new("focus.cover-on");

    private const int LeastCorners = 2;

    /// <summary>The act of whoever turns a lens, or drives its motor.</summary>
    public const string LensTouched = "lens-touched";

    /// <summary>Whether something counts on the Card that is void once the lens of a head is touched.</summary>
    public static bool Leans(JudgedCard card, Guid headId) =>
        card.Card.Rows.Any(r =>
            r.Counts is not null && r.Check.VoidedBy.Contains(LensTouched) && (r.Key.On.Kind != SubjectKind.Head || r.Key.On.Id == headId)
        );

    /// <summary>Values by the row that each is for; none where the sharpest is not known and nothing earlier is there to hold it
    /// against: a picture alone does not tell how sharp it could be.</summary>
    /// <param name="card">Of the camera.</param>
    /// <param name="headId">The head.</param>
    /// <param name="look">What the picture says.</param>
    /// <param name="isCovered">Its cover is on; of one that has none it says nothing.</param>
    public static IEnumerable<(PlannedRow Row, ReadingValue Value)> Of(JudgedCard card, Guid headId, FocusLook look, bool isCovered)
    {
        if (AimRows.RowOf(card, isCovered || !HasCover(card, headId) ? On : Off, headId) is { } row && Says(look) is { } word)
            yield return (row, new ChoiceValue(word));
    }

    /// <summary>Whether a head is behind a cover: then it is told apart how sharp it is with it and without.</summary>
    public static bool HasCover(JudgedCard card, Guid headId) =>
        AimRows.RowOf(card, On, headId) is { } row && row.Key.Under.HasFlag(Condition.CoverOn);

    /// <summary>Sharp to the corners, soft, or soft in a corner alone; null: nothing tells.</summary>
    public static string? Says(FocusLook look)
    {
        if (look.Spots.IsEmpty || look.Spots[0] is not { } target || Softer(look, target) is not { } isSoft)
            return null;
        if (isSoft)
            return "soft";
        bool?[] others = [.. look.Spots.Skip(1).Select(s => Softer(look, s))];
        // Sky and walls tell nothing of their corner: of two at least it must be known.
        return others.Contains(true) ? "corner"
            : others.Skip(1).Count(o => o is false) >= LeastCorners ? "sharp"
            : null;
    }

    /// <summary>Whether a part is softer than it was: against its own sharpest where the top is known, else against the earlier
    /// picture; null: nothing tells.</summary>
    public static bool? Softer(FocusLook look, SpotFocus spot) =>
        look.IsTopKnown && spot.OfBest is { } share ? share < 1 - SpotChange.Allowed / 100
        : spot.Change is { Change: not FocusChange.NoDetail } change ? change.Change == FocusChange.Softer
        : null;
}
