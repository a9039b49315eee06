using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>What stands on record and cannot be read any more. Its row is not judged; nothing else suffers.</summary>
public sealed record UnreadableValue : ReadingValue
{
    /// <inheritdoc/>
    public override bool Suits(EntryKind entry) => false;

    /// <inheritdoc/>
    public override Message? Refuse(CheckDefinition check) => new("reading.wrong-entry", "@entry." + Codes.Of(check.Entry));
}
