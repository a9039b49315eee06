using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;

namespace Walkdown.Core.Power;

/// <summary>One port with what hangs on it.</summary>
/// <param name="PlannedWatts">At the device, at its heaviest, by plan or template.</param>
/// <param name="MeasuredWatts">At the port, see <see cref="SiteBudget.Heaviest"/>; null where none was taken.</param>
/// <param name="Powered">False for what does not draw from the port: a recorder, a device on its own supply, a shared run.</param>
/// <param name="PortId">The port.</param>
/// <param name="Number">From 1.</param>
/// <param name="DeviceId">The place.</param>
/// <param name="Label">Its label.</param>
/// <param name="PowerClass">Power over Ethernet class, 0 to 8; null: not fed so.</param>
/// <param name="Priority">Who loses power last.</param>
/// <param name="Uplink">It leads to another switch.</param>
/// <param name="IsCamera">A camera hangs on it.</param>
public sealed record PortLoad(
    Guid PortId,
    int Number,
    Guid? DeviceId,
    string Label,
    int? PowerClass,
    double? PlannedWatts,
    double? MeasuredWatts,
    PortPriority Priority,
    bool Uplink,
    bool IsCamera,
    bool Powered
)
{
    /// <summary>A port with what hangs on it, by plan or template and by what was measured.</summary>
    /// <param name="catalogue">Its kinds and models.</param>
    /// <param name="portId">The port.</param>
    /// <param name="number">From 1.</param>
    /// <param name="priority">Who loses power last.</param>
    /// <param name="uplink">It leads to another switch.</param>
    /// <param name="place">What hangs on it; null: nothing.</param>
    /// <param name="measuredWatts">At the port; null where none was taken.</param>
    /// <param name="ownSupply">It is fed by a supply of its own.</param>
    /// <param name="sharedRun">Its run is shared.</param>
    public static PortLoad Of(
        Catalogue catalogue,
        Guid portId,
        int number,
        PortPriority priority,
        bool uplink,
        PlaceFacts? place,
        double? measuredWatts,
        bool ownSupply,
        bool sharedRun
    )
    {
        if (place is null)
            return new(portId, number, null, "", null, null, null, priority, uplink, IsCamera: false, Powered: false);
        var plate = catalogue.NameplateOf(place.Kind, place.Model, place.PowerClass, place.WattsInfraredOff, place.WattsInfraredOn);
        var features = catalogue.FeaturesOf(place.Kind, [.. place.Features, .. catalogue.Model(place.Model)?.Features ?? []]);
        return new(
            portId,
            number,
            place.Id,
            place.Label,
            plate.PowerClass,
            plate.MostWatts,
            measuredWatts,
            priority,
            uplink,
            features.Contains("camera"),
            SiteBudget.DrawsFromPort(features, ownSupply, sharedRun)
        );
    }
}
