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
