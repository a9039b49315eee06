using System.Text.Json.Serialization;

namespace Walkdown.Core.Catalogues;

/// <summary>One pattern of a status light.</summary>
/// <param name="Colour">green, amber, red, blue or white.</param>
/// <param name="RhythmMs">On, off, on, off, in milliseconds, repeated; one number: steady.</param>
/// <param name="Id">Its id.</param>
/// <param name="State">The state.</param>
public sealed record LightPattern(string Id, string Colour, ImmutableArray<int> RhythmMs, LightState State)
{
    /// <summary>The second lamp, where a model shows its state by two; null: it has one.</summary>
    public Lamp? Beside { get; init; }

    /// <summary>Where its pointer stands, by the hours of a clock, where a model shows its state by a dial; null: by its light.</summary>
    public int? Dial { get; init; }

    /// <summary>False where pulling the plug may end the device.</summary>
    [JsonIgnore]
    public bool UnplugSafe => State is not LightState.Updating;
}

/// <summary>One lamp.</summary>
/// <param name="Colour">green, amber, red, blue or white.</param>
/// <param name="RhythmMs">On, off, on, off, in milliseconds, repeated; one number: steady.</param>
public sealed record Lamp(string Colour, ImmutableArray<int> RhythmMs);
