using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Handover;

/// <summary>Where the readings of a record come from, and what is odd about them. Marks are no accusation: each says what was
/// seen.</summary>
/// <param name="OutThenIn">Rows that were out and then in with no work between.</param>
/// <param name="OutOfCalibration">Readings by an instrument that was out of date, or that its reference check threw into doubt.</param>
/// <param name="Readings">How many.</param>
/// <param name="Typed">Typed.</param>
/// <param name="Tester">Read by the server: from a tester, a switch, the device itself, or in a picture.</param>
/// <param name="Imported">From an instrument's file.</param>
/// <param name="Simulated">From a simulated site.</param>
/// <param name="Withdrawn">Taken back.</param>
/// <param name="MostClockOffsetSeconds">The worst clock, seconds.</param>
/// <param name="Remarks">What stands out.</param>
public sealed record Honesty(
    int Readings,
    int Typed,
    int Tester,
    int Imported,
    int Simulated,
    int Withdrawn,
    int OutThenIn,
    int OutOfCalibration,
    double MostClockOffsetSeconds,
    ImmutableArray<HonestyRemark> Remarks
)
{
    /// <summary>Faster than anybody walks a site with a ladder, metres a second.</summary>
    public const double FastestWalk = 2.5;

    /// <summary>Numbers that nobody reads off and types in a minute.</summary>
    public const int MostTypedAMinute = 20;

    /// <summary>Seconds by which a phone's clock may be off before it is told.</summary>
    public const double ClockWorthTelling = 60;

    /// <param name="simulated">The site is simulated: what its tester reads is, too.</param>
    /// <param name="outThenIn">Rows that were out first and in later.</param>
    /// <param name="readings">All readings.</param>
    public static Honesty Of(IEnumerable<HonestReading> readings, int outThenIn, bool simulated)
    {
        var all = readings.ToList();
        var live = all.Where(r => r.Standing != Standing.Withdrawn).ToList();
        int Count(ReadingSource source) => live.Count(r => r.Source == source);
        var outOfDate = live.Count(r => r.Standing is Standing.OutOfCalibration or Standing.InstrumentInDoubt);
        var offset = live.Select(r => Math.Abs(r.ClockOffsetMs) / 1000).DefaultIfEmpty(0).Max();
        var remarks = ImmutableArray.CreateBuilder<HonestyRemark>();
        foreach (var person in live.GroupBy(r => r.By).OrderBy(g => g.Min(r => r.At)))
        {
            var mine = person.OrderBy(r => r.At).ToList();
            if (Hurried(mine) is { } walk)
                remarks.Add(new(walk, person.Key));
            if (Typing(mine.Where(r => r.Source == ReadingSource.Typed).ToList()) is { } typing)
                remarks.Add(new(typing, person.Key));
        }
        if (offset > ClockWorthTelling)
            remarks.Add(new(new("honesty.clock", Message.Number(offset, 0)), null));
        if (outOfDate > 0)
            remarks.Add(
                new(
                    new(outOfDate == 1 ? "honesty.instrument.one" : "honesty.instrument", outOfDate.ToString(CultureInfo.InvariantCulture)),
                    null
                )
            );
        if (outThenIn > 0)
            remarks.Add(
                new(
                    new(
                        outThenIn == 1 ? "honesty.out-then-in.one" : "honesty.out-then-in",
                        outThenIn.ToString(CultureInfo.InvariantCulture)
                    ),
                    null
                )
            );
        var tester =
            Count(ReadingSource.Tester) + Count(ReadingSource.Switch) + Count(ReadingSource.Network) + Count(ReadingSource.Picture);
        return new Honesty(
            live.Count,
            Count(ReadingSource.Typed),
            simulated ? 0 : tester,
            Count(ReadingSource.Imported),
            Count(ReadingSource.Simulated) + (simulated ? tester : 0),
            all.Count - live.Count,
            outThenIn,
            outOfDate,
            offset,
            remarks.ToImmutable()
        );
    }

    /// <summary>The worst walk between two places by what the plan says of their distance. Only what was typed in was taken by hand: a
    /// tester, a switch and a file answer for many places in a moment, and say themselves which.</summary>
    private static Message? Hurried(List<HonestReading> mine)
    {
        (HonestReading From, HonestReading To, double Metres, double Seconds)? worst = null;
        var count = 0;
        HonestReading? last = null;
        foreach (var reading in mine)
        {
            if (reading.Source != ReadingSource.Typed)
                continue;
            if (last is { } from && from.Place != reading.Place && from is { X: { } x1, Y: { } y1 } && reading is { X: { } x2, Y: { } y2 })
            {
                double metres = Math.Sqrt((x2 - x1) * (x2 - x1) + (y2 - y1) * (y2 - y1)),
                    seconds = (reading.At - from.At).TotalSeconds;
                if (metres > 10 && metres > FastestWalk * seconds)
                {
                    count++;
                    if (worst is not { } w || metres / Math.Max(seconds, 0.1) > w.Metres / Math.Max(w.Seconds, 0.1))
                        worst = (from, reading, metres, seconds);
                }
            }
            last = reading;
        }
        return worst is not { } most
            ? null
            : new Message(
                "honesty.pace",
                count.ToString(CultureInfo.InvariantCulture),
                most.From.Label,
                most.To.Label,
                Message.Number(most.Metres, 0),
                Message.Number(most.Seconds, 0)
            );
    }

    private static Message? Typing(List<HonestReading> typed)
    {
        int most = 0,
            first = 0;
        for (var i = 0; i < typed.Count; i++)
        {
            while ((typed[i].At - typed[first].At).TotalSeconds > 60)
                first++;
            most = Math.Max(most, i - first + 1);
        }
        return most > MostTypedAMinute ? new Message("honesty.typing", most.ToString(CultureInfo.InvariantCulture)) : null;
    }
}
