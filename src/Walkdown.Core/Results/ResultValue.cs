using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;

namespace Walkdown.Core.Results;

/// <summary>From the words of a file to a reading of a check.</summary>
public static class ResultValue
{
    /// <summary>Labels are compared without case, blanks and punctuation.</summary>
    public static string Key(string label) => CellText.Plain(label).Replace(" ", "", StringComparison.Ordinal);

    /// <summary>The reading that a text is for a check; or why it is none.</summary>
    public static (ReadingValue? Value, Message? Refused) Read(CheckDefinition check, InstrumentResult result)
    {
        var (value, refused) = Shape(check, result);
        if (refused is not null)
            return (null, refused);
        return ReadingRules.Refuse(check, value!) is { } no ? (null, no) : (value, null);
    }

    private static (ReadingValue?, Message?) Shape(CheckDefinition check, InstrumentResult result)
    {
        if (result.Trouble is not null)
            return (null, result.Trouble);
        if (result.Value is not null)
            return (result.Value, null);
        var text = result.Text.Trim();
        switch (check.Entry)
        {
            case EntryKind.Number:
                // A unit in the cell goes before one in the heading.
                var parsed = QuantityText.Parse(text, check.Unit);
                if (
                    parsed.Value is { } bare
                    && result.UnitText.Length > 0
                    && double.TryParse(text.Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out _)
                )
                    parsed = QuantityText.Parse($"{text} {result.UnitText}", check.Unit);
                return parsed.Value is { } number ? (new NumberValue(number.Value, check.Unit), null) : (null, parsed.Refused);
            case EntryKind.Choice:
                var plain = CellText.Plain(text).Replace(' ', '-');
                var choice =
                    check.Choices.FirstOrDefault(c => c == plain)
                    ?? (
                        check.Unit == Unit.MegabitPerSecond && QuantityText.Parse(text, check.Unit).Value is { } speed
                            ? Message.Number(speed.Value, 0)
                        : plain is "no-link" or "down" ? "none"
                        : plain
                    );
                if (choice.StartsWith("class-", StringComparison.Ordinal))
                    choice = choice[6..];
                return (new ChoiceValue(choice), null);
            case EntryKind.WireMap:
                return ResultColumn.MapOf(text) is { } map
                    ? (new WireMapValue(map, MapReadAt.FarUnit, null, result.RemoteLabel.Length > 0 ? result.RemoteLabel : null), null)
                    : (null, new Message("result.no-map", text.Length > 30 ? text[..30] : text));
            case EntryKind.YesNo:
                return CellText.Plain(text) switch
                {
                    "yes" or "y" or "true" or "pass" or "ok" or "1" => (new YesNoValue(true), null),
                    "no" or "n" or "false" or "fail" or "0" => (new YesNoValue(false), null),
                    _ => (null, new Message("result.yes-no", text)),
                };
            default:
                return (null, new Message("result.only-json"));
        }
    }
}
