using System.Collections.Immutable;
using System.Formats.Asn1;
using System.Net;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;

namespace Walkdown.Access;

/// <summary>
/// The installation's own certificate authority (ECDSA P-256), made when it is first needed. It can only vouch for names and addresses of a
/// private network (RFC 5280, 4.2.1.10): whoever stole it could not stand in for a bank.
/// </summary>
/// <param name="root">The data folder; certificate and key lie in it, the key for its owner only.</param>
public sealed class Authority(string root, TimeProvider time)
{
    /// <summary>How long a server's certificate holds; phones refuse more than 398 days.</summary>
    public static readonly TimeSpan ServerHolds = TimeSpan.FromDays(90);

    /// <summary>Phones whose clock is behind by less than this are not turned away.</summary>
    private static readonly TimeSpan Behind = TimeSpan.FromDays(2);

    /// <summary>Before this no clock is right: this program was not there yet.</summary>
    public static readonly DateTimeOffset Earliest = new(2026, 11, 1, 0, 0, 0, TimeSpan.Zero);

    private static readonly string[] PrivateNames = ["local", "lan", "internal", "home.arpa"];

    private static readonly IPNetwork[] PrivateNetworks =
    [
        IPNetwork.Parse("10.0.0.0/8"),
        IPNetwork.Parse("100.64.0.0/10"),
        IPNetwork.Parse("127.0.0.0/8"),
        IPNetwork.Parse("169.254.0.0/16"),
        IPNetwork.Parse("172.16.0.0/12"),
        IPNetwork.Parse("192.168.0.0/16"),
        IPNetwork.Parse("fc00::/7"),
        IPNetwork.Parse("fe80::/10"),
    ];

    private readonly Lock _lock = new();
    private X509Certificate2? _certificate;

    private string CertificateFile => Path.Combine(root, "authority.pem");
    private string KeyFile => Path.Combine(root, "authority-key.pem");

    /// <summary>The authority's certificate with its key; made where there is none.</summary>
    public X509Certificate2 Certificate
    {
        get
        {
            lock (_lock)
                return _certificate ??= File.Exists(CertificateFile) && File.Exists(KeyFile) ? Read() : Make();
        }
    }

    /// <summary>Whether an address is one that the authority can vouch for.</summary>
    public static bool IsPrivate(IPAddress address) => PrivateNetworks.Any(n => n.Contains(address));

    /// <summary>Whether a name is one that the authority can vouch for.</summary>
    public bool MayName(string name) =>
        PermittedNames()
            .Any(p => name.Equals(p, StringComparison.OrdinalIgnoreCase) || name.EndsWith("." + p, StringComparison.OrdinalIgnoreCase));

    /// <summary>A certificate for this machine under these names; what the authority may not vouch for is left out.</summary>
    public X509Certificate2 Issue(ImmutableArray<string> names, ImmutableArray<IPAddress> addresses)
    {
        var authority = Certificate;
        var now = time.GetUtcNow();
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var subject = names.FirstOrDefault() ?? addresses.First().ToString();
        var request = new CertificateRequest(Named(subject), key, HashAlgorithmName.SHA256);
        var alternatives = new SubjectAlternativeNameBuilder();
        foreach (var name in names.Where(MayName))
            alternatives.AddDnsName(name);
        foreach (var address in addresses.Where(IsPrivate))
            alternatives.AddIpAddress(address);
        request.CertificateExtensions.Add(alternatives.Build());
        request.CertificateExtensions.Add(new X509BasicConstraintsExtension(false, false, 0, true));
        request.CertificateExtensions.Add(new X509KeyUsageExtension(X509KeyUsageFlags.DigitalSignature, true));
        request.CertificateExtensions.Add(new X509EnhancedKeyUsageExtension([new Oid("1.3.6.1.5.5.7.3.1")], false));
        request.CertificateExtensions.Add(new X509SubjectKeyIdentifierExtension(request.PublicKey, false));
        request.CertificateExtensions.Add(X509AuthorityKeyIdentifierExtension.CreateFromCertificate(authority, true, false));
        var from = Latest(now - Behind, authority.NotBefore);
        var to = now + ServerHolds < authority.NotAfter ? now + ServerHolds : new DateTimeOffset(authority.NotAfter);
        using var issued = request.Create(authority, from, to, RandomNumberGenerator.GetBytes(16));
        using var whole = issued.CopyWithPrivateKey(key);
        // A key that lives in memory only, in the shape that TLS takes.
        return X509CertificateLoader.LoadPkcs12(whole.Export(X509ContentType.Pkcs12), null);
    }

