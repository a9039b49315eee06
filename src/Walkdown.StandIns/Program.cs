using System.Text.Json.Serialization;
using Walkdown.StandIns;
using Walkdown.StandIns.Cameras;
using Walkdown.StandIns.Plates;
using Walkdown.StandIns.Recorders;
using Walkdown.StandIns.Scenes;

// The outside, simulated: a tester that answers over HTTP, and a panel that works on its hidden true state. Loopback only.
var builder = WebApplication.CreateBuilder(args);
builder.Logging.SetMinimumLevel(LogLevel.Warning);
builder.Services.ConfigureHttpJsonOptions(o => o.SerializerOptions.DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull);
var app = builder.Build();
var demo = builder.Configuration["demo"] ?? "demo";
var truth = new SiteTruth(
    File.ReadAllText(Path.Combine(demo, "schedule.csv")),
    File.ReadAllText(Path.Combine(demo, "truth.json")),
    File.ReadAllText(Path.Combine(demo, "job.json"))
);
var clock = new SimClock(TimeProvider.System);
var switches = new Switch(truth, clock);
var tester = new Tester(truth, switches, clock);

// The cameras on the network: only where they are asked for, as their ports are the same for everybody on this machine.
var schedule = Schedule.Rows(File.ReadAllText(Path.Combine(demo, "schedule.csv")));
var network = NetworkFile.Read(File.ReadAllText(Path.Combine(demo, "network.json")));
var shift = builder.Configuration.GetValue("field", 0);
var views = new CameraScenes(File.ReadAllText(Path.Combine(demo, "views.json")), schedule, clock, label => truth.Device(label)?.Light);
using var field = new FieldSite(network.Of(schedule), TimeProvider.System.GetUtcNow, shift, network.LeaseServers, views.Picture, views);
if (shift > 0 && field.Open() is { } closed)
    Console.Error.WriteLine($"The simulated network cannot be opened: {closed}");

var yard = new ReaderYard(File.ReadAllText(Path.Combine(demo, "plates.json")), schedule, clock);
var recorders = new RecorderRoom(
    RecorderFile.Read(File.ReadAllText(Path.Combine(demo, "recorders.json"))),
    schedule,
    clock,
    (label, head) => views.Picture(label, head, 640) ?? views.Stranger(label),
    yard.List
);

// A reading takes as long as it takes: for trying out slow instruments.
var pace = TimeSpan.FromMilliseconds(builder.Configuration.GetValue("delay", 0));
var attempts = new System.Collections.Concurrent.ConcurrentDictionary<string, int>();

app.MapGet(
    "/tester",
    () =>
        new
        {
            name = "Camera tester 1",
            serial = "CT-1140",
            functions = new[]
            {
                "wire-map",
                "length",
                "loop-resistance",
                "unbalance",
                "delay",
                "poe-class",
                "poe-volts",
                "poe-watts",
                "supply-volts",
                "supply-stray",
                "link-speed",
                "probes",
                "coax-level",
                "coax-camera-end",
                "coax-ground",
                "radio-level",
                "radio-rate",
                "sound-voice",
                "sound-delay",
                "contact-input",
                "contact-output",
                "preset-return",
                "white-light",
            },
        }
);
app.MapPost(
    "/tester/measure",
    async (MeasureRequest request, CancellationToken gone) =>
    {
        if (pace > TimeSpan.Zero)
            await Task.Delay(pace, gone);
        switch (tester.Mood)
        {
            case TesterMood.Silent:
                await Task.Delay(Timeout.Infinite, gone).ContinueWith(_ => { }, CancellationToken.None);
                return Results.StatusCode(503);
            case TesterMood.Nonsense:
                return Results.Text("{\"function\": \"wire-map\", \"map\": [[1],[\"two\"],{}], \"value\": \"lots\"", "application/json");
            default:
                return tester.Measure(request) is { } answer
                    ? Results.Json(answer)
                    : Results.NotFound(new { error = "no such run or function" });
        }
    }
);
app.MapGet(
    "/switch/{cabinet}",
    (string cabinet) => truth.On(cabinet).Count > 0 ? Results.Json(switches.Table(cabinet)) : Results.NotFound()
);
app.MapGet(
    "/switch/{cabinet}/addresses",
    (string cabinet) =>
        field.LearnedAt(cabinet) is { } learned ? Results.Json(learned.Select(l => new { l.Port, l.Address })) : Results.NotFound()
);
app.MapPost(
    "/switch/measure",
    async (SwitchRequest request, CancellationToken gone) =>
    {
        if (pace > TimeSpan.Zero)
            await Task.Delay(pace, gone);
        if (tester.Mood == TesterMood.Silent)
            await Task.Delay(Timeout.Infinite, gone).ContinueWith(_ => { }, CancellationToken.None);
        if (tester.Mood == TesterMood.Nonsense)
            return Results.Text("{\"cabinet\": 7, \"port\": \"two\"}", "application/json");
        return
            switches.Measure(
                request,
                attempts.AddOrUpdate($"{request.Cabinet}|{request.Port}|{request.Function}|{request.Condition}", 0, (_, n) => n + 1)
            )
                is { } answer
            ? Results.Json(answer)
            : Results.NotFound(new { error = "no such port or function" });
    }
);
recorders.Map(app);
yard.Map(app);
app.MapGet("/panel/cameras", () => field.All());
app.MapGet(
    "/panel/logins",
    () =>
        new
        {
            factory = network.Factory,
            own = field
                .All()
                .Where(c => c.IsCamera)
                .Select(c => new
                {
                    at = c.Label,
                    user = network.Site.User,
                    password = network.PasswordOf(c.Serial),
                }),
        }
);

