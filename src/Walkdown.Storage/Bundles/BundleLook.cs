using Walkdown.Core.Acceptance;

namespace Walkdown.Storage;

/// <summary>What a bundle is before it is taken: whose seal it bears, and what it would touch.</summary>
/// <param name="Key">Fingerprint of the key that sealed it.</param>
/// <param name="IsNew">The job is not here yet.</param>
/// <param name="Bytes">Of rows, pictures and packs together.</param>
public sealed record BundleLook(
    Guid JobId,
    string Name,
    DateTimeOffset MadeAt,
    string Key,
    bool IsNew,
    int Files,
    long Bytes,
    bool HasCatalogue
);
