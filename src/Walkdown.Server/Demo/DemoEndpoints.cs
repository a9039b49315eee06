using System.Net.Http.Json;
using System.Text.Json;
using Walkdown.Core.People;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;

namespace Walkdown.Server.Demo;

/// <summary>True or false: whether this installation has the simulated outside.</summary>
public sealed record DemoAnswer(bool Demo);

public sealed record DemoWork(string Act, string? End);

public sealed record DemoMood(string Mood);

/// <param name="Speed">Simulated seconds for each real one.</param>
/// <param name="Dark">Infrared on everywhere.</param>
public sealed record DemoClock(double? Speed, bool? Dark);

/// <summary>The panel of the simulated outside: work done in it changes its true state. Only with stand-ins.</summary>
public static class DemoEndpoints
{
    public static void MapDemo(this RouteGroupBuilder api, Uri? standIns)
    {
        var demo = api.MapGroup("/demo").WithTags("Demo");
        demo.MapGet("", () => TypedResults.Ok(new DemoAnswer(standIns is not null))).WithName("getDemo");
        demo.MapGet(
                "/runs/{label}",
                (string label, IHttpClientFactory http, CancellationToken cancel) =>
                    Pass(standIns, http, "GET", $"panel/runs/{Uri.EscapeDataString(label)}", null, cancel)
            )
            .WithName("getDemoRun");
        Look("/panel", "panel", "getDemoPanel");
        Look("/network", "panel/network", "getDemoNetwork");
        Look("/recorders", "panel/recorders", "getDemoRecorders");
        HandWith("runs", "work", "doDemoWork");
        Hand("network", "mend", "mendDemoNetwork");
        Hand("network", "restart", "restartDemoNetwork");
        HandWith("recorders", "events", "makeDemoEvent");
        Hand("recorders", "restart", "restartDemoRecorder");
        HandWith("recorders", "mend", "mendDemoRecorder");
        demo.MapGet(
                "/views/{label}",
                (string label, IHttpClientFactory http, CancellationToken cancel) =>
                    Pass(standIns, http, "GET", $"panel/views/{Uri.EscapeDataString(label)}", null, cancel)
            )
            .WithName("getDemoView");
        demo.MapGet(
                "/plates/{label}",
                (string label, IHttpClientFactory http, CancellationToken cancel) =>
                    Pass(standIns, http, "GET", $"panel/plates/{Uri.EscapeDataString(label)}", null, cancel)
            )
            .WithName("getDemoReader");
        HandWith("plates", "drive", "driveDemoPasses");
        Hand("plates", "mend", "mendDemoReader");
        HandWith("views", "turn", "turnDemoCamera");
        HandWith("views", "ring", "turnDemoRing");
        Hand("views", "push", "pushDemoCamera");
        Hand("views", "walk", "walkPastDemoCamera");
        HandWith("views", "cover", "coverDemoCamera");
        HandWith("views", "night", "doDemoNight");
        HandWith("views", "lock", "lockDemoCamera");
        demo.MapPost("/clock", (DemoClock clock, IHttpClientFactory http, CancellationToken cancel) => To(http, "clock", clock, cancel))
            .WithName("setDemoClock")
            .Needs(Right.Work);
        demo.MapPost("/mood", (DemoMood mood, IHttpClientFactory http, CancellationToken cancel) => To(http, "mood", mood, cancel))
            .WithName("setDemoMood")
            .Needs(Right.Work);
        // Asked for by a post: what is only got is kept by the browser for when there is no connection.
        demo.MapPost(
                "/logins",
                (IHttpClientFactory http, CancellationToken cancel) => Pass(standIns, http, "GET", "panel/logins", null, cancel)
            )
            .WithName("getDemoLogins")
            .Needs(Right.Work);

        void Look(string route, string path, string name) =>
            demo.MapGet(route, (IHttpClientFactory http, CancellationToken cancel) => Pass(standIns, http, "GET", path, null, cancel))
                .WithName(name);

        void Hand(string at, string what, string name) =>
            demo.MapPost(
                    $"/{at}/{{label}}/{what}",
                    (string label, IHttpClientFactory http, CancellationToken cancel) =>
                        To(http, $"{at}/{Uri.EscapeDataString(label)}/{what}", null, cancel)
                )
                .WithName(name)
                .Needs(Right.Work);

        // What is said along is read by who does it.
        void HandWith(string at, string what, string name) =>
            demo.MapPost(
                    $"/{at}/{{label}}/{what}",
                    (string label, JsonElement body, IHttpClientFactory http, CancellationToken cancel) =>
                        To(http, $"{at}/{Uri.EscapeDataString(label)}/{what}", body, cancel)
                )
                .WithName(name)
                .Needs(Right.Work);

        Task<IResult> To(IHttpClientFactory http, string path, object? body, CancellationToken cancel) =>
            Pass(standIns, http, "POST", "panel/" + path, body, cancel);
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
