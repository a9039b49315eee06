using System.Text;

namespace Walkdown.Core.Sealing;

/// <summary>
/// The seal at the end of a whole file: one line of fixed length with the SHA-256 of every byte before it, a signature over that and the
/// public key. In a PDF it is a
/// comment behind the last line, in a ZIP the archive's comment; readers of both pass it over.
/// </summary>
/// <param name="Hash">SHA-256 of what is before the line, lower-case hexadecimal.</param>
/// <param name="FirstEdition">Of the edition that did not say which of two forms its signature has.</param>
/// <param name="PublicKey">The public key, DER.</param>
/// <param name="Signature">The signature, 64 bytes (IEEE P1363).</param>
public sealed record FileSeal(string Hash, byte[] Signature, byte[] PublicKey, bool FirstEdition = false)
{
    private const string Head = "%Walkdown-seal-2 ",
        First = "%Walkdown-seal-1 ";
    private const string Tail = "\n%%EOF\n";

    /// <summary>Bytes that the line takes.</summary>
    public const int Length = 17 + 64 + 1 + 128 + 1 + 182 + 7;

    /// <summary>Fingerprint of the key that sealed.</summary>
    public string Key => SealKey.FingerprintOf(PublicKey);

    /// <param name="hash">Of every byte before the line.</param>
    /// <param name="key">The key.</param>
    public static byte[] Line(string hash, SealKey key) =>
        Encoding.ASCII.GetBytes(
            $"{Head}{hash} {Convert.ToHexStringLower(key.Sign(Head + hash))} {Convert.ToHexStringLower(key.PublicKey)}{Tail}"
        );

    /// <summary>The line at the end of a file; null where there is none, or it is not whole.</summary>
    /// <param name="end">The last <see cref="Length"/> bytes.</param>
    public static FileSeal? Read(ReadOnlySpan<byte> end)
    {
        if (end.Length != Length)
            return null;
        var text = Encoding.ASCII.GetString(end);
        var first = text.StartsWith(First, StringComparison.Ordinal);
        if (!first && !text.StartsWith(Head, StringComparison.Ordinal) || !text.EndsWith(Tail, StringComparison.Ordinal))
            return null;
        var fields = text[Head.Length..^Tail.Length].Split(' ');
        if (fields is not [{ Length: 64 }, { Length: 128 }, { Length: 182 }])
            return null;
        try
        {
            return new FileSeal(fields[0], RecordSeal.FromHex(fields[1]), RecordSeal.FromHex(fields[2]), first);
        }
        catch (FormatException)
        {
            return null;
        }
    }

    /// <summary>Whether the key vouches for the hash, and the file has it.</summary>
    public SealOutcome Judge(string hashOfFile, string? trusted = null) =>
        hashOfFile != Hash || !SealKey.Verify(PublicKey, (FirstEdition ? First : Head) + Hash, Signature, FirstEdition)
            ? SealOutcome.Altered
        : trusted is not null && trusted != Key ? SealOutcome.OtherKey
        : SealOutcome.Untouched;
}
