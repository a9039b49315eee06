using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Two looks at the counters of a port, some time apart.</summary>
public sealed record CountersValue(CounterLook First, CounterLook Second, double IntervalSeconds, int Bits = 32) : ReadingValue
{
    /// <inheritdoc/>
    public override bool Suits(EntryKind entry) => entry == EntryKind.Counters;

    /// <inheritdoc/>
    public override Message? Refuse(CheckDefinition check)
    {
        if (IntervalSeconds is not (> 0 and <= 604_800))
            return new Message("reading.counters-interval");
        if (Bits is not (32 or 64))
            return new Message("reading.counters-bits");
        var most = Bits == 32 ? uint.MaxValue : long.MaxValue;
        return new[] { First.Packets, First.Errors, Second.Packets, Second.Errors }.Any(c => c < 0 || c > most)
            ? new Message("reading.counters-range")
            : null;
    }

    /// <summary>Errors between both looks, a counter that began anew at zero taken on; null where it was reset in between.</summary>
    public decimal? ErrorsBetween() =>
        Links.InterfaceErrors.Between(new(First.Packets, First.Errors), new(Second.Packets, Second.Errors), IntervalSeconds, Bits).Errors;
}
