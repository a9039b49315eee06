using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <param name="Value">In the check's own unit.</param>
/// <param name="Unit">The unit.</param>
public sealed record NumberValue(double Value, Unit Unit) : ReadingValue
{
    /// <inheritdoc/>
    public override bool Suits(EntryKind entry) => entry == EntryKind.Number;

    /// <inheritdoc/>
    public override bool IsOf(CheckDefinition check) => base.IsOf(check) && Unit == check.Unit && double.IsFinite(Value);

    /// <inheritdoc/>
    public override Message? Refuse(CheckDefinition check) =>
        !double.IsFinite(Value) ? new Message("reading.not-a-number")
        : Unit != check.Unit ? new Message("reading.wrong-unit", "@unit." + Codes.Of(check.Unit))
        : check.Plausible is { } range && (Value < range.Min || Value > range.Max)
            ? new Message(
                "reading.impossible",
                Message.Number(Value, 3),
                "@unit." + Codes.Of(check.Unit),
                Message.Number(range.Min, 3),
                Message.Number(range.Max, 3)
            )
        : null;
}
