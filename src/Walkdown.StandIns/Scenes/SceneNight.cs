namespace Walkdown.StandIns.Scenes;

/// <summary>What a camera's own infrared does that it should not, or does not do; hidden from Walkdown.</summary>
/// <param name="Kind">film, finger, foam, rim, wall, tilt, smudge; or dark: its lamps give nothing; null: nothing is wrong.</param>
/// <param name="Strength">Light that comes back, against the mean light of the view.</param>
/// <param name="Where">Where it lies: clockwise from the top, degrees.</param>
/// <param name="Size">0 to 1 between the least and the most that happens.</param>
/// <param name="Seed">Of what is uneven in it.</param>
public sealed record NightFault(string? Kind, double Strength = 1.5, double Where = 0, double Size = 0.5, int Seed = 1)
{
    /// <summary>All that can be wrong with a veil.</summary>
    public static readonly IReadOnlyList<string> Veils = ["film", "finger", "foam", "rim", "wall", "tilt", "smudge"];

    /// <summary>One as it may happen.</summary>
    public static NightFault Drawn(string? kind, Random random) =>
        new(
            kind,
            kind switch
            {
                "wall" => 4 + 8 * random.NextDouble(),
                "rim" => 4 + 6 * random.NextDouble(),
                "finger" => 1.5 + 2.5 * random.NextDouble(),
                null => 0.12 * random.NextDouble(),
                _ => 0.9 + 1.8 * random.NextDouble(),
            },
            kind switch
            {
                // From a wall beside it or from eaves; the shoulder of a cover is above.
                "wall" => new[] { 90.0, 270, 0 }[random.Next(3)] + 16 * (random.NextDouble() - 0.5),
                "tilt" => 0,
                _ => 360 * random.NextDouble(),
            },
            random.NextDouble(),
            random.Next()
        );
}

/// <summary>What a sensor makes of light: infrared that comes back is added to the view, exposure is set by all of it, noise grows with
/// it.</summary>
public static class SceneNight
{
    /// <summary>Mean light that exposure goes for, and the most that it can lift, linear.</summary>
    private const double Wanted = 0.15,
        MostGain = 9;

    private static readonly float[] Linear = [.. Enumerable.Range(0, 256).Select(g => MathF.Pow(g / 255f, 2.2f))];

    /// <summary>The picture in the dark, grey, in place of the view as its lamps light it.</summary>
    /// <param name="colours">Red, green, blue and 255 for each pixel; written over.</param>
    /// <param name="isLit">Its own infrared is on: without it nothing comes back.</param>
    /// <returns>How much a sensor's noise grows by its gain.</returns>
    public static double Through(byte[] colours, int wide, int high, NightFault fault, bool isLit = true)
    {
        var light = new float[wide * high];
        double mean = 0;
        for (var i = 0; i < light.Length; i++)
        {
            light[i] = Linear[colours[4 * i + 1]];
            mean += light[i];
        }
        mean /= light.Length;
        if (isLit)
            Veil(light, wide, high, fault, (float)mean);
        double metered = 0;
        foreach (var l in light)
            metered += Math.Min(l, 4 * mean + 1e-6);
        metered /= light.Length;
        var gain = Math.Min(MostGain, Wanted / Math.Max(1e-5, metered));
        Parallel.For(
            0,
            high,
            y =>
            {
                for (var x = 0; x < wide; x++)
                {
                    var at = y * wide + x;
                    var level = 255 * Math.Pow(Math.Min(1, gain * light[at]), 1 / 2.2);
                    var grey = (byte)Math.Clamp(Math.Round(level), 0, 255);
                    (colours[4 * at], colours[4 * at + 1], colours[4 * at + 2]) = (grey, grey, grey);
                }
            }
        );
        return Math.Sqrt(Math.Max(1, gain));
    }

