namespace Walkdown.Core.Zones;

/// <summary>A point of a picture.</summary>
/// <param name="X">Share of its width from the left, 0 to 1.</param>
/// <param name="Y">Share of its height from the top, 0 to 1.</param>
public readonly record struct PicturePoint(double X, double Y);

/// <summary>What a zone is for.</summary>
public enum ZoneUse
{
    /// <summary>What moves in it rings.</summary>
    Watch,

    /// <summary>What moves in it does not ring.</summary>
    Ignore,

    /// <summary>It is blackened: nobody sees or records what is there.</summary>
    Private,

    /// <summary>The client's own ground, as far as the picture shows it. It changes nothing in the camera: zones are held against
    /// it.</summary>
    OwnGround,
}

/// <summary>A polygon that somebody drew on the picture of a camera; its last point joins its first.</summary>
/// <param name="Name">As the camera calls it, such as "quay edge".</param>
/// <param name="Use">What it is for.</param>
/// <param name="Points">3 to 40, in either turn.</param>
public sealed record PictureZone(string Name, ZoneUse Use, ImmutableArray<PicturePoint> Points)
{
    /// <summary>By content.</summary>
    public bool Equals(PictureZone? other) =>
        other is not null && Name == other.Name && Use == other.Use && Points.AsSpan().SequenceEqual(other.Points.AsSpan());

    /// <summary>By its name and use.</summary>
    public override int GetHashCode() => HashCode.Combine(Name, Use, Points.Length);
}
