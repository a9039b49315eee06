using System.Collections.Immutable;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Measures;
using Walkdown.Core.People;

namespace Walkdown.Access;

/// <summary>Who an invited one becomes in a job.</summary>
public sealed record PersonOf(Guid JobId, Guid PersonId);

/// <summary>What was decided at the door: somebody, or why not.</summary>
/// <param name="Field">Where the mend is, by its name in the request.</param>
public sealed record Admitted(AccountLine? Account, Message? Why = null, string? Field = null)
{
    internal static Admitted Refuse(string code, string? field = null, params ImmutableArray<string> args) =>
        new(null, new(code, args), field);
}

/// <summary>
/// The door: the first account, invitations, sign-in, passphrases, short codes, who is shut out. Every answer to a wrong secret is the
/// same, takes the same work, and counts.
/// </summary>
public sealed class Admission(UserManager<Account> users, AccessDb db, AccessStore store, AccessBook book, TimeProvider time)
{
    private const string Signs = "0123456789ABCDEFGHJKMNPQRSTVWXYZ";
    private const int MostEvents = 20_000;

    /// <summary>How long an invitation holds.</summary>
    public static readonly TimeSpan InvitationHolds = TimeSpan.FromHours(48);

    /// <summary>How long a short code holds after its owner last signed in on that browser with all he has.</summary>
    public static readonly TimeSpan CodeHolds = TimeSpan.FromDays(14);

    /// <summary>Wrong short codes until it is void.</summary>
    public const int MostWrongCodes = 5;

    private string Address { get; set; } = "";

    /// <summary>From where is asked, for what is written down.</summary>
    public Admission From(string address)
    {
        Address = address;
        return this;
    }

    /// <summary>The first account of an installation: lead and administrator, since somebody must let the others in.</summary>
    public async Task<Admitted> First(string name, string userName, string passphrase, ImmutableArray<PersonOf> people)
    {
        store.MakeReady();
        if (await db.Users.AnyAsync())
            return Admitted.Refuse("problem.not-first");
        return await Create(name, userName, passphrase, [Role.Lead, Role.Administrator], people, "first-account");
    }

    /// <summary>Makes a code that lets one person in. It is in the answer and nowhere else.</summary>
    /// <param name="accountId">For whom a passphrase is set anew; null for somebody new.</param>
    public async Task<(string? Code, Invitation? Invitation, Message? Why, string? Field)> Invite(
        string name,
        ImmutableArray<Role> roles,
        ImmutableArray<PersonOf> people,
        Guid? accountId,
        Guid? by
    )
    {
        if (accountId is { } known)
        {
            if (!book.Accounts.TryGetValue(known, out var line) || line.EndedAt is not null)
                return (null, null, new("problem.unknown-account"), "accountId");
            (name, roles, people) = (line.Name, line.Roles, []);
        }
        else if (NameIsWrong(name) is { } wrong)
            return (null, null, wrong, "name");
        if (roles.IsDefaultOrEmpty || roles.Any(r => !Enum.IsDefined(r)))
            return (null, null, new("problem.no-role"), "roles");
        if (people.Select(p => p.JobId).Distinct().Count() != people.Length || Taken(people, null))
            return (null, null, new("problem.person-taken"), "people");
        var code = string.Concat(Enumerable.Range(0, 10).Select(_ => Signs[RandomNumberGenerator.GetInt32(Signs.Length)]));
        var now = time.GetUtcNow();
        var invitation = new Invitation
        {
            Id = Guid.CreateVersion7(),
            CodeHash = AccessBook.HashOf(code),
            Name = name.Trim(),
            RoleNames = Account.Write(roles),
            People = string.Join('\n', people.Select(p => $"{p.JobId} {p.PersonId}")),
            AccountId = accountId,
            MadeBy = by,
            MadeAt = now,
            EndsAt = now + InvitationHolds,
        };
        store.MakeReady();
        // One open invitation a person: who asks again has lost the first.
        await db.Invitations.Where(i => i.UsedAt == null && i.Name == invitation.Name && i.AccountId == accountId).ExecuteDeleteAsync();
        db.Add(invitation);
        await Note("invited", accountId, $"{invitation.Name}: {Said(roles)}");
        return ($"{code[..5]}-{code[5..]}", invitation, null, null);
    }

