using Walkdown.Core.Links;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Several fields at once: each by its own words and limit, events counted over time, and trials.</summary>
internal static class FormJudges
{
    /// <summary>Out where a field's word is none of its good ones or its number is beyond its limit; not judged where one that belongs to
    /// it was left out; else in.</summary>
    public static Judged Form(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var because = ImmutableArray.CreateBuilder<Message>();
        return new(Fields(c, ((FormValue)value).Lines, because), null, null, because.ToImmutable());
    }

    /// <summary>What the fields say by themselves, with why.</summary>
    internal static State Fields(RowContext c, ImmutableArray<FormLine> lines, ImmutableArray<Message>.Builder because)
    {
        var (isOut, isWhole, isAsked) = (false, true, false);
        foreach (var (field, name, good, limit) in c.Row.Fields)
        {
            isAsked |= !good.IsEmpty || limit is not null;
            foreach (var line in lines)
                switch (line.Of(field.Id))
                {
                    case null when !field.Optional:
                        isWhole = false;
                        because.Add(new("form.not-said", name));
                        break;
                    case { Word: { } word } when !good.IsEmpty && !good.Contains(word):
                        isOut = true;
                        because.Insert(0, new("form.wrong", name, $"{name}.{word}", string.Join(", ", good.Select(g => $"{name}.{g}"))));
                        break;
                    case { Number: { } number } when limit is not null && (number < limit.Min || number > limit.Max):
                        isOut = true;
                        because.Insert(
                            0,
                            new(
                                number < limit.Min ? "form.under" : "form.over",
                                name,
                                Message.Number(number),
                                Message.Number((number < limit.Min ? limit.Min : limit.Max)!.Value),
                                "@unit." + Codes.Of(field.Unit),
                                limit.Purpose,
                                limit.Source
                            )
                        );
                        break;
                }
        }
        if (isOut)
            return State.Out;
        if (!isAsked)
            because.Add(new("form.nothing-judges"));
        return isWhole && isAsked ? State.In : State.NotJudged;
    }

    /// <summary>
    /// Events counted before and after: in where even the most that the count allows is within the limit, out where even the least is
    /// beyond it, too close between; at 95 % (Byar's approximation of the Poisson interval). An hour too few to tell is no hour in.
    /// </summary>
    public static Judged Tally(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (line.Of("after-events")?.Number is not { } events || line.Of("after-minutes")?.Number is not { } minutes || minutes <= 0)
            return GeneralJudges.NotJudged(new Message("form.not-said", Name(c, "after-events")));
        var because = ImmutableArray.CreateBuilder<Message>();
        var (low, high) = PoissonInterval(events);
        var (rate, least, most) = (events * 60 / minutes, low * 60 / minutes, high * 60 / minutes);
        because.Add(
            new("tally.rate", Message.Number(rate, 1), Message.Number(least, 1), Message.Number(most, 1), Message.Number(minutes, 0))
        );
        if (line.Of("before-events")?.Number is { } was && line.Of("before-minutes")?.Number is > 0 and var over)
            because.Add(new("tally.before", Message.Number(was * 60 / over, 1)));
        if (window?.Max is not { } allowed)
            return new(State.NotJudged, null, null, [.. because, new("because.no-limit")]);
        var state =
            most <= allowed ? State.In
            : least > allowed ? State.Out
            : State.TooClose;
        if (state != State.In)
            because.Add(
                new(
                    state == State.Out ? "tally.over" : "tally.longer",
                    Message.Number(allowed, 1),
                    Message.Number(MinutesToTell(rate, allowed), 0)
                )
            );
        return new(
            state,
            new Spare(allowed - rate, null, allowed > 0 ? (allowed - rate) / allowed : null, NearestLimit.Max),
            null,
            because.ToImmutable()
        );
    }

    /// <summary>Both ends of the 95 % interval of a Poisson count.</summary>
    internal static (double Low, double High) PoissonInterval(double count)
    {
        var z = Wilson.Z95;
        var next = count + 1;
        return (
            count == 0 ? 0 : count * Math.Pow(1 - 1 / (9 * count) - z / (3 * Math.Sqrt(count)), 3),
            next * Math.Pow(1 - 1 / (9 * next) + z / (3 * Math.Sqrt(next)), 3)
        );
    }

    /// <summary>About how many minutes of the same rate would tell it from the limit.</summary>
    private static double MinutesToTell(double perHour, double allowed)
    {
        for (var hours = 1.0; hours <= 240; hours *= 1.25)
            if (PoissonInterval(perHour * hours).High / hours <= allowed)
                return Math.Ceiling(hours * 60 / 10) * 10;
        return 14_400;
    }

    /// <summary>
    /// Trials by their outcome, line by line. Those that come sooner after the one before than the device can answer, or that its
    /// same-plate rule hides, are told and not counted. The share that hit is held against the limit by its Wilson interval: in where even
    /// the least is enough, out where even the most is not, else more trials (docs/calculations.md, O).
    /// </summary>
    public static Judged Trials(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var lines = ((FormValue)value).Lines;
        var apart = c.Check.Lines?.SecondsApart is { } figure ? c.Catalogue.Figure(figure) : 0;
        var (hits, count, tooSoon, hidden) = (0, 0, 0, 0);
        DateTimeOffset? last = null;
        foreach (var line in lines.OrderBy(l => l.At))
        {
            if (line.Of("outcome")?.Word == "hidden")
            {
                hidden++;
                continue;
            }
            // With its vehicle each pass was held against the list already: two vehicles follow each other as closely as they like.
            if (line.Of("vehicle") is null && line.At is { } at && last is { } before && (at - before).TotalSeconds < apart)
            {
                tooSoon++;
                continue;
            }
            last = line.At ?? last;
            count++;
            if (line.Of("outcome")?.Word == "hit")
                hits++;
        }
        var because = ImmutableArray.CreateBuilder<Message>();
        if (tooSoon > 0)
            because.Add(new("trials.too-soon", Message.Number(tooSoon), Message.Number(apart, 0)));
        if (hidden > 0)
            because.Add(new(hidden == 1 ? "trials.hidden.one" : "trials.hidden", Message.Number(hidden)));
        if (count == 0)
            return new(State.NotJudged, null, null, because.ToImmutable());
        var (low, high) = Wilson.Interval(hits, count);
        because.Add(
            new("trials.rate", Message.Number(hits), Message.Number(count), Message.Number(low * 100, 0), Message.Number(high * 100, 0))
        );
        if (window?.Min is not { } wanted)
            return new(State.NotJudged, null, null, [.. because, new("because.no-limit")]);
        switch (Wilson.Reaches(hits, count, wanted))
        {
            case true:
                return new(State.In, null, null, because.ToImmutable());
            case false:
                return new(State.Out, null, null, because.ToImmutable());
            default:
                because.Add(new("trials.more", Message.Number(Wilson.MoreToReach(hits, count, wanted)), Message.Number(wanted, 0)));
                return new(State.TooClose, null, null, because.ToImmutable());
        }
    }

    internal static string Name(RowContext c, string field) => $"@field.{c.Check.Id.Value}.{field}";
}
