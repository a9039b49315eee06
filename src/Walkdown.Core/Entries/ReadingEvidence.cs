namespace Walkdown.Core.Entries;

/// <summary>
/// What a reading was seen or measured in, so that it can be looked at, and made again: the picture by its hash, and where a program
/// measured
/// in it, where, from what, and by which algorithm.
/// </summary>
/// <param name="PictureId">The picture on record.</param>
/// <param name="PictureHash">SHA-256 of its file, 64 hexadecimal digits.</param>
public sealed record ReadingEvidence(Guid PictureId, string PictureHash)
{
    /// <summary>The part of the picture; null: all of it.</summary>
    public PictureRegion? Region { get; init; }

    /// <summary>Figures that went into a measurement, by name with their unit in it, such as <c>target_width_mm</c>.</summary>
    public ImmutableSortedDictionary<string, double> Inputs { get; init; } = ImmutableSortedDictionary<string, double>.Empty;

    /// <summary>What measured; empty where a person looked.</summary>
    public string Algorithm { get; init; } = "";

    /// <summary>Its edition; 0 where a person looked.</summary>
    public int AlgorithmVersion { get; init; }
}
