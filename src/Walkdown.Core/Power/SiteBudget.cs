using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Power;

/// <summary>Budgets over a site (docs/calculations.md, C): granted in order critical, high, low, then port number.</summary>
public static class SiteBudget
{
    /// <summary>A source's budget by class and by draw, port by port.</summary>
    public static SourceBudget Of(double? budgetWatts, double reservePercent, double? portLimitWatts, IReadOnlyCollection<PortLoad> ports)
    {
        var findings = ImmutableArray.CreateBuilder<PortFinding>();
        var byClass = new List<Budgets.BudgetPort>(ports.Count);
        var byDraw = new List<Budgets.BudgetPort>(ports.Count);
        int powered = 0,
            measured = 0;
        foreach (var port in ports)
        {
            if (port.Uplink && port.IsCamera)
                findings.Add(new(port.Number, new("budget.camera-on-uplink", port.Label)));
            if (!port.Powered)
                continue;
            powered++;
            if (port.MeasuredWatts is not null)
                measured++;
            if (port.PowerClass is not { } number)
            {
                findings.Add(new(port.Number, new("budget.no-class", port.Label)));
                number = 0;
            }
            var allowed = PoeClass.Of(number).SourceWatts;
            if (
                portLimitWatts is { } limit
                && !Decision.AtMost(Math.Min(port.MeasuredWatts ?? port.PlannedWatts ?? allowed, allowed), limit)
            )
                findings.Add(
                    new(
                        port.Number,
                        new(
                            "budget.port-limit",
                            port.Label,
                            Message.Number(port.MeasuredWatts ?? port.PlannedWatts ?? allowed, 1),
                            Message.Number(limit, 1)
                        )
                    )
                );
            if (port is { MeasuredWatts: { } drawn, PowerClass: not null } && !Decision.AtMost(drawn, allowed))
                findings.Add(new(port.Number, new("budget.over-class", port.Label, Message.Number(drawn, 1), Message.Number(allowed, 1))));
            byClass.Add(new(port.Number, number, null, port.Priority));
            byDraw.Add(new(port.Number, number, port.MeasuredWatts ?? port.PlannedWatts ?? allowed, port.Priority));
        }
        // Two runs drawn to one port are a finding of the register; here each counts once.
        byClass = [.. byClass.DistinctBy(p => p.Port)];
        byDraw = [.. byDraw.DistinctBy(p => p.Port)];
        var loads = ports.Where(p => p.Powered).DistinctBy(p => p.Number).ToDictionary(p => p.Number);
        ImmutableArray<PortShare> order =
        [
            .. byDraw
                .OrderBy(p => p.Priority)
                .ThenBy(p => p.Port)
                .Select(p => new PortShare(
                    p.Port,
                    loads[p.Port].Label,
                    PoeClass.Of(p.PowerClass).SourceWatts,
                    p.MeasuredWatts!.Value,
                    OriginOf(loads[p.Port])
                )),
        ];
        int? first = order.IsEmpty ? null : order[^1].Port;
        if (budgetWatts is not { } budget)
        {
            return new SourceBudget(
                null,
                new(byClass.Sum(p => PoeClass.Of(p.PowerClass).SourceWatts), null, []),
                new(byDraw.Sum(p => p.MeasuredWatts!.Value), null, []),
                powered,
                measured,
                first,
                findings.ToImmutable(),
                order
            );
        }
        var classes = Budgets.Switch(budget, byClass, byMeasured: false, reservePercent);
        var draws = Budgets.Switch(budget, byDraw, byMeasured: true, reservePercent);
        return new SourceBudget(
            classes.UsableWatts,
            new(classes.DemandWatts, classes.HeadroomWatts, classes.Refused),
            new(draws.DemandWatts, draws.HeadroomWatts, draws.Refused),
            powered,
            measured,
            first,
            findings.ToImmutable(),
            order
        );
    }

    /// <summary>Cameras that are only tried, each on the lowest port that nothing hangs on, or behind the last.</summary>
    public static ImmutableArray<PortLoad> More(IReadOnlyCollection<PortLoad> ports, IEnumerable<MoreCamera> more)
    {
        var used = ports.Where(p => p.DeviceId is not null || p.Uplink).Select(p => p.Number).ToHashSet();
        var number = 0;
        return
        [
            .. more.Select(camera =>
            {
                do number++;
                while (used.Contains(number));
                var label = "+" + number.ToString(CultureInfo.InvariantCulture);
                return new PortLoad(
                    Guid.Empty,
                    number,
                    null,
                    label,
                    camera.PowerClass,
                    camera.Watts,
                    null,
                    PortPriority.Low,
                    Uplink: false,
                    IsCamera: true,
                    Powered: true
                );
            }),
        ];
    }

    private static Origin OriginOf(PortLoad port) =>
        port.MeasuredWatts is not null ? Origin.Measured
        : port.PlannedWatts is not null ? Origin.Planned
        : Origin.Assumed;

    /// <summary>What the budget of its source means for one port: the state it is in and why. By draw before by class, since by class a
    /// switch may grant less than it can give.</summary>
    public static (State State, Message Why) StandingOf(SourceBudget budget, int port)
    {
        var draw = Message.Number(budget.ByDraw.DemandWatts, 0);
        if (budget.UsableWatts is not { } usable)
            return (State.NotTaken, new("budget.unknown", draw));
        var gives = Message.Number(usable, 0);
        if (budget.ByDraw.Refused.Contains(port))
            return (State.Out, new("budget.drops-this", gives, draw));
        if (!budget.ByDraw.Refused.IsEmpty)
            return (State.TooClose, new("budget.drops-others", gives, draw, string.Join(", ", budget.ByDraw.Refused)));
        if (budget.ByClass.Refused.Contains(port))
            return (State.TooClose, new("budget.class-drops-this", gives, Message.Number(budget.ByClass.DemandWatts, 0)));
        return (State.In, budget.FirstToDrop == port ? new("budget.fits-and-first", gives, draw) : new("budget.fits", gives, draw));
    }

    /// <summary>
    /// The draw that a budget may lean on, watt: the largest reading with infrared or heater on, or of a device that has neither. A
    /// reading by day is no worst case, so that alone gives none.
    /// </summary>
    public static double? Heaviest(IEnumerable<(Condition Under, double Watts)> readings)
    {
        double? most = null;
        foreach (var (under, watts) in readings)
            if (!under.HasFlag(Condition.InfraredOff) && !(most >= watts))
                most = watts;
        return most;
    }

    /// <summary>The draw of a device that was measured: at the port before at the device.</summary>
    public static double? MeasuredWatts(CardFacts facts, Catalogue catalogue)
    {
        double? Of(CheckId check) => Heaviest(Card.NumbersOf(facts, catalogue, check).Select(n => (n.Key.Under, n.Value)));
        return Of(KnownChecks.WattsAtPort) ?? Of(KnownChecks.WattsAtDevice);
    }

    /// <summary>Whether a device takes its power from the port that its run ends at.</summary>
    public static bool DrawsFromPort(IReadOnlySet<string> features, bool ownSupply, bool sharedRun) =>
        features.Contains("poe") && !ownSupply && !sharedRun;
}
