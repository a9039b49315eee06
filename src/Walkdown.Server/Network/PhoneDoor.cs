using System.Collections.Immutable;
using System.Net;
using System.Net.NetworkInformation;
using System.Net.Security;
using System.Net.Sockets;
using System.Security.Authentication;
using System.Text.Json;
using Walkdown.Access;
using Walkdown.Core.Measures;
using Walkdown.Storage;

namespace Walkdown.Server.Network;

/// <summary>An address of this machine, and the card that has it.</summary>
public sealed record OwnAddress(string Address, string Card);

/// <summary>On which address, if any, phones come in; chosen by somebody, never all by itself, always by HTTPS.</summary>
public sealed class PhoneDoor(
    DataFolder folder,
    Authority authority,
    ServerCertificate certificate,
    PhoneListening listening,
    ILogger<PhoneDoor> log
)
{
    /// <summary>Where phones knock when nobody chose another.</summary>
    public const int UsualPort = 4443;

    /// <summary>The word for every address that this machine has.</summary>
    public const string Every = "all";

    private sealed record Kept(string Address, int Port);

    private readonly Lock _lock = new();
    private Kept? _open;

    private string PathOf => Path.Combine(folder.Root, "network.json");

    /// <summary>Where phones come in, such as https://192.168.8.20:4443; null while they do not.</summary>
    public string? Address
    {
        get
        {
            if (_open is not { } open)
                return null;
            // By a name only where the name is the certificate's: whether a network knows this machine's name, nobody here knows.
            var host =
                certificate.GivenNames is [var name, ..] ? name
                : open.Address != Every ? Bracketed(open.Address)
                : AddressesOf(open) is [var first, ..] ? Bracketed(first.ToString())
                : authority.MayName(Authority.HostName) ? Authority.HostName
                : "localhost";
            return $"https://{host}:{open.Port}";
        }
    }

    /// <summary>The address that is open, or <see cref="Every"/>; null for none.</summary>
    public (string Address, int Port)? Open => _open is { } open ? (open.Address, open.Port) : null;

    /// <summary>Somebody asks for this machine by a name or an address of its own.</summary>
    public bool IsOurs(string host)
    {
        if (_open is not { } open)
            return false;
        var bare = host.Trim('[', ']');
        return IPAddress.TryParse(bare, out var address)
            ? open.Address == Every
                ? OwnAddresses().Any(a => IPAddress.Parse(a.Address).Equals(address))
                : IPAddress.Parse(open.Address).Equals(address)
            : Names().Contains(bare, StringComparer.OrdinalIgnoreCase);
    }

    /// <summary>Addresses of this machine at which others may find it: of cards that are up, not of the machine with itself.</summary>
    public static ImmutableArray<OwnAddress> OwnAddresses() =>
        [
            .. NetworkInterface
                .GetAllNetworkInterfaces()
                .Where(card => card.OperationalStatus is OperationalStatus.Up or OperationalStatus.Unknown)
                .SelectMany(card => card.GetIPProperties().UnicastAddresses.Select(a => (a.Address, card.Name)))
                .Where(a =>
                    !IPAddress.IsLoopback(a.Address) && a.Address is { IsIPv6LinkLocal: false, IsIPv6Teredo: false, IsIPv6Multicast: false }
                )
                .OrderBy(a => a.Address.AddressFamily == AddressFamily.InterNetworkV6)
                .Select(a => new OwnAddress(a.Address.ToString(), a.Name)),
        ];

    /// <summary>Opens one address, or all that there are; the one before is closed.</summary>
    /// <param name="address">An address of this machine, the name of a card, or <see cref="Every"/>.</param>
    /// <returns>Why not; null where it is open.</returns>
    public Message? TryOpen(string address, int port)
    {
        lock (_lock)
        {
            if (port is < 1 or > 65535)
                return new("problem.port", [$"{port}"]);
            var own = OwnAddresses();
            var chosen =
                address.Equals(Every, StringComparison.OrdinalIgnoreCase) ? Every
                : own.FirstOrDefault(a => a.Address == address || a.Card == address) is { } found ? found.Address
                : IPAddress.TryParse(address, out var given) && IPAddress.IsLoopback(given) ? given.ToString()
                : null;
            if (chosen is null)
                return new(
                    "problem.not-own-address",
                    [Message.Said(address), string.Join(", ", own.Select(a => $"{a.Address} ({a.Card})"))]
                );
            var open = new Kept(chosen, port);
            var named = AddressesOf(open);
            if (certificate.Wrong(Names(), named.IsEmpty ? [.. own.Select(a => IPAddress.Parse(a.Address))] : named) is { } wrong)
                return wrong;
            if (_open?.Port != port && !IsFree(chosen, port))
                return new("problem.port-taken", [$"{port}"]);
            certificate.For(Names(), AddressesOf(open));
            Keep(open);
            return null;
        }
    }

    /// <summary>Phones stay outside from now on; those that are in are cut off.</summary>
    public void Close()
    {
        lock (_lock)
            Keep(null);
    }

    /// <summary>As it was when the server was stopped; what cannot be opened again is said, and everything else goes on.</summary>
    public void Begin(string? asked, int port)
    {
        var kept = Read();
        if ((asked ?? kept?.Address) is not { } address)
            return;
        var at = asked is null ? kept!.Port : port;
        if (TryOpen(address, at) is { } why)
            log.LogWarning("Phones cannot come in at {Address}: {Why}", address, Shared.Problems.Of(422, why).ProblemDetails.Detail);
    }

    /// <summary>What a phone is shown when it connects: TLS 1.2 at least, and the certificate as of now.</summary>
    public SslServerAuthenticationOptions Handshake() =>
        new()
        {
            ServerCertificateContext = certificate.For(Names(), _open is { } open ? AddressesOf(open) : []),
            EnabledSslProtocols = SslProtocols.Tls12 | SslProtocols.Tls13,
            ApplicationProtocols = [SslApplicationProtocol.Http2, SslApplicationProtocol.Http11],
        };

    private ImmutableArray<string> Names() =>
        certificate.IsGiven
            ? certificate.GivenNames
            : [.. new[] { Authority.HostName, Authority.HostName + ".local" }.Where(authority.MayName)];

    private static ImmutableArray<IPAddress> AddressesOf(Kept open) =>
        open.Address == Every
            ? [.. OwnAddresses().Select(a => IPAddress.Parse(a.Address)).Where(Authority.IsPrivate)]
            : [IPAddress.Parse(open.Address)];

    private static string Bracketed(string address) => address.Contains(':', StringComparison.Ordinal) ? $"[{address}]" : address;

    private static bool IsFree(string address, int port)
    {
        try
        {
            using var probe = new TcpListener(address == Every ? IPAddress.IPv6Any : IPAddress.Parse(address), port);
            if (address == Every)
                probe.Server.DualMode = true;
            probe.Start();
            return true;
        }
        catch (SocketException)
        {
            return false;
        }
    }

    private void Keep(Kept? open)
    {
        var draft = PathOf + ".part";
        if (open is null)
            File.Delete(PathOf);
        else
        {
            File.WriteAllText(draft, JsonSerializer.Serialize(open));
            File.Move(draft, PathOf, overwrite: true);
        }
        _open = open;
        listening.Set(open is null ? null : $"https://{(open.Address == Every ? "[::]" : Bracketed(open.Address))}:{open.Port}");
    }

    private Kept? Read()
    {
        try
        {
            return File.Exists(PathOf) ? JsonSerializer.Deserialize<Kept>(File.ReadAllText(PathOf)) : null;
        }
        catch (Exception problem) when (problem is JsonException or IOException)
        {
            log.LogWarning("network.json cannot be read; phones stay outside: {Why}", problem.Message);
            return null;
        }
    }
}
