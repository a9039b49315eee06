using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Walkdown.Access;
using Walkdown.Core.Measures;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Door;

/// <summary>Coming in, going out, and what somebody can do about himself.</summary>
public static class AccessEndpoints
{
    /// <summary>Of addresses at which a secret can be guessed.</summary>
    public const string Guesses = "guesses";

    public static void MapAccess(this RouteGroupBuilder api)
    {
        var access = api.MapGroup("/access").WithTags("Access");
        access.MapGet("", Standing).WithName("getAccess").ToAll();
        access.MapPost("/first", First).WithName("beFirst").ToAll().RequireRateLimiting(Guesses);
        access.MapPost("/sign-in", SignIn).WithName("signIn").ToAll().RequireRateLimiting(Guesses);
        access.MapPost("/sign-out", SignOut).WithName("signOut").ToAll();
        access.MapPost("/invited", Invited).WithName("getInvited").ToAll().RequireRateLimiting(Guesses);
        access.MapPost("/join", Join).WithName("join").ToAll().RequireRateLimiting(Guesses);
        access.MapPost("/switch", Switch).WithName("switchPerson").ToAll().RequireRateLimiting(Guesses);
        // What is one's own needs no right but to be somebody.
        access.MapGet("/me", MySelf).WithName("getMyself").Needs(Core.People.Right.Look);
        access
            .MapPut("/passphrase", ChangePassphrase)
            .WithName("changePassphrase")
            .Needs(Core.People.Right.Look)
            .RequireRateLimiting(Guesses);
        access.MapPut("/code", SetCode).WithName("setShortCode").Needs(Core.People.Right.Look).RequireRateLimiting(Guesses);
        access.MapDelete("/sessions/{id:guid}", EndSession).WithName("endSession").Needs(Core.People.Right.Look);
    }

    private static async Task<Ok<AccessAnswer>> Standing(
        HttpContext http,
        Gate gate,
        AccessBook book,
        Admission door,
        GateSettings settings
    )
    {
        var caller = Caller.Of(http);
        var here = Caller.IsHere(http);
        return TypedResults.Ok(
            new AccessAnswer(
                caller is { Account: { } account, Session: { } session } ? Me.Of(account, session) : null,
                caller is null,
                here && !book.Any,
                here,
                settings.IsDemo,
                [.. (await door.Here(Cookies.Device(http))).Select(a => new HereLine(a.Id, a.Name))],
                http.Request.Host.Host is var host && !System.Net.IPAddress.TryParse(host.Trim('[', ']'), out _)
            )
        );
    }

    private static async Task<Results<Ok<Me>, ProblemHttpResult>> First(
        FirstRequest request,
        HttpContext http,
        AccessBook book,
        Admission door,
        Ledger ledger
    )
    {
        if (!Caller.IsHere(http))
            return Problems.Of(403, "problem.first-is-here");
        var people = request.People.IsDefault ? [] : request.People;
        if (await AccountEndpoints.Unknown(ledger, people))
            return Problems.Of(422, new Message("problem.unknown-person"), "people");
        return Begun(
            http,
            book,
            await door.From(Caller.AddressOf(http)).First(request.Name ?? "", request.UserName ?? "", request.Passphrase ?? "", people)
        );
    }

    private static async Task<Results<Ok<Me>, ProblemHttpResult>> SignIn(
        SignInRequest request,
        HttpContext http,
        AccessBook book,
        Admission door
    ) => Begun(http, book, await door.From(Caller.AddressOf(http)).SignIn(request.UserName ?? "", request.Passphrase ?? ""));

    /// <summary>What this browser showed before is void from now on, whoever it was.</summary>
    internal static Results<Ok<Me>, ProblemHttpResult> Begun(HttpContext http, AccessBook book, Admitted admitted)
    {
        if (admitted.Account is not { } account)
            return Problems.Of(admitted.Why!.Code is "problem.sign-in" or "problem.wrong-code" ? 401 : 422, admitted.Why, admitted.Field);
        if (Caller.Of(http)?.Session is { } before)
            book.End(s => s.Id == before.Id);
        var device = http.Request.Headers.UserAgent.ToString();
        var (key, session) = book.Begin(account.Id, DeviceName.Of(device), Caller.AddressOf(http));
        Cookies.SetSession(http, key, session.EndsAt);
        if (Cookies.Device(http).Length == 0)
            Cookies.SetDevice(http, AccessBook.Secret());
        return TypedResults.Ok(Me.Of(account, session));
    }

