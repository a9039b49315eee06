using System.Collections.Concurrent;
using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Walkdown.Access;
using Walkdown.Server.Shared;

namespace Walkdown.Server.Door;

/// <summary>What a browser was asked and has not answered yet; once, and five minutes long.</summary>
public sealed class PasskeyAsks(TimeProvider time)
{
    private const int Most = 500;
    private static readonly TimeSpan Holds = TimeSpan.FromMinutes(5);
    private readonly ConcurrentDictionary<Guid, (string State, Guid? Account, DateTimeOffset EndsAt)> _asked = new();

    public Guid Keep(string state, Guid? account)
    {
        var now = time.GetUtcNow();
        foreach (var (old, _) in _asked.Where(a => a.Value.EndsAt < now).Concat(_asked.Count >= Most ? _asked.Take(Most / 2) : []).ToList())
            _asked.TryRemove(old, out _);
        var id = Guid.NewGuid();
        _asked[id] = (state, account, now + Holds);
        return id;
    }

    public string? Take(Guid id, Guid? account) =>
        _asked.TryRemove(id, out var asked) && asked.EndsAt > time.GetUtcNow() && asked.Account == account ? asked.State : null;
}

/// <summary>Passkeys (W3C Web Authentication), by the framework's own handler.</summary>
public sealed class Passkeys(UserManager<Account> users, IPasskeyHandler<Account> handler, PasskeyAsks asks, AccessStore store)
{
    private const int Most = 10;

    public async Task<ImmutableArray<PasskeyLine>> Of(Guid account) =>
        await users.FindByIdAsync(account.ToString()) is { } known
            ?
            [
                .. (await users.GetPasskeysAsync(known)).Select(p => new PasskeyLine(
                    Convert.ToHexStringLower(p.CredentialId),
                    p.Name ?? "",
                    p.CreatedAt
                )),
            ]
            : [];

    public async Task<PasskeyAsk> AskToMake(AccountLine account, HttpContext http)
    {
        var options = await handler.MakeCreationOptionsAsync(
            new PasskeyUserEntity
            {
                Id = account.Id.ToString(),
                Name = account.UserName,
                DisplayName = account.Name,
            },
            http
        );
        return new PasskeyAsk(asks.Keep(options.AttestationState!, account.Id), options.CreationOptionsJson);
    }

    public async Task<bool> Make(AccountLine account, PasskeyRequest request, HttpContext http)
    {
        var known = await users.FindByIdAsync(account.Id.ToString());
        if (
            known is null
            || asks.Take(request.Id, account.Id) is not { } state
            || (await users.GetPasskeysAsync(known)).Count >= Most
            || await handler.PerformAttestationAsync(
                new PasskeyAttestationContext
                {
                    CredentialJson = request.Credential,
                    AttestationState = state,
                    HttpContext = http,
                }
            )
                is not { Succeeded: true } made
        )
            return false;
        made.Passkey.Name = request.Name.Length is > 0 and <= 60 ? request.Name : DeviceName.Of(http.Request.Headers.UserAgent.ToString());
        return (await users.AddOrUpdatePasskeyAsync(known, made.Passkey)).Succeeded;
    }

    public async Task<PasskeyAsk> AskToSignIn(HttpContext http)
    {
        // Of nobody: the authenticator knows whom it is for, and nobody learns who is there.
        var options = await handler.MakeRequestOptionsAsync(null, http);
        return new PasskeyAsk(asks.Keep(options.AssertionState!, null), options.RequestOptionsJson);
    }

    public async Task<Guid?> SignIn(PasskeyRequest request, HttpContext http)
    {
        if (store.IsMissing || asks.Take(request.Id, null) is not { } state)
            return null;
        var proven = await handler.PerformAssertionAsync(
            new PasskeyAssertionContext
            {
                CredentialJson = request.Credential,
                AssertionState = state,
                HttpContext = http,
            }
        );
        if (!proven.Succeeded)
            return null;
        await users.AddOrUpdatePasskeyAsync(proven.User, proven.Passkey);
        return proven.User.Id;
    }

    public async Task<bool> Remove(Guid account, string id)
    {
        if (await users.FindByIdAsync(account.ToString()) is not { } known)
            return false;
        var passkey = (await users.GetPasskeysAsync(known)).FirstOrDefault(p => Convert.ToHexStringLower(p.CredentialId) == id);
        return passkey is not null && (await users.RemovePasskeyAsync(known, passkey.CredentialId)).Succeeded;
    }
}

public static class PasskeyEndpoints
{
    public static void MapPasskeys(this RouteGroupBuilder api)
    {
        var passkeys = api.MapGroup("/access/passkeys").WithTags("Access");
        passkeys.MapPost("/ask", AskToMake).WithName("askForPasskey").Needs(Core.People.Right.Look);
        passkeys.MapPost("", Make).WithName("addPasskey").Needs(Core.People.Right.Look);
        passkeys.MapDelete("/{id}", Remove).WithName("removePasskey").Needs(Core.People.Right.Look);
        passkeys.MapPost("/sign-in/ask", AskToSignIn).WithName("askPasskey").ToAll().RequireRateLimiting(AccessEndpoints.Guesses);
        passkeys.MapPost("/sign-in", SignIn).WithName("signInByPasskey").ToAll().RequireRateLimiting(AccessEndpoints.Guesses);
    }

    private static async Task<Results<Ok<PasskeyAsk>, ProblemHttpResult>> AskToMake(HttpContext http, Passkeys passkeys) =>
        Caller.Of(http)?.Account is { } account
            ? TypedResults.Ok(await passkeys.AskToMake(account, http))
            : Problems.Of(422, "problem.not-signed-in");

    private static async Task<Results<NoContent, ProblemHttpResult>> Make(
        PasskeyRequest request,
        HttpContext http,
        Passkeys passkeys,
        Admission door
    )
    {
        if (Caller.Of(http)?.Account is not { } account || !await passkeys.Make(account, request, http))
            return Problems.Of(422, "problem.passkey");
        await door.From(Caller.AddressOf(http)).Note("passkey-added", account.Id, request.Name);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(string id, HttpContext http, Passkeys passkeys, Admission door)
    {
        if (Caller.Of(http)?.Account is not { } account || !await passkeys.Remove(account.Id, id))
            return Problems.Of(404, "problem.passkey");
        await door.From(Caller.AddressOf(http)).Note("passkey-removed", account.Id, "");
        return TypedResults.NoContent();
    }

    private static async Task<Ok<PasskeyAsk>> AskToSignIn(HttpContext http, Passkeys passkeys) =>
        TypedResults.Ok(await passkeys.AskToSignIn(http));

    private static async Task<Results<Ok<Me>, ProblemHttpResult>> SignIn(
        PasskeyRequest request,
        HttpContext http,
        AccessBook book,
        Passkeys passkeys,
        Admission door
    )
    {
        var account = await passkeys.SignIn(request, http);
        return AccessEndpoints.Begun(
            http,
            book,
            account is { } known
                ? await door.From(Caller.AddressOf(http)).SignedInByPasskey(known)
                : new Admitted(null, new Core.Measures.Message("problem.sign-in"))
        );
    }
}
