using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Aiming;

/// <summary>Days in a row on which the sun is there.</summary>
/// <param name="FirstDay">From.</param>
/// <param name="LastDay">To, included.</param>
/// <param name="Earliest">Earliest time of day that was looked at, over all of them.</param>
/// <param name="Latest">Latest.</param>
public sealed record GlarePeriod(DateOnly FirstDay, DateOnly LastDay, TimeOnly Earliest, TimeOnly Latest);

/// <summary>When in a year the sun is in a camera's picture, or so near that it dazzles, by local standard time: no daylight-saving
/// shift (docs/calculations.md, M). A period that the year's end cuts is there twice.</summary>
/// <param name="Year">Which.</param>
/// <param name="StepMinutes">Looked at so often.</param>
/// <param name="Days">Of the year, each with the samples of that day.</param>
/// <param name="InView">Periods in the picture.</param>
/// <param name="InGuard">Periods in the picture or near it.</param>
public sealed record GlareCalendar(
    int Year,
    int StepMinutes,
    ImmutableArray<GlareDay> Days,
    ImmutableArray<GlarePeriod> InView,
    ImmutableArray<GlarePeriod> InGuard
)
{
    /// <summary>Days with the sun in the picture.</summary>
    public int DaysInView => Days.Count(d => d.InView > 0);

    /// <summary>Days with the sun in the picture or near it.</summary>
    public int DaysInGuard => Days.Count(d => d.InGuard > 0);

    /// <summary>Samples with the sun in the picture.</summary>
    public int SamplesInView => Days.Sum(d => d.InView);

    /// <summary>Samples with the sun in the picture or near it.</summary>
    public int SamplesInGuard => Days.Sum(d => d.InGuard);

    /// <summary>The next day from one on with the sun in the picture; after the last of the year the first, a year on. Null: there is
    /// none.</summary>
    public GlareDay? Next(DateOnly from)
    {
        GlareDay? first = null;
        foreach (var day in Days)
        {
            if (day.InView == 0)
                continue;
            if (day.Day >= from)
                return day;
            first ??= day;
        }
        return first is null ? null : first with { Day = first.Day.AddYears(1) };
    }

    /// <param name="latitudeDeg">-90 to 90.</param>
    /// <param name="longitudeDeg">East positive, -180 to 180.</param>
    /// <param name="utcOffsetMinutes">Of local standard time, -720 to 840.</param>
    /// <param name="year">1901 to 2099.</param>
    /// <param name="view">Of the camera.</param>
    /// <param name="stepMinutes">1 to 60; one that does not divide the day starts anew at midnight.</param>
    public static GlareCalendar Of(
        double latitudeDeg,
        double longitudeDeg,
        int utcOffsetMinutes,
        int year,
        SunlitView view,
        int stepMinutes = 10
    )
    {
        view.Checked();
        Sun.Check(latitudeDeg, longitudeDeg, year);
        Require.Number(utcOffsetMinutes, "utc_offset_min", -720, 840);
        Require.Number(stepMinutes, "step_min", 1, 60);
        var days = ImmutableArray.CreateBuilder<GlareDay>(366);
        for (var day = new DateOnly(year, 1, 1); day.Year == year; day = day.AddDays(1))
        {
            var midnight = new DateTimeOffset(day.ToDateTime(TimeOnly.MinValue), TimeSpan.Zero).AddMinutes(-utcOffsetMinutes);
            int inView = 0,
                inGuard = 0;
            TimeOnly? firstView = null,
                lastView = null,
                firstGuard = null,
                lastGuard = null;
            for (var minute = 0; minute < 1440; minute += stepMinutes)
            {
                var seen = SunInView.Of(Sun.Unchecked(latitudeDeg, longitudeDeg, midnight.AddMinutes(minute)), view);
                if (!seen.IsInGuard)
                    continue;
                var time = new TimeOnly(minute / 60, minute % 60);
                (inGuard, firstGuard, lastGuard) = (inGuard + 1, firstGuard ?? time, time);
                if (seen.IsInView)
                    (inView, firstView, lastView) = (inView + 1, firstView ?? time, time);
            }
            days.Add(new(day, inView, firstView, lastView, inGuard, firstGuard, lastGuard));
        }
        var all = days.ToImmutable();
        return new(
            year,
            stepMinutes,
            all,
            Periods(all, d => (d.FirstInView, d.LastInView)),
            Periods(all, d => (d.FirstInGuard, d.LastInGuard))
        );
    }

    private static ImmutableArray<GlarePeriod> Periods(ImmutableArray<GlareDay> days, Func<GlareDay, (TimeOnly?, TimeOnly?)> times)
    {
        var periods = ImmutableArray.CreateBuilder<GlarePeriod>();
        GlarePeriod? open = null;
        foreach (var day in days)
        {
            if (times(day) is not ({ } first, { } last))
            {
                if (open is not null)
                    periods.Add(open);
                open = null;
                continue;
            }
            open = open is null
                ? new(day.Day, day.Day, first, last)
                : new(open.FirstDay, day.Day, first < open.Earliest ? first : open.Earliest, last > open.Latest ? last : open.Latest);
        }
        if (open is not null)
            periods.Add(open);
        return periods.ToImmutable();
    }
}

/// <summary>One day of a <see cref="GlareCalendar"/>.</summary>
/// <param name="Day">Which.</param>
/// <param name="InView">Samples with the sun in the picture.</param>
/// <param name="FirstInView">Earliest of them; null: none.</param>
/// <param name="LastInView">Latest of them.</param>
/// <param name="InGuard">Samples with the sun in the picture or near it.</param>
/// <param name="FirstInGuard">Earliest of them; null: none.</param>
/// <param name="LastInGuard">Latest of them.</param>
public sealed record GlareDay(
    DateOnly Day,
    int InView,
    TimeOnly? FirstInView,
    TimeOnly? LastInView,
    int InGuard,
    TimeOnly? FirstInGuard,
    TimeOnly? LastInGuard
);
