using Walkdown.Verify;

namespace Walkdown.Core.Tests;

/// <summary>The worked cases of the topics and operations that are built; docs/worked-cases.</summary>
public sealed class WorkedCasesTests
{
    /// <summary>Every file is run once: pictures take their time.</summary>
    private static readonly Lazy<Dictionary<string, List<CaseResult>>> Results = new(() =>
        Directory
            .EnumerateFiles(Path.Combine(Facts.Root, "docs", "worked-cases"), "*.json")
            .Order(StringComparer.Ordinal)
            .ToDictionary(f => Path.GetFileName(f), f => CaseFile.Run(f).ToList())
    );

    public static TheoryData<string, string> Cases()
    {
        var data = new TheoryData<string, string>();
        foreach (var (file, results) in Results.Value)
        foreach (var result in results.Where(r => r.Difference != "not built"))
            data.Add(file, result.Id);
        return data;
    }

    [Theory]
    [MemberData(nameof(Cases))]
    public void Agrees(string file, string id) => Assert.Null(Results.Value[file].Single(r => r.Id == id).Difference);

    [Theory]
    [InlineData("A_twisted_pair.json", 31)]
    [InlineData("B_wire_map.json", 29)]
    [InlineData("C_power_over_ethernet.json", 29)]
    [InlineData("E_coax.json", 22)]
    [InlineData("F_wireless.json", 22)]
    [InlineData("H_ipv4.json", 29)]
    [InlineData("I_time.json", 27)]
    [InlineData("J_recording.json", 23)]
    [InlineData("K_optics.json", 31)]
    [InlineData("L_aim.json", 24)]
    [InlineData("M_sun.json", 26)]
    [InlineData("N_picture.json", 49)]
    [InlineData("O_number_plate.json", 23)]
    [InlineData("P_verdict.json", 24)]
    public void WholeTopicsHaveNoCaseLeftOut(string file, int count)
    {
        var results = Results.Value[file];
        Assert.Equal(count, results.Count);
        Assert.DoesNotContain(results, r => r.Difference == "not built");
    }
}
