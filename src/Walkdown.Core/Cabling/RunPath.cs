using Walkdown.Core.Measures;

namespace Walkdown.Core.Cabling;

/// <summary>What a piece of a run is.</summary>
public enum PieceKind
{
    Cable,
    Cord,
    Panel,
    Coupler,
    Protector,
    SharingAdapter,
    Injector,
    Splitter,
}

/// <summary>One piece of the path between a port and a device, in order from the port.</summary>
/// <param name="Metres">Length; 0 for a connector.</param>
/// <param name="GaugeAwg">Of its conductors; for a cable or a cord.</param>
/// <param name="ContactOhms">Resistance that one conductor meets at its contacts, ohm.</param>
/// <param name="TemperatureC">Of this piece, where it differs from the run's.</param>
/// <param name="EfficiencyPercent">Of a splitter or an injector.</param>
/// <param name="Category">As printed on the sheath, such as 5e, 6 or 6A.</param>
/// <param name="RatedWatts">Most that a splitter or an injector gives, by its label.</param>
/// <param name="Listed">False for a part that no record lists: it takes length and resistance all the same.</param>
public sealed record PathPiece(
    PieceKind Kind,
    double Metres = 0,
    double? GaugeAwg = null,
    ConductorMaterial? Material = null,
    double ContactOhms = 0,
    double? TemperatureC = null,
    double? EfficiencyPercent = null,
    string Label = "",
    bool Listed = true,
    string Category = "",
    double? RatedWatts = null
)
{
    /// <summary>A piece as it is put into a path before anybody has measured it.</summary>
    public static PathPiece Fresh(PieceKind kind, Catalogue.Catalogue catalogue) =>
        kind switch
        {
            PieceKind.Cable => new(kind, 10, 24, ConductorMaterial.SolidCopper),
            PieceKind.Cord => new(kind, 2, 24, ConductorMaterial.StrandedCopper),
            PieceKind.Protector => new(kind, ContactOhms: catalogue.Figure("contact.protector-ohms")),
            PieceKind.SharingAdapter => new(kind, ContactOhms: catalogue.Figure("contact.sharing-adapter-ohms")),
            PieceKind.Splitter => new(
                kind,
                ContactOhms: catalogue.Figure("contact.connector-ohms"),
                EfficiencyPercent: catalogue.Figure("splitter.efficiency-percent")
            ),
            _ => new(kind, ContactOhms: catalogue.Figure("contact.connector-ohms")),
        };

    public bool IsConductor => Kind is PieceKind.Cable or PieceKind.Cord;

    /// <summary>Loop of one pair, ohm: both conductors and the contacts of both.</summary>
    /// <param name="share">Of its length.</param>
    public double PairLoopOhms(double runTemperatureC, double share = 1) =>
        2 * Require.Number(ContactOhms, "contact_ohm", 0, 1000)
        + (
            IsConductor
                ? Conductor.PairLoopOhms(
                    GaugeAwg ?? 24,
                    Metres * share,
                    TemperatureC ?? runTemperatureC,
                    Material ?? (Kind == PieceKind.Cord ? ConductorMaterial.StrandedCopper : ConductorMaterial.SolidCopper)
                )
                : 0
        );
}

/// <summary>A run from end to end, piece by piece.</summary>
public sealed record RunPath(ImmutableArray<PathPiece> Pieces)
{
    /// <summary>A path from what a schedule says: a cord at each end, where there are cords, and the fixed cable between.</summary>
    public static RunPath Of(double cableMetres, double gaugeAwg, ConductorMaterial material, double cordsMetres, double cordGaugeAwg)
    {
        var cable = new PathPiece(PieceKind.Cable, cableMetres, gaugeAwg, material);
        if (cordsMetres <= 0)
            return new RunPath([cable]);
        var cord = new PathPiece(PieceKind.Cord, cordsMetres / 2, cordGaugeAwg, ConductorMaterial.StrandedCopper);
        return new RunPath([cord, cable, cord]);
    }

    public double Metres => MetresOf(null);
    public double CableMetres => MetresOf(PieceKind.Cable);
    public double CordMetres => MetresOf(PieceKind.Cord);

