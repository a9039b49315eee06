using Walkdown.Core.Acceptance;
using Walkdown.Core.Aiming;
using Walkdown.Core.Measures;
using static Walkdown.Core.Acceptance.Expecting;

namespace Walkdown.Core.Fixing;

/// <summary>What the fixing of a device should read.</summary>
internal static class FixingExpectations
{
    internal static Expectation PlannedMount(RowContext c) =>
        c.Facts.Place.Mount is { } mount ? new(null, null, mount, "expect.mount", []) : None("expect.mount", "expect.none.no-mount");

    internal static Expectation AgreedBearing(RowContext c) =>
        AgreedViews.Bearing(c) is { } bearing
            ? new(
                new(bearing, Unit.Degree),
                null,
                null,
                "expect.agreed-bearing",
                [new("term.bearing", Message.Number(bearing, 0) + "\u00b0", Origin.Planned)]
            )
            : None("expect.agreed-bearing", "expect.none.no-bearing");

    internal static Expectation PlannedHeight(RowContext c) =>
        AgreedViews.Height(c) is { } agreed ? agreed
        : c.Facts.Place.HeightMetres is { } height
            ? new(new(height, Unit.Metre), null, null, "expect.height", [new("term.height", Message.Number(height) + " m", Origin.Planned)])
        : None("expect.height", "expect.none.no-height");
}