    /// <summary>What a code lets in, so that he sees his own name before he says yes; null where it lets nobody in.</summary>
    public async Task<Invitation?> Look(string code)
    {
        if (store.IsMissing)
            return null;
        store.MakeReady();
        // As it is read off a screen: small letters, blanks, O for 0, I and L for 1.
        var said = string.Concat(code.ToUpperInvariant().Where(char.IsLetterOrDigit)).Replace('O', '0').Replace('I', '1').Replace('L', '1');
        var hash = AccessBook.HashOf(said);
        var now = time.GetUtcNow();
        var found =
            said.Length == 10 ? await db.Invitations.AsNoTracking().FirstOrDefaultAsync(i => i.CodeHash == hash && i.UsedAt == null) : null;
        if (found is not null && found.EndsAt > now)
            return found;
        await Note("wrong-invitation", null, "");
        return null;
    }

    /// <summary>Somebody comes in by a code, which is used up by it.</summary>
    /// <param name="userName">By which he signs in; not asked where he has one.</param>
    public async Task<Admitted> Join(string code, string userName, string passphrase)
    {
        if (await Look(code) is not { } invitation)
            return Admitted.Refuse("problem.wrong-invitation", "code");
        if (Passphrases.Wrong(passphrase, invitation.Name, userName) is { } weak)
            return new(null, weak, "passphrase");
        if (invitation.AccountId is null && await UserNameIsWrong(userName) is { } wrong)
            return new(null, wrong, "userName");
        // Used by one of two who come at once.
        var now = time.GetUtcNow();
        if (
            await db
                .Invitations.Where(i => i.Id == invitation.Id && i.UsedAt == null)
                .ExecuteUpdateAsync(s => s.SetProperty(i => i.UsedAt, now)) != 1
        )
            return Admitted.Refuse("problem.wrong-invitation", "code");
        if (invitation.AccountId is { } known)
        {
            var account = await users.FindByIdAsync(known.ToString());
            if (account is null || account.EndedAt is not null)
                return Admitted.Refuse("problem.wrong-invitation", "code");
            await users.RemovePasswordAsync(account);
            await users.AddPasswordAsync(account, passphrase);
            await users.SetLockoutEndDateAsync(account, null);
            await users.ResetAccessFailedCountAsync(account);
            await EndCodes(account.Id);
            book.End(s => s.AccountId == account.Id);
            await Note("passphrase-set", account.Id, "by invitation");
            book.Reload();
            return new(book.Accounts[account.Id]);
        }
        ImmutableArray<PersonOf> people =
        [
            .. invitation
                .People.Split('\n', StringSplitOptions.RemoveEmptyEntries)
                .Select(p => p.Split(' '))
                .Select(p => new PersonOf(Guid.Parse(p[0]), Guid.Parse(p[1]))),
        ];
        var made = await Create(invitation.Name, userName, passphrase, Account.Read(invitation.RoleNames), people, "joined");
        if (made.Account is null)
            await db
                .Invitations.Where(i => i.Id == invitation.Id)
                .ExecuteUpdateAsync(s => s.SetProperty(i => i.UsedAt, (DateTimeOffset?)null));
        return made;
    }

    /// <summary>By name and passphrase.</summary>
    public async Task<Admitted> SignIn(string userName, string passphrase)
    {
        store.MakeReady();
        var account = userName.Length <= 60 && passphrase.Length <= Passphrases.Most ? await users.FindByNameAsync(userName.Trim()) : null;
        if (account is null || account.EndedAt is not null)
        {
            // The same work as for somebody who is there, so that nobody learns who is.
            users.PasswordHasher.VerifyHashedPassword(new Account(), Nobody, passphrase);
            await Note("refused", account?.Id, account is null ? "unknown" : "shut out");
            return Admitted.Refuse("problem.sign-in");
        }
        if (await users.IsLockedOutAsync(account))
        {
            users.PasswordHasher.VerifyHashedPassword(account, Nobody, passphrase);
            await Note("refused", account.Id, "locked");
            return Admitted.Refuse("problem.sign-in");
        }
        if (!await users.CheckPasswordAsync(account, passphrase))
        {
            await users.AccessFailedAsync(account);
            await Note("refused", account.Id, "passphrase");
            return Admitted.Refuse("problem.sign-in");
        }
        await users.ResetAccessFailedCountAsync(account);
        await Note("signed-in", account.Id, "passphrase");
        return new(Line(account.Id));
    }

