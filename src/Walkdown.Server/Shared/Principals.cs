using Walkdown.Access;
using Walkdown.Core.Entries;
using Walkdown.Server.Door;

namespace Walkdown.Server.Shared;

/// <summary>
/// Whoever writes says who they are (<see cref="IAsked"/>), since an entry may be sent later; whether that is so is looked at here and
/// nowhere else. Who is signed in writes in his own name, and hands in what another recorded on the same shared browser.
/// </summary>
public static class Principals
{
    /// <summary>Before every endpoint of the API.</summary>
    public static async ValueTask<object?> Filter(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        foreach (var argument in context.Arguments)
            if (argument is IAsked asked && asked.By != Guid.Empty && !await Is(context.HttpContext, asked.By))
                return Problems.Of(403, new Core.Measures.Message("problem.in-anothers-name"), "by");
        return await next(context);
    }

    /// <summary>Whether somebody may be taken for this person.</summary>
    public static async ValueTask<bool> Is(HttpContext http, Guid person)
    {
        if (Caller.Of(http) is not { } caller)
            return false;
        if (caller.Is(person))
            return true;
        // Somebody else's: his who recorded it on this same browser.
        var book = http.RequestServices.GetRequiredService<AccessBook>();
        return book.Accounts.Values.FirstOrDefault(a => a.People.ContainsValue(person)) is { EndedAt: null } other
            && await http.RequestServices.GetRequiredService<Admission>().IsKnownHere(Cookies.Device(http), other.Id);
    }
}
