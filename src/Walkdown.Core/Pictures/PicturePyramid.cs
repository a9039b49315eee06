namespace Walkdown.Core.Pictures;

/// <summary>A picture made ready to be laid on others: lightly smoothed and evened, in halving sizes, finest first. Made once for an agreed view,
/// used for every picture of a live aim.</summary>
public sealed class PicturePyramid
{
    /// <summary>The finest size that is looked at, pixels along the longer side.</summary>
    internal const int Finest = 640;

    /// <summary>Side of the square in which phases are compared.</summary>
    internal const int Square = 256;

    /// <param name="picture">Any size.</param>
    public PicturePyramid(GreyRaster picture)
    {
        (Width, Height) = (picture.Width, picture.Height);
        var plane = Plane.Of(picture, Finest);
        var levels = ImmutableArray.CreateBuilder<Plane>();
        levels.Add(plane.Smoothed().Evened());
        while (Math.Max(plane.Width, plane.Height) > 160 && Math.Min(plane.Width, plane.Height) >= 24)
        {
            plane = plane.Halved();
            levels.Add(plane.Smoothed().Evened());
        }
        Levels = levels.ToImmutable();
        Coarse = Plane.Of(picture, Square).Evened();
        Detail = Levels[Math.Min(1, Levels.Length - 1)];
    }

    /// <summary>Pixels across of the picture itself.</summary>
    public int Width { get; }

    /// <summary>Pixels down of the picture itself.</summary>
    public int Height { get; }

    /// <summary>Finest first.</summary>
    internal ImmutableArray<Plane> Levels { get; }

    /// <summary>For the phases.</summary>
    internal Plane Coarse { get; }

    /// <summary>In which tiles are compared.</summary>
    internal Plane Detail { get; }
}
