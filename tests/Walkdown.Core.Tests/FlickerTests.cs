using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Tests;

/// <summary>Shutter and rate under lamps on the mains, as a row of the Card.</summary>
public sealed class FlickerTests
{
    [Theory]
    [InlineData("50", 25, 100, State.In, "flicker.whole")]
    [InlineData("50", 25, 50, State.In, "flicker.whole")]
    [InlineData("60", 30, 120, State.In, "flicker.whole")]
    [InlineData("50", 25, 120, State.Out, "flicker.part flicker.still")]
    // A rate of the other mains: its bands crawl, unless the shutter is right.
    [InlineData("50", 30, 120, State.Out, "flicker.part flicker.crawls flicker.family")]
    [InlineData("50", 30, 100, State.In, "flicker.whole flicker.family")]
    [InlineData("50", 25, 10, State.Out, "flicker.whole flicker.longer")]
    [InlineData("50", 200, 400, State.Out, "flicker.none flicker.crawls flicker.family")]
    public void AShutterThatGetsWholeRipplesIsIn(string mains, double frames, double shutter, State state, string codes)
    {
        var facts = new Facts();
        var row = Card.Judge(facts.Now, Facts.Shipped).Rows.Single(r => r.Check.Id.Value == "time.flicker");
        Assert.False(row.Required);
        var value = new FormValue([new FormLine([new("mains", null, mains), new("frames", frames), new("shutter", shutter)])]);
        var judged = Card.Preview(facts.Now, Facts.Shipped, row.Key, value, row.Key.Under, null).Attempt;
        Assert.Equal((state, codes), (judged.State, string.Join(' ', judged.Because.Select(b => b.Code))));
        if (codes.StartsWith("flicker.part", StringComparison.Ordinal))
            Assert.Contains(mains == "50" ? "1/100" : "1/120", judged.Because[0].Args[1], StringComparison.Ordinal);
        Assert.All(judged.Because, b => Assert.Contains(b.Code, Facts.Texts));
    }
}
