using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Focusing;

namespace Walkdown.Server.Aim;

/// <summary>The picture by day that a head's pictures of the night are held against: the one in which its focus was measured last, in the
/// camera's own size; else that of the agreed view.</summary>
/// <param name="Hash">Of its file.</param>
/// <param name="PictureId">The picture.</param>
/// <param name="At">When it was taken, or agreed.</param>
/// <param name="IsOfFocus">Its focus was measured in it.</param>
internal sealed record PictureByDay(string Hash, Guid PictureId, DateTimeOffset At, bool IsOfFocus)
{
    /// <param name="facts">Of the Card.</param>
    /// <param name="headId">The head.</param>
    /// <param name="asOf">What came later does not count.</param>
    /// <returns>Null: there is none.</returns>
    public static PictureByDay? Of(CardFacts facts, Guid headId, DateTimeOffset asOf) =>
        LastFocus(facts, headId, asOf) is var (reading, evidence) ? new(evidence.PictureHash, evidence.PictureId, reading.TakenAt, true)
        : Agreed(facts, headId, asOf) is { Picture: { } picture } view ? new(picture.PictureHash, picture.PictureId, view.At, false)
        : null;

    /// <summary>The view of a head that was agreed at a moment; null: none was.</summary>
    public static PlannedView? Agreed(CardFacts facts, Guid headId, DateTimeOffset asOf) =>
        facts.Events.OfType<PlannedView>().LastOrDefault(v => v is { AgreedBy: not null } && v.HeadId == headId && v.At <= asOf);

    /// <summary>The reading of a head whose focus was measured last in a picture, and that picture; null: none was.</summary>
    public static (Reading Reading, ReadingEvidence Evidence)? LastFocus(CardFacts facts, Guid headId, DateTimeOffset asOf)
    {
        (Reading Reading, ReadingEvidence Evidence)? last = null;
        foreach (var reading in facts.Readings)
            if (reading.Key.On.Id == headId && reading.TakenAt <= asOf && !(reading.TakenAt < last?.Reading.TakenAt))
                foreach (var evidence in reading.Evidence)
                    if (evidence.Algorithm == FocusLook.Algorithm)
                        last = (reading, evidence);
        return last;
    }
}
