using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>Where a job's site is and what is there, as its row keeps it.</summary>
public static class KeptSite
{
    /// <summary>Read once: it is asked for with each entry. A machine knows a handful.</summary>
    private static readonly ConcurrentDictionary<string, SiteFacts> Known = new();

    /// <summary>The site of a job; what cannot be read, or is no place on earth, is said by nobody.</summary>
    public static SiteFacts Of(Job job)
    {
        if (job.SiteJson is not { } json)
            return SiteFacts.Unsaid;
        if (Known.TryGetValue(json, out var known))
            return known;
        if (Known.Count > 200)
            Known.Clear();
        return Known[json] = Read(json);
    }

    /// <summary>Puts a site into the row of its job.</summary>
    public static void Keep(Job job, SiteFacts site) =>
        job.SiteJson = site == SiteFacts.Unsaid ? null : JsonSerializer.Serialize(site, CoreJson.Options);

    private static SiteFacts Read(string json)
    {
        try
        {
            return JsonSerializer.Deserialize<SiteFacts>(json, CoreJson.Options) is { } site
                ? new SiteFacts(
                    SiteFacts.IsPlace(site.LatitudeDeg, site.LongitudeDeg) ? site.LatitudeDeg : null,
                    SiteFacts.IsPlace(site.LatitudeDeg, site.LongitudeDeg) ? site.LongitudeDeg : null,
                    site.Presences?.Where(p => p.Value is not null).ToImmutableSortedDictionary() ?? SiteFacts.Unsaid.Presences
                )
                : SiteFacts.Unsaid;
        }
        catch (Exception problem) when (problem is JsonException or NotSupportedException)
        {
            return SiteFacts.Unsaid;
        }
    }
}
