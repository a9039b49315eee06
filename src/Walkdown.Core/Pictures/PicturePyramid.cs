namespace Walkdown.Core.Pictures;

/// <summary>A picture made ready to be laid on others: lightly smoothed and evened, in halving sizes, finest first. Made once for an agreed
/// view, used for every picture of a live aim.</summary>
public sealed class PicturePyramid
{
    /// <summary>The finest size that is looked at, pixels along the longer side.</summary>
    internal const int Finest = 640;

    /// <summary>Side of the square in which phases are compared; of a small one for many comparisons.</summary>
    private const int Square = 256,
        SmallSquare = 128;

    private readonly Lazy<PhaseCorrelation.Spectrum> _spectrum;

    /// <param name="picture">Any size.</param>
    /// <param name="isForMany">It is held against many others: quicker, and what is turned or zoomed much is found less often.</param>
    public PicturePyramid(GreyRaster picture, bool isForMany = false)
    {
        Side = isForMany ? SmallSquare : Square;
        (Width, Height) = (picture.Width, picture.Height);
        var plane = Plane.Of(picture, Finest);
        var levels = ImmutableArray.CreateBuilder<Plane>();
        levels.Add(plane.Smoothed().Evened());
        while (Math.Max(plane.Width, plane.Height) > (isForMany ? 80 : 160) && Math.Min(plane.Width, plane.Height) >= 24)
        {
            plane = plane.Halved();
            levels.Add(plane.Smoothed().Evened());
        }
        Levels = levels.ToImmutable();
        Coarse = Plane.Of(picture, Side).Evened();
        _spectrum = new(() => PhaseCorrelation.OfSide(Side).Of(Coarse));
        IsForMany = isForMany;
        Scanned = Levels[^1].Width >= 100 && Levels[^1].Height >= 48 ? Levels[^1].Halved() : Levels[^1];
        Detail = Levels[Math.Min(1, Levels.Length - 1)];
    }

    /// <summary>Of the square in which its phases are compared.</summary>
    internal int Side { get; }

    /// <summary>Pixels across of the picture itself.</summary>
    public int Width { get; }

    /// <summary>Pixels down of the picture itself.</summary>
    public int Height { get; }

    /// <summary>Finest first.</summary>
    internal ImmutableArray<Plane> Levels { get; }

    /// <summary>For the phases.</summary>
    internal Plane Coarse { get; }

    /// <summary>Of that.</summary>
    internal PhaseCorrelation.Spectrum Spectrum => _spectrum.Value;

    /// <summary>It is held against many others.</summary>
    internal bool IsForMany { get; }

    /// <summary>So small that it can be laid everywhere.</summary>
    internal Plane Scanned { get; }

    /// <summary>In which tiles are compared.</summary>
    internal Plane Detail { get; }
}
