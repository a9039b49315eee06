using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Yes or no.</summary>
public sealed record YesNoValue(bool Yes) : ReadingValue
{
    /// <inheritdoc/>
    public override bool Suits(EntryKind entry) => entry == EntryKind.YesNo;

    /// <inheritdoc/>
    public override Message? Refuse(CheckDefinition check) => null;

    /// <inheritdoc/>
    public override IEnumerable<string> Words() => [Yes ? "yes" : "no"];
}
