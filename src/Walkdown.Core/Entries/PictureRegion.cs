using Walkdown.Core.Aiming;

namespace Walkdown.Core.Entries;

/// <summary>A rectangle in a picture, in pixels of the upright picture from its upper left corner.</summary>
public sealed record PictureRegion(int X, int Y, int Width, int Height)
{
    /// <summary>Its middle, in shares of the picture.</summary>
    /// <param name="pixelsWide">Of the picture.</param>
    /// <param name="pixelsHigh">Of the picture.</param>
    public PictureShare Middle(int pixelsWide, int pixelsHigh) =>
        new((double)(X + Width / 2) / pixelsWide, (double)(Y + Height / 2) / pixelsHigh);
}
