using System.Collections.Immutable;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization.Metadata;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogue;
using Walkdown.Core.Measures;
using Walkdown.Core.Merging;
using Walkdown.Core.Register;
using Walkdown.Core.Sealing;
using Walkdown.Storage.Entities;

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
