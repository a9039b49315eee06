using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Handover;

/// <summary>Where the handover of a job stands.</summary>
/// <param name="Sequence">The newest entry of the job; what is sealed says up to which it reaches.</param>
/// <param name="Newest">Number of the job's newest revision, 0 where there is none.</param>
/// <param name="Changed">Entries came after the newest revision.</param>
/// <param name="KeyFingerprint">Of this installation's key.</param>
/// <param name="Shown">Fingerprint of what is shown here; a seal holds what has it, or nothing.</param>
public sealed record HandoverAnswer(
    HandoverCover Cover,
    long Sequence,
    int Newest,
    bool Changed,
    HandoverSummary Now,
    string KeyFingerprint,
    ImmutableArray<RevisionLine> Revisions,
    ImmutableArray<string> Languages,
    string Shown
);
