using System.Runtime.CompilerServices;

namespace Walkdown.StandIns.Scenes;

/// <summary>What a lens and its cover do to a picture: a ring that is off its best blurs it, a smear on the cover blurs one side of it, and
/// what the sensor adds comes after both.</summary>
/// <param name="Steps">The ring is off its sharpest by so many steps, either way; a step is about one depth of focus.</param>
/// <param name="Smear">Where the cover is smeared: left, right or all; null: nowhere.</param>
/// <param name="Noise">Of the sensor, grey levels.</param>
/// <param name="Seed">Of the noise.</param>
public sealed record SceneLens(double Steps, string? Smear, double Noise, int Seed)
{
    /// <summary>Blur of a lens at its best and for each step off it, pixels of a picture 2,560 across.</summary>
    private const double Least = 0.7,
        PerStep = 1.3,
        Smeared = 3.2,
        Across = 2560;

    /// <summary>The same picture through it.</summary>
    /// <param name="colours">Red, green, blue and 255 for each pixel; written over.</param>
    public void Through(byte[] colours, int wide, int high)
    {
        var scale = wide / Across;
        Blur(colours, wide, high, scale * double.Hypot(Least, PerStep * Steps));
        if (Smear is not null)
        {
            var smeared = (byte[])colours.Clone();
            Blur(smeared, wide, high, scale * Smeared);
            Parallel.For(
                0,
                high,
                y =>
                {
                    for (var x = 0; x < wide; x++)
                    {
                        var share = Math.Clamp(((Smear == "left" ? wide - x : x) / (double)wide - 0.6) / 0.15, 0, 1);
                        if (Smear == "all")
                            share = 1;
                        for (var c = 0; c < 3; c++)
                        {
                            var at = 4 * (y * wide + x) + c;
                            // A smear also lifts what is dark.
                            colours[at] = (byte)(colours[at] + share * (0.92 * smeared[at] + 14 - colours[at]));
                        }
                    }
                }
            );
        }
        if (Noise > 0)
            Parallel.For(
                0,
                high,
                y =>
                {
                    for (var x = 0; x < wide; x++)
                    {
                        var off = Noise * Scene.Bell(x, y, Seed);
                        for (var c = 0; c < 3; c++)
                        {
                            ref var level = ref colours[4 * (y * wide + x) + c];
                            level = (byte)Math.Clamp(Math.Round(level + off), 0, 255);
                        }
                    }
                }
            );
    }

    /// <summary>Three boxes, one after another, are nearly a bell; under a pixel a bell of three.</summary>
    private static void Blur(byte[] colours, int wide, int high, double sigma)
    {
        if (sigma < 0.25)
            return;
        if (sigma < 1.2)
        {
            // Weights of a bell of five, whose deviation is sigma.
            var weights = Enumerable.Range(-2, 5).Select(i => Math.Exp(-i * i / (2 * sigma * sigma))).ToArray();
            var sum = weights.Sum();
            Along(colours, wide, high, [.. weights.Select(w => (float)(w / sum))]);
            return;
        }
        var side = Math.Max(1, (int)Math.Round((Math.Sqrt(4 * sigma * sigma + 1) - 1) / 2));
        for (var pass = 0; pass < 3; pass++)
            Along(colours, wide, high, [.. Enumerable.Repeat(1f / (2 * side + 1), 2 * side + 1)]);
    }

    private static void Along(byte[] colours, int wide, int high, float[] weights)
    {
        Parallel.For(
            0,
            high,
            () => new byte[4 * wide],
            (y, _, line) =>
            {
                var row = colours.AsSpan(4 * y * wide, 4 * wide);
                row.CopyTo(line);
                Line(line, row, wide, 4, weights);
                return line;
            },
            _ => { }
        );
        Parallel.For(
            0,
            wide,
            () => (new byte[4 * high], new byte[4 * high]),
            (x, _, lines) =>
            {
                var (from, to) = lines;
                for (var y = 0; y < high; y++)
                    Unsafe.WriteUnaligned(ref from[4 * y], Unsafe.ReadUnaligned<uint>(ref colours[4 * (y * wide + x)]));
                from.CopyTo(to, 0);
                Line(from, to, high, 4, weights);
                for (var y = 0; y < high; y++)
                    Unsafe.WriteUnaligned(ref colours[4 * (y * wide + x)], Unsafe.ReadUnaligned<uint>(ref to[4 * y]));
                return lines;
            },
            _ => { }
        );
    }

    private static void Line(byte[] from, Span<byte> to, int length, int step, float[] weights)
    {
        var half = weights.Length / 2;
        var isBox = weights[0] == weights[^1] && weights[0] == weights[half];
        for (var c = 0; c < 3; c++)
        {
            if (isBox)
            {
                var sum = 0;
                for (var i = -half; i <= half; i++)
                    sum += from[step * Math.Clamp(i, 0, length - 1) + c];
                for (var i = 0; i < length; i++)
                {
                    to[step * i + c] = (byte)(sum * weights[0] + 0.5f);
                    sum += from[step * Math.Min(i + half + 1, length - 1) + c] - from[step * Math.Max(i - half, 0) + c];
                }
                continue;
            }
            for (var i = 0; i < length; i++)
            {
                float sum = 0.5f;
                for (var k = 0; k < weights.Length; k++)
                    sum += weights[k] * from[step * Math.Clamp(i + k - half, 0, length - 1) + c];
                to[step * i + c] = (byte)sum;
            }
        }
    }

    /// <summary>Twice as wide and high, by what lies between.</summary>
    public static byte[] Twice(byte[] colours, int wide, int high)
    {
        var (w, h) = (2 * wide, 2 * high);
        var twice = new byte[4 * w * h];
        Parallel.For(
            0,
            h,
            y =>
            {
                var fy = (y + 0.5) / 2 - 0.5;
                var (y0, y1) = (Math.Max(0, (int)Math.Floor(fy)), Math.Min(high - 1, (int)Math.Floor(fy) + 1));
                var ty = Math.Clamp(fy - y0, 0, 1);
                for (var x = 0; x < w; x++)
                {
                    var fx = (x + 0.5) / 2 - 0.5;
                    var (x0, x1) = (Math.Max(0, (int)Math.Floor(fx)), Math.Min(wide - 1, (int)Math.Floor(fx) + 1));
                    var tx = Math.Clamp(fx - x0, 0, 1);
                    for (var c = 0; c < 4; c++)
                    {
                        var top = colours[4 * (y0 * wide + x0) + c] * (1 - tx) + colours[4 * (y0 * wide + x1) + c] * tx;
                        var low = colours[4 * (y1 * wide + x0) + c] * (1 - tx) + colours[4 * (y1 * wide + x1) + c] * tx;
                        twice[4 * (y * w + x) + c] = (byte)(top * (1 - ty) + low * ty + 0.5);
                    }
                }
            }
        );
        return twice;
    }
}
