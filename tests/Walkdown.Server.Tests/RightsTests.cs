using System.Collections.Concurrent;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;
using Walkdown.Core.People;
using Walkdown.Server.Door;

namespace Walkdown.Server.Tests;

/// <summary>Every address of the interface, with every role and with none: the table in Core is what happens.</summary>
public sealed class RightsTests(DoorSite door) : IClassFixture<DoorSite>
{
    /// <summary>What anybody may ask, who is not in yet: nothing of a job, and nothing of anybody.</summary>
    private static readonly string[] Open =
    [
        "GET /api/access",
        "GET /api/trust",
        "GET /api/trust/authority.crt",
        "GET /api/trust/authority.mobileconfig",
        "POST /api/access/first",
        "POST /api/access/invited",
        "POST /api/access/join",
        "POST /api/access/passkeys/sign-in",
        "POST /api/access/passkeys/sign-in/ask",
        "POST /api/access/sign-in",
        "POST /api/access/sign-out",
        "POST /api/access/switch",
        // By a token that lies in the data folder.
        "POST /api/restore",
    ];

    private IEnumerable<(string Method, RouteEndpoint Endpoint)> Routes() =>
        door
            .Site.Services.GetRequiredService<EndpointDataSource>()
            .Endpoints.OfType<RouteEndpoint>()
            .Where(e => e.RoutePattern.RawText?.StartsWith("/api", StringComparison.Ordinal) == true)
            .Where(e => e.Metadata.GetMetadata<FallbackMetadata>() is null)
            .SelectMany(e => (e.Metadata.GetMetadata<IHttpMethodMetadata>()?.HttpMethods ?? ["GET"]).Select(m => (m, e)));

    private static string Named((string Method, RouteEndpoint Endpoint) route) =>
        $"{route.Method} {route.Endpoint.RoutePattern.RawText!.TrimEnd('/')}";

    [Fact]
    public void EveryAddressSaysWhatOneNeeds()
    {
        Assert.True(Routes().Count() > 90);
        Assert.Equal(
            Open.Order(StringComparer.Ordinal),
            Routes().Where(r => r.Endpoint.Metadata.GetMetadata<OpenToAll>() is not null).Select(Named).Order(StringComparer.Ordinal)
        );
        Assert.Empty(
            Routes().Where(r => r.Endpoint.Metadata.GetMetadata<OpenToAll>() is null && r.Endpoint.RightOf(r.Method) is null).Select(Named)
        );
    }

    [Fact]
    public void WritesThatNeedOnlyAReadersRightChangeNothingOfAJob() =>
        Assert.Equal(
            [
                "DELETE /api/access/passkeys/{id}",
                "DELETE /api/access/sessions/{id:guid}",
                "POST /api/access/passkeys",
                "POST /api/access/passkeys/ask",
                "POST /api/cards/{deviceId:guid}/path/try",
                "POST /api/jobs/{jobId:guid}/power/{sourceId:guid}/try",
                "POST /api/progress/{id:guid}/cancel",
                "PUT /api/access/code",
                "PUT /api/access/passphrase",
            ],
            Routes()
                .Where(r => r.Method != "GET" && r.Endpoint.Metadata.GetMetadata<Needed>()?.Right == Right.Look)
                .Select(Named)
                .Order(StringComparer.Ordinal)
        );

