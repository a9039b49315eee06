using Walkdown.Core.Measures;
using Walkdown.Core.Zones;

namespace Walkdown.Core.Acceptance;

/// <summary>Zones drawn on the picture of a camera.</summary>
/// <param name="Zones">In the order in which they were drawn.</param>
/// <param name="Picture">Of the place, that they were drawn on; null: on none.</param>
public sealed record ZonesValue(ImmutableArray<PictureZone> Zones, Guid? Picture = null) : ReadingValue
{
    /// <summary>Most of one picture.</summary>
    public const int Most = 20;

    /// <summary>Most corners of one.</summary>
    public const int MostPoints = 40;

    /// <summary>Most corners of all together: the work of comparing them grows with their square.</summary>
    public const int MostInAll = 200;

    /// <summary>Share of the picture that a zone is too small to mean below.</summary>
    public const double Least = 0.0005;

    private const int LongestName = 40;

    /// <inheritdoc/>
    public override bool Suits(EntryKind entry) => entry == EntryKind.Zones;

    /// <inheritdoc/>
    public override Message? Refuse(CheckDefinition check)
    {
        if (Zones.IsDefaultOrEmpty || Zones.Length > Most)
            return new Message("reading.zones-count", Message.Number(Most));
        if (Zones.Sum(z => z is null || z.Points.IsDefault ? 0 : z.Points.Length) > MostInAll)
            return new Message("reading.zones-corners", Message.Number(MostInAll));
        for (var i = 0; i < Zones.Length; i++)
        {
            if (Zones[i] is not { } zone || string.IsNullOrWhiteSpace(zone.Name) || zone.Name.Length > LongestName)
                return new Message("reading.zone-name", Message.Number(i + 1), Message.Number(LongestName));
            var name = Message.Said(zone.Name);
            if (!Enum.IsDefined(zone.Use) || zone.Points.IsDefault || zone.Points.Length is < 3 or > MostPoints)
                return new Message("reading.zone-points", name, Message.Number(MostPoints));
            if (zone.Points.Any(p => p is not { X: >= 0 and <= 1, Y: >= 0 and <= 1 }))
                return new Message("reading.zone-outside", name);
            if (!Polygons.IsSimple(zone.Points))
                return new Message("reading.zone-crosses", name);
            if (Polygons.Area(zone.Points) < Least)
                return new Message("reading.zone-small", name);
            if (Zones.Take(i).Any(other => string.Equals(other.Name.Trim(), zone.Name.Trim(), StringComparison.OrdinalIgnoreCase)))
                return new Message("reading.zone-twice", name);
        }
        return null;
    }

    /// <inheritdoc/>
    public override IEnumerable<string> Words() => Zones.Select(z => Codes.Of(z.Use)).Distinct();

    /// <summary>By content.</summary>
    public bool Equals(ZonesValue? other) =>
        other is not null && Picture == other.Picture && Zones.AsSpan().SequenceEqual(other.Zones.AsSpan());

    /// <summary>By its picture and how many there are.</summary>
    public override int GetHashCode() => HashCode.Combine(Picture, Zones.Length);
}
