using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Access;
using Walkdown.Core.People;
using Walkdown.Server.Network;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Door;

/// <summary>Who may come in, and as what.</summary>
public static class AccountEndpoints
{
    private const int ShownEvents = 200;

    public static void MapAccounts(this RouteGroupBuilder api)
    {
        var access = api.MapGroup("/access").WithTags("Access");
        access.MapGet("/accounts", All).WithName("getAccounts").Needs(Right.Admit);
        access.MapPut("/accounts/{id:guid}", Change).WithName("changeAccount").Needs(Right.Admit);
        access.MapGet("/sessions", Sessions).WithName("getSessions").Needs(Right.Admit);
        access.MapPost("/invitations", Invite).WithName("invite").Needs(Right.Admit);
        access.MapDelete("/invitations/{id:guid}", Withdraw).WithName("withdrawInvitation").Needs(Right.Admit);
    }

    private static async Task<Ok<AccountsAnswer>> All(AccessBook book, AccessStore store, TimeProvider time)
    {
        ImmutableArray<RoleLine> roles = [.. Enum.GetValues<Role>().Select(r => new RoleLine(r, Rights.Of([r])))];
        if (store.IsMissing)
            return TypedResults.Ok(new AccountsAnswer([], [], [], roles));
        await using var db = store.Open();
        var now = time.GetUtcNow();
        var locked = await db.Users.AsNoTracking().Where(a => a.LockoutEnd != null).ToDictionaryAsync(a => a.Id, a => a.LockoutEnd);
        var sessions = book.Sessions(null).ToLookup(s => s.AccountId);
        return TypedResults.Ok(
            new AccountsAnswer(
                [
                    .. book
                        .Accounts.Values.OrderBy(a => a.EndedAt is not null)
                        .ThenBy(a => a.Name, StringComparer.Ordinal)
                        .Select(a => new AccountAnswer(
                            a.Id,
                            a.Name,
                            a.UserName,
                            a.Roles,
                            [.. a.People.Select(p => new PersonOf(p.Key, p.Value))],
                            a.EndedAt,
                            locked.GetValueOrDefault(a.Id) is { } until && until > now ? until : null,
                            sessions[a.Id].Count()
                        )),
                ],
                [
                    .. (await db.Invitations.AsNoTracking().Where(i => i.UsedAt == null && i.EndsAt > now).ToListAsync()).Select(i =>
                        Line(i)
                    ),
                ],
                [
                    .. (await db.Events.AsNoTracking().OrderByDescending(e => e.Id).Take(ShownEvents).ToListAsync()).Select(
                        e => new EventLine(
                            e.At,
                            e.What,
                            e.AccountId is { } who ? book.Accounts.GetValueOrDefault(who)?.Name : null,
                            e.Address,
                            e.Detail
                        )
                    ),
                ],
                roles
            )
        );
    }

    private static InvitationLine Line(Invitation i, string? code = null, string? address = null) =>
        new(i.Id, i.Name, i.Roles, i.AccountId, i.MadeAt, i.EndsAt, code, address);

    private static Ok<ImmutableArray<SessionLine>> Sessions(HttpContext http, AccessBook book) =>
        TypedResults.Ok<ImmutableArray<SessionLine>>([.. book.Sessions(null).Select(s => AccessEndpoints.Line(s, book, Caller.Of(http)!))]);

    private static async Task<Results<Ok<InvitationLine>, ProblemHttpResult>> Invite(
        InviteRequest request,
        HttpContext http,
        Admission door,
        AccessBook book,
        Ledger ledger,
        PhoneDoor phones
    )
    {
        // Until somebody can let the others in, nobody is invited.
        if (!book.Any)
            return Problems.Of(422, "problem.first-account");
        var people = request.People.IsDefault ? [] : request.People;
        if (await Unknown(ledger, people))
            return Problems.Of(422, new Core.Measures.Message("problem.unknown-person"), "people");
        var (code, invitation, why, field) = await door.From(Caller.AddressOf(http))
            .Invite(request.Name ?? "", request.Roles, people, request.AccountId, Caller.Of(http)?.Account?.Id);
        return invitation is null
            ? Problems.Of(422, why!, field)
            : TypedResults.Ok(Line(invitation, code, phones.Address is { } address ? $"{address}/join#{code}" : null));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Withdraw(Guid id, HttpContext http, AccessStore store, Admission door)
    {
        if (store.IsMissing)
            return Problems.Of(404, "problem.unknown-invitation");
        await using var db = store.Open();
        if (await db.Invitations.Where(i => i.Id == id && i.UsedAt == null).ExecuteDeleteAsync() == 0)
            return Problems.Of(404, "problem.unknown-invitation");
        await door.From(Caller.AddressOf(http)).Note("invitation-withdrawn", null, "");
        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<AccountsAnswer>, ProblemHttpResult>> Change(
        Guid id,
        AccountChange request,
        HttpContext http,
        Admission door,
        AccessBook book,
        AccessStore store,
        Ledger ledger,
        TimeProvider time
    )
    {
        var people = request.People.IsDefault ? [] : request.People;
        if (store.IsMissing)
            return Problems.Of(422, "problem.unknown-account");
        if (await Unknown(ledger, people))
            return Problems.Of(422, new Core.Measures.Message("problem.unknown-person"), "people");
        var changed = await door.From(Caller.AddressOf(http))
            .Change(id, request.Roles, people, request.Ended, Caller.Of(http)?.Account?.Id);
        return changed.Why is { } why ? Problems.Of(422, why, changed.Field) : await All(book, store, time);
    }

    /// <summary>Somebody who is none of the job's people.</summary>
    internal static async Task<bool> Unknown(Ledger ledger, ImmutableArray<PersonOf> people)
    {
        await using var db = ledger.OpenDb();
        foreach (var person in people)
            if (!await db.People.AnyAsync(p => p.Id == person.PersonId && p.JobId == person.JobId))
                return true;
        return false;
    }
}
