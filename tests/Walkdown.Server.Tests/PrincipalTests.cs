using System.Reflection;
using System.Security.Claims;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.HttpResults;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Server.Shared;

namespace Walkdown.Server.Tests;

/// <summary>Who asks is looked at in one place: nobody writes in another's name, and no request that names somebody goes past it.</summary>
public sealed class PrincipalTests
{
    private static readonly Guid Ina = Guid.NewGuid();

    private static DefaultHttpContext As(string? person)
    {
        var http = new DefaultHttpContext();
        if (person is not null)
            http.User = new ClaimsPrincipal(new ClaimsIdentity([new Claim(Principals.Person, person)], "test"));
        return http;
    }

    private static async Task<object?> Through(HttpContext http, params object?[] arguments) =>
        await Principals.Filter(new DefaultEndpointFilterInvocationContext(http, arguments), _ => ValueTask.FromResult<object?>("through"));

    private static NoteRequest Note(Guid by) => new(Guid.NewGuid(), "see the plan", by, DateTimeOffset.UnixEpoch, 0);

    [Fact]
    public async Task WhoeverIsSignedInWritesInTheirOwnNameOnly()
    {
        Assert.Equal("through", await Through(As(null), Note(Ina)));
        Assert.Equal("through", await Through(As(Ina.ToString()), 7, null, Note(Ina)));
        foreach (var other in new[] { Guid.NewGuid().ToString(), "nobody", "" })
            Assert.Equal(403, Assert.IsType<ProblemHttpResult>(await Through(As(other), Note(Ina))).StatusCode);
    }

    [Fact]
    public void EveryRequestThatNamesSomebodyIsSeen()
    {
        var unseen = new[] { typeof(ServerProgram).Assembly, typeof(Card).Assembly }
            .SelectMany(a => a.GetExportedTypes())
            .Where(t => t.Name.EndsWith("Request", StringComparison.Ordinal))
            .Where(t =>
                t.GetProperty("By", BindingFlags.Public | BindingFlags.Instance)?.PropertyType is { } by
                && (by == typeof(Guid) || by == typeof(Guid?))
            )
            .Where(t => !t.IsAssignableTo(typeof(IAsked)))
            .Select(t => t.Name);
        Assert.Empty(unseen);
    }
}
