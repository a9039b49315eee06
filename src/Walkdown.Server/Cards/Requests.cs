using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;

namespace Walkdown.Server.Cards;

/// <param name="Seen">A picture was taken for it.</param>
public sealed record PreviewRequest(
    string Row,
    ReadingValue? Value = null,
    string? Text = null,
    Condition? Found = null,
    Guid? InstrumentId = null,
    bool Seen = false
);

public sealed record TesterRequest(string Row);

/// <summary>One cell of the register as it was built.</summary>
public sealed record BuiltCell(string Field, string? Text);

public sealed record BuiltRequest(
    Guid Id,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    ImmutableArray<BuiltCell> Cells,
    string? Why = null
) : IEntry;
