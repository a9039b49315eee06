using CsCheck;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Tests;

public sealed class MeasuresTests
{
    [Theory]
    [InlineData("53,1", Unit.Volt, 53.1)]
    [InlineData("53.1 V", Unit.Volt, 53.1)]
    [InlineData("53100 mV", Unit.Volt, 53.1)]
    [InlineData(" .5kohm ", Unit.Ohm, 500)]
    [InlineData("14,6 \u03a9", Unit.Ohm, 14.6)]
    [InlineData("830 cm", Unit.Metre, 8.3)]
    [InlineData("100 ft", Unit.Metre, 30.48)]
    [InlineData("-2", Unit.Volt, -2)]
    [InlineData("\u22122", Unit.Volt, -2)]
    [InlineData("1 Gb/s", Unit.MegabitPerSecond, 1000)]
    [InlineData("-62 dBm", Unit.DecibelMilliwatt, -62)]
    [InlineData("18.5dB", Unit.Decibel, 18.5)]
    [InlineData("250 px/m", Unit.PixelPerMetre, 250)]
    [InlineData("1.5 s", Unit.Millisecond, 1500)]
    [InlineData("2 klx", Unit.Lux, 2000)]
    [InlineData("1,5 TB", Unit.Gigabyte, 1500)]
    [InlineData("31 days", Unit.Day, 31)]
    [InlineData("12 /h", Unit.PerHour, 12)]
    public void ReadsWhatIsTyped(string text, Unit unit, double value) =>
        Assert.Equal(value, QuantityText.Parse(text, unit).Value!.Value.Value, 9);

    [Theory]
    [InlineData("", "number.empty")]
    [InlineData("1,234.5", "number.two-signs")]
    [InlineData("NaN", "number.unreadable")]
    [InlineData("Infinity", "number.unreadable")]
    [InlineData("1e5", "number.unreadable")]
    [InlineData("53 ohm", "number.unit")]
    [InlineData("53 MM", "number.unit")]
    [InlineData("5 3", "number.unreadable")]
    [InlineData("12345678901234567890123456789012345", "number.too-long")]
    public void RefusesWhatCouldBeReadTwoWays(string text, string code) =>
        Assert.Equal(code, QuantityText.Parse(text, Unit.Volt).Refused!.Code);

    /// <summary>A ratio is no power, a pixel no density, and nothing of them comes by the thousand.</summary>
    [Theory]
    [InlineData("3 dBm", Unit.Decibel)]
    [InlineData("3 dB", Unit.DecibelMilliwatt)]
    [InlineData("250 px", Unit.PixelPerMetre)]
    [InlineData("3 kd", Unit.Day)]
    [InlineData("3 mdB", Unit.Decibel)]
    public void UnitsThatLookAlikeAreNotTaken(string text, Unit unit) =>
        Assert.Equal("number.unit", QuantityText.Parse(text, unit).Refused!.Code);

    [Fact]
    public void UnitsInUnitsOut() =>
        Gen.Double[-9999, 9999]
            .Select(v => Math.Round(v, 3))
            .Sample(value =>
            {
                var volts = QuantityText
                    .Parse(value.ToString("0.###", System.Globalization.CultureInfo.InvariantCulture) + " V", Unit.Volt)
                    .Value!.Value.Value;
                var milli = QuantityText
                    .Parse(
                        (value * 1000).ToString("0", System.Globalization.CultureInfo.InvariantCulture).Replace('.', ',') + " mV",
                        Unit.Volt
                    )
                    .Value!.Value.Value;
                return Math.Abs(volts - milli) < 1e-6;
            });

    [Fact]
    public void ParsingNeverThrows() =>
        Gen.String.Sample(text =>
        {
            var parsed = QuantityText.Parse(text, Unit.Metre);
            Assert.True(parsed.Value is null != parsed.Refused is null);
        });

    [Fact]
    public void GuardedRuleIsWhatItsDefinitionSays() =>
        Gen.Select(Gen.Double[-50, 150], Gen.Double[0, 40], Gen.Double[60, 100], Gen.Double[0, 30])
            .Sample(
                (reading, min, max, half) =>
                {
                    var decided = Decision.Decide(reading, min, max, new Accuracy(Absolute: half), DecisionRule.Guarded);
                    double low = reading - half,
                        high = reading + half;
                    var expected =
                        low >= min && high <= max ? Outcome.In
                        : high < min || low > max ? Outcome.Out
                        : Outcome.TooClose;
                    var touches = new[] { low - min, low - max, high - min, high - max }.Any(d => Math.Abs(d) < 1e-6);
                    return touches || decided.Outcome == expected;
                }
            );

    [Fact]
    public void SimpleRuleIsNeverTooClose() =>
        Gen.Select(Gen.Double[-50, 150], Gen.Double[0, 30])
            .Sample(
                (reading, half) =>
                    Decision.Decide(reading, 0, 100, new Accuracy(Absolute: half), DecisionRule.Simple).Outcome != Outcome.TooClose
            );

    [Fact]
    public void LimitsIntersectAndAnEmptyWindowSaysSo()
    {
        Limit Of(double? min, double? max) => new("x", min, max, Unit.Volt, "s", "p", "e");
        var window = LimitWindow.Intersect([Of(10, 50), Of(20, null), Of(null, 40)])!;
        Assert.Equal((20, 40, false), (window.Min, window.Max, window.Empty));
        Assert.True(LimitWindow.Intersect([Of(30, null), Of(null, 20)])!.Empty);
        Assert.Throws<BadInputException>(() => LimitWindow.Intersect([Of(1, 2), Of(1, 2) with { Unit = Unit.Ohm }]));
    }

    [Fact]
    public void ATenthAndTwoTenthsAreThreeTenths() =>
        Assert.Equal(Outcome.In, Decision.Decide(0.1 + 0.2, null, 0.3, null, DecisionRule.Guarded).Outcome);
}
