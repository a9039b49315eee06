using System.Collections.Immutable;
using System.Net;
using Walkdown.Access;
using Walkdown.Core.People;

namespace Walkdown.Server.Door;

/// <summary>Who asks.</summary>
/// <param name="Account">Who is signed in; null for the one at this machine, who needs no sign-in (yet, or in the demo).</param>
/// <param name="Session">In which session; null for the one at this machine.</param>
/// <param name="Ended">When that session ends, so that what runs in it ends too.</param>
public sealed record Caller(AccountLine? Account, Session? Session, CancellationToken Ended)
{
    /// <summary>The one at this machine, as long as nobody needs to sign in there: may everything, as whoever he says he is.</summary>
    public static readonly Caller Owner = new(null, null, CancellationToken.None);

    public bool IsOwner => Account is null;

    public ImmutableArray<Role> Roles => Account?.Roles ?? [.. Enum.GetValues<Role>()];

    public bool May(Right right) => IsOwner || Rights.May(Roles, right);

    /// <summary>Whether he may see this job at all.</summary>
    public bool Sees(Guid job) => Account is null || Account.People.ContainsKey(job) || Rights.SeesAllJobs(Account.Roles);

    /// <summary>Whether he is this person, in whichever job.</summary>
    public bool Is(Guid person) => Account is null || Account.People.ContainsValue(person);

    /// <summary>Of this request; null for nobody.</summary>
    public static Caller? Of(HttpContext http) => http.Features.Get<Caller>();

    /// <summary>From where is asked, for what is written down.</summary>
    public static string AddressOf(HttpContext http) => http.Connection.RemoteIpAddress?.ToString() ?? "";

    /// <summary>The person at this machine is asking: not over the network, not even from itself by its name there.</summary>
    public static bool IsHere(HttpContext http) =>
        !http.Request.IsHttps && (http.Connection.RemoteIpAddress is not { } from || IPAddress.IsLoopback(from));
}
