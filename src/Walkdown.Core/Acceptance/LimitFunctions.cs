using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;

namespace Walkdown.Core.Acceptance;

/// <summary>Core's closed registry of limits that must be computed for the row at hand.</summary>
internal static class LimitFunctions
{
    /// <summary>Adds the limits that it makes for a row; none where what it needs is not known.</summary>
    public delegate void Function(RowContext context, List<Limit> into);

    public static readonly IReadOnlyDictionary<string, Function> All = new Dictionary<string, Function>
    {
        ["run-length"] = RunLength,
        ["length-agrees-with-plan"] = LengthAgreesWithPlan,
        ["loop-of-configuration"] = LoopOfConfiguration,
        ["loop-agrees-with-cable"] = LoopAgreesWithCable,
        ["poe-class-volts"] = PoeClassVolts,
        ["poe-class-watts"] = PoeClassWatts,
        ["port-watts"] = PortWatts,
        ["supply-range"] = SupplyRangeOf,
        ["delay-of-configuration"] = DelayOfConfiguration,
        ["unbalance-within"] = UnbalanceWithin,
        ["boot-time"] = BootTime,
        ["tilt-window"] = TiltWindow,
        ["height-window"] = HeightWindow,
        ["box-session"] = BoxSession,
    };

    /// <summary>Unit of each of them: a check in another would hold metres against volts.</summary>
    public static readonly IReadOnlyDictionary<string, Unit> Units = new Dictionary<string, Unit>
    {
        ["run-length"] = Unit.Metre,
        ["length-agrees-with-plan"] = Unit.Metre,
        ["loop-of-configuration"] = Unit.Ohm,
        ["loop-agrees-with-cable"] = Unit.Ohm,
        ["poe-class-volts"] = Unit.Volt,
        ["poe-class-watts"] = Unit.Watt,
        ["port-watts"] = Unit.Watt,
        ["supply-range"] = Unit.Volt,
        ["delay-of-configuration"] = Unit.Nanosecond,
        ["unbalance-within"] = Unit.Ohm,
        ["boot-time"] = Unit.Second,
        ["tilt-window"] = Unit.Degree,
        ["height-window"] = Unit.Metre,
        ["box-session"] = Unit.Minute,
    };

    /// <summary>What a computed limit needs and may not have: said where a reading has no limit to be judged by.</summary>
    private static readonly IReadOnlyDictionary<string, string> Missing = new Dictionary<string, string>
    {
        ["poe-class-volts"] = "missing.power-class",
        ["poe-class-watts"] = "missing.power-class",
        ["port-watts"] = "missing.port-limit",
        ["supply-range"] = "missing.supply",
        ["tilt-window"] = "missing.model-tilt",
        ["height-window"] = "missing.model-height",
        ["box-session"] = "missing.model-box",
        ["length-agrees-with-plan"] = "missing.length",
        ["loop-agrees-with-cable"] = "missing.length",
    };

    /// <summary>What somebody would have to give so that the check had a limit.</summary>
    internal static IEnumerable<Message> MissingFor(CheckDefinition check) =>
        check
            .Limits.Where(l => l.StartsWith("fn:", StringComparison.Ordinal))
            .Select(l => Missing.GetValueOrDefault(l[3..]))
            .OfType<string>()
            .Distinct()
            .Select(code => new Message(code));

    /// <summary>Figures of the limit set that these functions need.</summary>
    public static readonly ImmutableArray<string> Figures =
    [
        "agree.length-percent",
        "agree.length-metres",
        "agree.loop-percent",
        "agree.loop-ohms",
        "unbalance.within-percent",
        "unbalance.within-ohms",
        "unbalance.between-percent",
        "unbalance.between-ohms",
        "contact.connector-ohms",
        "contact.sharing-adapter-ohms",
        "contact.protector-ohms",
        "splitter.efficiency-percent",
        "supply.derating",
        "supply.fuse-load",
        "tilt.infrared-least",
        "tilt.analytics-most",
        "height.analytics-least",
        "boot.least-seconds",
        "boot.most-seconds",
        "loss.wired-percent",
        "loss.wireless-percent",
        "round-trip.wired-ms",
        "round-trip.wireless-ms",
        "errors.ppm",
    ];

