using System.Net;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Walkdown.Access;

namespace Walkdown.Server.Tests;

/// <summary>By which certificate phones know an installation: its own authority vouches for private names only, and what has ended, or
/// is somebody else's, is told before a phone is turned away.</summary>
public sealed class AuthorityTests : IDisposable
{
    private readonly DirectoryInfo _folder = Directory.CreateTempSubdirectory("walkdown-test-");
    private readonly Clock _clock = new(new DateTimeOffset(2026, 11, 27, 9, 0, 0, TimeSpan.Zero));

    public void Dispose() => _folder.Delete(true);

    private sealed class Clock(DateTimeOffset now) : TimeProvider
    {
        public DateTimeOffset Now { get; set; } = now;

        public override DateTimeOffset GetUtcNow() => Now;
    }

    private Authority NewAuthority() => new(_folder.FullName, _clock);

    private bool IsTrusted(X509Certificate2 certificate, X509Certificate2 authority)
    {
        using var chain = new X509Chain();
        chain.ChainPolicy.TrustMode = X509ChainTrustMode.CustomRootTrust;
        chain.ChainPolicy.CustomTrustStore.Add(authority);
        chain.ChainPolicy.RevocationMode = X509RevocationMode.NoCheck;
        chain.ChainPolicy.VerificationTime = _clock.Now.UtcDateTime;
        chain.ChainPolicy.VerificationTimeIgnored = false;
        return chain.Build(certificate);
    }

    [Fact]
    public void TheAuthorityIsTheSameAfterARestartAndItsKeyIsItsOwnersAlone()
    {
        var first = NewAuthority().Certificate.Thumbprint;
        Assert.Equal(first, NewAuthority().Certificate.Thumbprint);
        if (!OperatingSystem.IsWindows())
            Assert.Equal(
                UnixFileMode.UserRead | UnixFileMode.UserWrite,
                File.GetUnixFileMode(Path.Combine(_folder.FullName, "authority-key.pem"))
            );
    }

    [Fact]
    public void ItVouchesForPrivateNetworksAndForNothingElseEvenInAThiefsHands()
    {
        var authority = NewAuthority();
        var own = authority.Issue([Authority.HostName, "cabinet.local"], [IPAddress.Parse("192.168.8.20"), IPAddress.Parse("fd12::20")]);
        Assert.True(IsTrusted(own, authority.Certificate));
        Assert.True(own.MatchesHostname("192.168.8.20") && own.MatchesHostname("cabinet.local"));
        // What it may not vouch for it leaves out by itself.
        var asked = authority.Issue(["bank.test", "cabinet.lan"], [IPAddress.Parse("203.0.113.9"), IPAddress.Parse("10.0.0.9")]);
        Assert.True(IsTrusted(asked, authority.Certificate));
        Assert.False(asked.MatchesHostname("bank.test") || asked.MatchesHostname("203.0.113.9"));
        // Whoever has its key signs what he likes, and no phone takes it.
        foreach (var (name, address) in new (string?, string?)[] { ("bank.test", null), ("local.bank.test", null), (null, "203.0.113.9") })
        {
            using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
            var request = new CertificateRequest("CN=forged", key, HashAlgorithmName.SHA256);
            var alternatives = new SubjectAlternativeNameBuilder();
            if (name is not null)
                alternatives.AddDnsName(name);
            if (address is not null)
                alternatives.AddIpAddress(IPAddress.Parse(address));
            request.CertificateExtensions.Add(alternatives.Build());
            using var forged = request.Create(authority.Certificate, _clock.Now, _clock.Now.AddDays(30), [1, 2, 3]);
            Assert.False(IsTrusted(forged, authority.Certificate));
        }
    }

    [Fact]
    public void AServersCertificateIsRenewedByItselfBeforeItEnds()
    {
        var server = new ServerCertificate(NewAuthority(), _clock, null, null);
        IPAddress[] at = [IPAddress.Parse("192.168.8.20")];
        var first = server.For([], [.. at]).TargetCertificate;
        Assert.Same(first, server.For([], [.. at]).TargetCertificate);
        Assert.NotEqual(first.Thumbprint, server.For([], [IPAddress.Parse("192.168.8.21")]).TargetCertificate.Thumbprint);
        first = server.For([], [.. at]).TargetCertificate;
        _clock.Now += Authority.ServerHolds - TimeSpan.FromDays(20);
        var renewed = server.For([], [.. at]).TargetCertificate;
        Assert.True(renewed.NotAfter > first.NotAfter);
        Assert.Null(server.Wrong([], [.. at]));
    }

    [Fact]
    public void AClockThatIsYearsOffIsToldBeforeAPhoneRefuses()
    {
        var server = new ServerCertificate(NewAuthority(), _clock, null, null);
        IPAddress[] at = [IPAddress.Parse("192.168.8.20")];
        Assert.Null(server.Wrong([], [.. at]));
        _clock.Now = _clock.Now.AddYears(-6);
        Assert.Equal("problem.clock-behind", server.Wrong([], [.. at])!.Code);
        _clock.Now = _clock.Now.AddYears(13);
        Assert.Equal("problem.authority-ended", server.Wrong([], [.. at])!.Code);
    }

    [Fact]
    public void APublicAddressNeedsACertificateThatIsGiven() =>
        Assert.Equal(
            "problem.public-address",
            new ServerCertificate(NewAuthority(), _clock, null, null).Wrong([], [IPAddress.Parse("203.0.113.9")])!.Code
        );

    [Theory]
    [InlineData(-10, 5, "cctv.example", null)]
    [InlineData(-400, -1, "cctv.example", "problem.certificate-ended")]
    [InlineData(3, 90, "cctv.example", "problem.certificate-not-yet")]
    [InlineData(-10, 5, "other.example", null)]
    public void AGivenCertificateIsLookedAtBeforeAPhoneIs(int from, int to, string name, string? wrong)
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest($"CN={name}", key, HashAlgorithmName.SHA256);
        var alternatives = new SubjectAlternativeNameBuilder();
        alternatives.AddDnsName(name);
        request.CertificateExtensions.Add(alternatives.Build());
        using var made = request.CreateSelfSigned(_clock.Now.AddDays(from), _clock.Now.AddDays(to));
        var (pem, keyPem) = (Path.Combine(_folder.FullName, "given.pem"), Path.Combine(_folder.FullName, "given-key.pem"));
        File.WriteAllText(pem, made.ExportCertificatePem());
        File.WriteAllText(keyPem, key.ExportPkcs8PrivateKeyPem());
        var server = new ServerCertificate(NewAuthority(), _clock, pem, keyPem);
        Assert.Equal(wrong, server.Wrong(server.GivenNames, [IPAddress.Parse("192.168.8.20")])?.Code);
        Assert.Equal([name], server.GivenNames);
        if (wrong is null)
            Assert.Equal(made.Thumbprint, server.For(server.GivenNames, []).TargetCertificate.Thumbprint);
    }

    [Theory]
    [InlineData("nothing.pem")]
    [InlineData("broken.pem")]
    public void AGivenCertificateThatCannotBeReadIsNamed(string name)
    {
        File.WriteAllText(Path.Combine(_folder.FullName, "broken.pem"), "-----BEGIN CERTIFICATE-----\nAAAA\n-----END CERTIFICATE-----\n");
        var path = Path.Combine(_folder.FullName, name);
        var wrong = new ServerCertificate(NewAuthority(), _clock, path, path).Wrong([], [IPAddress.Parse("192.168.8.20")]);
        Assert.Equal(("problem.certificate-unread", name), (wrong!.Code, wrong.Args[0]));
    }
}
