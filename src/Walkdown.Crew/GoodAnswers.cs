using System.Collections.Immutable;
using System.Globalization;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;
using Walkdown.Core.Zones;

namespace Walkdown.Crew;

/// <summary>What a technician would answer where everything is as it should be: the first answer to a row that is judged in.</summary>
/// <param name="catalogue">What rows are judged by.</param>
/// <param name="name">The name given where a row asks for somebody's.</param>
/// <param name="firmware">The version given where a row asks for one and none is expected.</param>
public sealed class GoodAnswers(Catalogue catalogue, string name = "M. Okafor", string firmware = "1.0.0")
{
    /// <summary>The first answer that is in; null where none that this knows of is.</summary>
    /// <param name="facts">The Card as it is.</param>
    /// <param name="row">The row.</param>
    /// <param name="instrumentId">What it is read with; null: nothing of the Kit.</param>
    /// <param name="spread">How far a measured value lies from the plan, -1 to 1; null: it is just as planned.</param>
    public ReadingValue? For(CardFacts facts, CardRow row, Guid? instrumentId, double? spread = null)
    {
        foreach (var value in Candidates(row, facts.Now, spread))
            if (
                ReadingRules.Refuse(row.Check, value) is null
                && Card.Preview(facts, catalogue, row.Key, value, row.Key.Under, instrumentId, seen: true).Attempt.State == State.In
            )
                return value;
        return null;
    }

    private IEnumerable<ReadingValue> Candidates(CardRow row, DateTimeOffset now, double? spread)
    {
        var check = row.Check;
        return check.Entry switch
        {
            EntryKind.YesNo => [new YesNoValue(true)],
            EntryKind.Choice => check.Choices.OrderBy(word => word != row.Expected?.Word).Select(word => new ChoiceValue(word)),
            EntryKind.Light => row.Lights.Select(light => new ChoiceValue(light.Id)),
            EntryKind.List => [new ListValue([])],
            EntryKind.Items => [new ItemsValue([.. row.Items.Select(i => new ItemSaid(i.Id, ItemState.Fitted))])],
            EntryKind.Probes => [new ProbesValue(4000, 4000)],
            EntryKind.WireMap => [Straight],
            EntryKind.Text => [new TextValue(row.Expected?.Word ?? firmware)],
            EntryKind.Number => Numbers(row, spread).Select(n => new NumberValue(n, check.Unit)),
            EntryKind.Form when Sheets.TryGetValue(check.Id.Value, out var sheet) => [Line(sheet)],
            EntryKind.Form when check.Judge == "walks" => [Walks(now)],
            EntryKind.Form => Forms(check, now),
            EntryKind.Zones => [Zones],
            EntryKind.Week => [new WeekValue(WeekHours.All)],
            _ => [],
        };
    }

    /// <summary>Every pin where it belongs, the screen through.</summary>
    public static readonly WireMapValue Straight = new(
        [.. Enumerable.Range(1, 8).Select(pin => ImmutableArray.Create(pin))],
        MapReadAt.FarUnit
    );

    /// <summary>Own ground below the sky, and a zone on it.</summary>
    public static readonly ZonesValue Zones = new([
        new("Own ground", ZoneUse.OwnGround, [new(0, 0.4), new(1, 0.4), new(1, 1), new(0, 1)]),
        new("Quay edge", ZoneUse.Watch, [new(0.2, 0.5), new(0.8, 0.5), new(0.9, 0.9), new(0.1, 0.9)]),
    ]);

    private static FormValue Walks(DateTimeOffset now) =>
        new([
            .. Enumerable
                .Range(0, 12)
                .Select(i => new FormLine([new("walk", null, i % 2 == 0 ? "inside-rang" : "outside-silent")], now.AddMinutes(i - 12))),
        ]);

    private static IEnumerable<double> Numbers(CardRow row, double? spread)
    {
        var expected = row.Expected?.Value?.Value;
        double?[] tries =
        [
            // A hundredth more or less, as instruments and cables have it.
            spread is { } by
            && expected is { } plan and not 0
                ? Math.Round(plan * (1 + by * 0.01), plan >= 100 ? 0 : 1)
                : null,
            expected,
            0,
            // Of a little, a little more.
            row.Window
                is { Min: > 0 and < 2 and var little }
                ? Math.Round(little * 1.5, 2)
                : null,
            row.Window?.Min + 5,
            row.Window?.Max - 5,
            row.Window is { Min: { } low, Max: { } high } ? (low + high) / 2 : null,
        ];
        return tries.OfType<double>();
    }