    /// <summary>Resistance at all contacts of one conductor, ohm.</summary>
    public double ContactOhms
    {
        get
        {
            var ohms = 0.0;
            foreach (var piece in Pieces)
                ohms += piece.ContactOhms;
            return ohms;
        }
    }

    private double MetresOf(PieceKind? kind)
    {
        var metres = 0.0;
        foreach (var piece in Pieces)
            if (kind is null || piece.Kind == kind)
                metres += piece.Metres;
        return metres;
    }

    /// <summary>Two devices on one cable: two pairs each, no power in common, 100 Mb/s at most.</summary>
    public bool IsShared => Pieces.Any(p => p.Kind == PieceKind.SharingAdapter);

    public PathPiece? Splitter => Pieces.FirstOrDefault(p => p.Kind == PieceKind.Splitter);

    /// <summary>Loop of one pair over the whole path, ohm, at the run's temperature.</summary>
    public double PairLoopOhms(double temperatureC)
    {
        var ohms = 0.0;
        foreach (var piece in Pieces)
            ohms += piece.PairLoopOhms(temperatureC);
        return ohms;
    }

    /// <summary>Loop of one pair, ohm, were the whole as long as <paramref name="totalMetres"/>; cords stay.</summary>
    public double PairLoopOhms(double totalMetres, double temperatureC)
    {
        var cable = CableMetres;
        var share = cable <= 0 ? 1 : Math.Max(0, totalMetres - (Metres - cable)) / cable;
        var ohms = 0.0;
        foreach (var piece in Pieces)
            ohms += piece.PairLoopOhms(temperatureC, piece.Kind == PieceKind.Cable ? share : 1);
        return ohms;
    }

    /// <summary>The same path with its fixed cable as long as a measured whole says; cords stay.</summary>
    public RunPath WithTotalMetres(double metres)
    {
        double cable = CableMetres,
            wanted = Math.Max(0, metres - (Metres - cable));
        if (cable <= 0 || wanted == cable)
            return this;
        return new RunPath([.. Pieces.Select(p => p.Kind == PieceKind.Cable ? p with { Metres = p.Metres * wanted / cable } : p)]);
    }

    /// <summary>What is wrong with a path that somebody drew, with the piece's position; empty where nothing is.</summary>
    public ImmutableArray<(int Piece, Message What)> Problems()
    {
        var problems = ImmutableArray.CreateBuilder<(int, Message)>();
        if (Pieces.Length is 0 or > 40)
            problems.Add((0, new Message("path.count")));
        for (var i = 0; i < Pieces.Length; i++)
        {
            var piece = Pieces[i];
            if (piece.IsConductor && piece.Metres is not (> 0 and <= 2000))
                problems.Add((i, new Message("path.length")));
            if (!piece.IsConductor && piece.Metres != 0)
                problems.Add((i, new Message("path.no-length")));
            if (piece.GaugeAwg is { } g && g is not (>= 10 and <= 40))
                problems.Add((i, new Message("path.gauge")));
            if (piece.ContactOhms is not (>= 0 and <= 1000))
                problems.Add((i, new Message("path.contact")));
            if (piece.TemperatureC is { } t && t is not (>= -40 and <= 75))
                problems.Add((i, new Message("path.temperature")));
            if (piece is { Kind: PieceKind.Splitter, EfficiencyPercent: null })
                problems.Add((i, new Message("path.efficiency")));
            if (piece.EfficiencyPercent is { } e && e is not (> 0 and <= 100))
                problems.Add((i, new Message("path.efficiency")));
            if (piece.RatedWatts is { } rated && rated is not (> 0 and <= 200))
                problems.Add((i, new Message("path.rated")));
            if (piece.Label.Length > 60 || piece.Category.Length > 10)
                problems.Add((i, new Message("path.label")));
            if (piece.Kind == PieceKind.Splitter && i != Pieces.Length - 1)
                problems.Add((i, new Message("path.splitter-last")));
        }
        return problems.ToImmutable();
    }
}
