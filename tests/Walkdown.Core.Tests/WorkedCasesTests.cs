using Walkdown.Verify;

namespace Walkdown.Core.Tests;

/// <summary>The worked cases of the topics and operations that are built; docs/worked-cases.</summary>
public sealed class WorkedCasesTests
{
    public static TheoryData<string, string> Cases()
    {
        var data = new TheoryData<string, string>();
        foreach (
            var file in Directory.EnumerateFiles(Path.Combine(Facts.Root, "docs", "worked-cases"), "*.json").Order(StringComparer.Ordinal)
        )
        foreach (var result in CaseFile.Run(file).Where(r => r.Difference != "not built"))
            data.Add(Path.GetFileName(file), result.Id);
        return data;
    }

    [Theory]
    [MemberData(nameof(Cases))]
    public void Agrees(string file, string id) =>
        Assert.Null(CaseFile.Run(Path.Combine(Facts.Root, "docs", "worked-cases", file)).Single(r => r.Id == id).Difference);

    [Theory]
    [InlineData("A_twisted_pair.json", 31)]
    [InlineData("B_wire_map.json", 29)]
    [InlineData("C_power_over_ethernet.json", 29)]
    [InlineData("E_coax.json", 22)]
    [InlineData("F_wireless.json", 22)]
    [InlineData("H_ipv4.json", 29)]
    [InlineData("I_time.json", 27)]
    [InlineData("J_recording.json", 23)]
    [InlineData("P_verdict.json", 24)]
    public void WholeTopicsHaveNoCaseLeftOut(string file, int count)
    {
        var results = CaseFile.Run(Path.Combine(Facts.Root, "docs", "worked-cases", file)).ToList();
        Assert.Equal(count, results.Count);
        Assert.DoesNotContain(results, r => r.Difference == "not built");
    }
}
