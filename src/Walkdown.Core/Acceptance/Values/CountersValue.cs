namespace Walkdown.Core.Acceptance;

/// <summary>Two looks at the counters of a port, some time apart.</summary>
public sealed record CountersValue(CounterLook First, CounterLook Second, double IntervalSeconds, int Bits = 32) : ReadingValue
{
    /// <summary>Errors between both looks, a counter that began anew at zero taken on; null where it was reset in between.</summary>
    public decimal? ErrorsBetween() =>
        Links.InterfaceErrors.Between(new(First.Packets, First.Errors), new(Second.Packets, Second.Errors), IntervalSeconds, Bits).Errors;
}
