using Walkdown.Core.Measures;
using Walkdown.Core.Recording;

namespace Walkdown.Core.Acceptance;

/// <summary>Hours of a week in which something is on, and those in which it should be.</summary>
/// <param name="Recorded">As it is set; none: never.</param>
/// <param name="Wanted">As it was agreed; null: nobody has said, and every hour counts.</param>
public sealed record WeekValue(ImmutableArray<WeekSpan> Recorded, ImmutableArray<WeekSpan>? Wanted = null) : ReadingValue
{
    /// <inheritdoc/>
    public override bool Suits(EntryKind entry) => entry == EntryKind.Week;

    /// <inheritdoc/>
    public override Message? Refuse(CheckDefinition check)
    {
        foreach (var spans in (ImmutableArray<WeekSpan>[])[Recorded, Wanted ?? []])
        {
            if (spans.IsDefault || spans.Length > WeekHours.Most || spans.Any(s => s is not { IsReal: true }))
                return new Message("reading.week");
            for (var i = 1; i < spans.Length; i++)
                if (spans[i].Day < spans[i - 1].Day || spans[i].Day == spans[i - 1].Day && spans[i].From < spans[i - 1].To)
                    return new Message("reading.week-order");
        }
        return Wanted is { IsEmpty: true } ? new Message("reading.week-nothing-wanted") : null;
    }

    /// <summary>By content.</summary>
    public bool Equals(WeekValue? other) =>
        other is not null
        && Recorded.AsSpan().SequenceEqual(other.Recorded.AsSpan())
        && Wanted is null == other.Wanted is null
        && (Wanted ?? []).AsSpan().SequenceEqual((other.Wanted ?? []).AsSpan());

    /// <summary>By how many hours there are.</summary>
    public override int GetHashCode() => HashCode.Combine(Recorded.Length, Wanted?.Length);
}
