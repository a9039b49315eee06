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
                if (!double.IsFinite(number.Value))
                    return new Message("reading.not-a-number");
                if (number.Unit != check.Unit)
                    return new Message("reading.wrong-unit", "@unit." + Codes.Of(check.Unit));
                if (check.Plausible is { } range && (number.Value < range.Min || number.Value > range.Max))
                    return new Message(
                        "reading.impossible",
                        Message.Number(number.Value, 3),
                        "@unit." + Codes.Of(check.Unit),
                        Message.Number(range.Min, 3),
                        Message.Number(range.Max, 3)
                    );
                return null;
            case (EntryKind.Choice, ChoiceValue choice):
                return check.Choices.Contains(choice.Choice)
                    ? null
                    : new Message("reading.unknown-choice", Short(choice.Choice), string.Join(", ", check.Choices));
            case (EntryKind.Light, ChoiceValue light):
                return light.Choice.Length is > 0 and <= 60 ? null : new Message("reading.unknown-light", Short(light.Choice));
            case (EntryKind.List, ListValue list):
                return list.Marked.FirstOrDefault(m => check.Items.All(i => i.Id != m)) is { } unknown
                        ? new Message("reading.unknown-item", Short(unknown))
                    : list.Marked.Distinct().Count() != list.Marked.Length ? new Message("reading.item-twice")
                    : null;
            case (EntryKind.Text, TextValue text):
                return text.Text.Trim().Length is > 0 and <= 60 ? null : new Message("reading.text-empty");
            case (EntryKind.Probes, ProbesValue probes):
                if (probes.Sent is < 1 or > 1_000_000)
                    return new Message("reading.probes-sent");
                if (probes.Received < 0 || probes.Received > probes.Sent)
                    return new Message(
                        "reading.probes-received",
                        probes.Received.ToString(CultureInfo.InvariantCulture),
                        probes.Sent.ToString(CultureInfo.InvariantCulture)
                    );
                return
                    probes.RoundTripsMs is { } trips
                    && (
                        trips.Length > Math.Min(probes.Sent, 2000)
                        || trips.Length == probes.Sent && trips.Count(t => t is not null) != probes.Received
                        || trips.Any(t => t is not (null or (>= 0 and <= 600_000)))
                    )
                    ? new Message("reading.probes-trips")
                    : null;
            case (EntryKind.Counters, CountersValue counters):
                if (counters.IntervalSeconds is not (> 0 and <= 604_800))
                    return new Message("reading.counters-interval");
                if (counters.Bits is not (32 or 64))
                    return new Message("reading.counters-bits");
                var most = counters.Bits == 32 ? uint.MaxValue : long.MaxValue;
                return new[] { counters.First.Packets, counters.First.Errors, counters.Second.Packets, counters.Second.Errors }.Any(c =>
                    c < 0 || c > most
                )
                    ? new Message("reading.counters-range")
                    : null;
            case (EntryKind.WireMap, WireMapValue map):
                if (map.ReadAt == MapReadAt.MainUnit)
                    return new Message("reading.main-unit");
                if (map.RemoteLabel is { Length: > 60 })
                    return new Message("reading.label-too-long");
                if (
                    map.OpenDistanceMetres is { } distances
                    && distances.Any(d => d.Key is not [>= '1' and <= '8'] || d.Value is not (>= 0 and <= 2000))
                )
                    return new Message("reading.map-distance");
                if (
                    map.TwistedPairs is { } twists
                    && (
                        twists.Any(p => p.Length != 2 || p.Any(pin => pin is < 1 or > 8))
                        || twists.SelectMany(p => p).Distinct().Count() != twists.Length * 2
                    )
                )
                    return new Message("reading.map-twists");
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

    /// <summary>A reading on record that the check, as it is defined now, could not have been given; null where it could.</summary>
    public static Message? Mismatch(CheckDefinition check, ReadingValue value) =>
        (check.Entry, value) switch
        {
            (EntryKind.Number, NumberValue number) => number.Unit == check.Unit && double.IsFinite(number.Value)
                ? null
                : new Message("because.other-definition"),


            (EntryKind.YesNo, YesNoValue)
            or
            (EntryKind.Choice or EntryKind.Light, ChoiceValue)
            or
            (EntryKind.List, ListValue)
            or (EntryKind.Text, TextValue) => null,
            (EntryKind.Probes, ProbesValue) or (EntryKind.Counters, CountersValue) or (EntryKind.WireMap, WireMapValue) => null,
            _ => new Message("because.other-definition"),
        };

    private static string Short(string text) => text.Length <= 20 ? text : text[..20] + "\u2026";
}
