using System.Numerics;

namespace Walkdown.Core.Pictures;

/// <summary>Sums over rows of grey levels, as many pixels at once as the machine has room for. Whole numbers throughout: they are the same
/// whatever the width of its vectors.</summary>
internal static class PixelSums
{
    /// <summary>So many vectors are summed in whole numbers of 32 bits: four squares of at most 1020 each fall into one of them.</summary>
    private const int Often = 512;

    /// <summary>What neighbours say of a part's inner pixels.</summary>
    /// <param name="Slopes">Squared differences of the pixels to both sides, and above and below.</param>
    /// <param name="Laplacians">Four neighbours less four times the pixel.</param>
    /// <param name="Squares">The same squared.</param>
    public readonly record struct Detail(long Slopes, long Laplacians, long Squares);

    /// <summary>Sum and sum of squares of the levels of a part.</summary>
    public static (long Sum, long Squares) Levels(GreyRaster picture, PixelPart part)
    {
        // Every other level and those between: two of 16 bits each fall into one of 16, and their squares into one of 32.
        const int Sums = ushort.MaxValue / (2 * byte.MaxValue),
            Rounds = (int)(uint.MaxValue / (2L * byte.MaxValue * byte.MaxValue * Sums));
        long sum = 0,
            squares = 0;
        var even = new Vector<ushort>(byte.MaxValue);
        var half = new Vector<uint>(ushort.MaxValue);
        var (both, first, second) = (Vector<ushort>.Zero, Vector<uint>.Zero, Vector<uint>.Zero);
        int left = Sums,
            rounds = Rounds;
        // The end of a row that fills no vector is read with what is before it, and that left out.
        var rest = part.Wide % Vector<byte>.Count;
        var last = part.Wide < Vector<byte>.Count || rest == 0 ? Vector<byte>.Zero : new Vector<byte>(Ends, rest);
        for (var y = 0; y < part.High; y++)
        {
            var row = picture.Row(part, y);
            for (var x = 0; x < row.Length; x += Vector<byte>.Count)
            {
                Vector<ushort> levels;
                if (x <= row.Length - Vector<byte>.Count)
                    levels = Vector.AsVectorUInt16(new Vector<byte>(row[x..]));
                else if (row.Length >= Vector<byte>.Count)
                    levels = Vector.AsVectorUInt16(new Vector<byte>(row[^Vector<byte>.Count..]) & last);
                else
                {
                    foreach (var level in row)
                        (sum, squares) = (sum + level, squares + level * level);
                    break;
                }
                var (low, high) = (levels & even, levels >>> 8);
                both += low + high;
                var (of, other) = (Vector.AsVectorUInt32(low * low), Vector.AsVectorUInt32(high * high));
                first += (of & half) + (of >>> 16);
                second += (other & half) + (other >>> 16);
                if (--left > 0)
                    continue;
                sum += Total(both);
                (both, left) = (Vector<ushort>.Zero, Sums);
                if (--rounds > 0)
                    continue;
                squares += Total(first) + Total(second);
                (first, second, rounds) = (Vector<uint>.Zero, Vector<uint>.Zero, Rounds);
            }
        }
        return (sum + Total(both), squares + Total(first) + Total(second));
    }

    /// <summary>From the n-th on: a vector of which the last n count.</summary>
    private static readonly byte[] Ends =
    [
        .. Enumerable.Repeat((byte)0, Vector<byte>.Count),
        .. Enumerable.Repeat(byte.MaxValue, Vector<byte>.Count),
    ];

