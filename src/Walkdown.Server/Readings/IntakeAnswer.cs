using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Reports;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Readings;

/// <param name="Lines">The first of each fate; the counts say how many there are.</param>
public sealed record IntakeAnswer(
    Guid Id,
    IntakeOrigin Origin,
    string Name,
    int Total,
    ImmutableDictionary<IntakeFate, int> Counts,
    int Devices,
    ImmutableArray<IntakeLine> Lines,
    ImmutableArray<UnmatchedLabel> Unmatched,
    ImmutableArray<UnknownInstrument> Instruments,
    bool Taken
);

public sealed record SweepRequest(Condition Under, bool OnlyDue, string? Area = null, string? Cabinet = null, Guid? InstrumentId = null);
