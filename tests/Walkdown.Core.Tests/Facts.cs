using System.Collections.Immutable;
using System.Text.Json;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Tests;

/// <summary>A made-up camera of Ternhaven and what is read on it, for the judging tests.</summary>
internal sealed class Facts
{
    public static readonly string Root = FindRoot();
    public static readonly ImmutableHashSet<string> Texts =
    [
        .. Directory
            .GetFiles(Path.Combine(Root, "texts"), "en*.json")
            .SelectMany(f => JsonSerializer.Deserialize<Dictionary<string, string>>(File.ReadAllText(f))!.Keys),
    ];

    public static readonly Catalogue Shipped = Catalogue.Read(Catalogue.Shipped, Texts).Catalogue!;
    public static readonly DateTimeOffset Start = new(2026, 10, 14, 9, 0, 0, TimeSpan.Zero);

    public static readonly Instrument Meter = new(
        Guid.Parse("00000000-0000-0000-0000-0000000000a1"),
        "Cable meter 2",
        "CM-0217",
        [new(Unit.Ohm, new(1)), new(Unit.Metre, new(2)), new(Unit.Volt, new(1, 2, 0.1))],
        new DateOnly(2026, 3, 2),
        new DateOnly(2027, 3, 2),
        [],
        []
    );

    public static readonly Instrument OldMeter = Meter with
    {
        Id = Guid.Parse("00000000-0000-0000-0000-0000000000a2"),
        CalibratedOn = new DateOnly(2024, 5, 1),
        CalibrationDue = new DateOnly(2025, 5, 1),
    };
    public static readonly Guid Run = Guid.Parse("00000000-0000-0000-0000-0000000000b1");
    public static readonly Guid Ina = Guid.Parse("00000000-0000-0000-0000-0000000000c1");

    private int _minute;
    private long _sequence;

    public CardFacts Now { get; private set; } =
        new()
        {
            Place = new PlaceFacts(
                Guid.Parse("00000000-0000-0000-0000-0000000000d1"),
                "CC-07",
                "Roof edge, quay side",
                "Concourse",
                "dome-varifocal",
                "Tarn D4Z",
                [],
                null,
                null,
                null,
                null,
                null,
                null
            ),
            Unit = new UnitFacts(Guid.Parse("00000000-0000-0000-0000-0000000000e1"), "TH4275", null, Start.AddDays(-1)),
            Runs =
            [
                new RunFacts(
                    Run,
                    "CC-07",
                    LinkConfiguration.PermanentLink,
                    new(60, Origin.Planned),
                    new(24, Origin.Planned),
                    new(ConductorMaterial.SolidCopper, Origin.Planned),
                    false,
                    new(20, Origin.Planned),
                    0,
                    24,
                    WiringScheme.T568B,
                    new PortFacts(Guid.NewGuid(), "K2", 7, new(54, Origin.Planned), 1000)
                ),
            ],
            Practice = new Practice(DecisionRule.Guarded, WiringScheme.T568B),
            Instruments = [Meter, OldMeter],
            Now = Start.AddHours(8),
        };

    public Card Card => Acceptance.Card.Judge(Now, Shipped);

    public Facts With(Func<CardFacts, CardFacts> change)
    {
        Now = change(Now);
        return this;
    }

    public static CheckKey Key(string check, string part = "", Condition under = Condition.Any) =>
        new(new CheckId(check), new Subject(SubjectKind.Run, Run, part), under);

    public CardRow Row(string check, string part = "", Condition under = Condition.Any) =>
        Card.Rows.Single(r => r.Key == Key(check, part, under));

    public Guid Read(CheckKey key, ReadingValue value, Condition? found = null, Guid? instrument = null)
    {
        var id = Guid.NewGuid();
        var at = Start.AddMinutes(++_minute);
        Now = Now with
        {
            Readings = Now.Readings.Add(
                new Reading(
                    id,
                    key,
                    Now.Unit?.Id,
                    value,
                    found ?? key.Under,
                    instrument ?? Meter.Id,
                    ReadingSource.Typed,
                    Ina,
                    at,
                    at,
                    ++_sequence
                )
            ),
        };
        return id;
    }

    public Guid Add(Func<Guid, DateTimeOffset, long, CardEvent> make)
    {
        var id = Guid.NewGuid();
        Now = Now with { Events = Now.Events.Add(make(id, Start.AddMinutes(++_minute), ++_sequence)) };
        return id;
    }

    public Guid Work(string kind, CableEnd? end = null, Guid? fault = null) =>
        Add(
            (id, at, sequence) =>
                new Act
                {
                    Id = id,
                    By = Ina,
                    At = at,
                    Sequence = sequence,
                    ActKind = kind,
                    On = kind is "unit-swapped" or "update-started" or "updated"
                        ? new Subject(SubjectKind.Place, Now.Place.Id)
                        : new Subject(SubjectKind.Run, Run),
                    End = end,
                    FaultId = fault,
                }
        );

    public Guid Raise(CheckKey key, Severity severity = Severity.Major)
    {
        var id = Guid.NewGuid();
        Now = Now with
        {
            Faults = Now.Faults.Add(
                new FaultRecord(
                    id,
                    key,
                    Card.Rows.Single(r => r.Key == Now.KeyNow(key, Shipped)).Counts,
                    "made up",
                    severity,
                    null,
                    Ina,
                    Start.AddMinutes(++_minute),
                    ++_sequence
                )
            ),
        };
        return id;
    }

    public static WireMapValue Map(params int[] far) =>
        new([.. far.Select(f => f == 0 ? ImmutableArray<int>.Empty : [f])], MapReadAt.FarUnit);

    public static readonly WireMapValue Straight = Map(1, 2, 3, 4, 5, 6, 7, 8);

    /// <summary>Everything in, as on a healthy run.</summary>
    public Facts Healthy()
    {
        Read(Key("cable.label"), new YesNoValue(true));
        Read(Key("cable.wire-map"), Straight);
        Read(Key("cable.length"), new NumberValue(59.8, Unit.Metre));
        foreach (var pair in PinPair.All)
            Read(Key("cable.loop-resistance", pair.ToString()), new NumberValue(10.1, Unit.Ohm));
        Read(Key("power.volts-at-device", "", Condition.InfraredOff), new NumberValue(53.1, Unit.Volt));
        Read(Key("power.volts-at-device", "", Condition.InfraredOn), new NumberValue(52.2, Unit.Volt));
        Read(Key("link.speed"), new ChoiceValue("1000"));
        return this;
    }

    private static string FindRoot()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "Walkdown.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }
}
