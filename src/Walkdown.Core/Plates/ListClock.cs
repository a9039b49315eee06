namespace Walkdown.Core.Plates;

/// <summary>Something that passed, or was written down: which text, and when by its own clock.</summary>
/// <param name="Plate">As it is compared (<see cref="PlateText.Folded"/>); null: somebody else's.</param>
/// <param name="AtSeconds">Seconds of its clock.</param>
public readonly record struct PlateMoment(string? Plate, double AtSeconds);

/// <summary>How far the clock of a list is ahead of the clock that passes were ticked off by, found from both alone: the shift at which
/// most passes have their record. In it is how far before the reader somebody stood.</summary>
/// <param name="AheadSeconds">Of the list; negative: behind.</param>
/// <param name="SpreadSeconds">That single records lie off, as a standard deviation.</param>
/// <param name="Pairs">Passes that have their record then.</param>
/// <param name="IsSure">No other shift does nearly as well.</param>
public sealed record ListClock(double AheadSeconds, double SpreadSeconds, int Pairs, bool IsSure)
{
    /// <summary>Records of one shift lie within this either way, seconds (practice: a thumb is late by a second or two).</summary>
    internal const double Within = 4;

    /// <summary>No clock is further off: the right day is known.</summary>
    public const double Furthest = 36 * 3600;

    /// <summary>A thumb is never more even than this, seconds.</summary>
    private const double LeastSpread = 0.3;

    /// <summary>Null where nothing that passed is in the list.</summary>
    /// <param name="passes">In order of time.</param>
    /// <param name="records">Likewise.</param>
    /// <param name="knownSeconds">That the clock is ahead, as it was measured; null: it was not.</param>
    public static ListClock? Of(PlateMoment[] passes, PlateMoment[] records, double? knownSeconds = null)
    {
        // A text that is not quite a plate's is as good a sign, where no plate is there as a whole.
        for (var most = 0; most <= 2; most++)
        {
            var alike = new Alike(most);
            if (Windows(passes, records, alike) is { } windows)
                return Best(passes, records, alike, windows, knownSeconds);
        }
        return null;
    }

    /// <summary>Which texts may be of which plate.</summary>
    private sealed class Alike(int most)
    {
        private readonly Dictionary<(string, string), bool> _near = [];

        public bool Are(string? own, string? read) =>
            own is not null
            && read is not null
            && (
                own == read
                || most > 0
                    && (
                        _near.TryGetValue((own, read), out var known)
                            ? known
                            : _near[(own, read)] = PlateText.Distance(own, read) <= Math.Min(most, PlateText.MostSlips(own))
                    )
            );
    }

    /// <summary>For each whole second that the list may be ahead: how many passes have a record then, give or take <see cref="Within"/>;
    /// null: none at any.</summary>
    private static int[]? Windows(PlateMoment[] passes, PlateMoment[] records, Alike alike)
    {
        const int furthest = (int)Furthest,
            within = (int)Within;
        var (at, last) = (new int[2 * furthest + 1], new int[2 * furthest + 1]);
        var isAny = false;
        for (var p = 0; p < passes.Length; p++)
            foreach (var record in records)
                if (
                    Math.Abs(record.AtSeconds - passes[p].AtSeconds) <= Furthest
                    && alike.Are(passes[p].Plate, record.Plate)
                    && (int)Math.Round(record.AtSeconds - passes[p].AtSeconds) + furthest is var second
                    // One pass is one, however often it was written down.
                    && last[second] != p + 1
                )
                {
                    (isAny, last[second]) = (true, p + 1);
                    at[second]++;
                }
        if (!isAny)
            return null;
        var windows = new int[at.Length];
        var sum = 0;
        for (var i = -within; i < at.Length; i++)
        {
            sum += i + within < at.Length ? at[i + within] : 0;
            sum -= i - within - 1 >= 0 ? at[i - within - 1] : 0;
            if (i >= 0)
                windows[i] = sum;
        }
        return windows;
    }

    private static ListClock Best(PlateMoment[] passes, PlateMoment[] records, Alike alike, int[] windows, double? knownSeconds)
    {
        const int furthest = (int)Furthest;
        var near = knownSeconds ?? 0;
        var most = windows.Max();
        // Where evenly spaced passes fit one place further as well, the clock that was measured decides, else the smaller shift.
        var enough = most - Math.Max(1, most / 20);
        int[] nearly =
        [
            .. Enumerable.Range(0, windows.Length).Where(i => windows[i] > 0 && windows[i] >= enough).Select(i => i - furthest),
        ];
        var places = Runs(nearly.Where(n => windows[n + furthest] == most));
        if (knownSeconds is { } known && nearly.Where(n => Math.Abs(n - known) <= 2 * Within).ToList() is { Count: > 0 } there)
            places = Runs(there.Where(n => windows[n + furthest] == there.Max(t => windows[t + furthest])));
        // Of places that hold as many the one where they lie closest together.
        var (middle, spread, pairs) = places
            .OrderBy(place => Math.Abs(place - near))
            .Take(MostPlaces)
            .Select(place => At(passes, records, alike, place))
            .OrderByDescending(place => place.Pairs)
            .ThenBy(place => place.Spread)
            .First();
        var isAlone = !nearly.Any(n => Math.Abs(n - middle) > 4 * Within);
        return new(middle, spread, pairs, pairs >= 2 && (isAlone || knownSeconds is { } k && Math.Abs(middle - k) <= 2 * Within));
    }

    /// <summary>More places that fit as well are of a drive like a clock's: the nearest of them serve.</summary>
    private const int MostPlaces = 40;

    /// <summary>The middle of each run of whole seconds.</summary>
    private static List<double> Runs(IEnumerable<int> seconds)
    {
        var middles = new List<double>();
        int? from = null,
            last = null;
        foreach (var second in seconds)
        {
            if (last is { } before && second > before + 1)
            {
                middles.Add((from!.Value + before) / 2.0);
                from = second;
            }
            from ??= second;
            last = second;
        }
        if (last is { } end)
            middles.Add((from!.Value + end) / 2.0);
        return middles;
    }

    /// <summary>What the pairs at a place say: their median, and the median of absolute deviations as a standard deviation of even errors.
    /// </summary>
    private static (double Middle, double Spread, int Pairs) At(PlateMoment[] passes, PlateMoment[] records, Alike alike, double place)
    {
        double[] each = [.. Shifts(passes, records, alike, place).Order()];
        var middle = Median(each);
        return (middle, Math.Max(LeastSpread, 1.4826 * Median([.. each.Select(s => Math.Abs(s - middle)).Order()])), each.Length);
    }

    /// <summary>Of each pass its record that is nearest to a shift.</summary>
    private static List<double> Shifts(PlateMoment[] passes, PlateMoment[] records, Alike alike, double about)
    {
        var shifts = new List<double>();
        foreach (var pass in passes)
        {
            double? nearest = null;
            foreach (var record in records)
                if (
                    record.AtSeconds - pass.AtSeconds is var shift
                    && Math.Abs(shift - about) <= 1.5 * Within
                    && !(Math.Abs(shift - about) >= Math.Abs((nearest ?? double.MaxValue) - about))
                    && alike.Are(pass.Plate, record.Plate)
                )
                    nearest = shift;
            if (nearest is { } found)
                shifts.Add(found);
        }
        return shifts;
    }

    private static double Median(double[] sorted) =>
        sorted.Length % 2 == 1 ? sorted[sorted.Length / 2] : (sorted[sorted.Length / 2 - 1] + sorted[sorted.Length / 2]) / 2;
}
