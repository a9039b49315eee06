using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using static Walkdown.Core.Acceptance.Expecting;

namespace Walkdown.Core.Links;

/// <summary>What a link should read.</summary>
internal static class LinkExpectations
{
    internal static readonly Expectation Connected = new(null, null, "@light.connected", "expect.light", []);

    internal static Expectation PlannedSpeed(RowContext c) =>
        c.SpeedMbps is { } speed
            ? new(
                new(speed, Unit.MegabitPerSecond),
                null,
                speed.ToString(CultureInfo.InvariantCulture),
                "expect.planned-speed",
                [new("term.speed", speed + " Mb/s", Origin.Planned)]
            )
            : None("expect.planned-speed", "expect.none.no-speed");
}