    private static DateTimeOffset Latest(DateTimeOffset a, DateTimeOffset b) => a > b ? a : b;

    private X509Certificate2 Read()
    {
        using var certificate = X509Certificate2.CreateFromPem(File.ReadAllText(CertificateFile));
        using var key = ECDsa.Create();
        key.ImportFromPem(File.ReadAllText(KeyFile));
        return certificate.CopyWithPrivateKey(key);
    }

    private X509Certificate2 Make()
    {
        var now = time.GetUtcNow();
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest(Named($"Walkdown on {HostName}, {now:yyyy-MM-dd}"), key, HashAlgorithmName.SHA256);
        request.CertificateExtensions.Add(new X509BasicConstraintsExtension(true, true, 0, true));
        request.CertificateExtensions.Add(new X509KeyUsageExtension(X509KeyUsageFlags.KeyCertSign | X509KeyUsageFlags.CrlSign, true));
        request.CertificateExtensions.Add(new X509SubjectKeyIdentifierExtension(request.PublicKey, false));
        request.CertificateExtensions.Add(Constraints());
        using var made = request.CreateSelfSigned(now - Behind, now.AddYears(5));
        Write(KeyFile, key.ExportPkcs8PrivateKeyPem(), UnixFileMode.UserRead | UnixFileMode.UserWrite);
        Write(CertificateFile, made.ExportCertificatePem(), UnixFileMode.UserRead | UnixFileMode.UserWrite);
        return Read();
    }

    /// <summary>This machine's name, as letters, digits and hyphens.</summary>
    public static string HostName
    {
        get
        {
            var name = string.Concat(Dns.GetHostName().Split('.')[0].Where(c => char.IsAsciiLetterOrDigit(c) || c == '-')).Trim('-');
            return name.Length > 0 ? name.ToLowerInvariant() : "walkdown";
        }
    }

    private static X500DistinguishedName Named(string name)
    {
        var builder = new X500DistinguishedNameBuilder();
        builder.AddCommonName(name);
        return builder.Build();
    }

    private string[] PermittedNames()
    {
        // As they were when it was made: the machine may be called otherwise since.
        var made = Certificate.GetNameInfo(X509NameType.SimpleName, false);
        var host = made.StartsWith("Walkdown on ", StringComparison.Ordinal) ? made["Walkdown on ".Length..].Split(',')[0] : HostName;
        return [.. PrivateNames, host];
    }

    /// <summary>Names and networks that it may vouch for, critical.</summary>
    private static X509Extension Constraints()
    {
        var writer = new AsnWriter(AsnEncodingRules.DER);
        using (writer.PushSequence())
        using (writer.PushSequence(new Asn1Tag(TagClass.ContextSpecific, 0)))
        {
            foreach (var name in PrivateNames.Append(HostName))
                using (writer.PushSequence())
                    writer.WriteCharacterString(UniversalTagNumber.IA5String, name, new Asn1Tag(TagClass.ContextSpecific, 2));
            foreach (var network in PrivateNetworks)
                using (writer.PushSequence())
                    writer.WriteOctetString(
                        [.. network.BaseAddress.GetAddressBytes(), .. Mask(network)],
                        new Asn1Tag(TagClass.ContextSpecific, 7)
                    );
        }
        return new X509Extension("2.5.29.30", writer.Encode(), true);
    }

    private static byte[] Mask(IPNetwork network)
    {
        var mask = new byte[network.BaseAddress.GetAddressBytes().Length];
        for (var bit = 0; bit < network.PrefixLength; bit++)
            mask[bit / 8] |= (byte)(0x80 >> (bit % 8));
        return mask;
    }

    private static void Write(string path, string text, UnixFileMode mode)
    {
        var draft = $"{path}.{Guid.NewGuid():N}";
        var options = new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.Write };
        if (!OperatingSystem.IsWindows())
            options.UnixCreateMode = mode;
        using (var file = new FileStream(draft, options))
        {
            file.Write(System.Text.Encoding.ASCII.GetBytes(text));
            file.Flush(flushToDisk: true);
        }
        File.Move(draft, path, overwrite: true);
    }
}
