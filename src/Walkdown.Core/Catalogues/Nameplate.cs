namespace Walkdown.Core.Catalogues;

/// <summary>What a device takes from its feed: as the schedule says, else its model, else its kind. Null: nobody knows.</summary>
public readonly record struct Nameplate(int? PowerClass, double? WattsInfraredOff, double? WattsInfraredOn)
{
    /// <summary>Watts at its heaviest.</summary>
    public double? MostWatts => WattsInfraredOn is { } on ? Math.Max(on, WattsInfraredOff ?? on) : WattsInfraredOff;
}
