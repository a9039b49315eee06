using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>What a reading may be at all: each kind of value says so of itself. A refusal is a sentence for the technician; nothing is
/// kept.</summary>
public static class ReadingRules
{
    /// <summary>Null where the value can be a reading of this check.</summary>
    public static Message? Refuse(CheckDefinition check, ReadingValue value) =>
        value.Suits(check.Entry) ? value.Refuse(check) : new Message("reading.wrong-entry", "@entry." + Codes.Of(check.Entry));

    /// <summary>A reading on record that the check, as it is defined now, could not have been given; null where it could.</summary>
    public static Message? Mismatch(CheckDefinition check, ReadingValue value) =>
        value.IsOf(check) ? null : new Message("because.other-definition");
}
