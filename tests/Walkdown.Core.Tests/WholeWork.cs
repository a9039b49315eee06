using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;

namespace Walkdown.Core.Tests;

/// <summary>Does a whole job as a good technician would: each row that is due gets the first answer that is in.</summary>
internal static class WholeWork
{
    /// <summary>Ternhaven in October: dark at 22:00, light at noon.</summary>
    public static readonly DateTimeOffset Evening = new(2026, 10, 14, 22, 0, 0, TimeSpan.FromHours(1));

    /// <summary>A job that covers everything, whose recorder is up, with a second person and the permanent feed there.</summary>
    public static Facts Job(string kind, params string[] features) =>
        new Facts().With(f =>
            f with
            {
                Place = f.Place with { Kind = kind, Model = "", Features = [.. features], Mount = "wall-arm", HeightMetres = 3.5 },
                Practice = f.Practice with { Scope = WorkScope.Whole },
                Instruments = [Facts.Meter with { Functions = [.. Facts.Meter.Functions, new(Unit.Degree, new(Absolute: 0.1))] }],
                TimeZone = "Europe/London",
                Site = new SiteFacts(
                    51.5,
                    -0.1,
                    SiteFacts.Unsaid.Presences.Add("permanent-power", new(Facts.Start, null)).Add("second-person", new(Facts.Start, null))
                ),
                Heads = [new HeadFacts(Guid.Parse("00000000-0000-0000-0000-0000000000f1"), 1)],
                Channels =
                [
                    new ChannelFacts(Guid.Parse("00000000-0000-0000-0000-0000000000f2"), "NVR-1", 1) { RecorderFacts = Recorder(true) },
                ],
                Runs = [.. f.Runs.Select(r => r with { Port = r.Port! with { Source = Source(f.Place.Id, 370) } })],
            }
        );

    /// <summary>The recorder's own facts, started or not.</summary>
    public static CardFacts Recorder(bool isUp)
    {
        var id = Guid.Parse("00000000-0000-0000-0000-0000000000f3");
        var key = new CheckKey(KnownChecks.Boot, new Subject(SubjectKind.Place, id), Condition.Any);
        return new CardFacts
        {
            Place = new PlaceFacts(id, "NVR-1", "Recorder", "", "recorder", "", [], null, null, null, null, null, null),
            Practice = new Practice(DecisionRule.Guarded, Cabling.WiringScheme.T568B),
            Readings = isUp
                ?
                [
                    new Reading(
                        Guid.NewGuid(),
                        key,
                        null,
                        new NumberValue(90, Unit.Second),
                        Condition.Any,
                        null,
                        ReadingSource.Typed,
                        Facts.Ina,
                        Facts.Start,
                        Facts.Start,
                        1
                    ),
                ]
                : [],
            Now = Facts.Start,
        };
    }

    /// <summary>A switch with this device alone on port 7.</summary>
    public static SourceFacts Source(Guid device, double? watts) =>
        new(
            "K2 A",
            watts,
            0,
            30,
            [
                new SourcePortFacts(
                    Guid.NewGuid(),
                    7,
                    PortPriority.Low,
                    false,
                    new CardFacts
                    {
                        Place = new PlaceFacts(device, "CC-07", "", "", "bullet", "", [], null, null, null, null, null, null),
                        Practice = new Practice(DecisionRule.Guarded, Cabling.WiringScheme.T568B),
                        Now = Facts.Start,
                    },
                    false,
                    false
                ),
            ]
        );

    /// <summary>Takes every row that is due until none is left that can be taken.</summary>
    public static Facts Do(Facts facts)
    {
        facts.Healthy().With(f => f with { Now = Evening.AddDays(2) });
        for (var round = 0; round < 400; round++)
        {
            var card = facts.Card;
            if (card.Rows.FirstOrDefault(r => r.Id == card.NextRow) is not { } next)
                return facts;
            Take(facts, next, Answer(facts, next));
        }
        throw new InvalidOperationException("it does not come to an end at " + facts.Card.NextRow);
    }

