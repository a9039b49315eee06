using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Clocks;

/// <summary>Clocks of devices: what an offset looks like.</summary>
internal static class ClockTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Judges = [new("mains-light", Flicker, EntryKind.Form)],
        Evidence =
        [
            new("clock-hour", Of(ClockMistake.DaylightSavingOrOneHourZone)),
            new("clock-twelve", Of(ClockMistake.TwelveHourClockOrZone)),
            new("clock-zone", Of(ClockMistake.WrongTimeZone, ClockMistake.WrongTimeZoneHalfHour, ClockMistake.WrongTimeZoneQuarterHour)),
            new("clock-date", Of(ClockMistake.WrongDateWholeDays, ClockMistake.WrongDateAndZone)),
            new("clock-lost", Of(ClockMistake.ClockLostDate)),
            new("clock-drift", Of(ClockMistake.DriftOrNeverSet)),
        ],
    };

    /// <summary>
    /// Whether each row of the picture gets whole ripples of lamps on the mains: in where it does, out where it does not, with the shutters
    /// that would (docs/calculations.md, I). That a rate is of the other family is told.
    /// </summary>
    private static Judged Flicker(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (
            !int.TryParse(line.Of("mains")?.Word, CultureInfo.InvariantCulture, out var mains)
            || line.Of("frames")?.Number is not { } frames
            || line.Of("shutter")?.Number is not { } shutter
        )
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, "shutter")));
        var light = MainsLight.Of(mains, frames, 1 / shutter);
        var because = ImmutableArray.CreateBuilder<Message>();
        if (light.IsSafe)
            because.Add(new("flicker.whole", Message.Number(light.RipplePeriods, 0), Message.Number(2 * mains)));
        else
            because.Add(
                light.SafeExposures.IsEmpty
                    ? new("flicker.none", Message.Number(frames), Message.Number(2 * mains))
                    : new(
                        "flicker.part",
                        Message.Number(light.RippleLeft * 100, 0),
                        // Those nearest to what is set.
                        string.Join(
                            ", ",
                            light
                                .SafeExposures.OrderBy(e => Math.Abs(Math.Log(e * shutter)))
                                .Take(3)
                                .Order()
                                .Select(e => "1/" + Message.Number(1 / e, 0))
                        )
                    )
            );
        if (!light.IsSafe)
            because.Add(light.StandsStill ? new("flicker.still") : new("flicker.crawls", Message.Number(light.BeatHertz, 1)));
        if (light.IsLongerThanFrame)
            because.Add(new("flicker.longer", Message.Number(shutter), Message.Number(frames)));
        if (!MainsLight.Standard(mains, frames).MatchesMains)
            because.Add(new("flicker.family", Message.Number(frames), Message.Number(mains)));
        return new(light.IsSafe && !light.IsLongerThanFrame ? State.In : State.Out, null, null, because.ToImmutable());
    }

    /// <summary>How an offset looks, in words; null where it is within the limit.</summary>
    internal static Message? Told(double offsetSeconds, double limitSeconds)
    {
        var found = ZoneMistake.Of(offsetSeconds, limitSeconds);
        return found.Mistake switch
        {
            ClockMistake.InLimit => null,
            ClockMistake.DriftOrNeverSet or ClockMistake.ClockLostDate => new(
                "clock." + Codes.Of(found.Mistake),
                Message.Number(Math.Abs(offsetSeconds), 1)
            ),
            _ => new(
                "clock.step",
                Message.Number(Math.Abs(found.QuarterHours) / 4.0),
                found.QuarterHours > 0 ? "@clock.ahead" : "@clock.behind",
                Message.Number(Math.Abs(found.ResidualSeconds), 1)
            ),
        };
    }

    private static Func<RowContext, Attempt, Message?> Of(params ClockMistake[] mistakes) =>
        (context, attempt) =>
            attempt.Value is NumberValue number
            && Limit(context) is var limit
            && mistakes.Contains(ZoneMistake.Of(number.Value, limit).Mistake)
                ? Told(number.Value, limit)
                : null;

    private static double Limit(RowContext context) => context.Catalogue.Limit("time.offset")?.Max ?? 2;
}
