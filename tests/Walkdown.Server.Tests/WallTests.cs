using ArchUnitNET.Domain;
using ArchUnitNET.Fluent.Extensions;
using ArchUnitNET.Loader;
using static ArchUnitNET.Fluent.ArchRuleDefinition;

namespace Walkdown.Server.Tests;

/// <summary>The house's arrows run one way: Server to Storage, Devices, Reports to Core; stand-ins, verify and the crew to Core; Core to
/// nothing of ours.</summary>
public sealed class WallTests
{
    private static readonly Architecture House = new ArchLoader()
        .LoadAssemblies(
            typeof(Core.Acceptance.Card).Assembly,
            typeof(Storage.WalkdownDb).Assembly,
            typeof(Access.AccessDb).Assembly,
            typeof(Devices.MeasureSources).Assembly,
            typeof(Reports.CardReport).Assembly,
            typeof(Formats.SheetReader).Assembly,
            typeof(ServerProgram).Assembly,
            typeof(StandIns.SiteTruth).Assembly,
            typeof(Verify.CaseFile).Assembly,
            typeof(Crew.Visit).Assembly
        )
        .Build();

    public static TheoryData<string, string> Walls() =>
        new()
        {
            { "Core", "Access|Formats|Storage|Devices|Reports|Server|StandIns|Verify|Crew" },
            { "Formats", "Access|Storage|Devices|Reports|Server|StandIns|Verify|Crew" },
            { "Storage", "Access|Formats|Devices|Reports|Server|StandIns|Verify|Crew" },
            { "Devices", "Access|Formats|Storage|Reports|Server|StandIns|Verify|Crew" },
            { "Reports", "Access|Formats|Storage|Devices|Server|StandIns|Verify|Crew" },
            // It reads pictures beside its cases.
            { "Verify", "Access|Storage|Devices|Reports|Server|StandIns|Crew" },
            { "StandIns", "Access|Formats|Storage|Devices|Reports|Server|Verify|Crew" },
            { "Access", "Formats|Storage|Devices|Reports|Server|StandIns|Verify|Crew" },
            { "Crew", "Access|Formats|Storage|Devices|Reports|Server|StandIns|Verify" },
            { "Server", "StandIns|Verify" },
            // Only the demo has a crew.
            { @"Server\.(?!Demo\b)\w+", "Crew" },
        };

    [Theory]
    [MemberData(nameof(Walls))]
    public void Hold(string room, string mustNotSee) =>
        Assert.True(
            Types()
                .That()
                .ResideInNamespaceMatching($@"^Walkdown\.{room}(\.|$)")
                .Should()
                .NotDependOnAny(Types().That().ResideInNamespaceMatching($@"^Walkdown\.({mustNotSee})(\.|$)"))
                .WithoutRequiringPositiveResults()
                .HasNoViolations(House)
        );

    [Fact]
    public void CoreDoesNoInputOutputAndHasNoClock()
    {
        var core = typeof(Core.Acceptance.Card).Assembly;
        Assert.DoesNotContain(
            core.GetReferencedAssemblies(),
            a =>
                a.Name!.StartsWith("Microsoft.EntityFrameworkCore", StringComparison.Ordinal)
                || a.Name.StartsWith("Microsoft.AspNetCore", StringComparison.Ordinal)
        );
        foreach (
            var file in Directory
                .EnumerateFiles(Path.Combine(Site.Root, "src", "Walkdown.Core"), "*.cs", SearchOption.AllDirectories)
                .Where(f => !f.Contains("/obj/"))
        )
        foreach (var banned in new[] { "File.", "Directory.", "DateTime.Now", "UtcNow", "HttpClient", "Random(" })
            Assert.False(File.ReadAllText(file).Contains(banned, StringComparison.Ordinal), $"{Path.GetFileName(file)} has {banned}");
    }
}
