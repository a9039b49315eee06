using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Cabling;

/// <summary>Limits of a run that must be computed for the row at hand.</summary>
internal static class CableLimits
{
    internal static string Suffix(LinkConfiguration configuration) =>
        configuration == LinkConfiguration.Channel ? "channel" : "permanent-link";

    internal static string Suffix(RunFacts run) => Suffix(run.Configuration);

    internal static void RunLength(RowContext c, List<Limit> into)
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
        Catalogue catalogue,
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
    internal static Limit? LoopOf(Catalogue catalogue, LinkConfiguration configuration) => catalogue.Limit("loop." + Suffix(configuration));

    internal static Limit? SkewOf(Catalogue catalogue, LinkConfiguration configuration) => catalogue.Limit("skew." + Suffix(configuration));

    internal static Unbalance.Limits UnbalanceOf(Catalogue catalogue) =>
        new(
            catalogue.Figure("unbalance.within-percent"),
            catalogue.Figure("unbalance.within-ohms"),
            catalogue.Figure("unbalance.between-percent"),
            catalogue.Figure("unbalance.between-ohms")
        );

    internal static void LengthAgreesWithPlan(RowContext c, List<Limit> into)
    {
        if (c.Run is not { } run || run.LengthMetres.Origin == Origin.Assumed)
            return;
        var planned = run.TotalPlannedMetres;
        into.Add(Agrees(c, "agree.length", planned, Unit.Metre, "agree.length-metres", "the cable should be the one on the plan"));
    }

    /// <summary>Near enough to what it should be: so many percent and so much beside, never below 0.</summary>
    internal static Limit Agrees(RowContext c, string id, double nominal, Unit unit, string absolute, string purpose)
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

    internal static void LoopOfConfiguration(RowContext c, List<Limit> into)
    {
        if (c.Run is { } run && LoopOf(c.Catalogue, run.Configuration) is { } limit)
            into.Add(limit);
    }

    /// <summary>Resistance against length: only once the length was measured, since a planned length proves nothing about the
    /// conductor.</summary>
    internal static void LoopAgreesWithCable(RowContext c, List<Limit> into)
    {
        if (c.MeasuredLengthMetres is null || CableExpectations.LoopOfCable(c).Value is not { } expected)
            return;
        into.Add(Agrees(c, "agree.loop", expected.Value, Unit.Ohm, "agree.loop-ohms", "the conductor should be the one on the plan"));
    }

    internal static void DelayOfConfiguration(RowContext c, List<Limit> into)
    {
        if (c.Run is { } run && c.Catalogue.Limit("delay." + Suffix(run)) is { } limit)
            into.Add(limit);
    }

    /// <summary>Difference of both conductors of a pair against the larger of a share of its loop and a floor.</summary>
    internal static void UnbalanceWithin(RowContext c, List<Limit> into)
    {
        if (c.Run is not { } run)
            return;
        var loop =
            c.Counting.Number(KnownChecks.LoopResistance, new Subject(SubjectKind.Run, run.Id, c.Key.On.Part))
            ?? CableExpectations.LoopOfCable(c).Value?.Value
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
}
