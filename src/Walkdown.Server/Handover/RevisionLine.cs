using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;
using Walkdown.Storage;

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