    /// <summary>What sheets and plans say, where a number has to fit others: 80 m of RG-59 with composite, F1 of the worked
    /// cases.</summary>
    public static readonly ImmutableDictionary<string, (string Field, object Says)[]> Sheets = new Dictionary<string, (string, object)[]>
    {
        ["time.flicker"] = [("mains", "50"), ("frames", 25), ("shutter", 100)],
        ["plates.link"] =
        [
            ("role", "entry"),
            ("server", "10.46.8.11"),
            ("port-camera", 8443),
            ("port-recorder", 8443),
            ("login-camera", "set"),
            ("login-recorder", "set"),
            ("id-camera", "10010001"),
            ("id-recorder", "10010001"),
            ("light-camera", "green"),
            ("light-recorder", "green"),
        ],
        // Seven metres before a camera beside a lane, 1/1000 s, cars at walking pace and a little more.
        ["plates.geometry"] =
        [
            ("plate", 0.52),
            ("camera", 1.4),
            ("mounted", 0.5),
            ("ahead", 7),
            ("aside", 2),
            ("pixels", 1920),
            ("field", 34),
            ("exposure", 1),
            ("frames", 25),
            ("zone", 3),
            ("speed", 30),
        ],
        ["coax.cable"] = [("class", "rg59"), ("centre", "copper"), ("metres", 80), ("format", "composite")],
        // 0.28 dB of sync and 1.9 dB of burst are lost on the way.
        ["coax.level"] = [("system", "625"), ("sync", 290), ("burst", 245)],
        ["coax.camera-end"] = [("system", "625"), ("sync", 300)],
        ["radio.budget"] =
        [
            ("metres", 1200),
            ("megahertz", 5800),
            ("power", 20),
            ("gain-a", 23),
            ("gain-b", 23),
            ("loss-a", 1),
            ("loss-b", 1),
            ("sensitivity", -75),
            ("allowed", 45),
        ],
        ["radio.path"] = [("at", 600), ("height-a", 12), ("height-b", 12), ("obstacle", 4)],
        // Six disks of 12 TB, 26 channels of 7.77 Mbit/s for seven tenths of the day.
        ["recorder.store"] =
        [
            ("level", "one-parity"),
            ("disks", 6),
            ("disk", 12000),
            ("written", 1527),
            ("source", "recorder"),
            ("days", 31),
        ],
        // Sixteen streams that go out at 0.4 Mbit/s, three people at home.
        ["recorder.line"] = [("upload", 40), ("sends", 6.4), ("viewers", 3), ("each", 2)],
        ["bridge.attached"] = [("identifier", "entered"), ("light", "good"), ("account", "client"), ("after-restart", "attached")],
        ["recorder.card"] = [("seat", "clicked"), ("class", "v30"), ("size", 128), ("rate", 6), ("on", "yes"), ("clip", "yes")],
        ["radio.load"] = [("negotiated", 300), ("streams", 12)],
    }.ToImmutableDictionary();

    /// <summary>One line of a form.</summary>
    /// <param name="said">A word or a number for each field.</param>
    public static FormValue Line(params (string Field, object Says)[] said) =>
        new([
            new FormLine([
                .. said.Select(s =>
                    s.Says is string word
                        ? new FieldSaid(s.Field, null, word)
                        : new FieldSaid(s.Field, Convert.ToDouble(s.Says, CultureInfo.InvariantCulture))
                ),
            ]),
        ]);

    /// <summary>Figures that plates and lists usually show, the generous last.</summary>
    private static double[] Usual(Unit unit) =>
        unit switch
        {
            Unit.Volt => [12, 24, 48],
            Unit.Ampere => [5, 10],
            // One try, one line: more where that is too few.
            Unit.Count => [1, 12, 40, 120],
            _ => [12, 40, 120],
        };

    /// <summary>Every combination of the words of a form, its numbers generous.</summary>
    private IEnumerable<FormValue> Forms(CheckDefinition check, DateTimeOffset now)
    {
        IEnumerable<ImmutableArray<FieldSaid>> lines =
        [
            [],
        ];
        foreach (var field in check.Fields)
            lines = lines
                .SelectMany(line =>
                    field.Entry switch
                    {
                        FieldEntry.Word => field.Words.Select(word => line.Add(new(field.Id, null, word))),
                        FieldEntry.Text => [line.Add(new(field.Id, null, name))],
                        FieldEntry.Count => [line.Add(new(field.Id, 1))],
                        _ => field.Optional ? [line] : Usual(field.Unit).Select(n => line.Add(new(field.Id, n))),
                    }
                )
                .ToList();
        // Trials are a minute apart, the last of them just now.
        foreach (var line in lines)
            yield return check.Lines is null
                ? new FormValue([new FormLine(line)])
                : new FormValue([
                    .. Enumerable.Range(0, Math.Min(80, check.Lines.Most)).Select(i => new FormLine(line, now.AddMinutes(i - 80))),
                ]);
    }
}