    /// <summary>By a passkey that was proven.</summary>
    public async Task<Admitted> SignedInByPasskey(Guid account)
    {
        if (Line(account) is not { EndedAt: null } line)
            return Admitted.Refuse("problem.sign-in");
        await Note("signed-in", account, "passkey");
        return new(line);
    }

    /// <summary>Another passphrase; all other sessions end.</summary>
    public async Task<Admitted> ChangePassphrase(Guid accountId, string old, string passphrase, Guid? session)
    {
        var account = await users.FindByIdAsync(accountId.ToString());
        if (account is null || await users.IsLockedOutAsync(account) || !await users.CheckPasswordAsync(account, old))
        {
            if (account is not null)
                await users.AccessFailedAsync(account);
            await Note("refused", accountId, "change of passphrase");
            return Admitted.Refuse("problem.old-passphrase", "old");
        }
        if (Passphrases.Wrong(passphrase, account.Name, account.UserName ?? "") is { } weak)
            return new(null, weak, "passphrase");
        if (await users.ChangePasswordAsync(account, old, passphrase) is { Succeeded: false } result)
            return new(null, Of(result), "passphrase");
        await EndCodes(accountId);
        book.End(s => s.AccountId == accountId && s.Id != session);
        await Note("passphrase-set", accountId, "");
        return new(Line(accountId));
    }

    /// <summary>A short code for one browser, by somebody who is signed in on it and says his passphrase once more.</summary>
    public async Task<Admitted> SetCode(string device, Guid accountId, string passphrase, string code)
    {
        if (code.Length is < 6 or > 12 || !code.All(char.IsAsciiDigit) || code.Distinct().Count() < 3 || Runs(code))
            return Admitted.Refuse("problem.short-code", "code");
        if ((await SignIn(book.Accounts[accountId].UserName, passphrase)).Account is not { } account)
            return Admitted.Refuse("problem.old-passphrase", "passphrase");
        var hash = AccessBook.HashOf(device);
        await db.ShortCodes.Where(c => c.DeviceHash == hash && c.AccountId == accountId).ExecuteDeleteAsync();
        db.Add(
            new ShortCode
            {
                DeviceHash = hash,
                AccountId = accountId,
                CodeHash = users.PasswordHasher.HashPassword(new Account(), code),
                EndsAt = time.GetUtcNow() + CodeHolds,
            }
        );
        await Note("short-code", accountId, "");
        return new(account);
    }

    /// <summary>Who may take this browser over by a short code.</summary>
    public async Task<ImmutableArray<AccountLine>> Here(string device)
    {
        if (store.IsMissing || device.Length == 0)
            return [];
        store.MakeReady();
        var hash = AccessBook.HashOf(device);
        var now = time.GetUtcNow();
        var here = await db.ShortCodes.AsNoTracking().Where(c => c.DeviceHash == hash).ToListAsync();
        return
        [
            .. here.Where(c => c.EndsAt > now)
                .Select(c => Line(c.AccountId))
                .OfType<AccountLine>()
                .Where(a => a.EndedAt is null)
                .OrderBy(a => a.Name, StringComparer.Ordinal),
        ];
    }

