using System.Text.Json.Serialization;
using Walkdown.StandIns;

// The outside, simulated: a tester that answers over HTTP, and a panel that works on its hidden true state. Loopback only.
var builder = WebApplication.CreateBuilder(args);
builder.Logging.SetMinimumLevel(LogLevel.Warning);
builder.Services.ConfigureHttpJsonOptions(o => o.SerializerOptions.DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull);
var app = builder.Build();
var demo = builder.Configuration["demo"] ?? "demo";
var truth = new SiteTruth(File.ReadAllText(Path.Combine(demo, "schedule.csv")), File.ReadAllText(Path.Combine(demo, "truth.json")));
var tester = new Tester(truth);

app.MapGet("/tester", () => new { name = "Camera tester 1", serial = "CT-1140", functions = new[] { "wire-map", "length", "loop-resistance", "poe-volts", "link-speed" } });
app.MapPost("/tester/measure", async (MeasureRequest request, CancellationToken gone) =>
{
    switch (tester.Mood)
    {
        case TesterMood.Silent:
            await Task.Delay(Timeout.Infinite, gone).ContinueWith(_ => { }, CancellationToken.None);
            return Results.StatusCode(503);
        case TesterMood.Nonsense:
            return Results.Text("{\"function\": \"wire-map\", \"map\": [[1],[\"two\"],{}], \"value\": \"lots\"", "application/json");
        default:
            return tester.Measure(request) is { } answer ? Results.Json(answer) : Results.NotFound(new { error = "no such run or function" });
    }
});
app.MapGet("/panel", () => new { mood = tester.Mood.ToString(), faulty = truth.Faulty() });
app.MapGet("/panel/runs/{label}", (string label) => truth.Run(label) is { } run ? Results.Json(new { label, run.IsHealthy, run.Note }) : Results.NotFound());
app.MapPost("/panel/runs/{label}/work", (string label, PanelWork work) => truth.Repair(label, work.Act, work.End) is { } run ? Results.Json(new { label, run.IsHealthy, run.Note }) : Results.NotFound());
app.MapPost("/panel/mood", (PanelMood mood) => Enum.TryParse<TesterMood>(mood.Mood, true, out var wanted) ? Results.Json(new { mood = (tester.Mood = wanted).ToString() }) : Results.BadRequest());
app.Run();

/// <summary>Work done on a run in the simulated world.</summary>
public sealed record PanelWork(string Act, string? End);

public sealed record PanelMood(string Mood);

/// <summary>Named for the tests that start it.</summary>
public partial class StandInsProgram;
