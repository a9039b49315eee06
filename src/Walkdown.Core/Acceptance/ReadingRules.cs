using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>What a reading may be at all. A refusal is a sentence for the technician; nothing is kept.</summary>
public static class ReadingRules
{
    /// <summary>Null where the value can be a reading of this check.</summary>
    public static Message? Refuse(CheckDefinition check, ReadingValue value)
    {
        switch (check.Entry, value)
        {
            case (EntryKind.YesNo, YesNoValue):
                return null;
            case (EntryKind.Number, NumberValue number):
                if (!double.IsFinite(number.Value)) return new Message("reading.not-a-number");
                if (number.Unit != check.Unit) return new Message("reading.wrong-unit", "@unit." + Codes.Of(check.Unit));
                if (check.Plausible is { } range && (number.Value < range.Min || number.Value > range.Max))
                    return new Message("reading.impossible", Message.Number(number.Value, 3), "@unit." + Codes.Of(check.Unit), Message.Number(range.Min, 3), Message.Number(range.Max, 3));
                return null;
            case (EntryKind.Choice, ChoiceValue choice):
                return check.Choices.Contains(choice.Choice) ? null : new Message("reading.unknown-choice", Short(choice.Choice), string.Join(", ", check.Choices));
            case (EntryKind.WireMap, WireMapValue map):
                if (map.ReadAt == MapReadAt.MainUnit) return new Message("reading.main-unit");
                if (map.RemoteLabel is { Length: > 60 }) return new Message("reading.label-too-long");
                if (map.OpenDistanceMetres is { } distances && distances.Any(d => d.Key is not [>= '1' and <= '8'] || d.Value is not (>= 0 and <= 2000))) return new Message("reading.map-distance");
                try
                {
                    map.ToReading();
                    return null;
                }
                catch (BadInputException)
                {
                    return new Message("reading.map-pins");
                }
            default:
                return new Message("reading.wrong-entry", "@entry." + Codes.Of(check.Entry));
        }
    }

    private static string Short(string text) => text.Length <= 20 ? text : text[..20] + "\u2026";
}
