using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;

namespace Walkdown.Devices;

/// <summary>A value for one part of a check, as a source gave it.</summary>
/// <param name="Part">The part, such as a pair; empty where the check has none.</param>
/// <param name="Value">In the check's own unit.</param>
public sealed record SourceReading(string Part, ReadingValue Value);

/// <summary>What came of asking a source: readings, or why there are none.</summary>
/// <param name="Readings">Part by part; empty where there is trouble.</param>
/// <param name="Serial">Of who answered; empty where it gave none.</param>
/// <param name="Trouble">In a technician's words; null where there is none.</param>
/// <param name="Raw">The answer as it came, for the record.</param>
public sealed record SourceAnswer(ImmutableArray<SourceReading> Readings, string Serial, Message? Trouble, string Raw = "")
{
    /// <summary>What was found that was not asked for: it may be another device's.</summary>
    public FoundIdentity? Found { get; init; }

    /// <summary>No reading, and why.</summary>
    public static SourceAnswer Failed(string code, params ImmutableArray<string> args) => new([], "", new Message(code, args));
}
