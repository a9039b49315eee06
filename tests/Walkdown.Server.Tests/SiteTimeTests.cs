using Walkdown.Core.Clocks;

namespace Walkdown.Server.Tests;

public sealed class SiteTimeTests
{
    [Theory]
    [InlineData("Europe/London", "2026-07-01T23:30:00Z", "2026-07-02T00:30:00+01:00")]
    [InlineData("Europe/London", "2026-12-01T23:30:00Z", "2026-12-01T23:30:00+00:00")]
    [InlineData("America/St_Johns", "2026-01-15T02:00:00Z", "2026-01-14T22:30:00-03:30")]
    [InlineData("No/Such_Zone", "2026-01-15T02:00:00+02:00", "2026-01-15T00:00:00+00:00")]
    public void ADayIsTheSites(string zone, string moment, string there)
    {
        var (is_, expected) = (SiteTime.In(zone, DateTimeOffset.Parse(moment)), DateTimeOffset.Parse(there));
        Assert.Equal((expected.DateTime, expected.Offset), (is_.DateTime, is_.Offset));
    }
}
