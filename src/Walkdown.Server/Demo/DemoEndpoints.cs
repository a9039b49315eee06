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

/// <param name="Head">From 1.</param>
/// <param name="Pan">Right, degrees.</param>
/// <param name="Tilt">Down, degrees.</param>
/// <param name="Roll">Clockwise as it looks, degrees.</param>
public sealed record DemoTurn(int Head, double Pan, double Tilt, double Roll);

/// <param name="Head">From 1.</param>
/// <param name="Steps">Towards far; negative: towards near.</param>
public sealed record DemoRing(int Head, double Steps);

/// <param name="On">Its cover.</param>
public sealed record DemoCover(bool On);

/// <param name="Tight">Its screws.</param>
public sealed record DemoLock(bool Tight);

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
        demo.MapPost(
                "/runs/{label}/work",
                (string label, DemoWork work, IHttpClientFactory http, CancellationToken cancel) =>
                    To(http, $"runs/{Uri.EscapeDataString(label)}/work", work, cancel)
            )
            .WithName("doDemoWork")
            .Needs(Right.Work);
        Hand("network", "mend", "mendDemoNetwork");
        Hand("network", "restart", "restartDemoNetwork");
        demo.MapPost(
                "/recorders/{label}/events",
                (string label, DemoEvent happened, IHttpClientFactory http, CancellationToken cancel) =>
                    To(http, $"recorders/{Uri.EscapeDataString(label)}/events", happened, cancel)
            )
            .WithName("makeDemoEvent")
            .Needs(Right.Work);
        Hand("recorders", "restart", "restartDemoRecorder");
        demo.MapPost(
                "/recorders/{label}/mend",
                (string label, DemoMend mend, IHttpClientFactory http, CancellationToken cancel) =>
                    To(http, $"recorders/{Uri.EscapeDataString(label)}/mend", mend, cancel)
            )
            .WithName("mendDemoRecorder")
            .Needs(Right.Work);
        demo.MapGet(
                "/views/{label}",
                (string label, IHttpClientFactory http, CancellationToken cancel) =>
                    Pass(standIns, http, "GET", $"panel/views/{Uri.EscapeDataString(label)}", null, cancel)
            )
            .WithName("getDemoView");
        demo.MapPost(
                "/views/{label}/turn",
                (string label, DemoTurn turn, IHttpClientFactory http, CancellationToken cancel) =>
                    To(http, $"views/{Uri.EscapeDataString(label)}/turn", turn, cancel)
            )
            .WithName("turnDemoCamera")
            .Needs(Right.Work);
        demo.MapPost(
                "/views/{label}/ring",
                (string label, DemoRing ring, IHttpClientFactory http, CancellationToken cancel) =>
                    To(http, $"views/{Uri.EscapeDataString(label)}/ring", ring, cancel)
            )
            .WithName("turnDemoRing")
            .Needs(Right.Work);
        demo.MapPost(
                "/views/{label}/cover",
                (string label, DemoCover cover, IHttpClientFactory http, CancellationToken cancel) =>
                    To(http, $"views/{Uri.EscapeDataString(label)}/cover", cover, cancel)
            )
            .WithName("coverDemoCamera")
            .Needs(Right.Work);
        demo.MapPost(
                "/views/{label}/lock",
                (string label, DemoLock wanted, IHttpClientFactory http, CancellationToken cancel) =>
                    To(http, $"views/{Uri.EscapeDataString(label)}/lock", wanted, cancel)
            )
            .WithName("lockDemoCamera")
            .Needs(Right.Work);
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
