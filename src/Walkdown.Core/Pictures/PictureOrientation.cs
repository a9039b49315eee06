namespace Walkdown.Core.Pictures;

/// <summary>How a view hangs against its reference.</summary>
public enum Orientation
{
    /// <summary>As the reference.</summary>
    AsReference,

    /// <summary>Turned by half.</summary>
    UpsideDown,

    /// <summary>Left and right changed.</summary>
    Mirrored,

    /// <summary>Top and bottom changed.</summary>
    Flipped,

    /// <summary>Nothing stands out.</summary>
    Undecided,
}

/// <summary>Whether a picture is upside down, mirrored or flipped (docs/calculations.md, N): by how high the peak stands that it makes
/// with its reference, each way round. Moved views are recognised; turned or zoomed ones may be undecided.</summary>
/// <param name="Is">What it is.</param>
/// <param name="Ratios">Of the peak over the highest elsewhere: as it is, upside down, mirrored, flipped.</param>
public sealed record PictureOrientation(Orientation Is, ImmutableArray<double> Ratios)
{
    private const double Lead = 1.5;

    /// <param name="reference">As agreed.</param>
    /// <param name="now">Of the same size.</param>
    public static PictureOrientation Of(GreyRaster reference, GreyRaster now)
    {
        GreyRaster.SameSize(reference, now);
        var (a, b) = (Plane.Of(reference, 512), Plane.Of(now, 512));
        var phases = PhaseCorrelation.OfSide(512);
        var (first, second) = phases.Of(a, b);
        // A picture the other way round has the same spectrum the other way round, but for where it lies, which moves a peak and no more.
        var mirrored = phases.Flipped(second);
        var (straight, turned) = phases.Find(first, second, PhaseCorrelation.Turned(second));
        var (across, down) = phases.Find(first, mirrored, PhaseCorrelation.Turned(mirrored));
        ImmutableArray<double> ratios = [straight.Ratio, turned.Ratio, across.Ratio, down.Ratio];
        var best = Enumerable.Range(0, 4).MaxBy(i => ratios[i]);
        var next = Enumerable.Range(0, 4).Where(i => i != best).Max(i => ratios[i]);
        return new(ratios[best] >= Lead * next ? (Orientation)best : Orientation.Undecided, ratios);
    }
}
