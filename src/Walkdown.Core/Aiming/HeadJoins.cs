using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Aiming;

/// <summary>Where the views of two neighbouring heads meet, at the middle of their pictures.</summary>
/// <param name="Left">Number of the head on the left, for somebody who looks out from the camera.</param>
/// <param name="Right">Of the one on its right.</param>
/// <param name="AgreedDeg">They overlap by so much as agreed, degrees of the compass; never negative: what was agreed apart is no
/// join.</param>
/// <param name="NowDeg">As both hang now; negative: nobody sees that strip; null: why, is said.</param>
/// <param name="UncertaintyDeg">Of that.</param>
/// <param name="Outcome">Closed: in; null likewise.</param>
/// <param name="Why">Why nothing is told of it; null: it is.</param>
public sealed record HeadJoin(int Left, int Right, double AgreedDeg, double? NowDeg, double UncertaintyDeg, Outcome? Outcome, Message? Why);

/// <summary>The joins of a camera with several heads: each head by itself may be in, and a strip between two may still be out of
/// both.</summary>
/// <param name="Joins">From left to right, beginning with the head of the least bearing.</param>
/// <param name="Why">Why there are none; null: there are.</param>
public sealed record HeadJoins(ImmutableArray<HeadJoin> Joins, Message? Why)
{
    private static readonly CheckId Locked = new("aim.off-after");

    private sealed record Head(int Number, double Bearing, double Half, double? Now, double Uncertainty, Message? Why);

    /// <param name="facts">Of the camera.</param>
    /// <param name="card">Judged: what counts of its heads.</param>
    public static HeadJoins Of(CardFacts facts, JudgedCard card)
    {
        if (facts.Heads.Length < 2)
            return new([], new("join.one-head"));
        var heads = new List<Head>();
        foreach (var head in facts.Heads)
        {
            if (facts.AgreedView(head.Id)?.Design is not { } design)
                return new([], new("join.no-view", Message.Number(head.Number)));
            if (design.AzimuthDeg is not { } azimuth)
                return new([], new("join.no-bearing", Message.Number(head.Number)));
            heads.Add(Hanging(card, head, (azimuth % 360 + 360) % 360, design));
        }
        heads.Sort(static (a, b) => a.Bearing.CompareTo(b.Bearing));
        var joins = ImmutableArray.CreateBuilder<HeadJoin>();
        for (var i = 0; i < heads.Count; i++)
        {
            var (left, right) = (heads[i], heads[(i + 1) % heads.Count]);
            var between = right.Bearing - left.Bearing + (i == heads.Count - 1 ? 360 : 0);
            var agreed = left.Half + right.Half - between;
            // What was never to meet is no join.
            if (agreed < 0)
                continue;
            var why = left.Why ?? right.Why;
            var now = why is null ? agreed + left.Now!.Value - right.Now!.Value : (double?)null;
            var unsure = double.Hypot(left.Uncertainty, right.Uncertainty);
            joins.Add(
                new(
                    left.Number,
                    right.Number,
                    agreed,
                    now,
                    why is null ? unsure : 0,
                    now is { } overlap ? Decision.Within(-overlap, unsure, 0) : null,
                    why
                )
            );
        }
        return new(joins.ToImmutable(), joins.Count == 0 ? new("join.apart") : null);
    }

    /// <summary>How far right of its agreed bearing a head looks now, by the reading of its picture that counts.</summary>
    private static Head Hanging(JudgedCard card, HeadFacts head, double bearing, ViewDesign design)
    {
        // Tilted down a picture spans more of the compass than its field.
        var half = Deg(Math.Atan2(Tan(design.HorizontalDeg / 2), Math.Max(0, Cos(design.TiltDeg))));
        foreach (var check in new[] { Locked, AimRows.Off })
        {
            if (AimRows.RowOf(card, check, head.Id) is not { } planned)
                continue;
            var row = card.Card.Rows.First(r => r.Key == planned.Key);
            if (row.Counting is not { } counts)
                continue;
            foreach (var e in counts.Evidence)
                if (
                    e.Algorithm == AimLook.Algorithm
                    && e.Inputs.TryGetValue(AimMeasure.Pan, out var turnRight)
                    && e.Inputs.TryGetValue(AimMeasure.Uncertainty, out var unsure)
                )
                    // What has to be turned right looks left of it.
                    return new(head.Number, bearing, half, -turnRight, unsure, null);
            return new(head.Number, bearing, half, null, 0, new("join.by-eye", Message.Number(head.Number)));
        }
        return new(head.Number, bearing, half, null, 0, new("join.not-aimed", Message.Number(head.Number)));
    }
}
