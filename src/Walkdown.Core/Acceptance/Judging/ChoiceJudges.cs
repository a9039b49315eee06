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
            var good = c
                .Check.Good.Where(g => (g.Part is null || g.Part == c.Key.On.Part) && g.Applies.Holds(c.Facts.Place.Kind, c.Features))
                .Select(g => g.Word)
                .ToImmutableArray();
            return good.Contains(choice) ? new(State.In, null, null, [])
                : good.IsEmpty ? GeneralJudges.NotJudged(new Message("choice.nothing-good"))
                : new(State.Out, null, null, [new Message("choice.wrong", Word(choice), string.Join(", ", good.Select(Word)))]);
        }
        var expected = c.Row.Compiled.Expect?.Invoke(c);
        return expected?.Word is not { } word ? GeneralJudges.NotJudged(expected?.WhyNone ?? new Message("choice.nothing-good"))
            : choice == word ? new(State.In, null, null, [])
            : new(State.Out, null, null, [new Message("choice.not-planned", Word(choice), Word(word))]);

        string Word(string word) => $"@choice.{c.Check.Id.Value}.{word}";
    }

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
        return new(state, null, null, [.. because.OrderByDescending(b => b.Code == "items.missing")]);
    }
}
