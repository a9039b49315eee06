using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Power;

/// <summary>Limits of power that must be computed for the row at hand.</summary>
internal static class PowerLimits
{
    /// <summary>Volts that a device on a supply must see.</summary>
    internal static Limit? SupplyOf(Catalogue catalogue, SupplyRange range) => catalogue.Limit("supply." + Codes.Of(range));

    internal static void PoeClassVolts(RowContext c, List<Limit> into)
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
                        "IEEE 802.3 clauses 33 and 145",
                        $"class {number} must work at the end of its longest channel",
                        c.Catalogue.LimitSet.Edition
                    )
            )
        );
    }

    /// <summary>Volts that a source of the device's class holds at its port, under load.</summary>
    internal static void SourceVolts(RowContext c, List<Limit> into)
    {
        if (c.PowerClass is not { } number)
            return;
        into.Add(
            c.Catalogue.Made(
                ("poe.source-volts", number),
                () =>
                    new Limit(
                        $"poe.source-volts.class-{number}",
                        PoeClass.Of(number).SourceMinVolts,
                        PoeClass.MaxVolts,
                        Unit.Volt,
                        "IEEE 802.3 clauses 33 and 145",
                        $"a source of class {number} holds it while the device draws",
                        c.Catalogue.LimitSet.Edition
                    )
            )
        );
    }

    internal static void PoeClassWatts(RowContext c, List<Limit> into)
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
    internal static void PortWatts(RowContext c, List<Limit> into)
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

    internal static void SupplyRangeOf(RowContext c, List<Limit> into)
    {
        if (c.Facts.Supply is { } supply && SupplyOf(c.Catalogue, supply.Range) is { } limit)
            into.Add(limit);
    }

    internal static void BootTime(RowContext c, List<Limit> into)
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

    /// <summary>Seconds from power to picture, least and most: the model's, else those of the limit set.</summary>
    internal static (double Least, double Most) BootOf(Catalogue catalogue, string? model)
    {
        var template = model is null ? null : catalogue.Model(model);
        return (
            template?.BootSecondsLeast ?? catalogue.Figure("boot.least-seconds"),
            template?.BootSecondsMost ?? catalogue.Figure("boot.most-seconds")
        );
    }
}
