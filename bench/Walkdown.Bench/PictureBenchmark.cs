using System.Diagnostics;
using System.Globalization;
using System.Text.Json.Nodes;
using Walkdown.Core.Pictures;
using Walkdown.StandIns.Scenes;

namespace Walkdown.Bench;

/// <summary>Every measurement of a picture of 3840 x 2160, and one laid on another, against OpenCV doing the same with the same pictures in
/// the same run, each on one processor: the ratio of both medians, and what a measurement leaves behind.</summary>
internal static class PictureBenchmark
{
    private const int Wide = 3840,
        High = 2160;

    /// <param name="python">That has OpenCV.</param>
    /// <param name="script">bench/pictures.py.</param>
    /// <param name="times">Each.</param>
    public static void Run(string python, string script, int times)
    {
        var scene = new Scene(5);
        var pose = new ScenePose { Tilt = 20, Azimuth = 40 };
        GreyRaster Drawn(ScenePose at, int seed) => new(Wide, High, scene.Draw(at, new() { Noise = 2, Seed = seed }, Wide, High));
        var (one, other) = (Drawn(pose, 3), Drawn(pose with { Azimuth = 43, Tilt = 21, Roll = 2 }, 4));
        var folder = Directory.CreateTempSubdirectory("walkdown-bench-").FullName;
        try
        {
            File.WriteAllBytes(Path.Combine(folder, "one.grey"), one.Levels.ToArray());
            File.WriteAllBytes(Path.Combine(folder, "other.grey"), other.Levels.ToArray());
            using var process = Process.Start(
                new ProcessStartInfo(python, [script, folder, $"{Wide}", $"{High}", $"{times}"]) { RedirectStandardOutput = true }
            )!;
            var told = JsonNode.Parse(process.StandardOutput.ReadToEnd())!;
            process.WaitForExit();
            Console.WriteLine($"OpenCV {told["version"]}, {Wide} x {High}, median of {times}");
            void Against(string what, string same, Action act)
            {
                var (own, theirs) = (Timed.Of(times, act), told[same]!.GetValue<double>());
                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"{what, -14} {own.MedianMs, 8:0.0} ms, OpenCV {theirs, 8:0.0} ms, ratio {own.MedianMs / theirs, 5:0.00}, {own.Kilobytes, 7:0} kB each"
                    )
                );
            }
            Against("exposure", "exposure", () => Exposure.Of(one));
            Against("sharpness", "sharpness", () => Sharpness.Of(one));
            Against("in tiles", "sharpness_map", () => SharpnessMap.Of(one, 6, 8));
            Against("noise", "noise", () => PictureNoise.Of(one));
            Against("covered", "blocked", () => Blocked.Of(one, other, 6, 8));
            Against("orientation", "orientation", () => PictureOrientation.Of(one, other));
            // OpenCV's phases alone tell a move to a pixel or so; refined by them both, it is to hundredths.
            Against("laid, phases", "registered", () => PictureRegistration.Of(one, other));
            Against("laid, refined", "refined", () => PictureRegistration.Of(one, other));
        }
        finally
        {
            Directory.Delete(folder, true);
        }
    }
}
