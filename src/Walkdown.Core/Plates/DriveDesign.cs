using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Plates;

/// <summary>A vehicle of those who test: the only plates that are kept as text.</summary>
/// <param name="Name">As it is called on the drive, such as A.</param>
/// <param name="Plate">As it is on the vehicle.</param>
public sealed record TestVehicle(string Name, string Plate);

/// <summary>Which way a vehicle passes.</summary>
public enum TravelWay
{
    /// <summary>Towards the camera: its front plate.</summary>
    Towards,

    /// <summary>Away from it: its rear plate.</summary>
    Away,
}

/// <summary>A test drive before a plate reader, as it is agreed: who drives, how fast, where, and by which same-plate rule the reader is
/// set.</summary>
public sealed record DriveDesign
{
    /// <summary>More vehicles than anybody brings.</summary>
    public const int MostVehicles = 8;

    /// <summary>More speeds or lanes than a drive is told apart by.</summary>
    public const int MostKinds = 6;

    /// <summary>Most characters of a name.</summary>
    public const int MostName = 20;

    /// <summary>Who drives.</summary>
    public required ImmutableArray<TestVehicle> Vehicles { get; init; }

    /// <summary>How fast people really drive here, km/h, each in its turn.</summary>
    public required ImmutableArray<double> SpeedsKmh { get; init; }

    /// <summary>Names of the lanes; none: there is one.</summary>
    public ImmutableArray<string> Lanes { get; init; } = [];

    /// <summary>Both ways, where the reader has to read both.</summary>
    public bool BothWays { get; init; }

    /// <summary>The reader's same-plate time as it is set, seconds; 0: each pass is written down.</summary>
    public required double IntervalSeconds { get; init; }

    /// <summary>What that time is counted from; null: nobody knows, so the drive is to find out.</summary>
    public RepeatRule? Rule { get; init; }

    /// <summary>Until a vehicle is before the camera again, seconds.</summary>
    public double TurnSeconds { get; init; } = 60;

    /// <summary>So many may go wrong by day, and so many by night, and it would still be shown.</summary>
    public int AllowedMisses { get; init; }

    /// <summary>Nobody else passes: then a text beside a pass is that pass, and any other is no plate.</summary>
    public bool IsAlone { get; init; }

    /// <summary>Where to begin: what is usual, and whose vehicles is for somebody to say.</summary>
    /// <param name="catalogue">In force.</param>
    public static DriveDesign Begin(Catalogue catalogue) =>
        new()
        {
            Vehicles = [],
            SpeedsKmh = [20, 40],
            IntervalSeconds = catalogue.Figure("plates.interval"),
        };

    /// <summary>Why it cannot be, and which figure; null where it can.</summary>
    public (Message Why, string Field)? Refuse()
    {
        (Message, string)? Outside(string field, double least, double most) =>
            (new("drive.outside", "@drive.field." + field, Message.Number(least), Message.Number(most)), field);
        if (Vehicles.IsDefaultOrEmpty || Vehicles.Length > MostVehicles)
            return Outside("vehicles", 1, MostVehicles);
        foreach (var vehicle in Vehicles)
        {
            if (string.IsNullOrWhiteSpace(vehicle?.Name) || vehicle.Name.Length > MostName)
                return (new("drive.vehicle-name", Message.Number(MostName)), "vehicles");
            if (PlateText.Folded(vehicle.Plate) is not { Length: >= 2 and <= PlateText.Longest })
                return (new("drive.vehicle-plate", Message.Said(vehicle.Name), Message.Number(PlateText.Longest)), "vehicles");
        }
        if (Vehicles.DistinctBy(v => v.Name.Trim(), StringComparer.OrdinalIgnoreCase).Count() < Vehicles.Length)
            return (new("drive.vehicle-twice"), "vehicles");
        if (Vehicles.GroupBy(v => PlateText.Folded(v.Plate)).FirstOrDefault(g => g.Count() > 1) is { } same)
            return (new("drive.plate-twice", Message.Said(same.First().Name), Message.Said(same.Last().Name)), "vehicles");
        if (SpeedsKmh.IsDefaultOrEmpty || SpeedsKmh.Length > MostKinds)
            return Outside("speedsKmh", 1, MostKinds);
        if (SpeedsKmh.Any(v => v is not (>= 1 and <= 250)))
            return Outside("speed", 1, 250);
        if (Lanes.IsDefault || Lanes.Length > MostKinds || Lanes.Any(l => string.IsNullOrWhiteSpace(l) || l.Length > MostName))
            return (new("drive.lanes", Message.Number(MostKinds), Message.Number(MostName)), "lanes");
        if (IntervalSeconds is not (>= 0 and <= 86_400))
            return Outside("intervalSeconds", 0, 86_400);
        if (Rule is { } rule && !Enum.IsDefined(rule))
            return (new("drive.rule"), "rule");
        if (TurnSeconds is not (>= 5 and <= 3_600))
            return Outside("turnSeconds", 5, 3_600);
        return AllowedMisses is >= 0 and <= 10 ? null : Outside("allowedMisses", 0, 10);
    }

    /// <summary>Without what nobody meant: blanks around names, the same speed twice.</summary>
    public DriveDesign Tidy() =>
        this with
        {
            Vehicles = [.. Vehicles.Select(v => new TestVehicle(v.Name.Trim(), v.Plate.Trim()))],
            SpeedsKmh = [.. SpeedsKmh.Distinct().Order()],
            Lanes = [.. Lanes.Select(l => l.Trim()).Distinct(StringComparer.OrdinalIgnoreCase)],
        };
}
