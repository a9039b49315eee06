using System.Security.Cryptography;
using System.Text;

namespace Walkdown.Core.Handover;

/// <summary>
/// Fingerprint of what was shown when somebody signed: every Card's Verdict and counts, the cover, and the limits they were judged by. What
/// is sealed has the same one, or
/// nothing is sealed: a concession that ended, a limit that changed and a reading that came in between all show.
/// </summary>
public static class ShownDigest
{
    /// <param name="cards">In any order.</param>
    /// <param name="cover">What the cover says, as it is kept.</param>
    /// <param name="judgedBy">Catalogue and practice.</param>
    /// <returns>SHA-256, lower-case hexadecimal.</returns>
    public static string Of(IEnumerable<ShownCard> cards, string cover, string judgedBy)
    {
        var text = new StringBuilder(judgedBy).Append('\n').Append(cover).Append('\n');
        foreach (var c in cards.OrderBy(c => c.Id))
            text.Append(
                CultureInfo.InvariantCulture,
                $"{c.Id:N} {c.Verdict} {c.OpenFaults} {c.Unexpected} {c.Taken}/{c.Total}{(c.Cancelled ? " cancelled" : "")}\n"
            );
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text.ToString())));
    }
}
