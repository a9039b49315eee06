using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Cabling;

/// <summary>One piece of the path between a port and a device, in order from the port.</summary>
/// <param name="Metres">Length; 0 for a connector.</param>
/// <param name="GaugeAwg">Of its conductors; for a cable or a cord.</param>
/// <param name="ContactOhms">Resistance that one conductor meets at its contacts, ohm.</param>
/// <param name="TemperatureC">Of this piece, where it differs from the run's.</param>
/// <param name="EfficiencyPercent">Of a splitter or an injector.</param>
/// <param name="Category">As printed on the sheath, such as 5e, 6 or 6A.</param>
/// <param name="RatedWatts">Most that a splitter or an injector gives, by its label.</param>
/// <param name="Listed">False for a part that no record lists: it takes length and resistance all the same.</param>
/// <param name="Kind">Its kind.</param>
/// <param name="Material">What the conductors are made of.</param>
/// <param name="Label">Its label.</param>
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
    public static PathPiece Fresh(PieceKind kind, Catalogue catalogue) =>
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

    /// <summary>It has length and resistance.</summary>
    public bool IsConductor => Kind is PieceKind.Cable or PieceKind.Cord;

    /// <summary>Loop of one pair, ohm: both conductors and the contacts of both.</summary>
    /// <param name="share">Of its length.</param>
    /// <param name="runTemperatureC">Degrees Celsius of the run, where the piece says none.</param>
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
