using System.Collections.Concurrent;
using System.Diagnostics;
using SkiaSharp;
using Walkdown.Core.Nights;
using Walkdown.Core.Pictures;
using Walkdown.StandIns.Scenes;

namespace Walkdown.Bench;

/// <summary>Hidden faults of the night: whether the true reason comes first, or among three, whether a clean picture is called foul, and
/// how long a look takes.</summary>
internal static class NightBenchmark
{
    private const int Wide = 480,
        High = 270;

    public static void Draw(string kind, int number, string into)
    {
        var (day, nights, fault, tilt) = MadeNight.Of(number, kind == "clean" ? null : kind, Wide, High);
        foreach (var (name, colours) in new[] { ("day", day), ("night", nights[0]) })
        {
            using var bitmap = new SKBitmap(new SKImageInfo(Wide, High, SKColorType.Rgba8888, SKAlphaType.Opaque));
            colours.CopyTo(bitmap.GetPixelSpan());
            using var data = bitmap.Encode(SKEncodedImageFormat.Png, 90);
            File.WriteAllBytes(Path.Combine(into, $"{kind}-{number}-{name}.png"), data.ToArray());
        }
        var run = new NightRun(new(0.5, 0.6), Grey(day), new(tilt));
        var look = nights.Select(n => run.Next(new(Grey(n), 0))).Last();
        Console.WriteLine($"{fault} tilt {tilt:0}: {Told(look)}");
        if (look.Veil is { } map)
            for (var row = 0; row < map.Rows; row++)
                Console.WriteLine(
                    string.Join(
                        ' ',
                        Enumerable
                            .Range(0, map.Columns)
                            .Select(c => map.Tiles[row * map.Columns + c])
                            .Select(t => t.Veil is { } v ? $"{100 * v:00}/{100 * t.Light:00}" : $"--/{100 * t.Light:00}")
                    )
                );
    }

