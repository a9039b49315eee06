namespace Walkdown.Core.Register;

/// <summary>Where a drawing lies on the site: level, not turned.</summary>
/// <param name="LeftMetres">Site coordinates of its upper left corner; y grows downwards, as on the drawing.</param>
/// <param name="MetresPerPixel">Metres that a pixel is.</param>
/// <param name="TopMetres">Metres from the top.</param>
public readonly record struct PlanPosition(double MetresPerPixel, double LeftMetres, double TopMetres);
