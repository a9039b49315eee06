namespace Walkdown.Core.Register;

/// <summary>Labels in the order people count them: CC-2 before CC-10.</summary>
public sealed class NaturalOrder : IComparer<string>
{
    /// <summary>CC-2 before CC-10.</summary>
    public static readonly NaturalOrder Instance = new();

    /// <summary>Compares number by number and word by word.</summary>
    public int Compare(string? x, string? y)
    {
        if (x is null || y is null)
            return string.CompareOrdinal(x, y);
        int i = 0,
            j = 0;
        while (i < x.Length && j < y.Length)
        {
            if (char.IsAsciiDigit(x[i]) && char.IsAsciiDigit(y[j]))
            {
                int a = i,
                    b = j;
                while (i < x.Length && char.IsAsciiDigit(x[i]))
                    i++;
                while (j < y.Length && char.IsAsciiDigit(y[j]))
                    j++;
                var left = x.AsSpan(a, i - a).TrimStart('0');
                var right = y.AsSpan(b, j - b).TrimStart('0');
                var byNumber = left.Length != right.Length ? left.Length - right.Length : left.SequenceCompareTo(right);
                if (byNumber != 0)
                    return byNumber;
            }
            else
            {
                var byLetter = char.ToUpperInvariant(x[i]).CompareTo(char.ToUpperInvariant(y[j]));
                if (byLetter != 0)
                    return byLetter;
                i++;
                j++;
            }
        }
        var rest = (x.Length - i).CompareTo(y.Length - j);
        return rest != 0 ? rest : string.CompareOrdinal(x, y);
    }
}
