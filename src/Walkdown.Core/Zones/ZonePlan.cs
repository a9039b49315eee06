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
        var watched = ImmutableArray.CreateBuilder<WatchedZone>();
        for (var at = 0; at < zones.Count; at++)
        {
            if (zones[at].Use != ZoneUse.Watch)
                continue;
            var (own, area) = (at, Polygons.Area(zones[at].Points));
            watched.Add(
                new(
                    zones[at].Name,
                    area,
                    hasGround ? Polygons.Area(all, i => i[own] && !Any(i, ZoneUse.OwnGround)) / area : null,
                    Polygons.Area(all, i => i[own] && Any(i, ZoneUse.Ignore, ZoneUse.Private)) / area
                )
            );
        }
        return new(
            watched.ToImmutable(),
            Polygons.Area(all, i => Watching(i) > 0 && !Any(i, ZoneUse.Ignore, ZoneUse.Private)),
            Polygons.Area(all, i => Watching(i) > 1 && !Any(i, ZoneUse.Ignore, ZoneUse.Private)),
            Polygons.Area(all, i => Any(i, ZoneUse.Private)),
            hasGround
        );
    }
}
