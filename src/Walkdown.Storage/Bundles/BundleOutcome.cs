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
