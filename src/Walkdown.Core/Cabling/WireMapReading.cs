using Walkdown.Core.Measures;

namespace Walkdown.Core.Cabling;

/// <summary>
/// What the tester's far unit showed: for each near pin the far pins it appears on. Pin 9 stands for the shield.
/// </summary>
public sealed class WireMapReading
{
    /// <summary>The shield as a node beside pins 1 to 8.</summary>
    public const int Shield = 9;

    private readonly ImmutableArray<int>[] _far = new ImmutableArray<int>[10];

    /// <param name="nearToFar">Keys 1 to 8, all present; key 9 only where the shield was measured. Values are far pins 1 to 8, or
    /// 9.</param>
    /// <exception cref="BadInputException">A near pin missing, or a pin that does not exist.</exception>
    public WireMapReading(IReadOnlyDictionary<int, IReadOnlyCollection<int>> nearToFar)
    {
        foreach (var (near, far) in nearToFar)
        {
            if (near is < 1 or > Shield || far.Any(pin => pin is < 1 or > Shield))
                throw new BadInputException(BadInputReason.UnknownValue, "near_to_far");
            _far[near] = far.Count < 2 ? [.. far] : [.. far.Distinct().Order()];
        }
        for (var pin = 1; pin <= 8; pin++)
            if (_far[pin].IsDefault)
                throw new BadInputException(BadInputReason.Missing, "near_to_far");
        ShieldMeasured = !_far[Shield].IsDefault;
        if (!ShieldMeasured)
            _far[Shield] = [];
    }

    /// <summary>Eight far pins in near order, 0 for open.</summary>
    public static WireMapReading FromFarPins(IReadOnlyList<int> farPins) =>
        farPins.Count == 8
            ? new WireMapReading(
                Enumerable.Range(1, 8).ToDictionary(n => n, n => (IReadOnlyCollection<int>)(farPins[n - 1] == 0 ? [] : [farPins[n - 1]]))
            )
            : throw new BadInputException(BadInputReason.Missing, "near_to_far");

    /// <summary>The shield was looked at.</summary>
    public bool ShieldMeasured { get; }

    /// <summary>Far pins that a near pin reaches, ascending; empty: none.</summary>
    public ImmutableArray<int> FarOf(int near) => _far[near];
}