    private static void Veil(float[] light, int wide, int high, NightFault fault, float mean)
    {
        var scattered = fault.Kind == "film" ? Around(light, wide, high) : null;
        var lies = new Lies(fault, wide, high);
        var (s, c, half) = (lies.Sin, lies.Cos, lies.Half);
        Parallel.For(
            0,
            high,
            y =>
            {
                for (var x = 0; x < wide; x++)
                {
                    var (u, v) = lies.At(x, y);
                    ref var l = ref light[y * wide + x];
                    var slow = 2 * Scene.Slow((float)(u * 5), (float)(v * 5), fault.Seed) - 1;
                    var along = s * u - c * v;
                    switch (fault.Kind)
                    {
                        case "film":
                            l = 0.85f * l + (float)(fault.Strength * (0.6 * mean * (1 + 0.25 * slow) + 0.4 * scattered![y * wide + x]));
                            break;
                        case "foam":
                            var r = double.Hypot(u, v) / double.Hypot(0.5, half);
                            l += (float)(fault.Strength * mean * (0.2 + 2 * Math.Pow(r, 2 + fault.Size)) * (1 + 0.2 * slow));
                            break;
                        case "tilt":
                            l += (float)(
                                fault.Strength
                                    * mean
                                    * 2
                                    / (1 + Math.Exp(-(along / half - 0.5 + fault.Size) / (0.12 + 0.1 * fault.Size)))
                                    * (1 + 0.15 * slow)
                                + 0.08 * fault.Strength * mean
                            );
                            break;
                        case "finger":
                        {
                            var (cx, cy) = (0.36 * s, -0.36 * c * half * 2);
                            var d = double.Hypot(u - cx, v - cy) / (0.06 + 0.06 * fault.Size);
                            l += (float)(fault.Strength * mean * (1.5 * Math.Exp(-0.5 * d * d) * (1 + 0.3 * slow) + 0.06));
                            break;
                        }
                        case "smudge":
                        {
                            // A wipe of the hand, in a bow, thicker here and there.
                            var (way, aside) = (fault.Where * Math.PI / 180 + 0.9, 0.22 * Math.Sin(fault.Where));
                            var (sw, cw) = Math.SinCos(way);
                            var (p, q) = (cw * u + sw * v, -sw * u + cw * v - aside + 0.25 * (cw * u + sw * v) * (cw * u + sw * v));
                            var thick =
                                Math.Exp(-0.5 * Math.Pow(q / (0.07 + 0.07 * fault.Size), 2)) * Math.Exp(-0.5 * Math.Pow(p / 0.45, 2));
                            l += (float)(fault.Strength * mean * (2 * thick * (1 + 0.5 * slow) + 0.08));
                            break;
                        }
                        case "rim":
                        {
                            var (beyond, arc) = lies.Rim(u, v);
                            // The rim hides what is behind it, and glares a little beside itself.
                            l = (float)(
                                l * (1 - 0.7 * arc)
                                + fault.Strength * mean * (arc * (1 + 0.2 * slow) + 0.12 * Math.Exp(Math.Min(0, beyond) / 0.06))
                            );
                            break;
                        }
                        case "wall":
                        {
                            var far = lies.Wall(u, v);
                            if (far > 0)
                                l = (float)(fault.Strength * mean * (0.25 + far * far) * (1 + 0.12 * slow + 0.1 * Bricks(u, v)));
                            else
                                l += (float)(0.02 * fault.Strength * mean);
                            break;
                        }
                        default:
                            l += (float)(fault.Strength * mean * (fault.Kind is null ? 1 : 0));
                            break;
                    }
                }
            }
        );
    }

