using Walkdown.Core.Measures;

namespace Walkdown.Core.Power;

/// <summary>One class of power over Ethernet (IEEE 802.3 clauses 33 and 145; figures marked "verify" in docs/calculations.md, C).</summary>
/// <param name="LowestSourceType">Type 1 to 4 of the least source that may grant the class.</param>
/// <param name="Pairs">Pairs that carry the current: 2, or 4 from class 5.</param>
/// <param name="DeviceMinVolts">Least volts at the device.</param>
/// <param name="DeviceWatts">Most watts of the device.</param>
/// <param name="Number">From 1.</param>
/// <param name="SourceWatts">Most watts of the source.</param>
public sealed record PoeClass(int Number, double SourceWatts, double DeviceWatts, int LowestSourceType, int Pairs, double DeviceMinVolts)
{
    /// <summary>Greatest volts of a source (IEEE 802.3bt).</summary>
    public const double MaxVolts = 57;

    private static readonly PoeClass[] Table =
    [
        new(0, 15.4, 12.95, 1, 2, 37),
        new(1, 4.0, 3.84, 1, 2, 37),
        new(2, 7.0, 6.49, 1, 2, 37),
        new(3, 15.4, 12.95, 1, 2, 37),
        new(4, 30, 25.5, 2, 2, 42.5),
        new(5, 45, 40, 3, 4, 44.3),
        new(6, 60, 51, 3, 4, 42.5),
        new(7, 75, 62, 4, 4, 42.9),
        new(8, 90, 71.3, 4, 4, 41.1),
    ];

    /// <summary>The class of a number, 0 to 8.</summary>
    public static PoeClass Of(int number) =>
        number is >= 0 and <= 8 ? Table[number] : throw new BadInputException(BadInputReason.UnknownValue, "power_class");

    /// <summary>Least class from 1 to 8 whose device power carries the watts; null above 71.3 W.</summary>
    public static int? LowestFor(double deviceWatts) =>
        Table.Skip(1).Where(c => Decision.AtMost(deviceWatts, c.DeviceWatts)).MinBy(c => c.DeviceWatts)?.Number;

    /// <summary>Least volts of its source (IEEE 802.3bt).</summary>
    public double SourceMinVolts =>
        LowestSourceType switch
        {
            1 => 44,
            4 => 52,
            _ => 50,
        };

    /// <summary>Current limit of one pair set, ampere.</summary>
    public double PairSetAmperes =>
        LowestSourceType switch
        {
            1 => 0.350,
            4 => 0.960,
            _ => 0.600,
        };
}
