namespace Walkdown.Core.Cabling;

/// <summary>Names of the insulation colours by pin, as message codes (<c>colour.white-orange</c>).</summary>
public static class Insulation
{
    private static readonly string[] B = ["white-orange", "orange", "white-green", "blue", "white-blue", "green", "white-brown", "brown"];
    private static readonly string[] A = ["white-green", "green", "white-orange", "blue", "white-blue", "orange", "white-brown", "brown"];

    /// <summary>Colour of a pin's conductor in a scheme, as a word of the texts.</summary>
    public static string On(int pin, WiringScheme scheme) => (scheme == WiringScheme.T568A ? A : B)[pin - 1];
}