    public static void Run(int count)
    {
        var told = new ConcurrentBag<(int Number, string? Kind, NightLook Look)>();
        var took = new ConcurrentBag<double>();
        Parallel.For(
            0,
            count,
            number =>
            {
                // Each eighth is clean.
                var kind = number % 8 == 7 ? null : NightFault.Veils[number % 8];
                var (day, nights, _, tilt) = MadeNight.Of(number, kind, Wide, High);
                // Of half of them it is known how far they look down.
                var run = new NightRun(new(0.5, 0.6), Grey(day), new(number / 8 % 2 == 0 ? tilt : null));
                run.Next(new(Grey(nights[0]), 0));
                var second = new SeenPicture(Grey(nights[1]), 0);
                var clock = Stopwatch.GetTimestamp();
                var look = run.Next(second);
                took.Add(Stopwatch.GetElapsedTime(clock).TotalMilliseconds);
                told.Add((number, kind, look));
            }
        );
        foreach (var of in told.GroupBy(t => t.Kind ?? "clean").OrderBy(g => g.Key))
        {
            var looks = of.OrderBy(t => t.Number).ToArray();
            var first = looks.Count(t => Place(t) == 0);
            var three = looks.Count(t => Place(t) is >= 0 and < 3);
            var veiled = looks.Count(t => t.Look.State == NightState.Veiled);
            Console.WriteLine(
                $"{of.Key, -7} {looks.Length} nights: veiled {veiled}, first {first}, among three {three}; share {Span(looks.Select(t => t.Look.Share))}, "
                    + $"worst {Span(looks.Select(t => t.Look.Worst))}, known {Span(looks.Select(t => t.Look.Veil?.Known))}, "
                    + $"sharp {Span(looks.Select(t => t.Look.Sharpness?.Ratio))}, dB {Span(looks.Select(t => t.Look.SignalDb))}, "
                    + $"same view {looks.Count(t => t.Look.SameView == true)}, other {looks.Count(t => t.Look.SameView == false)}"
            );
            foreach (var t in looks.Where(t => Place(t) != 0 && t.Kind is not null).Take(6))
                Console.WriteLine($"    {t.Number}: {Told(t.Look)}");
            foreach (var t in looks.Where(t => t.Kind is null && t.Look.State is NightState.Veiled or NightState.Soft))
                Console.WriteLine($"    {t.Number}: {Told(t.Look)}");
            if (of.Key == "clean")
                Console.WriteLine("    " + string.Join(", ", looks.GroupBy(t => t.Look.State).Select(g => $"{g.Key} {g.Count()}")));
        }
        var faults = told.Where(t => t.Kind is not null).ToArray();
        var clean = told.Where(t => t.Kind is null).ToArray();
        Console.WriteLine(
            $"{faults.Length} faults: true reason first {100.0 * faults.Count(t => Place(t) == 0) / faults.Length:0.0} %, "
                + $"among three {100.0 * faults.Count(t => Place(t) is >= 0 and < 3) / faults.Length:0.0} %; "
                + $"with what would be likeliest where too little is seen {100.0 * faults.Count(t => Place(t) is >= 0 and < 3 || t.Look.Suspects.Any(r => r.ToString().Equals(t.Kind, StringComparison.OrdinalIgnoreCase))) / faults.Length:0.0} %, "
                + $"of the clean ones {100.0 * clean.Count(t => !t.Look.Suspects.IsEmpty) / clean.Length:0.0} % are told such; "
                + $"{clean.Length} clean: called foul {clean.Count(t => t.Look.State == NightState.Veiled)}; "
                + $"a look {took.Order().ElementAt(took.Count / 2):0.0} ms on median, {Wide} x {High}"
        );
        Console.WriteLine(Large());

        static int Place((int Number, string? Kind, NightLook Look) t) =>
            t.Look.Reasons.Select(r => r.Reason.ToString().ToLowerInvariant()).ToList().IndexOf(t.Kind ?? "");

        static string Span(IEnumerable<double?> all)
        {
            var known = all.Where(v => v is not null).Order().ToArray();
            return known.Length == 0 ? "-" : $"{known[0]:0.00}..{known[known.Length / 2]:0.00}..{known[^1]:0.00}";
        }
    }

    /// <summary>How long a look at a picture of a camera's full size takes, and what it leaves.</summary>
    private static string Large()
    {
        const int Across = 3840,
            Down = 2160,
            Looks = 15;
        var (day, nights, _, _) = MadeNight.Of(4, "smudge", Wide, High);
        GreyRaster Sized(byte[] colours) => Grey(colours).Sized(Across, Down);
        var (first, others) = (Sized(day), nights.Select(n => new SeenPicture(Sized(n), 0)).ToArray());
        var run = new NightRun(new(0.5, 0.6), first, new());
        var took = new double[Looks];
        for (var i = -3; i < Looks; i++)
        {
            var clock = Stopwatch.GetTimestamp();
            run.Next(others[(i + 4) % others.Length]);
            if (i >= 0)
                took[i] = Stopwatch.GetElapsedTime(clock).TotalMilliseconds;
        }
        var before = GC.GetAllocatedBytesForCurrentThread();
        run.Next(others[0]);
        var left = (GC.GetAllocatedBytesForCurrentThread() - before) / 1e6;
        return $"a look at {Across} x {Down}: {took.Order().ElementAt(Looks / 2):0.0} ms on median, worst {took.Max():0.0}, {left:0.0} MB allocated";
    }

    private static string Told(NightLook look) =>
        $"{look.State}, share {look.Share:0.00}, worst {look.Worst:0.00}: "
        + string.Join(", ", look.Reasons.Take(3).Select(r => $"{r.Reason} {r.Chance:0.00} ({r.Explains:0.00})"));

    private static GreyRaster Grey(byte[] colours)
    {
        var levels = new byte[Wide * High];
        for (var i = 0; i < levels.Length; i++)
            levels[i] = GreyRaster.Grey(colours[4 * i], colours[4 * i + 1], colours[4 * i + 2]);
        return new(Wide, High, levels);
    }
}
