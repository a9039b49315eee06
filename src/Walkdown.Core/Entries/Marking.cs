using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Entries;

/// <summary>One mark for many Cards: held up, set aside, free again, or restarted.</summary>
/// <param name="Kind">As what.</param>
/// <param name="Reason">Why; not asked for where they are free.</param>
/// <param name="BlockedBy">Who holds them up.</param>
/// <param name="Until">When they should be free again.</param>
public sealed record Marking(MarkKind Kind, string? Reason, string? BlockedBy, DateOnly? Until)
{
    /// <summary>What is wrong with the mark itself: the code of the sentence; null where nothing is.</summary>
    public string? Problem() =>
        Kind != MarkKind.Free && (string.IsNullOrWhiteSpace(Reason) || Reason.Length > 400) ? "problem.reason-missing"
        : Kind == MarkKind.Blocked && (string.IsNullOrWhiteSpace(BlockedBy) || BlockedBy.Length > EntryRequest.MostName) ? "mark.blocked-by"
        : null;

    /// <summary>What it adds to one Card; empty where it says nothing new of it.</summary>
    /// <param name="place">The Card's place.</param>
    /// <param name="standing">What holds it up now: a new hindrance takes the place of the one before.</param>
    /// <param name="by">Who marks.</param>
    /// <param name="at">When.</param>
    /// <param name="sequence">The journal's order.</param>
    /// <param name="newId">Gives version 7 ids.</param>
    public ImmutableArray<CardEvent> Of(Guid place, Block? standing, Guid by, DateTimeOffset at, long sequence, Func<Guid> newId)
    {
        var added = ImmutableArray.CreateBuilder<CardEvent>();
        if (Kind != MarkKind.Restarted && standing is not null)
            added.Add(
                new BlockEnd
                {
                    Id = newId(),
                    By = by,
                    At = at,
                    Sequence = sequence,
                    Of = standing.Id,
                }
            );
        if (Kind == MarkKind.Restarted)
            added.Add(
                new Act
                {
                    Id = newId(),
                    By = by,
                    At = at,
                    Sequence = sequence,
                    ActKind = "restarted",
                    On = new Subject(SubjectKind.Place, place),
                    Text = Reason,
                }
            );
        else if (Kind != MarkKind.Free)
            added.Add(
                new Block
                {
                    Id = newId(),
                    By = by,
                    At = at,
                    Sequence = sequence,
                    BlockedBy = BlockedBy?.Trim() ?? "",
                    Reason = Reason!.Trim(),
                    Until = Until,
                    SetAside = Kind == MarkKind.SetAside,
                }
            );
        return added.ToImmutable();
    }
}
