using System.Collections.Immutable;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using QRCoder;
using Walkdown.Access;
using Walkdown.Core.People;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;

namespace Walkdown.Server.Network;

/// <summary>Whether phones may come in, and where.</summary>
/// <param name="Own">Addresses of this machine that can be opened.</param>
/// <param name="Open">The one that is; "all" for each; null for none.</param>
/// <param name="Address">What a phone opens; null while none can.</param>
/// <param name="Code">That address, and by what the phone knows that it is right, as a drawing (SVG) for its camera.</param>
/// <param name="Fingerprint">SHA-256 of what is to be trusted, hexadecimal.</param>
/// <param name="IsGiven">The certificate was given; phones that know who made it need no further trust.</param>
/// <param name="Until">Until when it holds.</param>
/// <param name="DaysLeft">Whole days until then.</param>
public sealed record NetworkAnswer(
    ImmutableArray<OwnAddress> Own,
    string? Open,
    int Port,
    string? Address,
    string? Code,
    string Fingerprint,
    bool IsGiven,
    DateTimeOffset Until,
    int DaysLeft
);

/// <param name="Address">An address of this machine, "all", or empty to close.</param>
public sealed record NetworkRequest(string Address, int Port = PhoneDoor.UsualPort);

/// <summary>What a phone is to trust.</summary>
public sealed record TrustAnswer(string Name, string Fingerprint, bool IsGiven, DateTimeOffset Until);

public static class NetworkEndpoints
{
    public static void MapNetwork(this RouteGroupBuilder api)
    {
        api.MapGet(
                "/network",
                (PhoneDoor phones, ServerCertificate certificate, TimeProvider time) => TypedResults.Ok(Answer(phones, certificate, time))
            )
            .WithTags("Network")
            .WithName("getNetwork")
            .Needs(Right.Admit);
        api.MapPut("/network", Change).WithTags("Network").WithName("changeNetwork").Needs(Right.Admit);
        api.MapGet("/network/code.svg", (string text) => Drawn(text)).WithTags("Network").WithName("drawCode").Needs(Right.Admit);
        api.MapGet("/trust", Trust).WithTags("Network").WithName("getTrust").ToAll();
        api.MapGet("/trust/authority.crt", Certificate).WithTags("Network").WithName("getAuthority").ToAll().Produces(200);
        api.MapGet("/trust/authority.mobileconfig", Profile).WithTags("Network").WithName("getAuthorityProfile").ToAll().Produces(200);
    }

    private static NetworkAnswer Answer(PhoneDoor phones, ServerCertificate certificate, TimeProvider time)
    {
        var address = phones.Address;
        return new NetworkAnswer(
            PhoneDoor.OwnAddresses(),
            phones.Open?.Address,
            phones.Open?.Port ?? PhoneDoor.UsualPort,
            address,
            address is null ? null : Svg($"{address}/trust#{certificate.Fingerprint}"),
            certificate.Fingerprint,
            certificate.IsGiven,
            certificate.Until,
            (int)Math.Floor((certificate.Until - time.GetUtcNow()).TotalDays)
        );
    }

    private static async Task<Results<Ok<NetworkAnswer>, ProblemHttpResult>> Change(
        NetworkRequest request,
        HttpContext http,
        PhoneDoor phones,
        AccessBook book,
        Admission door,
        ServerCertificate certificate,
        TimeProvider time
    )
    {
        if (!Caller.IsHere(http))
            return Problems.Of(403, "problem.network-is-here");
        if (string.IsNullOrEmpty(request.Address))
            phones.Close();
        else if (!book.Any)
            // Whoever came in would be somebody that nobody let in.
            return Problems.Of(422, "problem.first-account");
        else if (phones.TryOpen(request.Address, request.Port) is { } why)
            return Problems.Of(422, why, why.Code.StartsWith("problem.port", StringComparison.Ordinal) ? "port" : "address");
        await door.From(Caller.AddressOf(http))
            .Note(phones.Open is null ? "network-closed" : "network-opened", Caller.Of(http)?.Account?.Id, phones.Address ?? "");
        return TypedResults.Ok(Answer(phones, certificate, time));
    }

    private static Ok<TrustAnswer> Trust(ServerCertificate certificate, Authority authority) =>
        TypedResults.Ok(
            new TrustAnswer(
                certificate.IsGiven ? "" : authority.Certificate.GetNameInfo(X509NameType.SimpleName, false),
                certificate.Fingerprint,
                certificate.IsGiven,
                certificate.Until
            )
        );

    private static Results<FileContentHttpResult, ProblemHttpResult> Certificate(ServerCertificate certificate, Authority authority) =>
        certificate.IsGiven
            ? Problems.Of(404, "problem.no-authority")
            : TypedResults.File(authority.Certificate.RawData, "application/x-x509-ca-cert", "walkdown-authority.crt");

    /// <summary>The same as Apple's phones take it: one payload, unsigned, so that they show it as what it is.</summary>
    private static Results<FileContentHttpResult, ProblemHttpResult> Profile(ServerCertificate certificate, Authority authority)
    {
        if (certificate.IsGiven)
            return Problems.Of(404, "problem.no-authority");
        var name = System.Security.SecurityElement.Escape(authority.Certificate.GetNameInfo(X509NameType.SimpleName, false));
        // The same installation is the same profile: taken again, it takes the place of the first.
        var seed = Convert.FromHexString(certificate.Fingerprint);
        var profile = $"""
            <?xml version="1.0" encoding="UTF-8"?>
            <!DOCTYPE plist PUBLIC "-//Apple//DTD PLIST 1.0//EN" "http://www.apple.com/DTDs/PropertyList-1.0.dtd">
            <plist version="1.0"><dict>
            <key>PayloadContent</key><array><dict>
            <key>PayloadCertificateFileName</key><string>walkdown-authority.crt</string>
            <key>PayloadContent</key><data>{Convert.ToBase64String(authority.Certificate.RawData)}</data>
            <key>PayloadDisplayName</key><string>{name}</string>
            <key>PayloadIdentifier</key><string>walkdown.authority.{certificate.Fingerprint[..16]}</string>
            <key>PayloadType</key><string>com.apple.security.root</string>
            <key>PayloadUUID</key><string>{new Guid(seed.AsSpan(0, 16))}</string>
            <key>PayloadVersion</key><integer>1</integer>
            </dict></array>
            <key>PayloadDisplayName</key><string>{name}</string>
            <key>PayloadIdentifier</key><string>walkdown.{certificate.Fingerprint[..16]}</string>
            <key>PayloadType</key><string>Configuration</string>
            <key>PayloadUUID</key><string>{new Guid(seed.AsSpan(16, 16))}</string>
            <key>PayloadVersion</key><integer>1</integer>
            </dict></plist>
            """;
        return TypedResults.File(Encoding.UTF8.GetBytes(profile), "application/x-apple-aspen-config", "walkdown-authority.mobileconfig");
    }

    private static Results<ContentHttpResult, ProblemHttpResult> Drawn(string text) =>
        text.Length is > 0 and <= 400 ? TypedResults.Content(Svg(text), "image/svg+xml") : Problems.Of(422, "problem.unreadable", "text");

    private static string Svg(string text)
    {
        using var generator = new QRCodeGenerator();
        using var data = generator.CreateQrCode(text, QRCodeGenerator.ECCLevel.M);
        return new SvgQRCode(data).GetGraphic(4, "#000000", "#ffffff", drawQuietZones: true, SvgQRCode.SizingMode.ViewBoxAttribute);
    }
}
