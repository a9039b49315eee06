using System.Net.Http.Json;
using Walkdown.Core.People;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;

namespace Walkdown.Server.Demo;

/// <summary>True or false: whether this installation has the simulated outside.</summary>
public sealed record DemoAnswer(bool Demo);

public sealed record DemoWork(string Act, string? End);

public sealed record DemoMood(string Mood);

/// <param name="Channels">Planned channels of the places that it happens at.</param>
public sealed record DemoEvent(int[] Channels, double SecondsAgo);

/// <param name="Channel">Null: the recorder itself.</param>
public sealed record DemoMend(int? Channel);

/// <param name="Speed">Simulated seconds for each real one.</param>
/// <param name="Dark">Infrared on everywhere.</param>
public sealed record DemoClock(double? Speed, bool? Dark);

/// <summary>The panel of the simulated outside: work done in it changes its true state. Only with stand-ins.</summary>
public static class DemoEndpoints
{
    public static void MapDemo(this RouteGroupBuilder api, Uri? standIns)
    {
        api.MapGet("/demo", () => TypedResults.Ok(new DemoAnswer(standIns is not null))).WithTags("Demo").WithName("getDemo");
        api.MapGet(
                "/demo/runs/{label}",
                (string label, IHttpClientFactory http, CancellationToken cancel) =>
                    Pass(standIns, http, "GET", $"panel/runs/{Uri.EscapeDataString(label)}", null, cancel)
            )
            .WithTags("Demo")
            .WithName("getDemoRun");
        api.MapPost(
                "/demo/runs/{label}/work",
                (string label, DemoWork work, IHttpClientFactory http, CancellationToken cancel) =>
                    Pass(standIns, http, "POST", $"panel/runs/{Uri.EscapeDataString(label)}/work", work, cancel)
            )
            .WithTags("Demo")
            .WithName("doDemoWork")
            .Needs(Right.Work);
        api.MapGet("/demo/panel", (IHttpClientFactory http, CancellationToken cancel) => Pass(standIns, http, "GET", "panel", null, cancel))
            .WithTags("Demo")
            .WithName("getDemoPanel");
        api.MapGet(
                "/demo/network",
                (IHttpClientFactory http, CancellationToken cancel) => Pass(standIns, http, "GET", "panel/network", null, cancel)
            )
            .WithTags("Demo")
            .WithName("getDemoNetwork");
        foreach (var what in new[] { "mend", "restart" })
            api.MapPost(
                    $"/demo/network/{{label}}/{what}",
                    (string label, IHttpClientFactory http, CancellationToken cancel) =>
                        Pass(standIns, http, "POST", $"panel/network/{Uri.EscapeDataString(label)}/{what}", null, cancel)
                )
                .WithTags("Demo")
                .WithName($"{what}DemoNetwork")
                .Needs(Right.Work);
        api.MapGet(
                "/demo/recorders",
                (IHttpClientFactory http, CancellationToken cancel) => Pass(standIns, http, "GET", "panel/recorders", null, cancel)
            )
            .WithTags("Demo")
            .WithName("getDemoRecorders");
        api.MapPost(
                "/demo/recorders/{label}/events",
                (string label, DemoEvent happened, IHttpClientFactory http, CancellationToken cancel) =>
                    Pass(standIns, http, "POST", $"panel/recorders/{Uri.EscapeDataString(label)}/events", happened, cancel)
            )
            .WithTags("Demo")
            .WithName("makeDemoEvent")
            .Needs(Right.Work);
        api.MapPost(
                "/demo/recorders/{label}/restart",
                (string label, IHttpClientFactory http, CancellationToken cancel) =>
                    Pass(standIns, http, "POST", $"panel/recorders/{Uri.EscapeDataString(label)}/restart", null, cancel)
            )
            .WithTags("Demo")
            .WithName("restartDemoRecorder")
            .Needs(Right.Work);
        api.MapPost(
                "/demo/recorders/{label}/mend",
                (string label, DemoMend mend, IHttpClientFactory http, CancellationToken cancel) =>
                    Pass(standIns, http, "POST", $"panel/recorders/{Uri.EscapeDataString(label)}/mend", mend, cancel)
            )
            .WithTags("Demo")
            .WithName("mendDemoRecorder")
            .Needs(Right.Work);
        // Asked for by a post: what is only got is kept by the browser for when there is no connection.
        api.MapPost(
                "/demo/logins",
                (IHttpClientFactory http, CancellationToken cancel) => Pass(standIns, http, "GET", "panel/logins", null, cancel)
            )
            .WithTags("Demo")
            .WithName("getDemoLogins")
            .Needs(Right.Work);
        api.MapPost(
                "/demo/clock",
                (DemoClock clock, IHttpClientFactory http, CancellationToken cancel) =>
                    Pass(standIns, http, "POST", "panel/clock", clock, cancel)
            )
            .WithTags("Demo")
            .WithName("setDemoClock")
            .Needs(Right.Work);
        api.MapPost(
                "/demo/mood",
                (DemoMood mood, IHttpClientFactory http, CancellationToken cancel) =>
                    Pass(standIns, http, "POST", "panel/mood", mood, cancel)
            )
            .WithTags("Demo")
            .WithName("setDemoMood")
            .Needs(Right.Work);
    }

    private static async Task<IResult> Pass(
        Uri? standIns,
        IHttpClientFactory http,
        string method,
        string path,
        object? body,
        CancellationToken cancel
    )
    {
        if (standIns is null)
            return Problems.Of(404, "problem.no-demo");
        try
        {
            using var request = new HttpRequestMessage(new HttpMethod(method), new Uri(standIns, path));
            if (body is not null)
                request.Content = JsonContent.Create(body, body.GetType());
            using var response = await http.CreateClient("stand-ins").SendAsync(request, cancel);
            return response.IsSuccessStatusCode
                ? Results.Text(await response.Content.ReadAsStringAsync(cancel), "application/json")
                : Problems.Of(404, "problem.no-demo-run");
        }
        catch (HttpRequestException)
        {
            return Problems.Of(502, "problem.no-demo");
        }
    }
}
