using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Results;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Readings;

/// <summary>A proposed reading while it is looked at.</summary>
internal sealed class IntakeEntry(InstrumentResult result)
{
    public InstrumentResult Result => result;
    public Guid? Device { get; set; }
    public string? Label { get; set; }
    public CheckKey? Key { get; set; }
    public ReadingValue? Value { get; set; }
    public ReadingSource Source { get; init; } = ReadingSource.Imported;
    public Guid? Instrument { get; set; }
    public bool Counts { get; set; } = true;
    public Guid ReadingId { get; } = Guid.CreateVersion7();
    public IntakeFate Fate { get; set; } = IntakeFate.Unmatched;
    public State Was { get; set; } = State.NotTaken;
    public string? WasText { get; set; }
    public LimitWindow? Window { get; set; }
    public Guid? UnitId { get; set; }
    public int CheckVersion { get; set; }

    /// <summary>What the server heard, where it asked itself.</summary>
    public ObservationRecord? Heard { get; init; }
    public ImmutableArray<Message> Why { get; set; } = [];
}