    private static string Suffix(LinkConfiguration configuration) =>
        configuration == LinkConfiguration.Channel ? "channel" : "permanent-link";

    private static string Suffix(RunFacts run) => Suffix(run.Configuration);

    private static void RunLength(RowContext c, List<Limit> into)
    {
        if (
            c.Run is { } run
            && LengthOf(c.Catalogue, run.Configuration, run.TemperatureC.Value, run.Screened, run.CordsMetres, run.CordGaugeAwg)
                is { } limit
        )
            into.Add(limit);
    }

    /// <summary>Channel or permanent link, less what temperature and thin cords take off.</summary>
    internal static Limit? LengthOf(
        Catalogue.Catalogue catalogue,
        LinkConfiguration configuration,
        double temperatureC,
        bool screened,
        double cordsMetres,
        double cordGaugeAwg
    )
    {
        if (catalogue.Limit("length." + Suffix(configuration)) is not { Max: { } nominal } limit)
            return null;
        var temperature = Math.Clamp(temperatureC, -40, 75);
        var metres = CableLength.DerateForTemperature(nominal, temperature, screened).LengthMetres;
        // Thin cords lose half as much again as their length: H + (1 + D) C at most 102 is kept by a shorter whole.
        if (cordsMetres > 0 && cordGaugeAwg is 26 && configuration == LinkConfiguration.Channel)
            metres = Math.Min(metres, 102 - 0.5 * cordsMetres);
        return metres < nominal - 0.05
            ? limit with
            {
                Id = limit.Id + ".derated",
                Max = metres,
                Purpose = $"{limit.Purpose}; {Message.Number(nominal)} m at 20 \u00b0C, less at {Message.Number(temperature)} \u00b0C",
            }
            : limit;
    }

    /// <summary>Loop of one pair at most, for a configuration.</summary>
    internal static Limit? LoopOf(Catalogue.Catalogue catalogue, LinkConfiguration configuration) =>
        catalogue.Limit("loop." + Suffix(configuration));

    internal static Limit? SkewOf(Catalogue.Catalogue catalogue, LinkConfiguration configuration) =>
        catalogue.Limit("skew." + Suffix(configuration));

    /// <summary>Volts that a device on a supply must see.</summary>
    internal static Limit? SupplyOf(Catalogue.Catalogue catalogue, SupplyRange range) => catalogue.Limit("supply." + Codes.Of(range));

    internal static Unbalance.Limits UnbalanceOf(Catalogue.Catalogue catalogue) =>
        new(
            catalogue.Figure("unbalance.within-percent"),
            catalogue.Figure("unbalance.within-ohms"),
            catalogue.Figure("unbalance.between-percent"),
            catalogue.Figure("unbalance.between-ohms")
        );

    private static void LengthAgreesWithPlan(RowContext c, List<Limit> into)
    {
        if (c.Run is not { } run || run.LengthMetres.Origin == Origin.Assumed)
            return;
        var planned = run.TotalPlannedMetres;
        into.Add(Agrees(c, "agree.length", planned, Unit.Metre, "agree.length-metres", "the cable should be the one on the plan"));
    }

    /// <summary>Near enough to what it should be: so many percent and so much beside, never below 0.</summary>
    private static Limit Agrees(RowContext c, string id, double nominal, Unit unit, string absolute, string purpose)
    {
        var percent = id + "-percent";
        var (min, max) = LimitWindow.AroundNominal(nominal, c.Catalogue.Figure(percent));
        var more = c.Catalogue.Figure(absolute);
        return new Limit(
            id,
            Math.Max(0, min - more),
            max + more,
            unit,
            c.Catalogue.FigureSource(percent),
            purpose,
            c.Catalogue.LimitSet.Edition
        );
    }

