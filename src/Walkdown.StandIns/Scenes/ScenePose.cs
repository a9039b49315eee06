namespace Walkdown.StandIns.Scenes;

/// <summary>How a head truly hangs and looks, hidden from Walkdown.</summary>
public sealed record ScenePose
{
    /// <summary>East of the scene's origin, metres.</summary>
    public double X { get; init; }

    /// <summary>North of it, metres.</summary>
    public double Y { get; init; }
    public double Height { get; init; } = 4;

    /// <summary>From north clockwise, degrees.</summary>
    public double Azimuth { get; init; }

    /// <summary>Under the horizon, degrees.</summary>
    public double Tilt { get; init; } = 20;

    /// <summary>The camera about its own axis, clockwise as it looks, degrees.</summary>
    public double Roll { get; init; }

    /// <summary>Field across from edge to edge, degrees.</summary>
    public double Field { get; init; } = 80;

    /// <summary>Barrel of the lens: at the left and right edge what would lie further out by this share is drawn; 0: none.</summary>
    public double Barrel { get; init; }
}

/// <summary>What light and weather are like, and what moves.</summary>
public sealed record SceneMood
{
    /// <summary>1 by day, 0 by night.</summary>
    public double Daylight { get; init; } = 1;

    /// <summary>The camera's own light by night.</summary>
    public double Infrared { get; init; } = 0.9;

    /// <summary>Where the sun stands, from north clockwise, degrees.</summary>
    public double SunAzimuth { get; init; } = 200;

    /// <summary>How high, degrees.</summary>
    public double SunElevation { get; init; } = 35;

    /// <summary>All grey levels by so much.</summary>
    public double Exposure { get; init; } = 1;

    /// <summary>Of each pixel, grey levels.</summary>
    public double Noise { get; init; }

    /// <summary>Streaks in the picture, 0 to 1.</summary>
    public double Rain { get; init; }

    /// <summary>Vehicles and people that were not there, or stood elsewhere; each seed has its own.</summary>
    public int Moving { get; init; }

    /// <summary>Of noise, streaks and what moves.</summary>
    public int Seed { get; init; } = 1;
}
