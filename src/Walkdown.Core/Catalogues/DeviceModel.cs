namespace Walkdown.Core.Catalogues;

/// <summary>The template of one model: what its data sheet says, and what is not known of it (CAPABILITIES C02).</summary>
public sealed record DeviceModel
{
    /// <summary>The model's name as it stands in schedules.</summary>
    public required string Id { get; init; }

    /// <summary>The kind that it is of.</summary>
    public required string Kind { get; init; }

    /// <summary>Features beside those of the kind.</summary>
    public ImmutableArray<string> Features { get; init; } = [];

    /// <summary>Power over Ethernet class, 0 to 8.</summary>
    public int? PowerClass { get; init; }

    /// <summary>Watts with infrared off.</summary>
    public double? WattsInfraredOff { get; init; }

    /// <summary>Watts with infrared on.</summary>
    public double? WattsInfraredOn { get; init; }

    /// <summary>Mb/s of its link.</summary>
    public int? SpeedMbps { get; init; }

    /// <summary>Degrees below level that the mount allows, least and greatest.</summary>
    public double? TiltLeast { get; init; }

    /// <summary>Degrees from the horizontal, at most.</summary>
    public double? TiltGreatest { get; init; }

    /// <summary>Metres above ground, at least.</summary>
    public double? HeightLeastMetres { get; init; }

    /// <summary>Metres above ground, at most.</summary>
    public double? HeightGreatestMetres { get; init; }

    /// <summary>Metres of cable left at the device, at least, so that it can be taken down and terminated once more.</summary>
    public double? SlackMetres { get; init; }

    /// <summary>Longest session in the box, minutes.</summary>
    public double? BoxSessionMinutes { get; init; }

    /// <summary>The same by how warm it is around the box, coldest first; empty: one figure for all.</summary>
    public ImmutableArray<BoxTime> BoxCurve { get; init; } = [];

    /// <summary>Its lens; null: not known, or none.</summary>
    public Lens? Lens { get; init; }

    /// <summary>Its picture; null: not known, or none.</summary>
    public Pixels? Pixels { get; init; }

    /// <summary>Interfaces that it brings a seal for: network, power, mount, wall, cap, cover.</summary>
    public ImmutableArray<string> Seals { get; init; } = [];

    /// <summary>What holds its parts.</summary>
    public ImmutableArray<Fastener> Fasteners { get; init; } = [];

    /// <summary>How it is reset; null: not known.</summary>
    public ResetWay? Reset { get; init; }

    /// <summary>How far it pans; null: all round, or not known.</summary>
    public Stops? Stops { get; init; }

    /// <summary>Where what of it is set.</summary>
    public ImmutableArray<SettingPlace> Surfaces { get; init; } = [];

    /// <summary>Its memory cards; null: not known, or none.</summary>
    public CardSlots? Cards { get; init; }

    /// <summary>Version that every unit should run.</summary>
    public string? Firmware { get; init; }

    /// <summary>Least version that the recorder needs for this model.</summary>
    public string? NeedsRecorder { get; init; }

    /// <summary>Shortest and longest time from power to picture, seconds.</summary>
    public double? BootSecondsLeast { get; init; }

    /// <summary>Seconds to start, at most.</summary>
    public double? BootSecondsMost { get; init; }

    /// <summary>Items of its pack, by id; empty: what its kind usually has.</summary>
    public ImmutableArray<string> Contents { get; init; } = [];

    /// <summary>What its status light shows, and what that says.</summary>
    public ImmutableArray<LightPattern> Lights { get; init; } = [];

    /// <summary>Figures that nobody knows yet: named, so that they are asked for and never guessed.</summary>
    public ImmutableArray<string> Unknown { get; init; } = [];

    /// <summary>Interfaces between inside and outside that are sealed.</summary>
    public static readonly ImmutableArray<string> Interfaces = ["network", "power", "mount", "wall", "cap", "cover"];

    /// <summary>Parts that are held by something. Their words: <c>fastener.ID</c>.</summary>
    public static readonly ImmutableArray<string> FastenedParts = ["base", "cover", "axis", "arm"];

    /// <summary>What can be set somewhere. Their words: <c>setting.ID</c>.</summary>
    public static readonly ImmutableArray<string> Settings =
    [
        "address",
        "login",
        "time",
        "focus",
        "zoom",
        "day-night",
        "turn",
        "stream",
        "zones",
        "card",
        "microphone",
        "format",
        "power-mode",
    ];

    /// <summary>Where it can be set. Their words: <c>surface.ID</c>.</summary>
    public static readonly ImmutableArray<string> SurfaceWords = ["page", "recorder", "tester", "switch", "lens", "stick"];

