using System.Collections.Immutable;
using System.Text.Json;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;

namespace Walkdown.Reports;

/// <summary>
/// A sealed state of a job, or of one Card: the front of the pack is drawn from this, the Cards from their own records, which this names
/// by hash (docs/formats.md).
/// </summary>
/// <param name="Of">Label of the one Card that it is about; null for the whole job.</param>
/// <param name="Previous">Hash of the revision before.</param>
/// <param name="Definitions">The checks it was judged by.</param>
/// <param name="Limits">The limit set it was judged by.</param>
/// <param name="Texts">The words it was printed with, by language.</param>
public sealed record HandoverRecord(
    string Format,
    Guid Id,
    int Revision,
    string? Of,
    string? Previous,
    DateTimeOffset At,
    ReportJob Job,
    HandoverCover Cover,
    HandoverSummary Summary,
    ImmutableArray<HandoverCard> Cards,
    ImmutableArray<CardChange> Changes,
    ImmutableArray<HandoverSource> Sources,
    ImmutableArray<HandoverStop> Plan,
    Honesty Honesty,
    Practice Practice,
    ImmutableArray<ReportPerson> People,
    ImmutableArray<HandoverWork> WorkDone,
    ImmutableArray<Instrument> Instruments,
    ImmutableArray<HandoverSignature> Signatures,
    string Reservations,
    ImmutableArray<CheckDefinition> Definitions,
    LimitSet Limits,
    ImmutableDictionary<string, ImmutableDictionary<string, string>> Texts,
    string CoreVersion
)
{
    /// <summary>How each number of the first and last pages came about; rows have theirs in the record of their Card.</summary>
    public ImmutableArray<SumTrace> Sums { get; init; } = [];

    /// <summary>Parts of the work that are not part of the acceptance (<see cref="AcceptanceScope"/>).</summary>
    [System.Text.Json.Serialization.JsonPropertyName("notCovered")]
    public ImmutableArray<Section> NotAsked { get; init; } = [];

    /// <summary>Fingerprint of what whoever signed was shown (<see cref="ShownDigest"/>).</summary>
    public string Shown { get; init; } = "";

    /// <summary>The drawing behind the plan; null where there is none, or it has no scale.</summary>
    public HandoverDrawing? Drawing { get; init; }
}

/// <summary>A drawing by hash, and where it lies on the site, in metres.</summary>
public sealed record HandoverDrawing(string Hash, string MediaType, double Left, double Top, double Width, double Height);

/// <summary>What the cover says.</summary>
/// <param name="Standards">The standards that are claimed, one a line.</param>
public sealed record HandoverCover(
    string Contract = "",
    string Specification = "",
    string Standards = "",
    string Contractor = "",
    string Client = "",
    string Site = "",
    string Remarks = ""
);

public sealed record HandoverSummary(
    int Accepted,
    int Noted,
    int Refused,
    int Open,
    int OpenFaults,
    int Pictures,
    int Readings,
    DateTimeOffset? FirstReading,
    DateTimeOffset? LastReading
);

/// <summary>One Card of the pack.</summary>
/// <param name="Hash">SHA-256 of its canonical record.</param>
/// <param name="File">Its name in the pack.</param>
public sealed record HandoverCard(
    Guid Id,
    int Number,
    string Label,
    string Name,
    string Area,
    string Kind,
    string Model,
    string? Serial,
    string? HardwareAddress,
    string? Address,
    string Port,
    string Channel,
    Verdict Verdict,
    string Hash,
    string File,
    int Taken,
    int Total,
    ImmutableArray<CardException> Exceptions,
    ImmutableArray<CableSummary> Cables,
    ImmutableArray<HandoverPicture> Pictures,
    int Differences,
    bool Cancelled
);

/// <summary>A picture by hash; the file is in the pack unless it was erased.</summary>
public sealed record HandoverPicture(
    string Hash,
    string ShownHash,
    string MediaType,
    string Caption,
    Guid By,
    DateTimeOffset TakenAt,
    HandoverErasure? Erased
)
{
    public PictureMoment Moment { get; init; }

    /// <summary>By which what was drawn on it names it; null in a record from before that was written.</summary>
    public Guid? Id { get; init; }
}

public sealed record HandoverErasure(string By, string Reason, DateTimeOffset At);

public sealed record HandoverSource(
    string Name,
    string Kind,
    double? UsableWatts,
    double? UsableAmperes,
    double Demand,
    double? Left,
    int Devices,
    ImmutableArray<string> DroppedOrOut
);

public sealed record HandoverStop(string Label, double X, double Y, Verdict Verdict, bool HeadEnd);

public sealed record HandoverWork(Guid By, int Readings, int Acts, DateTimeOffset From, DateTimeOffset Until);

/// <summary>A signature as it was drawn; or a name, by whom cannot draw, and then it says so wherever it is shown.</summary>
/// <param name="Role">technician, client or witness.</param>
/// <param name="Strokes">Points of each stroke, x and y in turn, as shares of a field twice as wide as high (0 to 2, 0 to 1).</param>
/// <param name="Typed">Signed by the name alone, without strokes.</param>
public sealed record HandoverSignature(
    string Role,
    string Name,
    string Position,
    string Place,
    DateTimeOffset At,
    ImmutableArray<ImmutableArray<double>> Strokes,
    [property: System.Text.Json.Serialization.JsonIgnore(Condition = System.Text.Json.Serialization.JsonIgnoreCondition.WhenWritingDefault)]
        bool Typed = false
);

/// <summary>The list of a pack's files, sealed.</summary>
public sealed record PackManifest(
    string Format,
    Guid Revision,
    int Number,
    string Job,
    string Record,
    DateTimeOffset MadeAt,
    ImmutableArray<PackFile> Files
);

public sealed record PackFile(string Name, long Bytes, string Sha256);
