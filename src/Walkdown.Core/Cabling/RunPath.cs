using Walkdown.Core.Measures;

namespace Walkdown.Core.Cabling;

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

    /// <summary>All of it, metres.</summary>
    public double Metres => MetresOf(null);

    /// <summary>Its fixed cable, metres.</summary>
    public double CableMetres => MetresOf(PieceKind.Cable);

    /// <summary>Its cords, metres.</summary>
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

    /// <summary>The splitter in it; null: none.</summary>
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
