using System.Collections.Immutable;
using System.Reflection;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Extensions.DependencyInjection;
using Walkdown.Access;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.People;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;

namespace Walkdown.Server.Tests;

/// <summary>Who writes is looked at in one place: nobody writes in another's name, and no request that names somebody goes past
/// it.</summary>
public sealed class PrincipalTests : IDisposable
{
    private static readonly Guid Ina = Guid.NewGuid();
    private readonly DirectoryInfo _folder = Directory.CreateTempSubdirectory("walkdown-test-");

    public void Dispose() => _folder.Delete(true);

    private DefaultHttpContext As(params Guid[] people)
    {
        var services = new ServiceCollection();
        services.AddSingleton(TimeProvider.System).AddLogging().AddAccess(_folder.FullName);
        var http = new DefaultHttpContext { RequestServices = services.BuildServiceProvider() };
        http.Features.Set(
            new Caller(
                new AccountLine(
                    Guid.NewGuid(),
                    "Ina Solberg",
                    "ina",
                    [Role.Technician],
                    null,
                    people.ToImmutableDictionary(_ => Guid.NewGuid(), p => p)
                ),
                new Session(),
                CancellationToken.None
            )
        );
        return http;
    }

    private static async Task<object?> Through(HttpContext http, params object?[] arguments) =>
        await Principals.Filter(new DefaultEndpointFilterInvocationContext(http, arguments), _ => ValueTask.FromResult<object?>("through"));

    private static NoteRequest Note(Guid by) => new(Guid.NewGuid(), "see the plan", by, DateTimeOffset.UnixEpoch, 0);

    [Fact]
    public async Task WhoeverIsSignedInWritesInTheirOwnNameOnly()
    {
        var alone = new DefaultHttpContext();
        alone.Features.Set(Caller.Owner);
        Assert.Equal("through", await Through(alone, Note(Ina)));
        Assert.Equal("through", await Through(As(Guid.NewGuid(), Ina), 7, null, Note(Ina)));
        foreach (var http in new[] { As(), As(Guid.NewGuid()), new DefaultHttpContext() })
            Assert.Equal(403, Assert.IsType<ProblemHttpResult>(await Through(http, Note(Ina))).StatusCode);
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