    /// <summary>Somebody takes the browser over. Five wrong codes and it is void: the passphrase is asked for again.</summary>
    public async Task<Admitted> Switch(string device, Guid accountId, string code)
    {
        if (store.IsMissing)
            return Admitted.Refuse("problem.wrong-code", "code");
        store.MakeReady();
        var hash = AccessBook.HashOf(device);
        var now = time.GetUtcNow();
        // Counted before it is looked at, so that many at once do not get more tries.
        var counted = await db
            .ShortCodes.Where(c => c.DeviceHash == hash && c.AccountId == accountId && c.Failures < MostWrongCodes)
            .ExecuteUpdateAsync(s => s.SetProperty(c => c.Failures, c => c.Failures + 1));
        // Another try of the same moment may have used it up and taken it away since.
        var known =
            counted == 1
                ? await db.ShortCodes.AsNoTracking().FirstOrDefaultAsync(c => c.DeviceHash == hash && c.AccountId == accountId)
                : null;
        if (
            known is null
            || known.EndsAt <= now
            || code.Length > 12
            || users.PasswordHasher.VerifyHashedPassword(new Account(), known.CodeHash, code) == PasswordVerificationResult.Failed
            || Line(accountId) is not { EndedAt: null } line
        )
        {
            if (counted != 1 || known?.Failures >= MostWrongCodes)
                await db.ShortCodes.Where(c => c.DeviceHash == hash && c.AccountId == accountId).ExecuteDeleteAsync();
            await Note("refused", book.Accounts.ContainsKey(accountId) ? accountId : null, "short code");
            return Admitted.Refuse("problem.wrong-code", "code");
        }
        await db
            .ShortCodes.Where(c => c.DeviceHash == hash && c.AccountId == accountId)
            .ExecuteUpdateAsync(s => s.SetProperty(c => c.Failures, 0));
        await Note("signed-in", accountId, "short code");
        return new(line);
    }

    /// <summary>Whether somebody may hand in, on this browser, what another recorded on it.</summary>
    public async Task<bool> IsKnownHere(string device, Guid accountId)
    {
        var hash = AccessBook.HashOf(device);
        var now = time.GetUtcNow();
        return device.Length > 0
            && !store.IsMissing
            && await db.ShortCodes.AnyAsync(c => c.DeviceHash == hash && c.AccountId == accountId && c.EndsAt > now);
    }

    /// <summary>What somebody is, in which jobs, and whether he may come in. The last administrator stays one.</summary>
    public async Task<Admitted> Change(Guid accountId, ImmutableArray<Role> roles, ImmutableArray<PersonOf> people, bool ended, Guid? by)
    {
        if (await users.FindByIdAsync(accountId.ToString()) is not { } account)
            return Admitted.Refuse("problem.unknown-account");
        if (roles.IsDefaultOrEmpty || roles.Any(r => !Enum.IsDefined(r)))
            return Admitted.Refuse("problem.no-role", "roles");
        if (people.Select(p => p.JobId).Distinct().Count() != people.Length || Taken(people, accountId))
            return Admitted.Refuse("problem.person-taken", "people");
        var others = book.Accounts.Values.Any(a => a.Id != accountId && a.EndedAt is null && a.Roles.Contains(Role.Administrator));
        if (!others && (ended || !roles.Contains(Role.Administrator)))
            return Admitted.Refuse("problem.last-administrator", "roles");
        account.Roles = roles;
        account.EndedAt = ended ? account.EndedAt ?? time.GetUtcNow() : null;
        await using (var whole = await db.Database.BeginTransactionAsync())
        {
            await users.UpdateAsync(account);
            await db.Memberships.Where(m => m.AccountId == accountId).ExecuteDeleteAsync();
            foreach (var person in people)
                db.Add(
                    new Membership
                    {
                        AccountId = accountId,
                        JobId = person.JobId,
                        PersonId = person.PersonId,
                    }
                );
            await Note(
                ended ? "shut-out" : "changed",
                accountId,
                $"{Said(roles)}, by {(by is { } who ? book.Accounts[who].Name : "this machine")}"
            );
            await whole.CommitAsync();
        }
        if (ended)
        {
            book.End(s => s.AccountId == accountId);
            await EndCodes(accountId);
        }
        book.Reload();
        return new(book.Accounts[accountId]);
    }

