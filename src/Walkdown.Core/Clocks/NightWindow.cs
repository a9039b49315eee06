using Walkdown.Core.Measures;

namespace Walkdown.Core.Clocks;

/// <summary>The time in which work in the dark can be done on an evening (docs/calculations.md, M): from civil dusk and a while after to
/// the end of work or the next civil dawn, whichever comes first.</summary>
/// <param name="From">Null: it does not get dark.</param>
/// <param name="Until">Null: there is no time left, or none at all.</param>
/// <param name="Verdict">How that is.</param>
public sealed record NightWindow(DateTimeOffset? From, DateTimeOffset? Until, NightVerdict Verdict)
{
    /// <summary>How long it is.</summary>
    public double Minutes => Until is { } until && From is { } from ? (until - from).TotalMinutes : 0;

    /// <param name="latitudeDeg">-90 to 90.</param>
    /// <param name="longitudeDeg">East positive, -180 to 180.</param>
    /// <param name="date">Of the evening.</param>
    /// <param name="utcOffsetMinutes">Of the clock, -720 to 840.</param>
    /// <param name="settleMinutes">After dusk, at least 0.</param>
    /// <param name="workEndMinutes">After midnight at the beginning of the date, 0 to 2880.</param>
    public static NightWindow Of(
        double latitudeDeg,
        double longitudeDeg,
        DateOnly date,
        int utcOffsetMinutes,
        double settleMinutes,
        double workEndMinutes
    )
    {
        Require.Number(utcOffsetMinutes, "utc_offset_min", -720, 840);
        Require.Number(settleMinutes, "settle_min", 0);
        Require.Number(workEndMinutes, "work_end_local_min", 0, 2880);
        var day = Sun.On(latitudeDeg, longitudeDeg, date, utcOffsetMinutes);
        if (day.CivilLight == Sun.Course.AlwaysAbove)
            return new(null, null, NightVerdict.NeverDark);
        var isDarkAllDay = day.CivilLight == Sun.Course.AlwaysBelow;
        var from = isDarkAllDay ? day.Noon : day.Dusk!.Value.AddMinutes(settleMinutes);
        var until = new DateTimeOffset(date.ToDateTime(TimeOnly.MinValue), TimeSpan.Zero).AddMinutes(workEndMinutes - utcOffsetMinutes);
        if (
            date.AddDays(1) is { Year: <= 2099 } next
            && Sun.On(latitudeDeg, longitudeDeg, next, utcOffsetMinutes).Dawn is { } dawn
            && dawn < until
        )
            until = dawn;
        return until <= from
            ? new(from, null, NightVerdict.NoWindowBeforeEndOfWork)
            : new(from, until, isDarkAllDay ? NightVerdict.DarkAllDay : NightVerdict.Ok);
    }
}

/// <summary>How an evening's dark is.</summary>
public enum NightVerdict
{
    /// <summary>There is time.</summary>
    Ok,

    /// <summary>The sun does not come near the horizon.</summary>
    DarkAllDay,

    /// <summary>It does not get dark.</summary>
    NeverDark,

    /// <summary>Work ends before it is dark.</summary>
    NoWindowBeforeEndOfWork,
}
