using Walkdown.Core.Entries;

namespace Walkdown.Server.Shared;

/// <summary>
/// Who asks, in one place. Whoever writes says who they are (<see cref="IAsked"/>), since an entry may be sent later, by another's browser;
/// whether that is so is looked at here and nowhere else. Until there are accounts nobody is signed in, and everybody is believed; where
/// somebody is, nobody writes in another's name.
/// </summary>
public static class Principals
{
    /// <summary>The claim by which a sign-in names the person.</summary>
    public const string Person = "walkdown:person";

    /// <summary>Before every endpoint of the API.</summary>
    public static async ValueTask<object?> Filter(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        foreach (var argument in context.Arguments)
            if (argument is IAsked asked && !Is(context.HttpContext, asked.By))
                return Problems.Of(403, new Core.Measures.Message("problem.in-anothers-name"), "by");
        return await next(context);
    }

    /// <summary>Whether somebody may be taken for this person.</summary>
    public static bool Is(HttpContext http, Guid person) =>
        http.User.FindFirst(Person) is not { Value: var signedIn } || Guid.TryParse(signedIn, out var id) && id == person;
}
