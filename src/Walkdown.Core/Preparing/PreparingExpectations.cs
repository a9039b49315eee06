using Walkdown.Core.Acceptance;
using static Walkdown.Core.Acceptance.Expecting;

namespace Walkdown.Core.Preparing;

/// <summary>What is expected before anybody climbs.</summary>
internal static class PreparingExpectations
{
    internal static Expectation Firmware(RowContext c) =>
        c.Model?.Firmware is { } baseline
            ? new(null, null, baseline, "expect.firmware", [])
            : None("expect.firmware", "expect.none.no-baseline");
}
