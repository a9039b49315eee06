using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>How the wait of a row stands.</summary>
/// <param name="For">Code of what it waits for, such as <c>check.fixing.seals</c> or <c>act.resealed</c>.</param>
/// <param name="Begun">When it was begun; null: not yet.</param>
/// <param name="Until">When the row can be taken; null: not known before it is begun.</param>
/// <param name="Minutes">How long it is.</param>
/// <param name="Source">Where the time comes from.</param>
public sealed record RowWait(string For, DateTimeOffset? Begun, DateTimeOffset? Until, double Minutes, string Source)
{
    /// <summary>Whether a reading of this moment came too early.</summary>
    public bool IsTooEarly(DateTimeOffset takenAt) => Until is not { } until || takenAt < until;

    /// <summary>Why a reading of this moment says nothing yet; null where it was time.</summary>
    internal Message? TooEarly(DateTimeOffset takenAt) =>
        !IsTooEarly(takenAt) ? null
        : Until is not { } until ? new("because.not-begun", "@" + For)
        : new("because.too-early", Message.Number((until - takenAt).TotalMinutes, 0), "@" + For, Message.Number(Minutes));

    /// <summary>How the wait of a row stands; null where it has none. A reading that is taken anew begins it anew.</summary>
    internal static RowWait? Of(RowContext context)
    {
        if (context.Check.Wait is not { } wait)
            return null;
        DateTimeOffset? begun = null;
        if (wait.After is { } after)
        {
            var on =
                context.Catalogue.CheckById.GetValueOrDefault(after)?.Per == context.Key.On.Kind
                    ? context.Key.On with
                    {
                        Part = "",
                    }
                    : new Subject(SubjectKind.Place, context.Facts.Place.Id);
            begun = context.Counting.Counts(new CheckKey(after, on, Condition.Any))?.TakenAt;
        }
        if (wait.AfterAct is { } act && context.Counting.LastAct(act)?.At is { } at && (begun is null || at > begun))
            begun = at;
        var minutes = context.Catalogue.Figure(wait.Minutes);
        return new RowWait(
            wait.After is { } check ? "check." + check.Value : "act." + wait.AfterAct,
            begun,
            begun?.AddMinutes(minutes),
            minutes,
            context.Catalogue.FigureSource(wait.Minutes)
        );
    }
}
