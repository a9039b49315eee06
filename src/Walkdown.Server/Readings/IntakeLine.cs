using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Readings;

/// <summary>One proposed reading as it stands.</summary>
/// <param name="Line">Line of the file; 0 for a sweep.</param>
/// <param name="Where">Label as it stands in the file.</param>
/// <param name="Was">State of the row before.</param>
/// <param name="Limit">The row's limits in words, where it has any.</param>
/// <param name="Why">In words: why it is out, too close, refused or not matched.</param>
public sealed record IntakeLine(
    int Index,
    int Line,
    string Where,
    string Function,
    string Part,
    Condition Under,
    string Text,
    Guid? DeviceId,
    string? Device,
    string? Check,
    IntakeFate Fate,
    State Was,
    string? WasText,
    string? Limit,
    string Instrument,
    bool InstrumentCounts,
    ImmutableArray<string> Why
);
