namespace Walkdown.Core.Zones;

/// <summary>What one zone in which something should ring comes to.</summary>
/// <param name="Name">As the camera calls it.</param>
/// <param name="Area">Share of the picture, 0 to 1.</param>
/// <param name="OffGround">Share of the zone that lies beyond the own ground; null: nobody has drawn that.</param>
/// <param name="Covered">Share of the zone where nothing rings, since another one ignores or blackens it.</param>
public sealed record WatchedZone(string Name, double Area, double? OffGround, double Covered);

/// <summary>All zones of a picture together.</summary>
/// <param name="Watched">In their order.</param>
/// <param name="Watching">Share of the picture where something rings, 0 to 1.</param>
/// <param name="Twice">Share of the picture that two zones ring for.</param>
/// <param name="Blackened">Share of the picture that nobody sees.</param>
/// <param name="HasGround">Somebody drew the own ground.</param>
public sealed record ZonePlan(ImmutableArray<WatchedZone> Watched, double Watching, double Twice, double Blackened, bool HasGround)
{
    /// <summary>Works them out.</summary>
    /// <param name="zones">None crosses itself.</param>
    public static ZonePlan Of(IReadOnlyList<PictureZone> zones)
    {
        IReadOnlyList<PicturePoint>[] all = [.. zones.Select(z => (IReadOnlyList<PicturePoint>)z.Points)];
        var hasGround = zones.Any(z => z.Use == ZoneUse.OwnGround);
        bool Any(IReadOnlyList<bool> inside, params ReadOnlySpan<ZoneUse> uses)
        {
            for (var i = 0; i < zones.Count; i++)
                if (inside[i] && uses.Contains(zones[i].Use))
                    return true;
            return false;
        }
        int Watching(IReadOnlyList<bool> inside)
        {
            var count = 0;
            for (var i = 0; i < zones.Count; i++)
                if (inside[i] && zones[i].Use == ZoneUse.Watch)
                    count++;
            return count;
        }
        // All in one pass: the strips are the same for each.
        var rules = new List<Func<IReadOnlyList<bool>, bool>>
        {
            i => Watching(i) > 0 && !Any(i, ZoneUse.Ignore, ZoneUse.Private),
            i => Watching(i) > 1 && !Any(i, ZoneUse.Ignore, ZoneUse.Private),
            i => Any(i, ZoneUse.Private),
        };
        List<int> rings = [.. Enumerable.Range(0, zones.Count).Where(z => zones[z].Use == ZoneUse.Watch)];
        foreach (var own in rings)
        {
            rules.Add(i => i[own] && !Any(i, ZoneUse.OwnGround));
            rules.Add(i => i[own] && Any(i, ZoneUse.Ignore, ZoneUse.Private));
        }
        var areas = Polygons.Areas(all, rules);
        return new(
            [
                .. rings.Select(
                    (own, at) =>
                    {
                        var area = Polygons.Area(zones[own].Points);
                        return new WatchedZone(
                            zones[own].Name,
                            area,
                            hasGround ? areas[3 + 2 * at] / area : null,
                            areas[4 + 2 * at] / area
                        );
                    }
                ),
            ],
            areas[0],
            areas[1],
            areas[2],
            hasGround
        );
    }
}
