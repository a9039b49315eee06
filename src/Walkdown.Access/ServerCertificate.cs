using System.Collections.Immutable;
using System.Net;
using System.Net.Security;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Walkdown.Core.Measures;

namespace Walkdown.Access;

/// <summary>By which certificate phones know this installation: one that was given, or one of its own authority, which is renewed by
/// itself.</summary>
public sealed class ServerCertificate(Authority authority, TimeProvider time, string? given, string? givenKey)
{
    /// <summary>Fewer days than this left and a given certificate is warned about, an own one renewed.</summary>
    public const int Soon = 30;

    private readonly Lock _lock = new();
    private SslStreamCertificateContext? _context;
    private string _for = "";

    /// <summary>It was given, and is not ours to renew.</summary>
    public bool IsGiven => given is not null;

    /// <summary>SHA-256 of what is to be trusted: the own authority, or the given certificate; hexadecimal.</summary>
    public string Fingerprint => Convert.ToHexString(SHA256.HashData(IsGiven ? Given().Target.RawData : authority.Certificate.RawData));

    /// <summary>Until when phones take it.</summary>
    public DateTimeOffset Until => IsGiven ? Given().Target.NotAfter : authority.Certificate.NotAfter;

    /// <summary>What is wrong with opening under these names; null where nothing is.</summary>
    public Message? Wrong(ImmutableArray<string> names, ImmutableArray<IPAddress> addresses)
    {
        var now = time.GetUtcNow();
        if (now < Authority.Earliest)
            return new("problem.clock-behind", [$"{now:yyyy-MM-dd}"]);
        if (!IsGiven)
            return authority.Certificate.NotAfter <= now.LocalDateTime || authority.Certificate.NotBefore > now.LocalDateTime
                    ? new("problem.authority-ended", [$"{authority.Certificate.NotAfter:yyyy-MM-dd}", $"{now:yyyy-MM-dd}"])
                : addresses.Any(a => !Authority.IsPrivate(a))
                    ? new("problem.public-address", [string.Join(", ", addresses.Where(a => !Authority.IsPrivate(a)))])
                : null;
        X509Certificate2 certificate;
        try
        {
            certificate = Given().Target;
        }
        catch (Exception problem) when (problem is CryptographicException or IOException or UnauthorizedAccessException)
        {
            return new("problem.certificate-unread", [Message.Said(Path.GetFileName(given!)), Message.Said(problem.Message)]);
        }
        return certificate.NotAfter.ToUniversalTime() <= now
                ? new("problem.certificate-ended", [$"{certificate.NotAfter:yyyy-MM-dd HH:mm}"])
            : certificate.NotBefore.ToUniversalTime() > now
                ? new("problem.certificate-not-yet", [$"{certificate.NotBefore:yyyy-MM-dd HH:mm}", $"{now:yyyy-MM-dd HH:mm}"])
            : !names.Any(n => certificate.MatchesHostname(n)) && !addresses.Any(a => certificate.MatchesHostname(a.ToString()))
                ? new("problem.certificate-other-name", [string.Join(", ", names.Concat(addresses.Select(a => a.ToString())))])
            : null;
    }

    /// <summary>Names of a given certificate: it is called by one of them, not by this machine's.</summary>
    public ImmutableArray<string> GivenNames =>
        IsGiven
            ?
            [
                .. Given()
                    .Target.Extensions.OfType<X509SubjectAlternativeNameExtension>()
                    .SelectMany(s => s.EnumerateDnsNames())
                    .Where(n => !n.StartsWith('*')),
            ]
            : [];

    /// <summary>What a handshake shows, as of now.</summary>
    public SslStreamCertificateContext For(ImmutableArray<string> names, ImmutableArray<IPAddress> addresses)
    {
        lock (_lock)
        {
            var wanted = string.Join(' ', names.Concat(addresses.Select(a => a.ToString())));
            if (_context is not null && (IsGiven || _for == wanted && Holds(_context.TargetCertificate)))
                return _context;
            if (IsGiven)
            {
                var (target, others) = Given();
                return _context = SslStreamCertificateContext.Create(target, others, offline: true);
            }
            _for = wanted;
            return _context = SslStreamCertificateContext.Create(authority.Issue(names, addresses), [], offline: true);
        }
    }

    private bool Holds(X509Certificate2 certificate)
    {
        var now = time.GetUtcNow();
        return certificate.NotBefore.ToUniversalTime() <= now && certificate.NotAfter.ToUniversalTime() > now.AddDays(Soon);
    }

    private (X509Certificate2 Target, X509Certificate2Collection Others)? _given;

    private (X509Certificate2 Target, X509Certificate2Collection Others) Given()
    {
        if (_given is { } read)
            return read;
        var others = new X509Certificate2Collection();
        X509Certificate2 target;
        if (givenKey is null)
        {
            others = X509CertificateLoader.LoadPkcs12CollectionFromFile(given!, null);
            target = others.FirstOrDefault(c => c.HasPrivateKey) ?? throw new CryptographicException("there is no key in it");
            others.Remove(target);
        }
        else
        {
            using var pem = X509Certificate2.CreateFromPemFile(given!, givenKey);
            target = X509CertificateLoader.LoadPkcs12(pem.Export(X509ContentType.Pkcs12), null);
            others.ImportFromPemFile(given!);
        }
        return (_given = (target, others)).Value;
    }
}