    private static void LoopOfConfiguration(RowContext c, List<Limit> into)
    {
        if (c.Run is { } run && LoopOf(c.Catalogue, run.Configuration) is { } limit)
            into.Add(limit);
    }

    /// <summary>Resistance against length: only once the length was measured, since a planned length proves nothing about the
    /// conductor.</summary>
    private static void LoopAgreesWithCable(RowContext c, List<Limit> into)
    {
        if (c.MeasuredLengthMetres is null || Expectations.LoopOfCable(c).Value is not { } expected)
            return;
        into.Add(Agrees(c, "agree.loop", expected.Value, Unit.Ohm, "agree.loop-ohms", "the conductor should be the one on the plan"));
    }

    private static void PoeClassVolts(RowContext c, List<Limit> into)
    {
        if (c.PowerClass is not { } number)
            return;
        into.Add(
            c.Catalogue.Made(
                ("poe.volts", number),
                () =>
                    new Limit(
                        $"poe.volts.class-{number}",
                        PoeClass.Of(number).DeviceMinVolts,
                        PoeClass.MaxVolts,
                        Unit.Volt,
                        "IEEE 802.3 clauses 33 and 145 (verify)",
                        $"class {number} must work at the end of its longest channel",
                        c.Catalogue.LimitSet.Edition
                    )
            )
        );
    }

    private static void PoeClassWatts(RowContext c, List<Limit> into)
    {
        if (c.PowerClass is not { } number)
            return;
        into.Add(
            c.Catalogue.Made(
                ("poe.watts", number),
                () =>
                    new Limit(
                        $"poe.watts.class-{number}",
                        null,
                        PoeClass.Of(number).DeviceWatts,
                        Unit.Watt,
                        "IEEE 802.3 clauses 33 and 145",
                        $"class {number} grants no more",
                        c.Catalogue.LimitSet.Edition
                    )
            )
        );
    }

    /// <summary>What a port may give: its class at the source, and its own limit.</summary>
    private static void PortWatts(RowContext c, List<Limit> into)
    {
        if (c.PowerClass is { } number && c.Run?.Port?.Mode != SourceMode.LegacyHighPower)
            into.Add(
                c.Catalogue.Made(
                    ("poe.source-watts", number),
                    () =>
                        new Limit(
                            $"poe.source-watts.class-{number}",
                            null,
                            PoeClass.Of(number).SourceWatts,
                            Unit.Watt,
                            "IEEE 802.3 clauses 33 and 145",
                            $"class {number} is granted no more",
                            c.Catalogue.LimitSet.Edition
                        )
                )
            );
        if (c.Run?.Port?.LimitWatts is { } limit)
            into.Add(
                new Limit(
                    "port.watts",
                    null,
                    limit,
                    Unit.Watt,
                    "the switch or injector",
                    "this port gives no more",
                    c.Catalogue.LimitSet.Edition
                )
            );
    }

    private static void SupplyRangeOf(RowContext c, List<Limit> into)
    {
        if (c.Facts.Supply is { } supply && SupplyOf(c.Catalogue, supply.Range) is { } limit)
            into.Add(limit);
    }

    private static void DelayOfConfiguration(RowContext c, List<Limit> into)
    {
        if (c.Run is { } run && c.Catalogue.Limit("delay." + Suffix(run)) is { } limit)
            into.Add(limit);
    }

    /// <summary>Difference of both conductors of a pair against the larger of a share of its loop and a floor.</summary>
    private static void UnbalanceWithin(RowContext c, List<Limit> into)
    {
        if (c.Run is not { } run)
            return;
        var loop =
            c.Counting.Number(KnownChecks.LoopResistance, new Subject(SubjectKind.Run, run.Id, c.Key.On.Part))
            ?? Expectations.LoopOfCable(c).Value?.Value
            ?? 0;
        var allow = UnbalanceOf(c.Catalogue);
        into.Add(
            new Limit(
                "unbalance.within",
                null,
                Math.Max(allow.WithinPercent / 100 * loop, allow.WithinOhms),
                Unit.Ohm,
                c.Catalogue.FigureSource("unbalance.within-percent"),
                "current shares evenly between both conductors",
                c.Catalogue.LimitSet.Edition
            )
        );
    }

