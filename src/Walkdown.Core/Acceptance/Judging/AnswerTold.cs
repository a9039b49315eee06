using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>What one answer to a row would tell, before it is given: said beside the open row, judged as a reading would be.</summary>
/// <param name="Value">The answer; of a number, one beyond a limit.</param>
/// <param name="Beyond">Of a number: which limit it lies beyond; null for any other answer.</param>
/// <param name="State">How it would be judged.</param>
/// <param name="Because">Why.</param>
/// <param name="Causes">What would be looked for.</param>
public sealed record AnswerTold(
    ReadingValue Value,
    NearestLimit? Beyond,
    State State,
    ImmutableArray<Message> Because,
    ImmutableArray<LikelyCause> Causes
)
{
    /// <summary>Each answer that the row offers; none where it is entered in many ways.</summary>
    public static ImmutableArray<AnswerTold> Of(JudgedCard judged, CheckKey key)
    {
        if (judged.Card.Rows.FirstOrDefault(r => r.Key == key) is not { } known)
            return [];
        var (judge, check) = (new CardJudge(judged.Facts, judged.Catalogue), known.Check);
        IEnumerable<(ReadingValue Value, NearestLimit? Beyond)> asked = check.Entry switch
        {
            EntryKind.YesNo => [(new YesNoValue(true), null), (new YesNoValue(false), null)],
            EntryKind.Choice => check.Choices.Select(word => ((ReadingValue)new ChoiceValue(word), (NearestLimit?)null)),
            EntryKind.Number => BeyondEach(known.Window, check.Unit),
            _ => [],
        };
        return
        [
            .. asked.Select(a =>
            {
                var row = judge.Preview(key, a.Value, key.Under, null, true);
                return new AnswerTold(a.Value, a.Beyond, row.State, row.Because, row.Causes);
            }),
        ];
    }

    private static IEnumerable<(ReadingValue, NearestLimit?)> BeyondEach(LimitWindow? window, Unit unit)
    {
        if (window is null || window.Empty)
            yield break;
        var step = Math.Max(1, Math.Abs(window.Max ?? window.Min ?? 1) / 2);
        if (window.Min is { } min)
            yield return (new NumberValue(min - step, unit), NearestLimit.Min);
        if (window.Max is { } max)
            yield return (new NumberValue(max + step, unit), NearestLimit.Max);
    }
}
