using System.Collections.Immutable;
using System.IO.Compression;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogue;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Core.Sealing;
using Walkdown.Formats;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;
using Walkdown.Server.Shared;
using Walkdown.Server.Walk;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Handover;

/// <summary>A sealed revision as the list shows it.</summary>
/// <param name="Of">Label of the one Card; null for the whole job.</param>
public sealed record RevisionLine(
    Guid Id,
    Guid? DeviceId,
    string? Of,
    int Number,
    string Hash,
    string? Previous,
    string Key,
    DateTimeOffset At,
    HandoverSummary Summary,
    ImmutableArray<SignedBy> Signatures,
    string Reservations,
    ImmutableArray<string> Reports,
    long Bytes
);