    [Fact]
    public async Task EachRoleGetsWhatTheTableGivesItAndNobodyGetsAnything()
    {
        var site = door.Site;
        var people = new Queue<string>(door.People.Skip(1));
        foreach (var name in Enumerable.Range(0, 5).Select(n => $"Person {n}"))
        {
            var (status, added) = await site.Send(
                $"/api/jobs/{site.JobId}/people",
                new
                {
                    id = Guid.CreateVersion7(),
                    name,
                    role = "",
                    mayWitness = false,
                }
            );
            Assert.True(status == 200, added.ToJsonString());
            people.Enqueue(added["id"]!.ToString());
        }
        var browsers = new List<(string Name, Role? Role, Browser Browser)> { ("nobody", null, door.NewBrowser()) };
        foreach (var role in Enum.GetValues<Role>())
        {
            var name = role.ToString().ToLowerInvariant();
            browsers.Add((name, role, await door.Let(name, name, people.Dequeue())));
        }
        var wrong = new ConcurrentBag<string>();
        foreach (var route in Routes().Where(r => r.Endpoint.Metadata.GetMetadata<OpenToAll>() is null))
        {
            var right = route.Endpoint.RightOf(route.Method)!.Value;
            var path = string.Concat(
                route.Endpoint.RoutePattern.PathSegments.Select(s =>
                    "/"
                    + string.Concat(
                        s.Parts.Select(p =>
                            p is Microsoft.AspNetCore.Routing.Patterns.RoutePatternParameterPart parameter ? Filled(parameter.Name)
                            : p is Microsoft.AspNetCore.Routing.Patterns.RoutePatternLiteralPart literal ? literal.Content
                            : ((Microsoft.AspNetCore.Routing.Patterns.RoutePatternSeparatorPart)p).Content
                        )
                    )
                )
            );
            foreach (var (name, role, browser) in browsers)
            {
                var file = route.Endpoint.Metadata.GetMetadata<IAcceptsMetadata>()?.ContentTypes.FirstOrDefault(t => !t.Contains("json"));
                var (status, body) = await browser.Send(
                    new HttpMethod(route.Method),
                    path,
                    route.Method is "GET" or "DELETE" ? null : new { },
                    file
                );
                var code = (body as JsonObject)?["code"]?.ToString();
                var may = role is { } r && Rights.May([r], right);
                var asExpected =
                    role is null ? status == 401 && code == "problem.not-signed-in"
                    : may
                        ? status is not (401 or 500)
                            && code is not ("problem.not-allowed" or "problem.not-signed-in" or "problem.no-right-named")
                    : status == 403 && code == "problem.not-allowed";
                // Said in words, whoever is refused: who may.
                if (!asExpected || !may && role is not null && !body!["detail"]!.ToString().Contains("Who may: "))
                    wrong.Add($"{Named(route)} for {name}: {status} {code}");
            }
        }
        Assert.True(wrong.IsEmpty, string.Join("\n", wrong.Order()));

        string Filled(string parameter) =>
            parameter switch
            {
                "jobId" => site.JobId,
                "deviceId" => site.Stops["GT-01"],
                "label" => "R-1",
                "hash" => new string('0', 64),
                "file" => "pack.pdf",
                "of" => "accepted",
                _ => Guid.NewGuid().ToString(),
            };
    }

    [Fact]
    public async Task WhoIsNotOfAJobDoesNotLearnThatItIsThere()
    {
        var stranger = await door.Let("stranger", "lead");
        Assert.Empty((await stranger.Get("/api/jobs")).Body!.AsArray());
        foreach (
            var path in new[]
            {
                $"/api/jobs/{door.Site.JobId}/walk",
                $"/api/jobs/{door.Site.JobId}/kit",
                $"/api/jobs/{door.Site.JobId}/live",
                $"/api/cards/{door.Site.Stops["GT-01"]}",
                $"/api/cards/{door.Site.Stops["GT-01"]}/pictures",
                $"/api/cards/{Guid.NewGuid()}",
            }
        )
            Assert.Equal(404, (await stranger.Get(path)).Status);
        // A job of his own is his, and nobody else's.
        var id = Guid.CreateVersion7();
        var (status, made) = await stranger.Send(
            HttpMethod.Post,
            "/api/jobs",
            new
            {
                id,
                name = "Harbour office",
                timeZone = "Europe/London",
                rule = "guarded",
                scheme = "t568B",
            }
        );
        Assert.True(status == 200, made?.ToJsonString());
        Assert.Equal([id.ToString()], (await stranger.Get("/api/jobs")).Body!.AsArray().Select(j => j!["id"]!.ToString()));
        var me = (await stranger.Get("/api/access")).Body!["me"]!["people"]!.AsArray().Single()!;
        var kit = (await stranger.Get($"/api/jobs/{id}/kit")).Body!["people"]!.AsArray().Single()!;
        Assert.Equal(kit["id"]!.ToString(), me["personId"]!.ToString());
        Assert.Equal("stranger", kit["name"]!.ToString());
    }
}
