using Walkdown.Core.Measures;

namespace Walkdown.Core.Catalogues;

/// <summary>How the lens of a model is set.</summary>
public enum LensSet
{
    /// <summary>It is as it is.</summary>
    Fixed,

    /// <summary>By rings on the lens, with the cover off.</summary>
    Rings,

    /// <summary>By its motor, from the page or the tester.</summary>
    Motor,
}

/// <summary>The lens of a model.</summary>
/// <param name="LeastMm">Shortest focal length, millimetres.</param>
/// <param name="MostMm">Longest focal length, millimetres.</param>
/// <param name="Set">How it is set.</param>
/// <param name="WidestDeg">Width of the picture at the shortest, degrees; null: not known.</param>
/// <param name="NarrowestDeg">Width at the longest, degrees; null: not known.</param>
/// <param name="TallestDeg">Height of the picture at the shortest, degrees; null: not known.</param>
/// <param name="LowestDeg">Height at the longest, degrees; null: not known.</param>
public sealed record Lens(
    double LeastMm,
    double MostMm,
    LensSet Set,
    double? WidestDeg = null,
    double? NarrowestDeg = null,
    double? TallestDeg = null,
    double? LowestDeg = null
);

/// <summary>Pixels of a model's picture.</summary>
public sealed record Pixels(int Wide, int High);

/// <summary>Screws, or a lock, of one part of a model.</summary>
/// <param name="Part">What it holds, as rows name it: base, cover, axis.</param>
/// <param name="Drive">What turns it, in the sheet's words, such as T10.</param>
/// <param name="Count">How many.</param>
/// <param name="Captive">They stay in the part when they are loose.</param>
public sealed record Fastener(string Part, string Drive, int Count = 1, bool Captive = false);

/// <summary>How a model is reset.</summary>
/// <param name="LeastSeconds">Held for less, nothing happens.</param>
/// <param name="MostSeconds">Held for longer, something else happens, or the button suffers; null: not known.</param>
/// <param name="At">Where its button is, in the sheet's words.</param>
/// <param name="Light">Pattern of its light that says that it took; null: none does.</param>
public sealed record ResetWay(double LeastSeconds, double? MostSeconds, string At, string? Light = null);

/// <summary>How far a model can be turned before it meets its stops, degrees; its tilt stands with the model.</summary>
/// <param name="PanLeast">To the left, as a negative number.</param>
/// <param name="PanGreatest">To the right.</param>
public sealed record Stops(double PanLeast, double PanGreatest);

/// <summary>Where a setting of a model can be made.</summary>
/// <param name="Setting">What is set, such as address, focus, day-night.</param>
/// <param name="At">Places in the sheet's order: page, recorder, tester, switch, lens.</param>
public sealed record SettingPlace(string Setting, ImmutableArray<string> At)
{
    /// <summary>In words; null where the sheet names no place.</summary>
    public Message? Told() =>
        At.IsEmpty ? null : new Message("sheet.surface", "@setting." + Setting, string.Join(", ", At.Select(a => "@surface." + a)));
}

/// <summary>How long a model may run in its box where it is so warm.</summary>
/// <param name="AmbientC">Degrees Celsius around the box.</param>
/// <param name="Minutes">Minutes at most.</param>
public sealed record BoxTime(double AmbientC, double Minutes);

/// <summary>Memory cards of a model.</summary>
/// <param name="Slots">How many there are.</param>
/// <param name="Class">Least class, as the sheet writes it.</param>
/// <param name="MostGigabytes">Largest card that it takes; null: not known.</param>
/// <param name="Together">What two cards do: mirrored, combined, one; null: not known.</param>
public sealed record CardSlots(int Slots, string Class, int? MostGigabytes = null, string? Together = null);

/// <summary>Minutes in the box by how warm it is.</summary>
public static class BoxCurve
{
    /// <summary>Between two points of the sheet in a straight line; colder than its coldest: that; warmer than its warmest: none, for
    /// nobody says how long.</summary>
    /// <param name="curve">At least one point, coldest first.</param>
    /// <param name="ambientC">Degrees Celsius around the box.</param>
    public static double MinutesAt(ImmutableArray<BoxTime> curve, double ambientC)
    {
        Require.Number(ambientC, "ambient");
        if (ambientC <= curve[0].AmbientC)
            return curve[0].Minutes;
        for (var i = 1; i < curve.Length; i++)
            if (ambientC <= curve[i].AmbientC)
            {
                var (a, b) = (curve[i - 1], curve[i]);
                return a.Minutes + (b.Minutes - a.Minutes) * (ambientC - a.AmbientC) / (b.AmbientC - a.AmbientC);
            }
        return 0;
    }
}
