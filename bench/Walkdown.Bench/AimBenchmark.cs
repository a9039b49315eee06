using System.Diagnostics;
using Walkdown.Core.Aiming;
using Walkdown.Core.Pictures;
using Walkdown.StandIns.Scenes;

namespace Walkdown.Bench;

/// <summary>Rendered pairs of known truth: how far aim and roll are off, how many pairs are told nothing of, and what unrelated pictures
/// are taken for. And how long it takes.</summary>
internal static class AimBenchmark
{
    private const int Wide = 640,
        High = 360;

    /// <summary>Of the widest lens, at its left and right edge.</summary>
    private const double MostBarrel = 0.12;

    public static void Pairs(int count)
    {
        var errors = new List<(double Aim, double Roll, bool Ok, string What)>();
        var (missed, took, known) = (0, new List<double>(), new List<double>());
        for (var i = 0; i < count; i++)
        {
            var (scene, agreed, now, day, mood) = Pair(i);
            var a = new GreyRaster(Wide, High, scene.Draw(agreed, day, Wide, High));
            var b = new GreyRaster(Wide, High, scene.Draw(now, mood, Wide, High));
            var clock = Stopwatch.StartNew();
            var turn = CameraTurn.Of(new(a), new(b), agreed.Field, agreed.Tilt);
            took.Add(clock.Elapsed.TotalMilliseconds);
            // As the pictures after the first are: the lens is known.
            clock.Restart();
            if (turn.Bend is { } bend)
            {
                CameraTurn.Of(new(a), new(b), agreed.Field, agreed.Tilt, bend);
                known.Add(clock.Elapsed.TotalMilliseconds);
            }
            var what =
                $"{i}: pan {now.Azimuth - agreed.Azimuth:0.0} tilt {now.Tilt - agreed.Tilt:0.0} roll {now.Roll:0.0} day {mood.Daylight:0.0}"
                + $" rain {mood.Rain:0.0} noise {mood.Noise:0} moving {mood.Moving} field {agreed.Field:0}"
                + $" bend {agreed.Barrel / (1 + agreed.Barrel):0.000} told {turn.Bend:0.000}";
            if (!turn.IsMatch)
            {
                missed++;
                Console.WriteLine("nothing told " + what);
                continue;
            }
            var pan = turn.PanDeg - (agreed.Azimuth - now.Azimuth);
            var tilt = turn.TiltDeg - (agreed.Tilt - now.Tilt);
            var aim = double.Hypot(pan * Math.Cos(now.Tilt * Math.PI / 180), tilt);
            var roll = turn.RollDeg + now.Roll;
            errors.Add((aim, Math.Abs(roll), aim <= 0.1 && Math.Abs(roll) <= 0.15, what));
            if (aim > 0.1 || Math.Abs(roll) > 0.15)
                Console.WriteLine(
                    $"off by {aim:0.000} roll {roll:0.000} corr {turn.Correlation:0.00} agree {turn.Agreement:0.00} over {turn.Overlap:0.00} {what}"
                );
        }
        var sorted = errors.Select(e => e.Aim).Order().ToArray();
        took.Sort();
        known.Sort();
        Console.WriteLine(
            $"{count} pairs: {errors.Count(e => e.Ok)} within 0.1 and 0.15 degrees, {errors.Count(e => !e.Ok)} not, {missed} nothing told; median {sorted[sorted.Length / 2]:0.000}, 95th {sorted[(int)(0.95 * sorted.Length)]:0.000}; {took[took.Count / 2]:0} ms a pair on median, {known[known.Count / 2]:0} where its lens is known"
        );
    }

    public static void Strangers(int count)
    {
        var wrong = 0;
        for (var i = 0; i < count; i++)
        {
            var (scene, agreed, _, day, _) = Pair(i);
            var (other, pose, _, mood, _) = Pair(i + 50_000);
            var a = new GreyRaster(Wide, High, scene.Draw(agreed, day, Wide, High));
            var b = new GreyRaster(Wide, High, other.Draw(pose, mood, Wide, High));
            if (CameraTurn.Of(new(a), new(b), agreed.Field, agreed.Tilt) is { IsMatch: true } turn)
            {
                wrong++;
                Console.WriteLine(
                    $"{i}: taken for the same, corr {turn.Correlation:0.00} agree {turn.Agreement:0.00} over {turn.Overlap:0.00}"
                );
            }
        }
        Console.WriteLine($"{count} unrelated pairs: {wrong} taken for the same");
    }

    private static (Scene, ScenePose, ScenePose, SceneMood, SceneMood) Pair(int i)
    {
        var random = new Random(i * 104729 + 7);
        double Within(double from, double to) => from + random.NextDouble() * (to - from);
        var agreed = new ScenePose
        {
            Azimuth = Within(0, 360),
            Tilt = Within(5, 35),
            Height = Within(3, 6),
            Field = Within(30, 90),
        };
        // A wide lens bends lines more than a long one.
        agreed = agreed with
        {
            Barrel = new Random(i).NextDouble() * MostBarrel * (agreed.Field - 30) / 60,
        };
        // Overlap of half or more.
        var now = agreed with
        {
            Azimuth = agreed.Azimuth + Within(-0.3, 0.3) * agreed.Field,
            Tilt = agreed.Tilt + Within(-0.2, 0.2) * agreed.Field * High / Wide,
            Roll = Within(-6, 6),
        };
        var day = new SceneMood { Seed = i };
        var mood = (i % 5) switch
        {
            0 => day with { Noise = 2 },
            1 => day with { Noise = 3, Moving = 4, Seed = i + 1 },
            2 => day with { Noise = 3, SunAzimuth = 130, SunElevation = 20, Exposure = 0.8 },
            3 => day with { Noise = 5, Rain = 0.7, Seed = i + 2, Moving = 1 },
            _ => day with { Daylight = 0.05, Noise = 6, Exposure = 1.3, Seed = i + 3 },
        };
        return (new Scene(1 + i % 40), agreed, now, day, mood);
    }

    /// <summary>One pair drawn as files, to be looked at.</summary>
    public static void Draw(int i, string folder)
    {
        var (scene, agreed, now, day, mood) = Pair(i);
        foreach (var (name, pose, light) in new[] { ("agreed", agreed, day), ("now", now, mood) })
            File.WriteAllBytes(
                Path.Combine(folder, $"{name}.pgm"),
                [.. System.Text.Encoding.ASCII.GetBytes($"P5 {Wide} {High} 255\n"), .. scene.Draw(pose, light, Wide, High)]
            );
    }
}
