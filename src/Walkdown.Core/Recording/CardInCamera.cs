using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>A memory card in a camera: whether it suits, and whether it records (docs/calculations.md, J).</summary>
internal static class CardInCamera
{
    /// <summary>10^6 bytes a second that a class writes at least (SD Association).</summary>
    private static readonly Dictionary<string, double> Classes = new()
    {
        ["c2"] = 2,
        ["c4"] = 4,
        ["c6"] = 6,
        ["c10"] = 10,
        ["u1"] = 10,
        ["u3"] = 30,
        ["v6"] = 6,
        ["v10"] = 10,
        ["v30"] = 30,
        ["v60"] = 60,
        ["v90"] = 90,
    };

    /// <summary>A card that shows less of its size than this is not what it says (practice: file system and spare cells take
    /// some).</summary>
    private const double LeastUsable = 0.85;

    /// <summary>Years that a card should last until its cells are written out (practice).</summary>
    private const double WornDays = 2 * 365;

    /// <summary>Of the row: every thing that is wrong first, then what is told.</summary>
    public static Judged Judge(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (
            line.Of("class")?.Word is not { } word
            || line.Of("size")?.Number is not { } size
            || line.Of("rate")?.Number is not { } rate
            || line.Of("seat")?.Word is not { } seat
            || line.Of("on")?.Word is not { } on
            || line.Of("clip")?.Word is not { } clip
        )
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, "class")));
        var card = MemoryCard.Of(
            rate,
            cardGb: line.Of("usable")?.Number ?? size,
            dutyPercent: line.Of("share")?.Number ?? 100,
            enduranceTbw: line.Of("endurance")?.Number
        );
        var wrong = ImmutableArray.CreateBuilder<Message>();
        var told = ImmutableArray.CreateBuilder<Message>();
        if (seat != "clicked")
            wrong.Add(new("card.seat"));
        if (on != "yes")
            wrong.Add(new("card.off"));
        if (clip != "yes")
            wrong.Add(new("card.no-clip"));
        var needed = Message.Number(card.NeededMbPerSecond, 1);
        if (Classes.GetValueOrDefault(word) is > 0 and var writes && card.NeededMbPerSecond > writes * (1 + 1e-9))
            wrong.Add(new("card.slow", needed, Message.Number(writes), card.LowestClass ?? "@card.none"));
        else if (word == "none")
            told.Add(new("card.no-class", needed, card.LowestClass ?? "@card.none"));
        else
            told.Add(new("card.fast", needed, Message.Number(Classes[word])));
        if (c.Model?.Cards is { } slots)
        {
            if (slots.MostGigabytes is { } most && size > most)
                wrong.Add(new("card.too-large", Message.Number(size), Message.Number(most)));
            if (Classes.TryGetValue(slots.Class.ToLowerInvariant(), out var asked) && Classes.TryGetValue(word, out var has) && has < asked)
                wrong.Add(new("card.class-asked", slots.Class));
        }
        else if (c.Model is not null)
            told.Add(new("card.model-unsaid"));
        if (line.Of("usable")?.Number is { } usable && usable < size * LeastUsable)
            wrong.Add(new("card.less", Message.Number(usable), Message.Number(size)));
        if (line.Of("lost")?.Number is > 0 and var lost)
            wrong.Add(new("card.lost", Message.Number(lost, 1)));
        if (card.Days is { } days)
        {
            told.Add(new("card.days", Message.Number(days, 1)));
            if (line.Of("days")?.Number is { } wanted && days < wanted)
                wrong.Add(new("card.short", Message.Number(days, 1), Message.Number(wanted, 1)));
        }
        if (card.WearOutDays is { } worn)
            told.Add(new(worn < WornDays ? "card.worn-soon" : "card.worn", Message.Number(worn / 365, 1)));
        else
            told.Add(new("card.wear-unsaid"));
        // Which is no class at all may still be fast enough: nobody has said so.
        var state =
            wrong.Count > 0 ? State.Out
            : word == "none" ? State.NotJudged
            : State.In;
        return new(state, null, null, [.. wrong, .. told]);
    }
}
