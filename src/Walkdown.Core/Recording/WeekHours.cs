namespace Walkdown.Core.Recording;

/// <summary>Some hours of one day of the week, at the site.</summary>
/// <param name="Day">1 is Monday, 7 Sunday.</param>
/// <param name="From">Minutes since midnight, 0 to 1439.</param>
/// <param name="To">Minutes since midnight, later; 1440 is the end of the day.</param>
public sealed record WeekSpan(int Day, int From, int To)
{
    /// <summary>Minutes of a day.</summary>
    public const int DayMinutes = 24 * 60;

    /// <summary>Whether there can be such hours.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsReal => Day is >= 1 and <= 7 && From >= 0 && To <= DayMinutes && From < To;
}

/// <summary>Hours of a week: together, and what they leave open.</summary>
public static class WeekHours
{
    /// <summary>Most stretches of a week that anybody sets: one in each half hour.</summary>
    public const int Most = 7 * 48;

    /// <summary>Every hour.</summary>
    public static readonly ImmutableArray<WeekSpan> All =
    [
        .. Enumerable.Range(1, 7).Select(day => new WeekSpan(day, 0, WeekSpan.DayMinutes)),
    ];

    /// <summary>The same hours, each once, day by day, none touching the next.</summary>
    public static ImmutableArray<WeekSpan> Together(IEnumerable<WeekSpan> spans)
    {
        var result = ImmutableArray.CreateBuilder<WeekSpan>();
        foreach (var span in spans.Where(s => s.IsReal).OrderBy(s => s.Day).ThenBy(s => s.From))
            if (result.Count > 0 && result[^1].Day == span.Day && span.From <= result[^1].To)
                result[^1] = result[^1] with { To = Math.Max(result[^1].To, span.To) };
            else
                result.Add(span);
        return result.ToImmutable();
    }

    /// <summary>Minutes in all.</summary>
    public static int Minutes(IEnumerable<WeekSpan> spans) => Together(spans).Sum(s => s.To - s.From);

    /// <summary>Hours of the first that the second leave open, in the order of the week.</summary>
    public static ImmutableArray<WeekSpan> Without(IEnumerable<WeekSpan> wanted, IEnumerable<WeekSpan> there)
    {
        var covered = Together(there).ToLookup(s => s.Day);
        var result = ImmutableArray.CreateBuilder<WeekSpan>();
        foreach (var want in Together(wanted))
        {
            var from = want.From;
            foreach (var has in covered[want.Day])
            {
                if (has.From > from && from < want.To)
                    result.Add(new(want.Day, from, Math.Min(has.From, want.To)));
                from = Math.Max(from, has.To);
            }
            if (from < want.To)
                result.Add(new(want.Day, from, want.To));
        }
        return result.ToImmutable();
    }
}
