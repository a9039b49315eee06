using System.Collections.Immutable;
using Walkdown.Core.Merging;

namespace Walkdown.Storage;

/// <summary>What a bundle brought.</summary>
/// <param name="IsNew">The job was not here before.</param>
/// <param name="Added">Rows added, by table.</param>
public sealed record BundleOutcome(
    Guid JobId,
    string Name,
    bool IsNew,
    ImmutableDictionary<string, int> Added,
    int Files,
    ImmutableArray<MergeConflict> Conflicts
);