    /// <summary>Parts of a sheet that are more than a figure.</summary>
    private static readonly ImmutableArray<string> Parts = ["lens", "pixels", "seals", "fasteners", "reset", "stops", "cards"];

    /// <summary>Topics of its sheet that a row may show. Their words: <c>sheet.topic.ID</c>.</summary>
    public static readonly ImmutableArray<string> Topics = [.. Parts, "box", .. Settings.Select(s => "setting-" + s)];

    /// <summary>What is wrong with the parts of a sheet, in the words of whoever writes it.</summary>
    internal IEnumerable<string> ProblemsOfParts()
    {
        if (Lens is { } lens && !(lens.LeastMm is > 0 and <= 2000 && lens.MostMm is <= 2000 && lens.LeastMm <= lens.MostMm))
            yield return $"{Id}: focal lengths run from a lesser to a greater, above 0 and up to 2,000 mm";
        if (
            Lens is { } angles
            && new[] { angles.WidestDeg, angles.NarrowestDeg, angles.TallestDeg, angles.LowestDeg }.Any(a =>
                a is not (null or (> 0 and <= 360))
            )
        )
            yield return $"{Id}: a picture is above 0 and up to 360 degrees wide and high";
        if (Pixels is { } pixels && !(pixels.Wide is > 0 and <= 100_000 && pixels.High is > 0 and <= 100_000))
            yield return $"{Id}: a picture has 1 to 100,000 pixels each way";
        foreach (var seal in Seals.Where(s => !Interfaces.Contains(s)))
            yield return $"{Id}: nothing is sealed at '{seal}'; there are {string.Join(", ", Interfaces)}";
        foreach (
            var f in Fasteners.Where(f => f.Count is < 1 or > 100 || string.IsNullOrWhiteSpace(f.Drive) || !FastenedParts.Contains(f.Part))
        )
            yield return $"{Id}: fasteners of '{f.Part}' hold {string.Join(", ", FastenedParts)}, say what turns them, and are 1 to 100";
        if (
            Reset is { } reset
            && !(reset.LeastSeconds is >= 0 and <= 600 && reset.MostSeconds is null or <= 600 && !(reset.MostSeconds < reset.LeastSeconds))
        )
            yield return $"{Id}: a reset is held from a lesser to a greater time, up to 600 s";
        if (Reset is { } way && string.IsNullOrWhiteSpace(way.At))
            yield return $"{Id}: a reset says where its button is";
        if (Reset?.Light is { } light && Lights.All(l => l.Id != light))
            yield return $"{Id}: no light pattern of it is called '{light}'";
        if (Stops is { } stops && !(stops.PanLeast >= -360 && stops.PanGreatest <= 360 && stops.PanLeast < stops.PanGreatest))
            yield return $"{Id}: the pan runs from a lesser to a greater angle, -360 to 360 degrees";
        foreach (var place in Surfaces)
        {
            if (!Settings.Contains(place.Setting))
                yield return $"{Id}: no setting is called '{place.Setting}'; there are {string.Join(", ", Settings)}";
            if (place.At.IsDefaultOrEmpty)
                yield return $"{Id}: '{place.Setting}' is set somewhere; there are {string.Join(", ", SurfaceWords)}";
            foreach (var at in place.At.IsDefault ? [] : place.At.Where(a => !SurfaceWords.Contains(a)))
                yield return $"{Id}: nothing is set at '{at}'; there are {string.Join(", ", SurfaceWords)}";
        }
        for (var i = 0; i < BoxCurve.Length; i++)
            if (
                !(Math.Abs(BoxCurve[i].AmbientC) <= 100 && BoxCurve[i].Minutes is >= 0 and <= 10_000)
                || i > 0 && BoxCurve[i].AmbientC <= BoxCurve[i - 1].AmbientC
            )
                yield return $"{Id}: minutes in the box go from cold to warm, each temperature once";
        if (
            Cards is { } cards
            && !(
                cards
                    is {
                        Slots: >= 1 and <= 8,
                        MostGigabytes: null or (>= 1 and <= 1_000_000),
                        Together: null or "mirrored" or "combined" or "one"
                    }
                && !string.IsNullOrWhiteSpace(cards.Class)
            )
        )
            yield return $"{Id}: cards: 1 to 8 slots, a class, mirrored, combined or one";
    }

    /// <summary>Names that <see cref="Unknown"/> may hold.</summary>
    public static readonly ImmutableArray<string> Figures =
    [
        "powerClass",
        "wattsInfraredOff",
        "wattsInfraredOn",
        "speedMbps",
        "tiltLeast",
        "tiltGreatest",
        "heightLeastMetres",
        "heightGreatestMetres",
        "slackMetres",
        "boxSessionMinutes",
        "bootSecondsLeast",
        "bootSecondsMost",
        .. Parts,
    ];
}
