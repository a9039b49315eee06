namespace Walkdown.Core.Measures;

/// <summary>Angles as people give them, degrees.</summary>
internal static class Angle
{
    /// <summary>Degrees as radians.</summary>
    public static double Rad(double degrees) => degrees * Math.PI / 180;

    /// <summary>Radians as degrees.</summary>
    public static double Deg(double radians) => radians * 180 / Math.PI;

    /// <summary>Sine of degrees.</summary>
    public static double Sin(double degrees) => Math.Sin(Rad(degrees));

    /// <summary>Cosine of degrees.</summary>
    public static double Cos(double degrees) => Math.Cos(Rad(degrees));

    /// <summary>Tangent of degrees.</summary>
    public static double Tan(double degrees) => Math.Tan(Rad(degrees));

    /// <summary>Folded to above -180 and up to 180.</summary>
    public static double Folded(double degrees) => degrees - 360 * Math.Ceiling((degrees - 180) / 360);
}
