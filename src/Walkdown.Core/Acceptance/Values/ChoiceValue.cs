using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>One of a check's words, or the id of a light.</summary>
public sealed record ChoiceValue(string Choice) : ReadingValue
{
    /// <inheritdoc/>
    public override bool Suits(EntryKind entry) => entry is EntryKind.Choice or EntryKind.Light;

    /// <inheritdoc/>
    public override Message? Refuse(CheckDefinition check) =>
        check.Entry == EntryKind.Light
            ? Choice.Length is > 0 and <= 60
                ? null
                : new Message("reading.unknown-light", Short(Choice))
            : check.Choices.Contains(Choice)
                ? null
                : new Message("reading.unknown-choice", Short(Choice), string.Join(", ", check.Choices));

    /// <inheritdoc/>
    public override IEnumerable<string> Words() => [Choice];
}