// What is planted on the network, and the hand that puts it right: as the schedule plans it, or off the network where nobody planned it.
app.MapGet("/panel/network", Planted);
app.MapPost(
    "/panel/time",
    (PanelTime wanted) =>
    {
        (field.Time.AheadSeconds, field.Time.Lost) = (wanted.AheadSeconds, wanted.Lost);
        return Results.NoContent();
    }
);
app.MapPost(
    "/panel/network/{label}/mend",
    (string label) =>
    {
        if (field.Unplug(label) is not null)
            return Results.Json(Planted());
        var right = network with { Cameras = [], Strangers = [] };
        return field.Of(label) is null ? Results.NotFound()
            : right.Of(schedule).FirstOrDefault(c => c.Label == label) is { } planned && field.Mend(label, _ => planned) is not null
                ? Results.Json(Planted())
            : field.Mend(label, c => c with { Dead = true }) is not null ? Results.Json(Planted())
            : Results.NotFound();
    }
);
app.MapPost(
    "/panel/network/{label}/restart",
    (string label) =>
    {
        if (field.Of(label) is null)
            return Results.NotFound();
        field.Restart(label);
        return Results.Json(Planted());
    }
);

// All of them as they left the factory, on one address: they hide each other, and one answers.
app.MapPost(
    "/panel/cameras/as-made",
    () =>
    {
        foreach (var camera in field.All().Where(c => c.IsCamera))
            field.Mend(
                camera.Label,
                c =>
                    c with
                    {
                        Address = network.Factory.Address,
                        Gateway = "",
                        Name = "CAMERA",
                        Logins = new Dictionary<string, string> { [network.Factory.User] = network.Factory.Password },
                        Dead = false,
                    }
            );
        return Results.NoContent();
    }
);

