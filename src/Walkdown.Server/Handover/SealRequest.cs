using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;

namespace Walkdown.Server.Handover;

/// <param name="DeviceId">One Card alone; null for the whole job.</param>
/// <param name="Follows">Number of the newest revision that the signers saw; 0 where there was none.</param>
/// <param name="Sequence">The newest entry that they saw.</param>
/// <param name="Languages">Of the report.</param>
/// <param name="Shown">Fingerprint of what they saw.</param>
public sealed record SealRequest(
    Guid Id,
    Guid By,
    Guid? DeviceId,
    int Follows,
    long Sequence,
    ImmutableArray<HandoverSignature> Signatures,
    string Reservations,
    ImmutableArray<string> Languages,
    string Shown = ""
) : Core.Entries.IAsked;
