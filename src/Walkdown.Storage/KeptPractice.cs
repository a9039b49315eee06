using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>How a job works and what it covers, as its row keeps it.</summary>
public static class KeptPractice
{
    private readonly record struct Columns(
        DecisionRule Rule,
        WiringScheme Scheme,
        string? Sides,
        string? Scope,
        (bool, bool, bool, bool) Former
    );

    /// <summary>Read once: it is asked for with each entry. A machine knows a handful.</summary>
    private static readonly ConcurrentDictionary<Columns, Practice> Known = new();

    /// <summary>The practice of a job. Of what cannot be read the stricter holds: the guarded rule, and all of the work.</summary>
    public static Practice Of(Job job)
    {
        var columns = new Columns(
            job.Rule,
            job.Scheme,
            job.SidesJson,
            job.ScopeJson,
            (job.MatchFarEnd, job.BenchFirst, job.SwitchFirst, job.UnexpectedRefuses)
        );
        if (Known.TryGetValue(columns, out var known))
            return known;
        if (Known.Count > 200)
            Known.Clear();
        return Known[columns] = Read(job);
    }

    private static Practice Read(Job job) =>
        new(job.Rule.Or(DecisionRule.Guarded), job.Scheme.Or(WiringScheme.T568B))
        {
            Sides = job.SidesJson is null ? Former(job) : Read<ImmutableSortedDictionary<string, string>>(job.SidesJson) ?? Former(job),
            Scope =
                job.ScopeJson is null ? WorkScope.Former
                : Read<WorkScope>(job.ScopeJson) is { Parts.IsDefault: false } scope
                    ? scope with
                    {
                        ByKind = scope.ByKind ?? WorkScope.Whole.ByKind,
                    }
                : WorkScope.Whole,
        };

    /// <summary>Puts a practice into the row of its job.</summary>
    public static void Keep(Job job, Practice practice)
    {
        (job.Rule, job.Scheme) = (practice.Rule, practice.Scheme);
        job.SidesJson = JsonSerializer.Serialize(practice.Sides, CoreJson.Options);
        job.ScopeJson = practice.Scope.IsFormer ? null : JsonSerializer.Serialize(practice.Scope, CoreJson.Options);
    }

    private static ImmutableSortedDictionary<string, string> Former(Job job) =>
        new[]
        {
            (job.MatchFarEnd, "scheme", "far-end"),
            (job.BenchFirst, "first-try", "bench"),
            (job.SwitchFirst, "start-up", "switch"),
            (job.UnexpectedRefuses, "unexpected", "refuses"),
        }
            .Where(s => s.Item1)
            .ToImmutableSortedDictionary(s => s.Item2, s => s.Item3);

    private static T? Read<T>(string json)
        where T : class
    {
        try
        {
            return JsonSerializer.Deserialize<T>(json, CoreJson.Options);
        }
        catch (Exception problem) when (problem is JsonException or NotSupportedException)
        {
            return null;
        }
    }
}
