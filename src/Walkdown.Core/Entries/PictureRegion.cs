namespace Walkdown.Core.Entries;

/// <summary>A rectangle in a picture, in pixels of the upright picture from its upper left corner.</summary>
public sealed record PictureRegion(int X, int Y, int Width, int Height);
