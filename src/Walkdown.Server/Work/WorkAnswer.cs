using Walkdown.Reports;
using Walkdown.Server.Addresses;
using Walkdown.Server.Handover;
using Walkdown.Server.Jobs;
using Walkdown.Server.Practice;
using Walkdown.Server.Readings;
using Walkdown.Storage;

namespace Walkdown.Server.Work;

/// <summary>Long work as it stands.</summary>
/// <param name="Outcome">What came of a schedule, once it is done.</param>
/// <param name="Impact">What a change of practice or catalogue touches, once it is known.</param>
/// <param name="Results">Readings that a sweep or a file proposes.</param>
/// <param name="Why">Why it failed.</param>
/// <param name="Revision">What was sealed.</param>
/// <param name="Checked">What a document in hand turned out to be.</param>
/// <param name="Bundle">What a bundle brought.</param>
/// <param name="Draft">A pack to read before it is signed.</param>
/// <param name="Look">What a look at the network brought.</param>
/// <param name="Ask">A bundle that waits to be taken, with whose seal it bears.</param>
public sealed record WorkAnswer(
    Guid Id,
    string Kind,
    WorkState State,
    int Done,
    int Of,
    OutcomeAnswer? Outcome,
    Impact? Impact,
    IntakeAnswer? Results,
    string? Why,
    RevisionLine? Revision = null,
    RecordVerdict? Checked = null,
    BundleOutcome? Bundle = null,
    BundleAsk? Ask = null,
    DraftPack? Draft = null,
    LookAnswer? Look = null
);
