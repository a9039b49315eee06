using System.Net;
using Microsoft.AspNetCore.Connections.Features;
using Microsoft.Extensions.Primitives;
using Walkdown.Core.Measures;
using Walkdown.Server.Network;

namespace Walkdown.Server.Shared;

/// <summary>
/// Who gets in: this machine's own names only, by HTTPS those that it is open under, pages that this server gave out only, and on the
/// loopback only the person who started it. Every answer says how little a browser may do with it.
/// </summary>
public static class Doors
{
    /// <summary>What pages may load and do. Styles are set by scripts of ours; nothing else is written into a page.</summary>
    private const string Policy =
        "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
        + "font-src 'self'; connect-src 'self'; "
        + "worker-src 'self'; manifest-src 'self'; "
        + "object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    private static readonly string[] Names = ["localhost", "127.0.0.1", "[::1]"];

    public static void UseDoors(this WebApplication app) =>
        app.Use(
            async (http, next) =>
            {
                Headers(http);
                if ((IsStranger(http) ? (403, new Message("problem.other-person")) : Refuse(http)) is { } refused)
                {
                    app.Logger.LogWarning(
                        "Not let in: {Method} {Path} for {Host} from {Origin}",
                        http.Request.Method,
                        http.Request.Path,
                        http.Request.Host.Value,
                        http.Request.Headers.Origin.ToString()
                    );
                    await Problems.Of(refused.Status, refused.What).ExecuteAsync(http);
                    return;
                }
                await next(http);
            }
        );

    private static void Headers(HttpContext http)
    {
        var response = http.Response;
        // What a page of ours says for itself, such as a drawing that may do nothing at all, stands.
        response.OnStarting(() =>
        {
            var headers = response.Headers;
            if (StringValues.IsNullOrEmpty(headers.ContentSecurityPolicy))
                headers.ContentSecurityPolicy = Policy;
            headers.XContentTypeOptions = "nosniff";
            headers.XFrameOptions = "DENY";
            // Once trusted, never without: by a name only, since an address may be another machine's tomorrow.
            if (http.Request.IsHttps && !IPAddress.TryParse(http.Request.Host.Host.Trim('[', ']'), out _))
                headers.StrictTransportSecurity = "max-age=31536000";
            headers["Referrer-Policy"] = "no-referrer";
            headers["Cross-Origin-Opener-Policy"] = "same-origin";
            headers["Cross-Origin-Resource-Policy"] = "same-origin";
            headers["Permissions-Policy"] =
                "geolocation=(), microphone=(), payment=(), usb=(), serial=(), camera=(self), publickey-credentials-get=(self), "
                + "publickey-credentials-create=(self)";
            if (response.HttpContext.Request.Path.StartsWithSegments("/api") && StringValues.IsNullOrEmpty(headers.CacheControl))
                headers.CacheControl = "no-store";
            return Task.CompletedTask;
        });
    }

    /// <summary>A name that is not this machine's is somebody else's page that was pointed here; a write, or the live stream, asked for by
    /// another page is not ours.</summary>
    private static (int Status, Message What)? Refuse(HttpContext http)
    {
        var request = http.Request;
        if (!IsOurs(http))
            return (421, new("problem.host"));
        var reads = HttpMethods.IsGet(request.Method) || HttpMethods.IsHead(request.Method);
        var live = request.Path.StartsWithSegments("/api") && request.Path.Value!.EndsWith("/live", StringComparison.Ordinal);
        var origin = request.Headers.Origin;
        if (
            !StringValues.IsNullOrEmpty(origin)
            && (!reads || live)
            && !(
                origin.Count == 1
                && Uri.TryCreate(origin[0], UriKind.Absolute, out var from)
                && from.Scheme == request.Scheme
                && from.Authority.Equals(request.Host.Value, StringComparison.OrdinalIgnoreCase)
            )
        )
            return (403, new("problem.other-page"));
        var site = request.Headers["Sec-Fetch-Site"].ToString();
        // A link that somebody follows from elsewhere is theirs to follow; anything that a page does by itself is not.
        var followed = reads && !live && request.Headers["Sec-Fetch-Mode"] == "navigate" && request.Headers["Sec-Fetch-Dest"] == "document";
        if (site.Length > 0 && site is not ("same-origin" or "none") && !followed && (!reads || request.Path.StartsWithSegments("/api")))
            return (403, new("problem.other-page"));
        return null;
    }