    public static Guid Take(Facts facts, CardRow row, ReadingValue value, DateTimeOffset? at = null)
    {
        var id = Guid.NewGuid();
        facts.With(f =>
            f with
            {
                Readings = f.Readings.Add(
                    new Reading(
                        id,
                        row.Key,
                        f.Unit?.Id,
                        value,
                        row.Key.Under,
                        Facts.Meter.Id,
                        ReadingSource.Typed,
                        Facts.Ina,
                        at ?? f.Now,
                        at ?? f.Now,
                        10_000 + f.Readings.Length
                    )
                    {
                        Evidence = [new ReadingEvidence(Guid.NewGuid(), new string('0', 64))],
                    }
                ),
                // Sealant cures meanwhile, and it stays evening.
                Now = row.Check.Id.Value == "fixing.seals" ? f.Now.AddDays(2) : f.Now.AddSeconds(1),
            }
        );
        return id;
    }

    /// <summary>The first answer that is in; the row's name where there is none.</summary>
    public static ReadingValue Answer(Facts facts, CardRow row)
    {
        foreach (var value in Candidates(row))
            if (
                ReadingRules.Refuse(row.Check, value) is null
                && Card.Preview(facts.Now, Facts.Shipped, row.Key, value, row.Key.Under, Facts.Meter.Id, true).Attempt.State == State.In
            )
                return value;
        throw new InvalidOperationException($"nothing is in for {row.Check.Id}: {string.Join("; ", row.Because.Select(b => b.Code))}");
    }

    private static IEnumerable<ReadingValue> Candidates(CardRow row)
    {
        var check = row.Check;
        switch (check.Entry)
        {
            case EntryKind.YesNo:
                yield return new YesNoValue(true);
                break;
            case EntryKind.Choice:
                foreach (var word in check.Choices)
                    yield return new ChoiceValue(word);
                break;
            case EntryKind.Light:
                foreach (var light in row.Lights)
                    yield return new ChoiceValue(light.Id);
                break;
            case EntryKind.List:
                yield return new ListValue([]);
                break;
            case EntryKind.Items:
                yield return new ItemsValue([.. row.Items.Select(i => new ItemSaid(i.Id, ItemState.Fitted))]);
                break;
            case EntryKind.Probes:
                yield return new ProbesValue(4000, 4000);
                break;
            case EntryKind.WireMap:
                yield return Facts.Straight;
                break;
            case EntryKind.Text:
                yield return new TextValue(row.Expected?.Word ?? "1.0.0");
                break;
            case EntryKind.Number:
                double?[] tries = [row.Expected?.Value?.Value, 0, row.Window?.Min + 5, row.Window?.Max - 5];
                if (row.Window is { Min: { } low, Max: { } high })
                    tries = [.. tries, (low + high) / 2];
                if (check.Id.Value == "radio.level")
                    tries = [-45];
                foreach (var number in tries.OfType<double>())
                    yield return new NumberValue(number, check.Unit);
                break;
            case EntryKind.Form when Sheets.TryGetValue(check.Id.Value, out var sheet):
                yield return Line(sheet);
                break;
            case EntryKind.Form:
                foreach (var form in Forms(check))
                    yield return form;
                break;
        }
    }

    /// <summary>What sheets and plans say, where a number has to fit others: 80 m of RG-59 with composite, F1 of the worked cases.</summary>
    public static readonly ImmutableDictionary<string, (string Field, object Says)[]> Sheets = new Dictionary<string, (string, object)[]>
    {
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
        ["radio.load"] = [("negotiated", 300), ("streams", 12)],
    }.ToImmutableDictionary();

    public static FormValue Line(params (string Field, object Says)[] said) =>
        new([
            new FormLine([
                .. said.Select(s =>
                    s.Says is string word
                        ? new FieldSaid(s.Field, null, word)
                        : new FieldSaid(s.Field, Convert.ToDouble(s.Says, System.Globalization.CultureInfo.InvariantCulture))
                ),
            ]),
        ]);

    /// <summary>Every combination of the words of a form, its numbers generous.</summary>
    private static IEnumerable<FormValue> Forms(CheckDefinition check)
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
                        FieldEntry.Text => [line.Add(new(field.Id, null, "M. Okafor"))],
                        FieldEntry.Count => [line.Add(new(field.Id, 1))],
                        _ => field.Optional ? [line] : new[] { 12.0, 40, 120 }.Select(n => line.Add(new(field.Id, n))),
                    }
                )
                .ToList();
        foreach (var line in lines)
            yield return check.Lines is null
                ? new FormValue([new FormLine(line)])
                : new FormValue([.. Enumerable.Range(0, 80).Select(i => new FormLine(line, Evening.AddMinutes(i))).Take(check.Lines.Most)]);
    }
}