// How cameras hang, and the hand that turns them or tightens their screws.
app.MapGet("/panel/views/{label}", (string label) => views.Of(label) is { Count: > 0 } heads ? Results.Json(heads) : Results.NotFound());
app.MapGet(
    "/panel/views/{label}/{head:int}/agreed.jpg",
    (string label, int head) => views.Agreed(label, head, 640) is { } picture ? Results.File(picture, "image/jpeg") : Results.NotFound()
);
app.MapPost(
    "/panel/views/{label}/turn",
    (string label, PanelTurn turn) =>
    {
        // One whose screws are tight does not turn.
        views.Turn(label, turn.Head, turn.Pan, turn.Tilt, turn.Roll);
        return views.Of(label) is { Count: > 0 } heads ? Results.Json(heads) : Results.NotFound();
    }
);
app.MapPost("/panel/views/{label}/walk", (string label) => views.Walk(label) ? Results.Json(views.Of(label)) : Results.NotFound());
app.MapPost("/panel/views/{label}/push", (string label) => views.Push(label) ? Results.Json(views.Of(label)) : Results.NotFound());
app.MapPost(
    "/panel/views/{label}/ring",
    (string label, PanelRing ring) => views.Ring(label, ring.Head, ring.Steps) ? Results.Json(views.Of(label)) : Results.NotFound()
);
app.MapPost(
    "/panel/views/{label}/cover",
    (string label, PanelCover cover) => views.Cover(label, cover.On) ? Results.Json(views.Of(label)) : Results.NotFound()
);
app.MapPost(
    "/panel/views/{label}/night",
    (string label, PanelNight night) => views.Night(label, night.Do) ? Results.Json(views.Of(label)) : Results.NotFound()
);
app.MapPost(
    "/panel/views/{label}/lock",
    (string label, PanelLock wanted) => views.Lock(label, wanted.Tight) ? Results.Json(views.Of(label)) : Results.NotFound()
);
app.MapGet(
    "/panel",
    () =>
        new
        {
            mood = tester.Mood.ToString(),
            faulty = truth.Faulty(),
            speed = clock.Speed,
            dark = clock.Dark,
            time = clock.Time,
        }
);
app.MapGet("/panel/runs/{label}", (string label) => truth.At(label) is { } run ? Results.Json(Told(label, run)) : Results.NotFound());
app.MapPost(
    "/panel/runs/{label}/work",
    (string label, PanelWork work) =>
        truth.Repair(label, work.Act, work.End, clock.Seconds) is { } run ? Results.Json(Told(label, run)) : Results.NotFound()
);
app.MapPost(
    "/panel/clock",
    (PanelClock wanted) =>
    {
        if (wanted.Speed is { } speed)
            clock.Speed = speed;
        if (wanted.Dark is { } dark)
            clock.Dark = dark;
        return new
        {
            clock.Speed,
            clock.Dark,
            clock.Time,
        };
    }
);
app.MapPost(
    "/panel/mood",
    (PanelMood mood) =>
        Enum.TryParse<TesterMood>(mood.Mood, true, out var wanted)
            ? Results.Json(new { mood = (tester.Mood = wanted).ToString() })
            : Results.BadRequest()
);
app.Run();

IEnumerable<PanelOdd> Planted() =>
    field
        .LeaseServers()
        .Where(l => l.Note is not null)
        .Select(l => new PanelOdd(l.Label, l.Address, l.Note!, false))
        .Concat(field.All().Where(c => c.Note is not null).Select(c => new PanelOdd(c.Label, c.Address, c.Note!, !c.Dead)));

object Told(string label, RunTruth run) =>
    new
    {
        label,
        isHealthy = run.IsHealthy && truth.Device(label) is not ({ Note: not null } or { Seen.Length: > 0 }),
        note = truth.Device(label)?.Note ?? run.Note,
        inHand = truth.InHand(label, clock.Seconds),
    };

/// <summary>Work done on a run in the simulated world.</summary>
public sealed record PanelWork(string Act, string? End);

/// <summary>Something on the network that is not as it should be.</summary>
/// <param name="Starts">It can be started again.</param>
public sealed record PanelOdd(string Label, string Address, string Note, bool Starts);

public sealed record PanelMood(string Mood);

/// <param name="AheadSeconds">That the server of time is ahead.</param>
/// <param name="Lost">It has no time.</param>
public sealed record PanelTime(double AheadSeconds, bool Lost = false);

/// <param name="Head">From 1.</param>
/// <param name="Pan">Right, degrees.</param>
/// <param name="Tilt">Down, degrees.</param>
/// <param name="Roll">Clockwise as it looks, degrees.</param>
public sealed record PanelTurn(int Head, double Pan, double Tilt, double Roll);

/// <param name="Head">From 1.</param>
/// <param name="Steps">Towards far; negative: towards near.</param>
public sealed record PanelRing(int Head, double Steps);

/// <param name="On">Its cover.</param>
public sealed record PanelCover(bool On);

public sealed record PanelNight(string Do);

/// <param name="Tight">Its screws.</param>
public sealed record PanelLock(bool Tight);

/// <param name="Speed">Simulated seconds for each real one.</param>
public sealed record PanelClock(double? Speed, bool? Dark);

/// <summary>Named for the tests that start it.</summary>
public partial class StandInsProgram;
