using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Words and parts that data says are right.</summary>
internal static class ChoiceJudges
{
    /// <summary>In where the word is one of the good ones, or the one that is expected; out where it is another.</summary>
    public static Judged Choice(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var choice = ((ChoiceValue)value).Choice;
        if (!c.Check.Good.IsEmpty)
        {
            foreach (var good in c.Row.Good)
                if (good.Word == choice && good.IsOf(c.Key.On.Part))
                    return new(State.In, null, null, []);
            return GoodOf(c) is { Length: > 0 } others
                ? new(State.Out, null, null, [new Message("choice.wrong", Word(c, choice), others)])
                : GeneralJudges.NotJudged(new Message("choice.nothing-good"));
        }
        var expected = c.Row.Compiled.Expect?.Invoke(c);
        return expected?.Word is not { } word ? GeneralJudges.NotJudged(expected?.WhyNone ?? new Message("choice.nothing-good"))
            : choice == word ? new(State.In, null, null, [])
            : new(State.Out, null, null, [new Message("choice.not-planned", Word(c, choice), Word(c, word))]);
    }

    private static string GoodOf(RowContext c) =>
        string.Join(", ", c.Row.Good.Where(g => g.IsOf(c.Key.On.Part)).Select(g => Word(c, g.Word)));

    private static string Word(RowContext c, string word) => $"@choice.{c.Check.Id.Value}.{word}";

    /// <summary>Out where a part that must be there is missing; not judged where nobody said a word of one; else in, with what was left out
    /// or substituted, and why.</summary>
    public static Judged Items(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var said = (ItemsValue)value;
        var (state, because) = (State.In, ImmutableArray.CreateBuilder<Message>());
        foreach (var item in c.Items)
        {
            var name = "@item." + item.Id;
            switch (said.Of(item.Id))
            {
                case null:
                    if (state == State.In)
                        state = State.NotJudged;
                    because.Add(new("items.not-said", name));
                    break;
                case { State: ItemState.Missing }:
                    if (item.Out)
                        state = State.Out;
                    because.Add(new(item.Out ? "items.missing" : "items.missing-care", name, $"@item.{item.Id}.for"));
                    break;
                case { State: ItemState.Substituted } other:
                    because.Add(new("items.substituted", name, Message.Said(other.By!), Message.Said(other.Why!)));
                    break;
                case { State: ItemState.NotNeeded, Why: { Length: > 0 } why }:
                    because.Add(new("items.not-needed", name, Message.Said(why)));
                    break;
            }
        }
        return new(
            state,
            null,
            null,
            because.Count < 2 ? because.DrainToImmutable() : [.. because.OrderByDescending(b => b.Code == "items.missing")]
        );
    }
}
