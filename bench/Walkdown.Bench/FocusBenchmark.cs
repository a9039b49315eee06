using Walkdown.Core.Focusing;
using Walkdown.Core.Pictures;
using Walkdown.StandIns.Scenes;

namespace Walkdown.Bench;

/// <summary>A picture of 3840 x 2160 while a ring is turned: how long its score takes, and what it leaves behind; the same for an
/// edge.</summary>
internal static class FocusBenchmark
{
    private const int Wide = 3840,
        High = 2160;

    public static void Run(int pictures)
    {
        var levels = new Scene(5).Draw(new ScenePose { Tilt = 20, Azimuth = 40 }, new() { Noise = 2, Seed = 3 }, Wide, High);
        var picture = new GreyRaster(Wide, High, levels);
        var run = new FocusRun(new(0.5, 0.5));
        var region = FocusSpots.Of(picture, new(0.5, 0.5))[0].Region;
        Told("score of a picture", pictures, () => run.Next(picture));
        Told("parts alone", pictures, () => FocusSpots.Of(picture, new(0.5, 0.5)));
        Told("an edge looked for", pictures, () => EdgeNear.Of(picture, region));
        Told("whether it is empty", pictures, () => EmptyPicture.Of(picture));
        var edge = new byte[60 * 60];
        for (var y = 0; y < 60; y++)
        for (var x = 0; x < 60; x++)
            edge[y * 60 + x] = (byte)(x - 30 - (y - 30) * 0.09 > 0 ? 190 : 60);
        var square = new GreyRaster(60, 60, edge);
        Told("slanted edge of 60 x 60", pictures, () => SlantedEdge.Of(square));
    }

    private static void Told(string what, int times, Action act)
    {
        var timed = Timed.Of(times, act);
        Console.WriteLine($"{what}: median {timed.MedianMs:0.0} ms, 95th {timed.NinetyFifthMs:0.0} ms, {timed.Kilobytes:0} kB each");
    }
}