    /// <summary>Where a fault lies in a picture: places are counted in its widths from its middle.</summary>
    private readonly struct Lies(NightFault fault, int wide, int high)
    {
        public double Sin { get; } = Math.Sin(fault.Where * Math.PI / 180);
        public double Cos { get; } = Math.Cos(fault.Where * Math.PI / 180);
        public double Half { get; } = (double)high / wide / 2;

        /// <summary>So far the picture goes that way.</summary>
        private double Reach => Math.Abs(Sin) * 0.5 + Math.Abs(Cos) * Half;

        public (double U, double V) At(int x, int y) => ((x + 0.5) / wide - 0.5, (y + 0.5) / wide - Half);

        /// <summary>Beyond the rim's edge by so much, and how much of it is there, 0 to 1.</summary>
        public (double Beyond, double Arc) Rim(double u, double v)
        {
            var bend = 0.5 + 0.4 * fault.Size;
            var at = (0.3 + 0.35 * (1 - fault.Size)) * Reach - bend;
            var beyond = double.Hypot(u - Sin * at, v + Cos * at) - bend;
            return (beyond, 1 / (1 + Math.Exp(-beyond / 0.012)));
        }

        /// <summary>From the wall's edge, 0, to the border, 1.</summary>
        public double Wall(double u, double v)
        {
            var edge = (0.65 - 0.75 * fault.Size) * Reach;
            return (Sin * u - Cos * v - edge) / (Reach - edge);
        }
    }

    private static double Bricks(double u, double v) => Math.Abs(v * 30 - Math.Round(v * 30)) < 0.08 ? -1 : 0;

    /// <summary>Light spread widely, as a film spreads it.</summary>
    private static float[] Around(float[] light, int wide, int high)
    {
        const int Cells = 12;
        var (rows, sums) = (Cells * high / wide + 1, new double[(Cells + 1) * (Cells * high / wide + 2)]);
        var counts = new int[sums.Length];
        for (var y = 0; y < high; y++)
        for (var x = 0; x < wide; x++)
        {
            var cell = y * rows / high * (Cells + 1) + x * Cells / wide;
            (sums[cell], counts[cell]) = (sums[cell] + light[y * wide + x], counts[cell] + 1);
        }
        var around = new float[light.Length];
        for (var y = 0; y < high; y++)
        for (var x = 0; x < wide; x++)
        {
            double sum = 0,
                weight = 0;
            for (var row = 0; row < rows; row++)
            for (var column = 0; column < Cells; column++)
            {
                var cell = row * (Cells + 1) + column;
                if (counts[cell] == 0)
                    continue;
                var (dx, dy) = ((x + 0.0) / wide * Cells - column - 0.5, (y + 0.0) / high * rows - row - 0.5);
                var w = 1 / (1 + 0.3 * (dx * dx + dy * dy));
                (sum, weight) = (sum + w * sums[cell] / counts[cell], weight + w);
            }
            around[y * wide + x] = (float)(sum / weight);
        }
        return around;
    }

    /// <summary>What is seen of a fault by day as well: a film dims, a smear softens, a wall and a rim stand there.</summary>
    public static void ByDay(byte[] colours, int wide, int high, NightFault fault)
    {
        if (fault.Kind is not ("film" or "smudge" or "rim" or "wall"))
            return;
        var lies = new Lies(fault, wide, high);
        Parallel.For(
            0,
            high,
            y =>
            {
                for (var x = 0; x < wide; x++)
                {
                    var (u, v) = lies.At(x, y);
                    var at = 4 * (y * wide + x);
                    double keep = 1,
                        add = 0;
                    switch (fault.Kind)
                    {
                        case "film":
                            (keep, add) = (0.85, 18);
                            break;
                        case "smudge":
                            (keep, add) = (0.96, 5);
                            break;
                        case "rim":
                            var arc = lies.Rim(u, v).Arc;
                            (keep, add) = (1 - 0.7 * arc, 40 * arc);
                            break;
                        case "wall":
                            if (lies.Wall(u, v) > 0)
                                (keep, add) = (0, 150 + 14 * Scene.Slow((float)(u * 40), (float)(v * 40), fault.Seed) + 10 * Bricks(u, v));
                            break;
                    }
                    for (var part = 0; part < 3; part++)
                        colours[at + part] = (byte)Math.Clamp(keep * colours[at + part] + add, 0, 255);
                }
            }
        );
    }
}
