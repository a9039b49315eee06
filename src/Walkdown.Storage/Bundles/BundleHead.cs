using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Register;

namespace Walkdown.Storage;

/// <param name="Migration">Newest migration of the record it was made from.</param>
public sealed record BundleHead(
    string Format,
    Guid JobId,
    string Name,
    DateTimeOffset MadeAt,
    string Migration,
    ImmutableArray<BundleFile> Files
);

public sealed record BundleFile(string Name, long Bytes, string Sha256);
