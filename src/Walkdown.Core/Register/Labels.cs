namespace Walkdown.Core.Register;

/// <summary>
/// How labels, serial numbers and names of areas are told apart, everywhere: A to Z without case, every other character as it is. It is the
/// rule by which the database keeps
/// them unique, so that no two that it lets in are one here, or the other way round.
/// </summary>
public static class Labels
{
    /// <summary>Capitals and small letters alike (A to Z only).</summary>
    public static readonly StringComparer Comparer = new AsciiIgnoreCase();

    /// <summary>Whether two labels are one.</summary>
    public static bool Same(string? a, string? b) => Comparer.Equals(a, b);

    /// <summary>A label as a part of a key: two that are the same fold to the same text.</summary>
    public static string Fold(string label) =>
        string.Create(
            label.Length,
            label,
            static (to, from) =>
            {
                for (var i = 0; i < from.Length; i++)
                    to[i] = from[i] is >= 'A' and <= 'Z' ? (char)(from[i] | 0x20) : from[i];
            }
        );

    private sealed class AsciiIgnoreCase : StringComparer
    {
        public override int Compare(string? x, string? y)
        {
            if (x is null || y is null)
                return x is null
                    ? y is null
                        ? 0
                        : -1
                    : 1;
            for (var i = 0; i < Math.Min(x.Length, y.Length); i++)
                if (Fold(x[i]).CompareTo(Fold(y[i])) is var order and not 0)
                    return order;
            return x.Length.CompareTo(y.Length);
        }

        public override bool Equals(string? x, string? y)
        {
            if (ReferenceEquals(x, y))
                return true;
            if (x is null || y is null || x.Length != y.Length)
                return false;
            for (var i = 0; i < x.Length; i++)
                if (Fold(x[i]) != Fold(y[i]))
                    return false;
            return true;
        }

        public override int GetHashCode(string text)
        {
            var hash = new HashCode();
            foreach (var c in text)
                hash.Add(Fold(c));
            return hash.ToHashCode();
        }

        private static char Fold(char c) => c is >= 'A' and <= 'Z' ? (char)(c | 0x20) : c;
    }
}