    private static void BootTime(RowContext c, List<Limit> into)
    {
        var (least, most) = BootOf(c.Catalogue, c.Model?.Id);
        into.Add(
            new Limit(
                "boot",
                least,
                most,
                Unit.Second,
                c.Model?.BootSecondsMost is null ? c.Catalogue.FigureSource("boot.most-seconds") : "the model's template",
                "too early is wait, too late is a fault",
                c.Catalogue.LimitSet.Edition
            )
        );
    }

    /// <summary>Each tilt limit belongs to a purpose: the mechanics, the infrared, the analytics. They are intersected; where they exclude
    /// each other that is said.</summary>
    private static void TiltWindow(RowContext c, List<Limit> into)
    {
        if (c.Model is { } model && (model.TiltLeast is not null || model.TiltGreatest is not null))
            into.Add(
                new Limit(
                    "tilt.model",
                    model.TiltLeast,
                    model.TiltGreatest,
                    Unit.Degree,
                    "the model's template",
                    "the mount's own stops",
                    c.Catalogue.LimitSet.Edition
                )
            );
        if (c.Has("infrared"))
            into.Add(
                new Limit(
                    "tilt.infrared",
                    c.Catalogue.Figure("tilt.infrared-least"),
                    null,
                    Unit.Degree,
                    c.Catalogue.FigureSource("tilt.infrared-least"),
                    "built-in infrared must not light rim, wall or sky",
                    c.Catalogue.LimitSet.Edition
                )
            );
        if (c.Has("analytics"))
            into.Add(
                new Limit(
                    "tilt.analytics",
                    null,
                    c.Catalogue.Figure("tilt.analytics-most"),
                    Unit.Degree,
                    c.Catalogue.FigureSource("tilt.analytics-most"),
                    "analytics want people upright",
                    c.Catalogue.LimitSet.Edition
                )
            );
    }

    private static void HeightWindow(RowContext c, List<Limit> into)
    {
        if (c.Model is { } model && (model.HeightLeastMetres is not null || model.HeightGreatestMetres is not null))
            into.Add(
                new Limit(
                    "height.model",
                    model.HeightLeastMetres,
                    model.HeightGreatestMetres,
                    Unit.Metre,
                    "the model's template",
                    "what the model is made for",
                    c.Catalogue.LimitSet.Edition
                )
            );
        if (c.Has("analytics"))
            into.Add(
                new Limit(
                    "height.analytics",
                    c.Catalogue.Figure("height.analytics-least"),
                    null,
                    Unit.Metre,
                    c.Catalogue.FigureSource("height.analytics-least"),
                    "analytics need a view from above",
                    c.Catalogue.LimitSet.Edition
                )
            );
    }

    private static void BoxSession(RowContext c, List<Limit> into)
    {
        if (c.Model?.BoxSessionMinutes is { } most)
            into.Add(
                new Limit(
                    "box-session",
                    null,
                    most,
                    Unit.Minute,
                    "the model's template",
                    "powered in its box it overheats",
                    c.Catalogue.LimitSet.Edition
                )
            );
    }

    /// <summary>Seconds from power to picture, least and most: the model's, else those of the limit set.</summary>
    internal static (double Least, double Most) BootOf(Catalogue.Catalogue catalogue, string? model)
    {
        var template = model is null ? null : catalogue.Model(model);
        return (
            template?.BootSecondsLeast ?? catalogue.Figure("boot.least-seconds"),
            template?.BootSecondsMost ?? catalogue.Figure("boot.most-seconds")
        );
    }
}
