using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>A wire map as messages: what it is, what it costs, where to look and why, in that order.</summary>
internal static class WireMapWords
{
    public static ImmutableArray<Message> Say(WireMapAnalysis map, ImmutableDictionary<string, double>? distances)
    {
        var list = ImmutableArray.CreateBuilder<Message>();
        foreach (var what in map.Classes)
            list.Add(What(what, map, distances));
        list.Add(Cost(map));
        if (map.Power.FourPair != Ability.Yes)
            list.Add(new Message($"map.power.{Codes.Of(map.Power.A)}.{Codes.Of(map.Power.B)}"));
        if (!map.PairTestDone && map.IsStraight)
            list.Add(new Message("map.no-pair-test"));
        if (map.LookFirst != LookAt.Nowhere)
            list.Add(
                map.LookFirst == LookAt.MidRun
                    ? new Message("map.look.midRun", "@map.why." + Codes.Of(map.Why))
                    : new Message("map.look", "@map.end." + Codes.Of(map.LookFirst), "@map.why." + Codes.Of(map.Why))
            );
        return list.ToImmutable();
    }

    private static Message What(WireMapClass what, WireMapAnalysis map, ImmutableDictionary<string, double>? distances)
    {
        var code = "map." + Codes.Of(what);
        return what switch
        {
            WireMapClass.Open when At(map.OpenNearPins, distances) is { } metres => new Message("map.openAt", Pins(OpenPins(map)), metres),
            WireMapClass.Open => new Message(code, Pins(OpenPins(map))),
            WireMapClass.Short or WireMapClass.ShortToShield => new Message(
                code,
                Pins([.. map.Shorts.SelectMany(s => s.NearPins.Union(s.FarPins)).Distinct().Order()])
            ),
            WireMapClass.ReversedPair => new Message(code, string.Join(", ", map.ReversedPairs)),
            WireMapClass.TransposedPairs => new Message(code, string.Join(", ", map.TransposedPairs.Select(t => t.Near))),
            WireMapClass.CrossedConductors => new Message(
                code,
                string.Join(
                    ", ",
                    map.Displaced.Where(d => map.CrossedPins.Contains(d.Near)).Select(d => $"{Pins([d.Near])} to {Pins([d.Far])}")
                )
            ),
            WireMapClass.SplitPair => new Message(code, string.Join(", ", map.SplitTwists)),
            _ => new Message(code),
        };
    }

    private static ImmutableArray<int> OpenPins(WireMapAnalysis map) => map.OpenNearPins.IsEmpty ? map.FarPinsNotSeen : map.OpenNearPins;

    private static string? At(ImmutableArray<int> pins, ImmutableDictionary<string, double>? distances) =>
        distances is { Count: > 0 }
        && pins.Length > 0
        && distances.TryGetValue(pins[0].ToString(CultureInfo.InvariantCulture), out var metres)
            ? Message.Number(metres, 1)
            : null;

    private static string Pins(ImmutableArray<int> pins) =>
        string.Join(", ", pins.Select(pin => pin == WireMapReading.Shield ? "S" : pin.ToString(CultureInfo.InvariantCulture)));

    private static Message Cost(WireMapAnalysis map) =>
        new(
            "map.links."
                + (map.Links.Base1000, map.Links.Base100) switch
                {
                    (Ability.Yes, _) => "gigabit",
                    (Ability.Degraded, Ability.Yes) => "gigabit-uncertain",
                    (Ability.Degraded, _) => "gigabit-uncertain",
                    (_, Ability.Yes) => "100-only",
                    (_, Ability.Degraded) => "100-uncertain",
                    _ when map.Links.Base10 != Ability.No => "10-only",
                    _ => "none",
                }
        );
}
