namespace Walkdown.Core.Pictures;

/// <summary>A picture of a camera, with how much colour is in it.</summary>
/// <param name="Grey">Its levels.</param>
/// <param name="Colour">Mean difference between the greatest and the least of red, green and blue, grey levels; null: not known.</param>
public sealed record SeenPicture(GreyRaster Grey, double? Colour)
{
    /// <summary>Compression leaves so much colour in a picture that has none.</summary>
    public const double MostGrey = 3;

    /// <summary>It is in colour; null: not known.</summary>
    public bool? IsColoured => Colour is { } colour ? colour > MostGrey : null;
}
