using System.Collections.Immutable;
using Microsoft.AspNetCore.Identity;
using Walkdown.Core.People;

namespace Walkdown.Access;

/// <summary>Somebody who may come in. Who he is in a job says <see cref="Membership"/>.</summary>
public sealed class Account : IdentityUser<Guid>
{
    /// <summary>As others read it, such as "Rosa Klein"; the sign-in name is <see cref="IdentityUser{TKey}.UserName"/>.</summary>
    public string Name { get; set; } = "";

    /// <summary>What he is: names of <see cref="Role"/>, parted by commas.</summary>
    public string RoleNames { get; set; } = "";

    public DateTimeOffset CreatedAt { get; set; }

    /// <summary>When he was shut out; null while he may come in.</summary>
    public DateTimeOffset? EndedAt { get; set; }

    public ImmutableArray<Role> Roles
    {
        get => Read(RoleNames);
        set => RoleNames = Write(value);
    }

    internal static ImmutableArray<Role> Read(string names) =>
        [.. names.Split(',', StringSplitOptions.RemoveEmptyEntries).Where(n => Enum.TryParse<Role>(n, out _)).Select(Enum.Parse<Role>)];

    internal static string Write(ImmutableArray<Role> roles) => string.Join(',', roles.Distinct().Order());
}

/// <summary>Who an account is in a job: one of its people. Nobody writes as somebody else.</summary>
public sealed class Membership
{
    public Guid AccountId { get; set; }
    public Guid JobId { get; set; }
    public Guid PersonId { get; set; }
}

/// <summary>A code that lets one person in, once.</summary>
public sealed class Invitation
{
    public Guid Id { get; set; }

    /// <summary>SHA-256 of the code; the code itself is nowhere.</summary>
    public string CodeHash { get; set; } = "";
    public string Name { get; set; } = "";
    public string RoleNames { get; set; } = "";

    /// <summary>Who he becomes, a line a job: job, blank, person.</summary>
    public string People { get; set; } = "";

    public ImmutableArray<Role> Roles => Account.Read(RoleNames);

    /// <summary>For whom a new passphrase is set by it; null for somebody new.</summary>
    public Guid? AccountId { get; set; }

    /// <summary>Who made it; null for the one at this machine.</summary>
    public Guid? MadeBy { get; set; }
    public DateTimeOffset MadeAt { get; set; }
    public DateTimeOffset EndsAt { get; set; }
    public DateTimeOffset? UsedAt { get; set; }
}

/// <summary>A browser in which somebody is signed in.</summary>
public sealed class Session
{
    public Guid Id { get; set; }

    /// <summary>SHA-256 of what the browser shows.</summary>
    public string KeyHash { get; set; } = "";
    public Guid AccountId { get; set; }
    public DateTimeOffset BeganAt { get; set; }
    public DateTimeOffset SeenAt { get; set; }
    public DateTimeOffset EndsAt { get; set; }

    /// <summary>Browser and system as they name themselves, shortened.</summary>
    public string Device { get; set; } = "";
    public string Address { get; set; } = "";
}

/// <summary>A short code by which somebody who once signed in on this browser takes it over from another.</summary>
public sealed class ShortCode
{
    /// <summary>SHA-256 of the browser's own mark.</summary>
    public string DeviceHash { get; set; } = "";
    public Guid AccountId { get; set; }

    /// <summary>Slow hash, as of a passphrase.</summary>
    public string CodeHash { get; set; } = "";
    public int Failures { get; set; }
    public DateTimeOffset EndsAt { get; set; }
}

/// <summary>What happened at the door: kept, never with a secret.</summary>
public sealed class AccessEvent
{
    public long Id { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>A code such as "signed-in" or "refused".</summary>
    public string What { get; set; } = "";
    public Guid? AccountId { get; set; }
    public string Address { get; set; } = "";
    public string Detail { get; set; } = "";
}
