using System.Text.RegularExpressions;
using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Tests;

/// <summary>What docs/coverage.md says is computed and seen is there by that name.</summary>
public sealed partial class CoverageDocTests
{
    private static readonly string[][] Rows =
    [
        .. File.ReadLines(Path.Combine(Facts.Root, "docs", "coverage.md"))
            .Where(l => l.StartsWith("| C", StringComparison.Ordinal))
            .Select(l => l.Trim('|').Split('|', StringSplitOptions.TrimEntries)),
    ];

    [Fact]
    public void EachCapabilityHasItsLine() => Assert.Equal(Enumerable.Range(1, 70).Select(n => $"C{n:00}"), Rows.Select(r => r[0]));

    [Fact]
    public void WhatComputesItIsInTheCode()
    {
        var types = typeof(Card).Assembly.GetTypes();
        var names = types.Select(t => t.Name.Split('`')[0]).ToHashSet();
        var places = types.Select(t => t.Namespace?.Split('.')[^1]).OfType<string>().ToHashSet();
        // What is named as another project's is not Core's.
        string[] missing =
        [
            .. Rows.SelectMany(r => Named().Matches(Elsewhere().Replace(r[2], "")).Select(m => m.Groups[1].Value))
                .Where(n => n.EndsWith(".*", StringComparison.Ordinal) ? !places.Contains(n[..^2]) : !names.Contains(n.Split('.')[0]))
                .Where(n => !places.Contains(n)),
        ];
        Assert.Empty(missing);
    }

    [Fact]
    public void WhatIsSeenIsARowOfTheCatalogue()
    {
        var checks = Facts.Shipped.CheckById.Keys.Select(k => k.Value).ToList();
        string[] missing =
        [
            .. Rows.SelectMany(r => Named().Matches(r[3]).Select(m => m.Groups[1].Value))
                .Where(n => char.IsLower(n[0]))
                .Where(n =>
                    n.EndsWith(".*", StringComparison.Ordinal)
                        ? !checks.Exists(c => c.StartsWith(n[..^1], StringComparison.Ordinal))
                        : !checks.Contains(n)
                ),
        ];
        Assert.Empty(missing);
    }

    [GeneratedRegex("`([^`]+)`")]
    private static partial Regex Named();

    [GeneratedRegex("(Server|Storage|Devices|web outbox,) `[^`]+`")]
    private static partial Regex Elsewhere();
}
