using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>One cable run with its ends, as planned or as built.</summary>
/// <param name="LengthMetres">The fixed cable, without cords.</param>
/// <param name="OwnScheme">True where the run says its scheme itself; else the job's holds.</param>
/// <param name="CordsMetres">Cords in the path, both ends together; 0 for a permanent link.</param>
/// <param name="Id">Its id.</param>
/// <param name="Label">Its label.</param>
/// <param name="Configuration">With or without cords.</param>
/// <param name="GaugeAwg">Gauge, AWG.</param>
/// <param name="Material">What the conductors are made of.</param>
/// <param name="Screened">It has a screen.</param>
/// <param name="TemperatureC">Degrees Celsius along it.</param>
/// <param name="CordGaugeAwg">The cords' gauge, AWG.</param>
/// <param name="Scheme">Wiring scheme.</param>
/// <param name="Port">The port; null: it ends at none.</param>
/// <param name="Shared">Two devices share it.</param>
public sealed record RunFacts(
    Guid Id,
    string Label,
    LinkConfiguration Configuration,
    Sourced<double> LengthMetres,
    Sourced<double> GaugeAwg,
    Sourced<ConductorMaterial> Material,
    bool Screened,
    Sourced<double> TemperatureC,
    double CordsMetres,
    double CordGaugeAwg,
    WiringScheme Scheme,
    PortFacts? Port,
    bool OwnScheme = false,
    bool Shared = false
)
{
    /// <summary>Everything in the path from the port to the device, where it was drawn; else what the length and the cords give.</summary>
    public ImmutableArray<PathPiece> Pieces { get; init; } = [];

    /// <summary>The path as arithmetic takes it.</summary>
    public RunPath Path =>
        Pieces.IsEmpty ? RunPath.Of(LengthMetres.Value, GaugeAwg.Value, Material.Value, CordsMetres, CordGaugeAwg) : new RunPath(Pieces);

    /// <summary>Fixed cable and cords together.</summary>
    public double TotalPlannedMetres => LengthMetres.Value + CordsMetres;
}