    /// <summary>Somebody becomes one of a job's people.</summary>
    public async Task Join(Guid accountId, PersonOf person)
    {
        if (Taken([person], null) || book.Accounts[accountId].People.ContainsKey(person.JobId))
            return;
        db.Add(
            new Membership
            {
                AccountId = accountId,
                JobId = person.JobId,
                PersonId = person.PersonId,
            }
        );
        await db.SaveChangesAsync();
        book.Reload();
    }

    /// <summary>Writes down what happened at the door; the oldest go.</summary>
    public async Task Note(string what, Guid? account, string detail)
    {
        db.Add(
            new AccessEvent
            {
                At = time.GetUtcNow(),
                What = what,
                AccountId = account,
                Address = Address,
                Detail = detail,
            }
        );
        await db.SaveChangesAsync();
        if (Random.Shared.Next(200) == 0)
            await db.Events.Where(e => e.Id < db.Events.Max(x => x.Id) - MostEvents).ExecuteDeleteAsync();
    }

    private AccountLine? Line(Guid account) => book.Accounts.GetValueOrDefault(account);

    private bool Taken(ImmutableArray<PersonOf> people, Guid? but) =>
        people.Any(p => book.Accounts.Values.Any(a => a.Id != but && a.People.GetValueOrDefault(p.JobId) == p.PersonId));

    private Task<int> EndCodes(Guid account) => db.ShortCodes.Where(c => c.AccountId == account).ExecuteDeleteAsync();

    private async Task<Admitted> Create(
        string name,
        string userName,
        string passphrase,
        ImmutableArray<Role> roles,
        ImmutableArray<PersonOf> people,
        string what
    )
    {
        if (NameIsWrong(name) is { } wrong)
            return new(null, wrong, "name");
        if (await UserNameIsWrong(userName) is { } taken)
            return new(null, taken, "userName");
        if (Passphrases.Wrong(passphrase, name, userName) is { } weak)
            return new(null, weak, "passphrase");
        var account = new Account
        {
            Id = Guid.CreateVersion7(),
            Name = name.Trim(),
            UserName = userName.Trim(),
            Roles = roles,
            CreatedAt = time.GetUtcNow(),
            LockoutEnabled = true,
        };
        await using (var whole = await db.Database.BeginTransactionAsync())
        {
            if (await users.CreateAsync(account, passphrase) is { Succeeded: false } result)
                return new(null, Of(result), "userName");
            // Somebody else may have become this person since the invitation.
            foreach (var person in people.Where(p => !Taken([p], null)))
                db.Add(
                    new Membership
                    {
                        AccountId = account.Id,
                        JobId = person.JobId,
                        PersonId = person.PersonId,
                    }
                );
            await Note(what, account.Id, Said(roles));
            await whole.CommitAsync();
        }
        book.Reload();
        return new(book.Accounts[account.Id]);
    }

    private static Message? NameIsWrong(string name) =>
        string.IsNullOrWhiteSpace(name) || name.Length > 80 || name.Any(char.IsControl) ? new("problem.person-name") : null;

    private async Task<Message?> UserNameIsWrong(string userName) =>
        userName.Trim() is var name && (name.Length is < 2 or > 40 || !name.All(c => char.IsLetterOrDigit(c) || c is '.' or '-' or '_'))
            ? new("problem.user-name")
        : await users.FindByNameAsync(name) is not null ? new("problem.user-name-taken")
        : null;

    private static Message Of(IdentityResult result) =>
        result.Errors.First() is { Code: var code } && code.StartsWith("problem.", StringComparison.Ordinal)
            ? new(code, [.. result.Errors.First().Description.Split('\t')])
            : new("problem.user-name-taken");

    private static string Said(ImmutableArray<Role> roles) => string.Join(", ", roles).ToLowerInvariant();

    private static bool Runs(string digits) => digits.Zip(digits.Skip(1), (a, b) => b - a).Distinct().Count() == 1;

    /// <summary>A hash of nothing that anybody knows.</summary>
    private string Nobody => _nobody ??= users.PasswordHasher.HashPassword(new Account(), AccessBook.Secret());
    private static string? _nobody;
}
