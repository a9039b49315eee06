using Walkdown.Core.Measures;

namespace Walkdown.Core.Fixing;

/// <summary>Where the cables come from.</summary>
public enum CableRoute
{
    /// <summary>Out of the surface behind the device.</summary>
    FromInside,

    /// <summary>Along the surface.</summary>
    OnSurface,

    /// <summary>In a conduit.</summary>
    Conduit,
}

/// <summary>What a device hangs on, and the parts and holes that follow.</summary>
/// <param name="Mounts">Words of the register's column "mount" that suit, the plainest first.</param>
/// <param name="BoxRequired">The joints need a junction box.</param>
/// <param name="Parts">Ids of the parts, in the order in which they go up. Their words: <c>mount.part.ID</c>.</param>
/// <param name="Hole">Code of the hole that the cables need.</param>
/// <param name="Because">Why a box is needed; empty: it is not.</param>
public sealed record ResolvedMount(
    ImmutableArray<string> Mounts,
    bool BoxRequired,
    ImmutableArray<string> Parts,
    string Hole,
    ImmutableArray<string> Because
);

/// <summary>From surface, route of the cables, extra power and contacts to bracket, box, parts and holes (CAPABILITIES C22).</summary>
public static class MountResolver
{
    /// <summary>Surfaces that it knows.</summary>
    public static readonly ImmutableArray<string> Surfaces = ["wall", "ceiling", "tile", "pole", "corner", "eaves"];

    /// <summary>What suits. A box is needed wherever a joint would else lie in the open: cables that do not come out of the surface, a lead
    /// for power beside the network's, or contacts.</summary>
    /// <exception cref="BadInputException">A surface that it does not know.</exception>
    public static ResolvedMount Resolve(string surface, CableRoute route, bool auxiliaryPower, bool contacts, bool outdoor)
    {
        if (!Surfaces.Contains(surface))
            throw new BadInputException(BadInputReason.UnknownValue, "surface");
        var because = ImmutableArray.CreateBuilder<string>();
        if (route != CableRoute.FromInside)
            because.Add("mount.because.route");
        if (auxiliaryPower)
            because.Add("mount.because.power");
        if (contacts)
            because.Add("mount.because.contacts");
        var box = because.Count > 0;
        var parts = ImmutableArray.CreateBuilder<string>();
        if (surface == "tile")
            parts.Add("backing-plate");
        if (surface == "pole")
            parts.Add("pole-bands");
        if (surface == "corner")
            parts.Add("corner-adapter");
        if (box)
            parts.Add("junction-box");
        if (surface is "pole" or "corner")
            parts.Add("wall-arm");
        if (route == CableRoute.Conduit)
            parts.Add(outdoor ? "conduit-sealed" : "conduit");
        if (outdoor)
            parts.Add("gasket");
        return new ResolvedMount(
            (surface, box) switch
            {
                ("tile", _) => ["ceiling-tile"],
                ("pole", _) => ["pole"],
                ("corner", _) => ["corner"],
                ("eaves", true) => ["junction-box", "eaves"],
                ("eaves", false) => ["eaves", "surface"],
                ("ceiling", true) => ["junction-box", "pendant"],
                ("ceiling", false) => ["surface", "pendant"],
                (_, true) => ["junction-box", "enclosure"],
                _ => ["surface", "wall-arm", "enclosure"],
            },
            box,
            parts.ToImmutable(),
            route switch
            {
                CableRoute.FromInside => "mount.hole.through",
                CableRoute.OnSurface => "mount.hole.notch",
                _ => "mount.hole.threaded",
            },
            because.ToImmutable()
        );
    }

    /// <summary>What the plan's mount and cable entry call for, before anybody has seen the place; null where it says neither.</summary>
    /// <param name="mount">Word of the register's column "mount".</param>
    /// <param name="entry">Word of its column "cable_entry".</param>
    /// <param name="auxiliaryPower">A lead for power beside the network's.</param>
    /// <param name="contacts">Contacts are wired.</param>
    internal static ResolvedMount? OfPlan(string? mount, string? entry, bool auxiliaryPower, bool contacts) =>
        mount is null || entry is null
            ? null
            : Resolve(
                mount switch
                {
                    "ceiling-tile" => "tile",
                    "pole" or "corner" or "eaves" => mount,
                    "pendant" => "ceiling",
                    _ => "wall",
                },
                entry switch
                {
                    "rear" => CableRoute.FromInside,
                    "conduit" => CableRoute.Conduit,
                    _ => CableRoute.OnSurface,
                },
                auxiliaryPower,
                contacts,
                false
            );
}
