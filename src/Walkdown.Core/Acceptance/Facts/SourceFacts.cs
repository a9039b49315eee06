using System.Runtime.CompilerServices;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Power;

namespace Walkdown.Core.Acceptance;

/// <summary>A switch or injector with everything that hangs on it.</summary>
/// <param name="Label">Its cabinet and name.</param>
/// <param name="BudgetWatts">What it gives in all; null: nobody has said it.</param>
/// <param name="ReservePercent">Kept back of it.</param>
/// <param name="PortLimitWatts">Most that one port gives.</param>
/// <param name="Ports">Its ports.</param>
public sealed record SourceFacts(
    string Label,
    double? BudgetWatts,
    double ReservePercent,
    double? PortLimitWatts,
    ImmutableArray<SourcePortFacts> Ports
)
{
    private sealed record Worked(Catalogue Catalogue, ImmutableArray<PortLoad> Loads);

    /// <summary>Beside the facts, not of them: many Cards, judged by several at once, hang on one source.</summary>
    private static readonly ConditionalWeakTable<SourceFacts, Worked> Known = [];

    /// <summary>The loads as their own Cards say, worked out once a catalogue.</summary>
    internal ImmutableArray<PortLoad> LoadsUnder(Catalogue catalogue)
    {
        if (Known.TryGetValue(this, out var known) && ReferenceEquals(known.Catalogue, catalogue))
            return known.Loads;
        ImmutableArray<PortLoad> loads = [.. Ports.Select(p => p.LoadUnder(catalogue))];
        Known.AddOrUpdate(this, new(catalogue, loads));
        return loads;
    }

    /// <summary>Its budget, with what one device draws by its newest readings.</summary>
    internal SourceBudget BudgetWith(CardFacts device, Catalogue catalogue) =>
        SiteBudget.Of(
            BudgetWatts,
            ReservePercent,
            PortLimitWatts,
            [
                .. LoadsUnder(catalogue)
                    .Select(l =>
                        l.DeviceId == device.Place.Id ? l with { MeasuredWatts = SiteBudget.MeasuredWatts(device, catalogue) } : l
                    ),
            ]
        );
}

/// <summary>One port of a source.</summary>
/// <param name="PortId">Its id.</param>
/// <param name="Number">From 1.</param>
/// <param name="Priority">Who loses power last.</param>
/// <param name="Uplink">It leads to another switch.</param>
/// <param name="Device">What hangs on it, with what was read of its draw; null: nothing.</param>
/// <param name="OwnSupply">It is fed by a supply of its own.</param>
/// <param name="Shared">Its run is shared.</param>
public sealed record SourcePortFacts(
    Guid PortId,
    int Number,
    PortPriority Priority,
    bool Uplink,
    CardFacts? Device,
    bool OwnSupply,
    bool Shared
)
{
    internal PortLoad LoadUnder(Catalogue catalogue) =>
        PortLoad.Of(
            catalogue,
            PortId,
            Number,
            Priority,
            Uplink,
            Device?.Place,
            Device is null ? null : SiteBudget.MeasuredWatts(Device, catalogue),
            OwnSupply,
            Shared
        );
}
