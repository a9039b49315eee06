using System.Numerics;
using System.Security.Cryptography;
using System.Text;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Sealing;

/// <summary>An installation's key: ECDSA on P-256. Its public half goes into every seal; its fingerprint is printed in every
/// pack.</summary>
public sealed class SealKey : IDisposable
{
    private readonly ECDsa _key;

    private SealKey(ECDsa key)
    {
        _key = key;
        PublicKey = key.ExportSubjectPublicKeyInfo();
    }

    /// <summary>SubjectPublicKeyInfo, DER; 91 bytes.</summary>
    public byte[] PublicKey { get; }

    /// <summary>SHA-256 of its public part.</summary>
    public string Fingerprint => FingerprintOf(PublicKey);

    /// <summary>A new key (P-256).</summary>
    public static SealKey Create() => new(ECDsa.Create(ECCurve.NamedCurves.nistP256));

    /// <summary>From PEM, as <see cref="ToPem()"/> writes it.</summary>
    /// <exception cref="BadInputException">No such key, or the passphrase is another.</exception>
    public static SealKey FromPem(string pem, string? passphrase = null)
    {
        var key = ECDsa.Create();
        try
        {
            if (passphrase is null)
                key.ImportFromPem(pem);
            else
                key.ImportFromEncryptedPem(pem, passphrase);
            if (key.ExportSubjectPublicKeyInfo().Length != 91)
                throw new CryptographicException();
            return new SealKey(key);
        }
        catch (Exception problem) when (problem is CryptographicException or ArgumentException)
        {
            key.Dispose();
            throw new BadInputException(BadInputReason.Inconsistent, "seal.key");
        }
    }

    /// <summary>Its private part, PKCS #8; whoever holds it can seal.</summary>
    public string ToPem() => _key.ExportPkcs8PrivateKeyPem();

    /// <summary>For a backup: nobody seals with it who does not know the passphrase.</summary>
    public string ToPem(string passphrase) =>
        _key.ExportEncryptedPkcs8PrivateKeyPem(
            passphrase,
            new PbeParameters(PbeEncryptionAlgorithm.Aes256Cbc, HashAlgorithmName.SHA256, 300_000)
        );

    /// <summary>Its public part.</summary>
    public string PublicPem() => PemEncoding.WriteString("PUBLIC KEY", PublicKey);

    /// <summary>64 bytes, r and s, over a text; s in the lower half of the curve's order, so that there is one signature and not
    /// two.</summary>
    public byte[] Sign(string text)
    {
        var signature = _key.SignData(
            Encoding.UTF8.GetBytes(text),
            HashAlgorithmName.SHA256,
            DSASignatureFormat.IeeeP1363FixedFieldConcatenation
        );
        if (IsLow(signature))
            return signature;
        var s = Order - new BigInteger(signature.AsSpan(32), isUnsigned: true, isBigEndian: true);
        signature.AsSpan(32).Clear();
        var low = s.ToByteArray(isUnsigned: true, isBigEndian: true);
        low.CopyTo(signature.AsSpan(64 - low.Length));
        return signature;
    }

    /// <summary>Order of the group of P-256 (FIPS 186-5).</summary>
    private static readonly BigInteger Order = BigInteger.Parse(
        "00FFFFFFFF00000000FFFFFFFFFFFFFFFFBCE6FAADA7179E84F3B9CAC2FC632551",
        System.Globalization.NumberStyles.AllowHexSpecifier,
        CultureInfo.InvariantCulture
    );

    /// <summary>Whether a signature is the one form of two that is taken: with (r, s) also (r, n - s) verifies, and anybody can turn one
    /// into the other.</summary>
    public static bool IsLow(ReadOnlySpan<byte> signature) =>
        signature.Length == 64 && new BigInteger(signature[32..], isUnsigned: true, isBigEndian: true) <= Order / 2;

    /// <summary>How a public key on P-256 begins; the point follows, uncompressed.</summary>
    private static ReadOnlySpan<byte> P256 =>
        [
            0x30,
            0x59,
            0x30,
            0x13,
            0x06,
            0x07,
            0x2A,
            0x86,
            0x48,
            0xCE,
            0x3D,
            0x02,
            0x01,
            0x06,
            0x08,
            0x2A,
            0x86,
            0x48,
            0xCE,
            0x3D,
            0x03,
            0x01,
            0x07,
            0x03,
            0x42,
            0x00,
            0x04,
        ];

    /// <param name="eitherForm">Seals of the first edition did not say which of the two forms they are.</param>
    /// <param name="publicKey">The public key, DER.</param>
    /// <param name="signature">The signature, 64 bytes.</param>
    /// <param name="text">What was signed.</param>
    public static bool Verify(byte[] publicKey, string text, byte[] signature, bool eitherForm = false)
    {
        if (!eitherForm && !IsLow(signature))
            return false;
        if (publicKey.Length != 91 || !publicKey.AsSpan().StartsWith(P256))
            return false;
        try
        {
            using var key = ECDsa.Create();
            key.ImportSubjectPublicKeyInfo(publicKey, out var read);
            return read == publicKey.Length
                && key.VerifyData(
                    Encoding.UTF8.GetBytes(text),
                    signature,
                    HashAlgorithmName.SHA256,
                    DSASignatureFormat.IeeeP1363FixedFieldConcatenation
                );
        }
        catch (CryptographicException)
        {
            return false;
        }
    }

    /// <summary>SHA-256 of the public key, in lower-case hexadecimal.</summary>
    public static string FingerprintOf(byte[] publicKey) => Convert.ToHexStringLower(SHA256.HashData(publicKey));

    /// <summary>A fingerprint or hash as people compare it: the first sixteen digits in fours.</summary>
    public static string Short(string hash) => hash.Length < 16 ? hash : $"{hash[..4]} {hash[4..8]} {hash[8..12]} {hash[12..16]}";

    /// <summary>Lets go of the private part.</summary>
    public void Dispose() => _key.Dispose();
}
