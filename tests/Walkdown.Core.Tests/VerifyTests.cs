using Walkdown.Verify;

namespace Walkdown.Core.Tests;

/// <summary>The runner of worked cases itself: it must see a difference, a refusal that is missing, and a topic that is not
/// built.</summary>
public sealed class VerifyTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("walkdown-cases-").FullName;

    public void Dispose() => Directory.Delete(_folder, true);

    private string? Differs(string topic, string input, string output, string tolerance = "{}")
    {
        var file = Path.Combine(_folder, topic + "_made_up.json");
        File.WriteAllText(
            file,
            $$"""{ "topic": "x", "cases": [{ "id": "1", "in": {{input}}, "out": {{output}}, "tol": {{tolerance}} }] }"""
        );
        return CaseFile.Run(file).Single().Difference;
    }

    private const string Table = """{ "operation": "class_table", "power_class": 4 }""";

    [Fact]
    public void AgreesWhereItShould() => Assert.Null(Differs("C", Table, """{ "device_power_w": 25.5, "pairs": 2 }"""));

    [Theory]
    [InlineData("""{ "device_power_w": 25.6 }""")]
    [InlineData("""{ "no_such_field": 1 }""")]
    [InlineData("""{ "error": "missing" }""")]
    public void SeesADifference(string output) => Assert.NotNull(Differs("C", Table, output));

    [Fact]
    public void TakesTheToleranceOfTheField() =>
        Assert.Null(Differs("C", Table, """{ "device_power_w": 25.6 }""", """{ "device_power_w": { "abs": 0.2 }, "*": { "abs": 0 } }"""));

    [Theory]
    [InlineData("""{ "operation": "class_table" }""")]
    [InlineData("""{ "operation": "class_table", "power_class": true }""")]
    [InlineData("""{ "operation": "class_table", "power_class": 4.5 }""")]
    [InlineData("""{ "operation": "class_table", "power_class": 9 }""")]
    [InlineData("""{ "operation": "class_table", "power_class": "4" }""")]
    [InlineData("""{ "operation": "switch_budget", "budget_w": 10, "allocation": "class", "ports": {} }""")]
    [InlineData(
        """
            { "operation": "device_voltage", "source_voltage_v": 48, "device_power_w": 10, "gauge_awg": 24, "run_length_m": 10,
              "temperature_c": 20, "material": "gold", "pairs": 2 }
            """
    )]
    public void RefusesBadInput(string input)
    {
        Assert.Null(Differs("C", input, """{ "error": "any" }"""));
        Assert.StartsWith("refused", Differs("C", input, """{ "verdict": "ok" }"""));
    }

    [Theory]
    [InlineData("""{ "operation": "analyse", "near_to_far": [1, 2] }""")]
    [InlineData("""{ "operation": "analyse", "near_to_far": { "1": 1 } }""")]
    [InlineData("""{ "operation": "analyse" }""")]
    public void RefusesAMapOfAnotherShape(string input) => Assert.Null(Differs("B", input, """{ "error": "any" }"""));

    [Fact]
    public void SaysWhatIsNotBuilt()
    {
        Assert.Equal("not built", Differs("Z", """{ "operation": "anything" }""", "{}"));
        Assert.Equal("not built", Differs("R", """{ "operation": "sample_size" }""", "{}"));
    }
}
