using System.Collections.Immutable;
using Walkdown.Access;
using Walkdown.Core.People;

namespace Walkdown.Server.Door;

/// <summary>Somebody who is signed in, as he is told.</summary>
/// <param name="People">By job: who he is in it.</param>
public sealed record Me(
    Guid Id,
    string Name,
    string UserName,
    ImmutableArray<Role> Roles,
    ImmutableArray<Right> Rights,
    ImmutableArray<PersonOf> People,
    Guid Session
)
{
    internal static Me Of(AccountLine account, Session session) =>
        new(
            account.Id,
            account.Name,
            account.UserName,
            account.Roles,
            Core.People.Rights.Of(account.Roles),
            [.. account.People.Select(p => new PersonOf(p.Key, p.Value))],
            session.Id
        );
}

/// <summary>Somebody who may take this browser over by a short code.</summary>
public sealed record HereLine(Guid Id, string Name);

/// <summary>How one stands at the door.</summary>
/// <param name="Me">Who is signed in; null for nobody.</param>
/// <param name="MustSignIn">Nothing else is answered until somebody signs in.</param>
/// <param name="MayBeFirst">Nobody was ever let in, and this is the machine itself: the first account may be made.</param>
/// <param name="IsHere">At the machine itself, not over the network.</param>
/// <param name="IsDemo">The made-up site: at the machine itself nobody needs to sign in.</param>
/// <param name="Here">Who may take this browser over by a short code.</param>
/// <param name="Passkeys">Whether the browser can use passkeys at this address: they need a name, not a number.</param>
public sealed record AccessAnswer(
    Me? Me,
    bool MustSignIn,
    bool MayBeFirst,
    bool IsHere,
    bool IsDemo,
    ImmutableArray<HereLine> Here,
    bool Passkeys
);

/// <param name="People">Who that was until now, at this machine, in its jobs.</param>
public sealed record FirstRequest(string Name, string UserName, string Passphrase, ImmutableArray<PersonOf> People);

public sealed record SignInRequest(string UserName, string Passphrase);

public sealed record CodeRequest(string Code);

/// <summary>What an invitation says to whom it is for.</summary>
/// <param name="NeedsName">He has no sign-in name yet.</param>
public sealed record InvitedAnswer(string Name, ImmutableArray<Role> Roles, bool NeedsName, DateTimeOffset EndsAt);

public sealed record JoinRequest(string Code, string UserName, string Passphrase);

public sealed record PassphraseRequest(string Old, string Passphrase);

public sealed record ShortCodeRequest(string Passphrase, string Code);

public sealed record SwitchRequest(Guid AccountId, string Code);

/// <summary>A browser in which somebody is signed in.</summary>
/// <param name="IsThis">The one that asks.</param>
public sealed record SessionLine(
    Guid Id,
    Guid AccountId,
    string Name,
    string Device,
    string Address,
    DateTimeOffset BeganAt,
    DateTimeOffset SeenAt,
    DateTimeOffset EndsAt,
    bool IsThis
);

public sealed record PasskeyLine(string Id, string Name, DateTimeOffset MadeAt);

public sealed record MySelfAnswer(ImmutableArray<SessionLine> Sessions, ImmutableArray<PasskeyLine> Passkeys);

/// <summary>What the browser's authenticator is asked, and the mark under which the answer is expected.</summary>
/// <param name="Options">JSON of the W3C's Web Authentication.</param>
public sealed record PasskeyAsk(Guid Id, string Options);

/// <param name="Credential">JSON of the W3C's Web Authentication.</param>
public sealed record PasskeyRequest(Guid Id, string Credential, string Name = "");

public sealed record InviteRequest(string Name, ImmutableArray<Role> Roles, ImmutableArray<PersonOf> People, Guid? AccountId = null);

/// <param name="Code">Shown once; null afterwards.</param>
/// <param name="Address">Where the code is entered, for a phone's camera; null while the installation is open to no network.</param>
public sealed record InvitationLine(
    Guid Id,
    string Name,
    ImmutableArray<Role> Roles,
    Guid? AccountId,
    DateTimeOffset MadeAt,
    DateTimeOffset EndsAt,
    string? Code = null,
    string? Address = null
);

public sealed record AccountChange(ImmutableArray<Role> Roles, ImmutableArray<PersonOf> People, bool Ended);

/// <param name="LockedUntil">After wrong passphrases.</param>
public sealed record AccountAnswer(
    Guid Id,
    string Name,
    string UserName,
    ImmutableArray<Role> Roles,
    ImmutableArray<PersonOf> People,
    DateTimeOffset? EndedAt,
    DateTimeOffset? LockedUntil,
    int Sessions
);

/// <summary>What happened at the door.</summary>
public sealed record EventLine(DateTimeOffset At, string What, string? Name, string Address, string Detail);

/// <summary>What each role may do, as the one table says.</summary>
public sealed record RoleLine(Role Role, ImmutableArray<Right> Rights);

public sealed record AccountsAnswer(
    ImmutableArray<AccountAnswer> Accounts,
    ImmutableArray<InvitationLine> Invitations,
    ImmutableArray<EventLine> Events,
    ImmutableArray<RoleLine> Roles
);
