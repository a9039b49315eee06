using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Nodes;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Sealing;

/// <summary>
/// The seal of a JSON record, its last member: a hash of every other member, of them all together, and a signature over these. The file
/// itself is the
/// canonical form (RFC 8785), so that a single changed byte shows.
/// </summary>
public static class RecordSeal
{
    /// <summary>The member that carries the seal.</summary>
    public const string Member = "seal";
    private const string Kind = "walkdown-seal/2",
        First = "walkdown-seal/1";

    /// <summary>Seals a record.</summary>
    /// <param name="record">An object without a member named seal.</param>
    /// <returns>The canonical bytes of the record with its seal.</returns>
    /// <param name="at">When it is sealed.</param>
    /// <param name="key">The key.</param>
    public static byte[] Seal(JsonElement record, SealKey key, DateTimeOffset at)
    {
        Require.Consistent(record.ValueKind == JsonValueKind.Object && !record.TryGetProperty(Member, out _), "seal.record");
        var sealedRecord = JsonNode.Parse(record.GetRawText())!.AsObject();
        var seal = new JsonObject
        {
            ["hash"] = HashOf(CanonicalJson.Of(record)),
            ["key"] = key.Fingerprint,
            ["kind"] = Kind,
            ["parts"] = new JsonObject(
                record.EnumerateObject().Select(m => KeyValuePair.Create(m.Name, (JsonNode?)HashOf(CanonicalJson.Of(m.Value))))
            ),
            ["publicKey"] = Convert.ToHexStringLower(key.PublicKey),
            ["sealedAt"] = at.ToUniversalTime().ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", CultureInfo.InvariantCulture),
        };
        seal["signature"] = Convert.ToHexStringLower(key.Sign(Statement(seal)));
        sealedRecord[Member] = seal;
        using var whole = JsonDocument.Parse(sealedRecord.ToJsonString());
        return CanonicalJson.Of(whole.RootElement);
    }

    /// <summary>Says whether these bytes are what was sealed.</summary>
    /// <param name="trusted">Fingerprint that the key must have; null: any key, which is named in the finding.</param>
    /// <param name="file">The file.</param>
    public static SealFinding Check(ReadOnlyMemory<byte> file, string? trusted = null)
    {
        JsonDocument document;
        try
        {
            document = JsonDocument.Parse(file, new JsonDocumentOptions { MaxDepth = 64 });
        }
        catch (JsonException)
        {
            return SealFinding.Of(SealOutcome.Unreadable);
        }
        using (document)
        {
            var root = document.RootElement;
            if (
                root.ValueKind != JsonValueKind.Object
                || !root.TryGetProperty(Member, out var seal)
                || seal.ValueKind != JsonValueKind.Object
            )
                return SealFinding.Of(SealOutcome.NotSealed);
            try
            {
                return Check(file.Span, root, seal, trusted);
            }
            catch (Exception problem)
                when (problem is BadInputException or JsonException or FormatException or InvalidOperationException or KeyNotFoundException)
            {
                return SealFinding.Of(SealOutcome.Altered) with { Changed = [Member] };
            }
        }
    }

    private static SealFinding Check(ReadOnlySpan<byte> file, JsonElement root, JsonElement seal, string? trusted)
    {
        var changed = ImmutableArray.CreateBuilder<string>();
        var parts = seal.GetProperty("parts");
        var named = new HashSet<string>();
        foreach (var member in root.EnumerateObject())
        {
            if (member.Name == Member)
                continue;
            named.Add(member.Name);
            if (!parts.TryGetProperty(member.Name, out var hash) || hash.GetString() != HashOf(CanonicalJson.Of(member.Value)))
                changed.Add(member.Name);
        }
        foreach (var part in parts.EnumerateObject())
            if (!named.Contains(part.Name))
                changed.Add(part.Name);
        var publicKey = FromHex(seal.GetProperty("publicKey").GetString()!);
        var fingerprint = SealKey.FingerprintOf(publicKey);
        var content = seal.GetProperty("hash").GetString()!;
        var at = DateTimeOffset.TryParse(seal.GetProperty("sealedAt").GetString(), CultureInfo.InvariantCulture, out var when)
            ? when
            : (DateTimeOffset?)null;
        var statement = Statement(JsonNode.Parse(CanonicalJson.Without(seal, "signature"))!.AsObject());
        var kind = seal.GetProperty("kind").GetString();
        var whole = changed.Count == 0 && content == HashOf(CanonicalJson.Without(root, Member));
        if (
            seal.GetProperty("key").GetString() != fingerprint
            || kind is not (Kind or First)
            || !SealKey.Verify(publicKey, statement, FromHex(seal.GetProperty("signature").GetString()!), eitherForm: kind == First)
        )
        {
            changed.Add(Member);
            return new SealFinding(SealOutcome.Altered, changed.ToImmutable(), fingerprint, content, at);
        }
        // The same data written otherwise is another file: white space, an escape, an order.
        if (!whole || !CanonicalJson.Of(root).AsSpan().SequenceEqual(file))
            return new SealFinding(SealOutcome.Altered, changed.ToImmutable(), fingerprint, content, at);
        return new SealFinding(
            trusted is not null && trusted != fingerprint ? SealOutcome.OtherKey : SealOutcome.Untouched,
            [],
            fingerprint,
            content,
            at
        );
    }

    private static string Statement(JsonObject sealWithoutSignature)
    {
        using var document = JsonDocument.Parse(sealWithoutSignature.ToJsonString());
        return System.Text.Encoding.UTF8.GetString(CanonicalJson.Of(document.RootElement));
    }

    /// <summary>SHA-256 as 64 hexadecimal digits.</summary>
    public static string HashOf(ReadOnlySpan<byte> content) => Convert.ToHexStringLower(SHA256.HashData(content));

    /// <summary>Lower case only: the same bytes in another case are another file.</summary>
    internal static byte[] FromHex(string hex) =>
        hex.All(char.IsAsciiHexDigitLower) ? Convert.FromHexString(hex) : throw new FormatException();
}