    /// <summary>Of the inner pixels of a row, with the rows above and below it; all as long.</summary>
    public static Detail Slopes(ReadOnlySpan<byte> above, ReadOnlySpan<byte> here, ReadOnlySpan<byte> below)
    {
        long slopes = 0,
            total = 0,
            squares = 0;
        var x = 1;
        while (x < here.Length - Vector<byte>.Count)
        {
            var (sloping, bent, bentSquared) = (Vector<int>.Zero, Vector<int>.Zero, Vector<int>.Zero);
            for (var n = 0; n < Often && x < here.Length - Vector<byte>.Count; n++, x += Vector<byte>.Count)
            {
                var (left, right) = (Wide(here[(x - 1)..]), Wide(here[(x + 1)..]));
                var (up, down, mid) = (Wide(above[x..]), Wide(below[x..]), Wide(here[x..]));
                Add(left.Low, right.Low, up.Low, down.Low, mid.Low);
                Add(left.High, right.High, up.High, down.High, mid.High);
            }
            slopes += Total(sloping);
            total += Total(bent);
            squares += Total(bentSquared);

            void Add(Vector<short> left, Vector<short> right, Vector<short> up, Vector<short> down, Vector<short> mid)
            {
                var (dx, dy) = (right - left, down - up);
                Vector.Widen(dx, out var dx1, out var dx2);
                Vector.Widen(dy, out var dy1, out var dy2);
                sloping += dx1 * dx1 + dx2 * dx2 + dy1 * dy1 + dy2 * dy2;
                Vector.Widen(left + right + up + down - (mid + mid + mid + mid), out var first, out var second);
                bent += first + second;
                bentSquared += first * first + second * second;
            }
        }
        for (; x < here.Length - 1; x++)
        {
            var (dx, dy) = (here[x + 1] - here[x - 1], below[x] - above[x]);
            slopes += dx * dx + dy * dy;
            var laplacian = here[x - 1] + here[x + 1] + above[x] + below[x] - 4 * here[x];
            total += laplacian;
            squares += laplacian * laplacian;
        }
        return new(slopes, total, squares);
    }

    /// <summary>Of the inner pixels of a row: how far each is from what slopes and curves around it would make it (Immerkaer 1996), the
    /// amounts summed.</summary>
    public static long Grain(ReadOnlySpan<byte> above, ReadOnlySpan<byte> here, ReadOnlySpan<byte> below)
    {
        long sum = 0;
        var x = 1;
        while (x < here.Length - Vector<byte>.Count)
        {
            var sums = Vector<int>.Zero;
            for (var n = 0; n < Often && x < here.Length - Vector<byte>.Count; n++, x += Vector<byte>.Count)
            {
                var (a, b, c) = (Wide(above[(x - 1)..]), Wide(above[x..]), Wide(above[(x + 1)..]));
                var (d, e, f) = (Wide(here[(x - 1)..]), Wide(here[x..]), Wide(here[(x + 1)..]));
                var (g, h, i) = (Wide(below[(x - 1)..]), Wide(below[x..]), Wide(below[(x + 1)..]));
                var low = Amount(a.Low + c.Low + g.Low + i.Low, b.Low + d.Low + f.Low + h.Low, e.Low);
                var high = Amount(a.High + c.High + g.High + i.High, b.High + d.High + f.High + h.High, e.High);
                // Two of at most 2040 each.
                Vector.Widen(low + high, out var first, out var second);
                sums += first + second;
            }
            sum += Total(sums);
        }
        for (; x < here.Length - 1; x++)
            sum += Math.Abs(
                above[x - 1]
                    - 2 * above[x]
                    + above[x + 1]
                    - 2 * (here[x - 1] - 2 * here[x] + here[x + 1])
                    + below[x - 1]
                    - 2 * below[x]
                    + below[x + 1]
            );
        return sum;

        static Vector<short> Amount(Vector<short> corners, Vector<short> sides, Vector<short> mid)
        {
            var twice = mid + mid;
            return Vector.Abs(corners - sides - sides + twice + twice);
        }
    }

    private static (Vector<short> Low, Vector<short> High) Wide(ReadOnlySpan<byte> row)
    {
        Vector.Widen(new Vector<byte>(row), out var low, out var high);
        return (Vector.AsVectorInt16(low), Vector.AsVectorInt16(high));
    }

    private static long Total(Vector<int> lanes)
    {
        Vector.Widen(lanes, out var low, out var high);
        return Vector.Sum(low + high);
    }

    private static long Total(Vector<ushort> lanes)
    {
        Vector.Widen(lanes, out var low, out var high);
        return Total(low + high);
    }

    private static long Total(Vector<uint> lanes)
    {
        Vector.Widen(lanes, out var low, out var high);
        return (long)Vector.Sum(low + high);
    }
}
