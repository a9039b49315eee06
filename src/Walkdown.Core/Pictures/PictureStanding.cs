namespace Walkdown.Core.Pictures;

/// <summary>One picture laid on another, however it was laid.</summary>
internal interface ILaid
{
    /// <summary>They show the same.</summary>
    bool IsMatch { get; }

    /// <summary>Share of what has detail that agrees.</summary>
    double Agreement { get; }

    /// <summary>Turned by so much, either way.</summary>
    double TurnedDeg { get; }
}

/// <summary>How a picture stands against an agreed one, told by laying it there as it is and mirrored.</summary>
internal static class PictureStanding
{
    /// <summary>What agrees to this share is no likeness.</summary>
    public const double Surely = 0.55;

    /// <param name="asItIs">Laid as it is.</param>
    /// <param name="mirrored">Laid with left and right changed; asked only where the other leaves a doubt: lanes and walls are like their
    /// own mirror.</param>
    public static (Orientation Stands, T Laid) Of<T>(T asItIs, Func<T> mirrored)
        where T : ILaid
    {
        if (!(asItIs.IsMatch && asItIs.Agreement >= Surely))
        {
            var other = mirrored();
            if (other.IsMatch && !(asItIs.IsMatch && asItIs.Agreement >= other.Agreement))
                return (IsTurned(other) ? Orientation.Flipped : Orientation.Mirrored, other);
        }
        return (
            !asItIs.IsMatch ? Orientation.Undecided
            : IsTurned(asItIs) ? Orientation.UpsideDown
            : Orientation.AsReference,
            asItIs
        );
    }

    private static bool IsTurned(ILaid laid) => Math.Abs(laid.TurnedDeg) > 90;
}

/// <summary>What a picture shows instead of anything.</summary>
public enum Emptiness
{
    /// <summary>Nearly all of it is black.</summary>
    Black,

    /// <summary>Nearly all of it is white.</summary>
    White,

    /// <summary>It is all one grey.</summary>
    Flat,
}

/// <summary>Whether a picture shows anything at all.</summary>
public static class EmptyPicture
{
    private const double Most = 92;
    private const int LeastSpan = 8;

    /// <summary>Null: it shows something.</summary>
    public static Emptiness? Of(GreyRaster picture)
    {
        var exposure = Exposure.Of(picture, 12, 248);
        return exposure.UnderPercent > Most ? Emptiness.Black
            : exposure.OverPercent > Most ? Emptiness.White
            : exposure.Percentile95 - exposure.Percentile5 < LeastSpan ? Emptiness.Flat
            : null;
    }
}
