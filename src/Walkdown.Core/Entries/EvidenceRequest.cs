using Walkdown.Core.Measures;

namespace Walkdown.Core.Entries;

/// <summary>Evidence as an entry gives it: the picture by its id, since its hash is the record's to say.</summary>
/// <param name="PictureId">A picture of the same place.</param>
/// <param name="Region">The part of it; null: all of it.</param>
/// <param name="Inputs">Figures that went into a measurement.</param>
/// <param name="Algorithm">What measured; null where a person looked.</param>
/// <param name="AlgorithmVersion">Its edition.</param>
public sealed record EvidenceRequest(
    Guid PictureId,
    PictureRegion? Region = null,
    ImmutableSortedDictionary<string, double>? Inputs = null,
    string? Algorithm = null,
    int AlgorithmVersion = 0
)
{
    /// <summary>Most pieces of evidence of one reading.</summary>
    public const int Most = 12;

    /// <summary>Most figures of one piece: a night's are some forty.</summary>
    public const int MostInputs = 60;

    /// <summary>The evidence to keep, or why it cannot be.</summary>
    /// <param name="given">Null: none.</param>
    /// <param name="hashes">Pictures of this place that stand, by id, with their hash.</param>
    public static (ImmutableArray<ReadingEvidence> Kept, Message? Refused) Of(
        ImmutableArray<EvidenceRequest>? given,
        ImmutableDictionary<Guid, string> hashes
    )
    {
        if (given is not { IsDefaultOrEmpty: false } all)
            return ([], null);
        if (all.Length > Most)
            return ([], new Message("evidence.too-many", Most.ToString(CultureInfo.InvariantCulture)));
        var kept = ImmutableArray.CreateBuilder<ReadingEvidence>(all.Length);
        foreach (var e in all)
        {
            if (!hashes.TryGetValue(e.PictureId, out var hash))
                return ([], new Message("evidence.unknown-picture"));
            if (
                e.Region is { } r
                && (r.X < 0 || r.Y < 0 || r.Width < 1 || r.Height < 1 || r.X > 100_000 - r.Width || r.Y > 100_000 - r.Height)
            )
                return ([], new Message("evidence.region"));
            if (
                e.Algorithm?.Length > 60
                || e.AlgorithmVersion is < 0 or > 100_000
                || e.Inputs is { } inputs
                    && (inputs.Count > MostInputs || inputs.Any(i => i.Key.Length is 0 or > 60 || !double.IsFinite(i.Value)))
            )
                return ([], new Message("evidence.inputs"));
            kept.Add(
                new ReadingEvidence(e.PictureId, hash)
                {
                    Region = e.Region,
                    Inputs = e.Inputs ?? ImmutableSortedDictionary<string, double>.Empty,
                    Algorithm = e.Algorithm ?? "",
                    AlgorithmVersion = e.AlgorithmVersion,
                }
            );
        }
        return (kept.MoveToImmutable(), null);
    }
}
