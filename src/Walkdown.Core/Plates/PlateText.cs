using System.Collections.Frozen;
using System.Text;

namespace Walkdown.Core.Plates;

/// <summary>A character that a reader took for another, left out, or put in.</summary>
/// <param name="Own">That is on the plate; null: nothing is there.</param>
/// <param name="Read">That was written down; null: nothing was.</param>
/// <param name="AtEnd">It stands first or last, where emblems and rims are.</param>
public sealed record PlateSlip(string? Own, string? Read, bool AtEnd);

/// <summary>Plates as texts: which are the same, and how others differ.</summary>
public static class PlateText
{
    /// <summary>Most characters of a plate (practice: none in use is nearly as long).</summary>
    public const int Longest = 16;

    /// <summary>So many characters may be wrong before a text is somebody else's plate (practice: 2, of a short plate a third).</summary>
    public static int MostSlips(string own) => Math.Min(2, own.Length / 3);

    /// <summary>Capital letters of other alphabets that cannot be told from these on a plate: А is A, whoever wrote it.</summary>
    private const string Alike = "АAВBЕEІIЈJКKМMНHОOРPСCТTУYХXЅS" + "ΑAΒBΕEΖZΗHΙIΚKΜMΝNΟOΡPΤTΥYΧX";

    private static readonly FrozenDictionary<char, char> Latin = Enumerable
        .Range(0, Alike.Length / 2)
        .ToFrozenDictionary(i => Alike[2 * i], i => Alike[2 * i + 1]);

    /// <summary>
    /// As it is compared: letters and digits alone, upper case, digits of any script as ours, wide letters and those that look like Latin
    /// ones as those; empty where there is none.
    /// </summary>
    public static string Folded(string? plate)
    {
        if (string.IsNullOrEmpty(plate))
            return "";
        var text = new StringBuilder();
        foreach (var rune in plate.EnumerateRunes().Select(Rune.ToUpperInvariant))
        {
            if (!Rune.IsLetterOrDigit(rune) || rune == Rune.ReplacementChar)
                continue;
            if (Rune.IsDigit(rune) && Rune.GetNumericValue(rune) is >= 0 and <= 9 and var digit)
                text.Append((char)('0' + (int)digit));
            else if (rune.Value is >= 'Ａ' and <= 'Ｚ')
                text.Append((char)(rune.Value - 'Ａ' + 'A'));
            else if (rune.IsBmp && Latin.TryGetValue((char)rune.Value, out var latin))
                text.Append(latin);
            else
                text.Append(rune.ToString());
        }
        return text.ToString();
    }

    /// <summary>How many characters have to be exchanged, put in or taken out (Levenshtein).</summary>
    public static int Distance(string own, string read) => Table(own, read)[own.Length, read.Length];

    /// <summary>What has to be done to get from a plate to what was read, from the left.</summary>
    public static ImmutableArray<PlateSlip> Slips(string own, string read)
    {
        var table = Table(own, read);
        var slips = new List<PlateSlip>();
        var (i, j) = (own.Length, read.Length);
        while (i > 0 || j > 0)
        {
            var isAtEnd = i <= 1 && j <= 1 || i == own.Length && j == read.Length;
            if (i > 0 && j > 0 && table[i, j] == table[i - 1, j - 1] + (own[i - 1] == read[j - 1] ? 0 : 1))
            {
                (i, j) = (i - 1, j - 1);
                if (own[i] != read[j])
                    slips.Add(new(own[i].ToString(), read[j].ToString(), isAtEnd));
            }
            else if (j > 0 && table[i, j] == table[i, j - 1] + 1)
                slips.Add(new(null, read[--j].ToString(), isAtEnd || i == 0 || i == own.Length));
            else
                slips.Add(new(own[--i].ToString(), null, isAtEnd));
        }
        slips.Reverse();
        return [.. slips];
    }

    private static int[,] Table(string own, string read)
    {
        var table = new int[own.Length + 1, read.Length + 1];
        for (var i = 0; i <= own.Length; i++)
        for (var j = 0; j <= read.Length; j++)
            table[i, j] =
                i == 0 ? j
                : j == 0 ? i
                : Math.Min(table[i - 1, j - 1] + (own[i - 1] == read[j - 1] ? 0 : 1), 1 + Math.Min(table[i - 1, j], table[i, j - 1]));
        return table;
    }
}