    private static async Task<NoContent> SignOut(HttpContext http, AccessBook book, Admission door)
    {
        if (Caller.Of(http) is { Session: { } session, Account: { } account })
        {
            book.End(s => s.Id == session.Id);
            await door.From(Caller.AddressOf(http)).Note("signed-out", account.Id, "");
        }
        Cookies.ForgetSession(http);
        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<InvitedAnswer>, ProblemHttpResult>> Invited(
        CodeRequest request,
        HttpContext http,
        Admission door
    ) =>
        await door.From(Caller.AddressOf(http)).Look(request.Code ?? "") is { } invitation
            ? TypedResults.Ok(new InvitedAnswer(invitation.Name, invitation.Roles, invitation.AccountId is null, invitation.EndsAt))
            : Problems.Of(422, new Message("problem.wrong-invitation"), "code");

    private static async Task<Results<Ok<Me>, ProblemHttpResult>> Join(
        JoinRequest request,
        HttpContext http,
        AccessBook book,
        Admission door
    ) =>
        Begun(
            http,
            book,
            await door.From(Caller.AddressOf(http)).Join(request.Code ?? "", request.UserName ?? "", request.Passphrase ?? "")
        );

    private static async Task<Results<Ok<Me>, ProblemHttpResult>> Switch(
        SwitchRequest request,
        HttpContext http,
        AccessBook book,
        Admission door
    ) => Begun(http, book, await door.From(Caller.AddressOf(http)).Switch(Cookies.Device(http), request.AccountId, request.Code ?? ""));

    private static async Task<Ok<MySelfAnswer>> MySelf(HttpContext http, AccessBook book, Passkeys passkeys)
    {
        var caller = Caller.Of(http)!;
        // At the machine itself, without an account: every browser that is signed in.
        return TypedResults.Ok(
            new MySelfAnswer(
                [.. book.Sessions(caller.Account?.Id).Select(s => Line(s, book, caller))],
                caller.Account is { } account ? await passkeys.Of(account.Id) : []
            )
        );
    }

    internal static SessionLine Line(Session s, AccessBook book, Caller caller) =>
        new(
            s.Id,
            s.AccountId,
            book.Accounts.GetValueOrDefault(s.AccountId)?.Name ?? "",
            s.Device,
            s.Address,
            s.BeganAt,
            s.SeenAt,
            s.EndsAt,
            s.Id == caller.Session?.Id
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> ChangePassphrase(
        PassphraseRequest request,
        HttpContext http,
        Admission door
    )
    {
        if (Caller.Of(http)?.Account is not { } account)
            return Problems.Of(422, "problem.not-signed-in");
        var changed = await door.From(Caller.AddressOf(http))
            .ChangePassphrase(account.Id, request.Old ?? "", request.Passphrase ?? "", Caller.Of(http)!.Session?.Id);
        return changed.Why is { } why ? Problems.Of(422, why, changed.Field) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> SetCode(ShortCodeRequest request, HttpContext http, Admission door)
    {
        if (Caller.Of(http)?.Account is not { } account)
            return Problems.Of(422, "problem.not-signed-in");
        var device = Cookies.Device(http);
        if (device.Length == 0)
            Cookies.SetDevice(http, device = AccessBook.Secret());
        var set = await door.From(Caller.AddressOf(http)).SetCode(device, account.Id, request.Passphrase ?? "", request.Code ?? "");
        return set.Why is { } why ? Problems.Of(422, why, set.Field) : TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> EndSession(Guid id, HttpContext http, AccessBook book, Admission door)
    {
        var caller = Caller.Of(http)!;
        var session = book.Sessions(null).FirstOrDefault(s => s.Id == id);
        // Another's is none, but for who lets people in.
        if (session is null || !caller.May(Core.People.Right.Admit) && session.AccountId != caller.Account!.Id)
            return Problems.Of(404, "problem.unknown-session");
        book.End(s => s.Id == id);
        await door.From(Caller.AddressOf(http)).Note("session-ended", session.AccountId, session.Device);
        return TypedResults.NoContent();
    }
}

/// <summary>A browser and its system, as people name them.</summary>
internal static class DeviceName
{
    private static readonly (string Sign, string Name)[] Browsers =
    [
        ("Edg", "Edge"),
        ("SamsungBrowser", "Samsung Internet"),
        ("Firefox", "Firefox"),
        ("FxiOS", "Firefox"),
        ("CriOS", "Chrome"),
        ("Chrom", "Chrome"),
        ("Safari", "Safari"),
    ];

    private static readonly (string Sign, string Name)[] Systems =
    [
        ("iPhone", "iPhone"),
        ("iPad", "iPad"),
        ("Android", "Android"),
        ("Windows", "Windows"),
        ("Mac OS", "Mac"),
        ("Linux", "Linux"),
    ];

    public static string Of(string agent)
    {
        var browser = Browsers.FirstOrDefault(b => agent.Contains(b.Sign, StringComparison.Ordinal)).Name;
        var system = Systems.FirstOrDefault(s => agent.Contains(s.Sign, StringComparison.Ordinal)).Name;
        return browser is null && system is null
            ? string.Concat(agent.Where(c => c is >= ' ' and < (char)127).Take(40))
            : string.Join(", ", new[] { browser, system }.OfType<string>());
    }
}