    /// <summary>Over the network by what the certificate names, without it by this machine's names for itself.</summary>
    private static bool IsOurs(HttpContext http) =>
        http.Request.Host is { HasValue: true } host
        && (
            http.Request.IsHttps
                ? http.RequestServices.GetRequiredService<PhoneDoor>().IsOurs(host.Host)
                : Names.Contains(host.Host, StringComparer.OrdinalIgnoreCase)
        );

    /// <summary>On the loopback only processes of the person who started the server get through. Asked once a connection: a socket does not
    /// change hands.</summary>
    private static bool IsStranger(HttpContext http)
    {
        var of = http.Features.Get<IConnectionItemsFeature>()?.Items;
        if (of?.TryGetValue(StrangerKey, out var known) == true)
            return (bool)known!;
        var connection = http.Connection;
        var stranger =
            connection is { LocalIpAddress: { } here, RemoteIpAddress: { } there }
            && LoopbackPeer.IsStranger(new IPEndPoint(here, connection.LocalPort), new IPEndPoint(there, connection.RemotePort));
        if (of is not null)
            of[StrangerKey] = stranger;
        return stranger;
    }

    private static readonly object StrangerKey = new();
}

/// <summary>Whose process is at the other end of a connection on this machine, by the kernel's own table.</summary>
internal static class LoopbackPeer
{
    private static readonly uint Me = OperatingSystem.IsLinux() ? MyUser() : 0;

    /// <summary>True where another user, who is not root, is at the other end. Where nothing can be said, as on other systems, nobody
    /// is.</summary>
    public static bool IsStranger(IPEndPoint? here, IPEndPoint? there)
    {
        if (!OperatingSystem.IsLinux() || here is null || there is null || !IPAddress.IsLoopback(there.Address))
            return false;
        try
        {
            return UserOf(there, here) is { } user && user != 0 && user != Me;
        }
        catch (Exception problem) when (problem is IOException or UnauthorizedAccessException or FormatException)
        {
            return false;
        }
    }

    /// <summary>The user of the socket at <paramref name="local"/> that is connected to <paramref name="remote"/>; null where the table has
    /// none such.</summary>
    internal static uint? UserOf(IPEndPoint local, IPEndPoint remote)
    {
        foreach (var (table, six) in new[] { ("/proc/net/tcp", false), ("/proc/net/tcp6", true) })
        {
            if (!File.Exists(table) || !six && local.AddressFamily != System.Net.Sockets.AddressFamily.InterNetwork)
                continue;
            string from = Hex(local, six),
                to = Hex(remote, six);
            foreach (var line in File.ReadLines(table).Skip(1))
            {
                var fields = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
                if (fields.Length > 7 && fields[1] == from && fields[2] == to)
                    return uint.Parse(fields[7], System.Globalization.CultureInfo.InvariantCulture);
            }
        }
        return null;
    }

    /// <summary>An address as the kernel writes it: words of four bytes, each in the machine's own order.</summary>
    private static string Hex(IPEndPoint at, bool six)
    {
        var bytes = (six ? at.Address.MapToIPv6() : at.Address).GetAddressBytes();
        var text = new System.Text.StringBuilder(bytes.Length * 2 + 5);
        for (var i = 0; i < bytes.Length; i += 4)
            text.Append(BitConverter.ToUInt32(bytes, i).ToString("X8", System.Globalization.CultureInfo.InvariantCulture));
        return text.Append(':').Append(at.Port.ToString("X4", System.Globalization.CultureInfo.InvariantCulture)).ToString();
    }

    private static uint MyUser()
    {
        foreach (var line in File.ReadLines("/proc/self/status"))
            if (line.StartsWith("Uid:", StringComparison.Ordinal))
                return uint.Parse(
                    line.Split('\t', StringSplitOptions.RemoveEmptyEntries)[2],
                    System.Globalization.CultureInfo.InvariantCulture
                );
        return 0;
    }
}
