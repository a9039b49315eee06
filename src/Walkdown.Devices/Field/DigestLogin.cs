using System.Security.Cryptography;
using System.Text;

namespace Walkdown.Devices.Field;

/// <summary>Answers a challenge of HTTP or RTSP by digest (RFC 7616, and RFC 2617 for devices that know nothing newer).</summary>
internal static class DigestLogin
{
    private static readonly string[] Known = ["SHA-256", "MD5"];

    /// <summary>What to send as <c>Authorization</c>; null where no challenge is one that can be answered without giving the password
    /// away.</summary>
    /// <param name="challenges">As the device sent them, one header each.</param>
    /// <param name="method">Such as POST or DESCRIBE.</param>
    /// <param name="uri">As it stands in the request line.</param>
    public static string? Answer(IEnumerable<string> challenges, FieldLogin login, string method, string uri)
    {
        var asked = challenges
            .Where(c => c.TrimStart().StartsWith("Digest ", StringComparison.OrdinalIgnoreCase))
            .Select(c => Parts(c.TrimStart()[7..]))
            .Select(p => (Parts: p, Rank: Array.IndexOf(Known, p.GetValueOrDefault("algorithm", "MD5").ToUpperInvariant())))
            .Where(p => p.Rank >= 0 && p.Parts.ContainsKey("nonce") && p.Parts.ContainsKey("realm"))
            .OrderBy(p => p.Rank)
            .Select(p => p.Parts)
            .FirstOrDefault();
        if (asked is null)
            return null;
        var sha = asked.GetValueOrDefault("algorithm", "MD5").Equals("SHA-256", StringComparison.OrdinalIgnoreCase);
        string Hash(string text)
        {
            var bytes = Encoding.UTF8.GetBytes(text);
            // Old devices know nothing but MD5: what is protected by it here is one answer to one challenge.
#pragma warning disable CA5351
            return Convert.ToHexStringLower(sha ? SHA256.HashData(bytes) : MD5.HashData(bytes));
#pragma warning restore CA5351
        }
        var (realm, nonce) = (asked["realm"], asked["nonce"]);
        var secret = Hash($"{login.User}:{realm}:{login.Password}");
        var what = Hash($"{method}:{uri}");
        var answer = new StringBuilder(
            $"Digest username=\"{Quoted(login.User)}\", realm=\"{Quoted(realm)}\", nonce=\"{Quoted(nonce)}\", uri=\"{uri}\""
        );
        if (asked.GetValueOrDefault("qop", "").Split(',').Any(q => q.Trim() == "auth"))
        {
            var own = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(8));
            answer.Append(
                System.Globalization.CultureInfo.InvariantCulture,
                $", qop=auth, nc=00000001, cnonce=\"{own}\", response=\"{Hash($"{secret}:{nonce}:00000001:{own}:auth:{what}")}\""
            );
        }
        else
            answer.Append(System.Globalization.CultureInfo.InvariantCulture, $", response=\"{Hash($"{secret}:{nonce}:{what}")}\"");
        if (asked.TryGetValue("algorithm", out var algorithm))
            answer.Append(System.Globalization.CultureInfo.InvariantCulture, $", algorithm={(sha ? "SHA-256" : "MD5")}");
        if (asked.TryGetValue("opaque", out var opaque))
            answer.Append(System.Globalization.CultureInfo.InvariantCulture, $", opaque=\"{Quoted(opaque)}\"");
        return answer.ToString();
    }

    /// <summary>A header has one line, and a quoted string ends at its quote.</summary>
    private static string Quoted(string text) =>
        string.Concat(text.Where(c => c is not '\r' and not '\n'))
            .Replace("\\", "\\\\", StringComparison.Ordinal)
            .Replace("\"", "\\\"", StringComparison.Ordinal);

    private static Dictionary<string, string> Parts(string challenge)
    {
        var parts = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
        var at = 0;
        while (at < challenge.Length && parts.Count < 20)
        {
            var equals = challenge.IndexOf('=', at);
            if (equals < 0)
                break;
            var name = challenge[at..equals].Trim(' ', ',', '\t');
            at = equals + 1;
            string value;
            if (at < challenge.Length && challenge[at] == '"')
            {
                var end = challenge.IndexOf('"', at + 1);
                if (end < 0)
                    break;
                value = challenge[(at + 1)..end];
                at = end + 1;
            }
            else
            {
                var end = challenge.IndexOf(',', at);
                end = end < 0 ? challenge.Length : end;
                value = challenge[at..end].Trim();
                at = end;
            }
            parts[name] = value;
        }
        return parts;
    }
}
