using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>A word as it was read off, such as a version.</summary>
public sealed record TextValue(string Text) : ReadingValue
{
    /// <inheritdoc/>
    public override bool Suits(EntryKind entry) => entry == EntryKind.Text;

    /// <inheritdoc/>
    public override Message? Refuse(CheckDefinition check) =>
        Text.Trim().Length is > 0 and <= 60 ? null : new Message("reading.text-empty");
}
