using Walkdown.Core.Acceptance;
using Walkdown.Core.Optics;

namespace Walkdown.Core.Entries;

/// <summary>How a head should look, planned or agreed.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="HeadId">The head.</param>
/// <param name="Design">The view.</param>
/// <param name="AgreedBy">The name of who agreed to it; null: nobody yet.</param>
/// <param name="PictureId">A picture of the same place that shows it; null: none.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
public sealed record ViewRequest(
    Guid Id,
    Guid HeadId,
    ViewDesign Design,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    string? AgreedBy = null,
    Guid? PictureId = null
) : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <inheritdoc/>
    public override string JournalKind() => "view";

    /// <inheritdoc/>
    public override EntryNeeds Needs() => new(Pictures: PictureId is not null);

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        if (!at.Facts.Heads.Any(h => h.Id == HeadId))
            return EntryDecision.Refuse("problem.unknown-head", "headId");
        if (!ViewRules.Of(at.Facts, at.Catalogue).IsCamera)
            return EntryDecision.Refuse("problem.view-no-camera", "headId");
        if (Design is null)
            return EntryDecision.Refuse("problem.view-missing", "design");
        if (Design.Refuse() is var (why, field))
            return EntryDecision.Refuse(why, field);
        if (AgreedBy is not null && IsNoName(AgreedBy))
            return EntryDecision.Refuse("problem.who-agrees", "agreedBy");
        ReadingEvidence? picture = null;
        if (PictureId is { } shown)
        {
            if (!at.Pictures.TryGetValue(shown, out var hash))
                return EntryDecision.Refuse("evidence.unknown-picture", "pictureId");
            picture = new(shown, hash);
        }
        return EntryDecision.Of(
            new PlannedView
            {
                Id = Id,
                By = By,
                At = at.At,
                Sequence = at.Sequence,
                HeadId = HeadId,
                Design = Design with { Targets = [.. Design.Targets.Select(t => t with { Name = t.Name.Trim() })] },
                AgreedBy = AgreedBy?.Trim(),
                Picture = picture,
            }
        );
    }
}
