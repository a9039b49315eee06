using Walkdown.Core.Measures;

namespace Walkdown.Core.Power;

/// <summary>Budgets of switch, injector and splitter (IEEE 802.3 clauses 33 and 145; docs/calculations.md, C).</summary>
public static class Budgets
{
    /// <summary>A port that asks a switch for power: its class, what was measured in watts, what it may lose last.</summary>
    public readonly record struct BudgetPort(int Port, int PowerClass, double? MeasuredWatts, PortPriority Priority = PortPriority.Low);

    /// <summary>What a switch can give, and to whom.</summary>
    /// <param name="UsableWatts">Watts that it may give.</param>
    /// <param name="DemandWatts">Watts asked.</param>
    /// <param name="GrantedWatts">Watts given.</param>
    /// <param name="Granted">Ports that get it, in order.</param>
    /// <param name="Refused">Ports that do not.</param>
    public sealed record SwitchResult(
        double UsableWatts,
        double DemandWatts,
        double GrantedWatts,
        ImmutableArray<int> Granted,
        ImmutableArray<int> Refused
    )
    {
        /// <summary>Watts left; negative: short.</summary>
        public double HeadroomWatts => UsableWatts - DemandWatts;
    }

    /// <summary>Grants in order critical, high, low, then port number; a port that does not fit is refused, later smaller ones are still
    /// tried.</summary>
    public static SwitchResult Switch(double budgetWatts, IReadOnlyList<BudgetPort> ports, bool byMeasured, double reservePercent = 0)
    {
        Require.Number(budgetWatts, "budget_w", 0);
        Require.Number(reservePercent, "reserve_percent", 0);
        if (reservePercent >= 100)
            throw new BadInputException(BadInputReason.AboveMaximum, "reserve_percent");
        foreach (var port in ports)
            Require.Number(port.Port, "ports.port", 1);
        Require.Consistent(ports.Select(p => p.Port).Distinct().Count() == ports.Count, "ports.port");
        var usable = budgetWatts * (1 - reservePercent / 100);
        double granted = 0,
            demand = 0;
        List<int> given = [],
            refused = [];
        foreach (var port in ports.OrderBy(p => p.Priority).ThenBy(p => p.Port))
        {
            var classWatts = PoeClass.Of(port.PowerClass).SourceWatts;
            if (byMeasured && port.MeasuredWatts is null)
                throw new BadInputException(BadInputReason.Missing, "ports.measured_w");
            var watts = byMeasured ? Require.Number(port.MeasuredWatts!.Value, "ports.measured_w", 0) : classWatts;
            demand += watts;
            if (Decision.AtMost(granted + watts, usable))
            {
                granted += watts;
                given.Add(port.Port);
            }
            else
                refused.Add(port.Port);
        }
        return new SwitchResult(usable, demand, granted, [.. given.Order()], [.. refused.Order()]);
    }

    /// <summary>Watts along an injector and a splitter, and the lowest class that carries them.</summary>
    public readonly record struct Chain(double SplitterInputWatts, double SourceOutputWatts, double MainsInputWatts, int? LowestClass);

    /// <summary>Watts that a splitter takes for what it gives to the device behind it.</summary>
    public static double SplitterInputWatts(double deviceWatts, double splitterPercent) =>
        deviceWatts / (Require.Positive(splitterPercent, "splitter_efficiency_percent", 100) / 100);

    /// <summary>Watts up the chain from a device behind a splitter to the injector's mains side.</summary>
    public static Chain ThroughSplitterAndInjector(
        double deviceWatts,
        double splitterPercent,
        double cableLossWatts,
        double injectorPercent
    )
    {
        Require.Number(deviceWatts, "device_power_w", 0);
        Require.Number(cableLossWatts, "cable_loss_w", 0);
        Require.Positive(injectorPercent, "injector_efficiency_percent", 100);
        var input = SplitterInputWatts(deviceWatts, splitterPercent);
        var output = input + cableLossWatts;
        return new Chain(input, output, output / (injectorPercent / 100), PoeClass.LowestFor(input));
    }

    /// <summary>What a source grants a device.</summary>
    public readonly record struct Grant(int? Class, double? Watts, GrantVerdict Verdict);

    /// <summary>Power granted by classification events, and what happens where the device needs more.</summary>
    public static Grant Granted(
        int requestedClass,
        int classEvents,
        SourceMode source,
        DeviceSetting device,
        double deviceNeedWatts,
        double? sourceLimitWatts = null
    )
    {
        PoeClass.Of(requestedClass);
        Require.Number(deviceNeedWatts, "device_need_w", 0);
        if (sourceLimitWatts is { } limit)
            Require.Positive(limit, "source_limit_w");
        var allowed = classEvents switch
        {
            1 => 3,
            2 or 3 => 4,
            4 => 6,
            5 => 8,
            _ => throw new BadInputException(BadInputReason.UnknownValue, "class_events"),
        };
        if (source == SourceMode.Passive)
            return new Grant(null, null, GrantVerdict.PassiveSourceNoDetectionDoNotConnectBlind);
        if (source == SourceMode.LegacyHighPower && sourceLimitWatts is null)
            throw new BadInputException(BadInputReason.Missing, "source_limit_w");
        var granted = Math.Min(requestedClass, allowed);
        var legacyPair = source == SourceMode.LegacyHighPower && device == DeviceSetting.LegacyHighPower;
        var watts = legacyPair ? sourceLimitWatts!.Value : PoeClass.Of(granted).DeviceWatts;
        if (Decision.AtMost(deviceNeedWatts, watts))
            return new Grant(granted, watts, legacyPair ? GrantVerdict.OkByLegacySetting : GrantVerdict.Ok);
        var verdict = (source, device) switch
        {
            (SourceMode.LegacyHighPower, DeviceSetting.LegacyHighPower) => GrantVerdict.SourceTooSmall,
            (SourceMode.LegacyHighPower, _) => GrantVerdict.DeviceLimitsItselfSetTheDeviceToLegacyHighPower,
            (_, DeviceSetting.LegacyHighPower) => GrantVerdict.OverloadRiskDeviceMayDrawMoreThanGranted,
            _ => GrantVerdict.ReducedPowerFunctionsMaySwitchOff,
        };
        return new Grant(granted, watts, verdict);
    }
}
