using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Walking;

/// <summary>
/// The order of the round, for now: the head end first, since every other Stop leans on it, then area by area, in each the nearest Stop
/// that is left.
/// </summary>
public static class Round
{
    /// <summary>The order in which to go: area by area, nearest next.</summary>
    public static ImmutableArray<RoundStop> Order(IEnumerable<RoundStop> stops)
    {
        var ordered = ImmutableArray.CreateBuilder<RoundStop>();
        (double X, double Y)? here = null;
        foreach (var group in stops.GroupBy(s => (s.HeadEnd ? 0 : 1, s.HeadEnd ? 0 : s.AreaOrder)).OrderBy(g => g.Key))
        {
            var left = group.OrderBy(s => s.Label, Register.NaturalOrder.Instance).ToList();
            while (left.Count > 0)
            {
                var best = 0;
                if (here is { } from)
                    for (var i = 1; i < left.Count; i++)
                        if (Distance(from, left[i]) < Distance(from, left[best]) - 1e-9)
                            best = i;
                var next = left[best];
                left.RemoveAt(best);
                ordered.Add(next);
                if (next is { X: { } x, Y: { } y })
                    here = (x, y);
            }
        }
        return ordered.ToImmutable();
    }

    /// <param name="heldUp">Stops that are passed over: blocked, set aside, or without a Check.</param>
    /// <summary>First Stop without a Verdict after the one where work was done last, else the first from the start.</summary>
    /// <param name="order">The round.</param>
    /// <param name="verdicts">Verdict by place.</param>
    /// <param name="lastWorked">Where somebody worked last; null: nowhere.</param>
    public static NextStop? Next(
        ImmutableArray<RoundStop> order,
        IReadOnlyDictionary<Guid, Verdict> verdicts,
        Guid? lastWorked,
        IReadOnlySet<Guid>? heldUp = null
    )
    {
        var at = lastWorked is { } id ? order.IndexOf(order.FirstOrDefault(s => s.Id == id)) : -1;
        var here = at >= 0 ? order[at] : (RoundStop?)null;
        for (var i = 0; i < order.Length; i++)
        {
            var stop = order[(at + order.Length + i + (at < 0 ? 1 : 0)) % order.Length];
            if (verdicts.GetValueOrDefault(stop.Id, Verdict.Open) != Verdict.Open || heldUp?.Contains(stop.Id) == true)
                continue;
            if (here is { } same && stop.Id == same.Id)
                return new NextStop(stop.Id, 0, new Message("next.unfinished"));
            double? metres = here is { X: { } x, Y: { } y } && stop.X is not null ? Distance((x, y), stop) : null;
            var why =
                stop.HeadEnd ? new Message("next.head-end")
                : here is null ? new Message("next.first")
                : here.Value.AreaOrder == stop.AreaOrder
                    ? metres is { } m ? new Message("next.nearest", Message.Number(m, 0))
                        : new Message("next.onward")
                : LeftBehind(here.Value.AreaOrder) is var left and > 0
                    ? new Message("next.left-behind", left.ToString(CultureInfo.InvariantCulture))
                : new Message("next.next-area");
            return new NextStop(stop.Id, metres, why);
        }
        return null;

        // Stops of an area that are still open: passed by, or held up.
        int LeftBehind(int area) => order.Count(s => s.AreaOrder == area && verdicts.GetValueOrDefault(s.Id, Verdict.Open) == Verdict.Open);
    }

    private static double Distance((double X, double Y) from, RoundStop to) =>
        to is { X: { } x, Y: { } y } ? Math.Sqrt((x - from.X) * (x - from.X) + (y - from.Y) * (y - from.Y)) : double.MaxValue;
}
