using System.Reflection;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization.Metadata;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.Extensions.FileProviders;
using Microsoft.OpenApi;
using Walkdown.Access;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Entries;
using Walkdown.Server.Addresses;
using Walkdown.Server.Aim;
using Walkdown.Server.Backups;
using Walkdown.Server.Cards;
using Walkdown.Server.Demo;
using Walkdown.Server.Door;
using Walkdown.Server.Handover;
using Walkdown.Server.Identity;
using Walkdown.Server.Jobs;
using Walkdown.Server.Kit;
using Walkdown.Server.Network;
using Walkdown.Server.Plan;
using Walkdown.Server.Plates;
using Walkdown.Server.Power;
using Walkdown.Server.Practice;
using Walkdown.Server.Readings;
using Walkdown.Server.Recording;
using Walkdown.Server.Register;
using Walkdown.Server.Shared;
using Walkdown.Server.Views;
using Walkdown.Server.Walk;
using Walkdown.Server.Work;
using Walkdown.Storage;

if (args is ["verify-record" or "key" or "check-record" or "draw-plan", ..])
    return await RecordCommands.Run(args);
if (args is ["backup" or "restore", ..])
    return await BackupCommands.Run(args);

// The build-time tool that writes the API's description starts this program too; it must open no database.
var describing = Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";
var builder = WebApplication.CreateBuilder(new WebApplicationOptions { Args = args, ContentRootPath = AppContext.BaseDirectory });

// Options are what was asked for on the command line; a variable of the surroundings that happens to bear the same name is none.
foreach (
    var source in builder
        .Configuration.Sources.OfType<Microsoft.Extensions.Configuration.EnvironmentVariables.EnvironmentVariablesConfigurationSource>()
        .Where(s => string.IsNullOrEmpty(s.Prefix))
        .ToList()
)
    ((IConfigurationBuilder)builder.Configuration).Sources.Remove(source);
if (
    !int.TryParse(builder.Configuration["port"] ?? "4680", System.Globalization.CultureInfo.InvariantCulture, out var port)
    || port is < 0 or > 65535
)
{
    Console.Error.WriteLine("--port needs a number from 0 to 65535.");
    return 2;
}
var dataPath = builder.Configuration["data"] ?? Path.Combine(Directory.GetCurrentDirectory(), ".data");
var demoFolder = builder.Configuration["demo"];
if (!Address("stand-ins", out var standIns) || !Address("tester", out var ownTester))
    return 2;
var testerAddress = ownTester ?? standIns;
var webRoot = builder.Configuration["web"] ?? Path.Combine(AppContext.BaseDirectory, "wwwroot");

builder
    .Logging.AddFilter("Microsoft.EntityFrameworkCore", LogLevel.Error)
    .AddFilter("Microsoft.AspNetCore", LogLevel.Warning)
    .AddFilter("Microsoft.AspNetCore.Diagnostics.ExceptionHandlerMiddleware", LogLevel.None)
    .AddFilter("System.Net.Http", LogLevel.Warning);

// Without HTTPS this machine only; with it one address that somebody chose, opened and closed while the server runs.
var listening = new PhoneListening();
PhoneDoor? phones = null;
builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel
        .Configure(new ConfigurationBuilder().Add(listening).Build(), reloadOnChange: true)
        .Endpoint(
            PhoneListening.Endpoint,
            endpoint =>
                endpoint.ListenOptions.UseHttps(
                    new Microsoft.AspNetCore.Server.Kestrel.Https.TlsHandshakeCallbackOptions
                    {
                        OnConnection = _ => ValueTask.FromResult(phones!.Handshake()),
                    }
                )
        );
    if (port == 0)
        kestrel.Listen(System.Net.IPAddress.Loopback, 0);
    else
        kestrel.ListenLocalhost(port);
    kestrel.Limits.MaxConcurrentConnections = 4000;
    kestrel.Limits.MaxRequestHeadersTotalSize = 32 * 1024;
    // Only what takes a file allows more, by itself.
    kestrel.Limits.MaxRequestBodySize = 4 * 1024 * 1024;
    kestrel.AddServerHeader = false;
});
builder.Services.AddProblemDetails();
builder.Services.Configure<RouteHandlerOptions>(o => o.ThrowOnBadRequest = true);
builder.Services.ConfigureHttpJsonOptions(o =>
{
    CoreJson.Configure(o.SerializerOptions);
    o.SerializerOptions.TypeInfoResolver = JsonTypeInfoResolver
        .Combine(WireJson.Default, o.SerializerOptions.TypeInfoResolver!)
        .WithAddedModifier(Walkdown.Core.Catalogues.Catalogue.NoUnknownMembers)
        .WithAddedModifier(Definitions.Apart);
});
builder.Services.AddSingleton<TimeProvider>(new WholeMilliseconds(TimeProvider.System));
builder.Services.AddSingleton(new DataFolder(dataPath));
builder.Services.AddSingleton<Ledger>();
builder.Services.AddSingleton<CatalogueStore>();
builder.Services.AddSingleton<LiveStream>();
builder.Services.AddSingleton<CardService>();
builder.Services.AddSingleton<WalkBoards>();
builder.Services.AddSingleton<KeptFiles>();
builder.Services.AddSingleton<RegisterService>();
builder.Services.AddSingleton<ImportService>();
builder.Services.AddSingleton<PracticeService>();
builder.Services.AddSingleton<PowerService>();
builder.Services.AddSingleton<Observations>();
builder.Services.AddSingleton<IntakeMatcher>();
builder.Services.AddSingleton<Sweeper>();
builder.Services.AddSingleton<ResultIntake>();
builder.Services.AddSingleton<WorkQueue>();
builder.Services.AddHostedService(services => services.GetRequiredService<WorkQueue>());
builder.Services.AddSingleton<ReportService>();
builder.Services.AddSingleton<KeyFile>();
builder.Services.AddSingleton<HandoverBook>();
builder.Services.AddSingleton<PackMaker>();
builder.Services.AddSingleton<PackDrafts>();
builder.Services.AddSingleton<PackSealer>();
builder.Services.AddSingleton<PackErasure>();
builder.Services.AddSingleton<PictureIntake>();
builder.Services.AddSingleton<ConcessionWatch>();
builder.Services.AddSingleton<UploadDesk>();
builder.Services.AddSingleton<SetAside>();
if (!describing)
    builder.Services.AddHostedService<LapsedConcessions>();
builder.Services.AddSingleton<ScheduleImport>();
builder.Services.AddSingleton<DemoJob>();
builder.Services.AddSingleton<DemoDays>();
builder.Services.AddHttpClient("stand-ins", http => http.Timeout = TimeSpan.FromSeconds(20));
builder.Services.AddSources(testerAddress, TimeSpan.FromSeconds(builder.Configuration.GetValue("tester-patience", 5.0)));
builder.Services.AddAddresses(
    standIns,
    builder.Configuration.GetValue("field", 0),
    TimeSpan.FromSeconds(builder.Configuration.GetValue("listen", 3.0))
);
builder.Services.AddSingleton<AimRoom>();
builder.Services.AddSingleton<IdentityRoom>();
builder.Services.AddRecorders();
builder.Services.AddAccess(dataPath);
builder.Services.AddSingleton(new GateSettings(demoFolder is not null));
builder.Services.AddSingleton<Gate>();
builder.Services.AddSingleton<PasskeyAsks>();
builder.Services.AddScoped<Passkeys>();
builder.Services.AddSingleton(listening);
builder.Services.AddSingleton(of => new Authority(dataPath, of.GetRequiredService<TimeProvider>()));
builder.Services.AddSingleton(of => new ServerCertificate(
    of.GetRequiredService<Authority>(),
    of.GetRequiredService<TimeProvider>(),
    builder.Configuration["cert"],
    builder.Configuration["cert-key"]
));
builder.Services.AddSingleton<PhoneDoor>();
builder.Services.AddGuessLimit();

// No page elsewhere can have ours asked for something (Doors), so that the length of an answer tells nobody a secret.
builder.Services.AddResponseCompression(o => o.EnableForHttps = true);
builder.Services.AddSingleton<Readiness>();

// Only who develops asks for the API's description; making it ready costs every start.
var described = describing || builder.Environment.IsDevelopment();
if (described)
    builder.Services.AddOpenApi(
        "v1",
        options =>
        {
            options.AddSchemaTransformer(
                (schema, context, _) =>
                {
                    var type = context.JsonTypeInfo.Type;
                    if (type == typeof(CheckId) || type == typeof(CheckId?))
                        schema.Type = JsonSchemaType.String;
                    // Lists of lists that a type has twice would be named by the first place that any answer has them at.
                    if (type == typeof(WireMapValue) && schema.Properties?.ContainsKey("twistedPairs") == true)
                        schema.Properties["twistedPairs"] = new OpenApiSchema
                        {
                            Type = JsonSchemaType.Array | JsonSchemaType.Null,
                            Items = new OpenApiSchema
                            {
                                Type = JsonSchemaType.Array,
                                Items = new OpenApiSchema { Type = JsonSchemaType.Integer, Format = "int32" },
                            },
                        };
                    // Values with defaults and structs are always written: the client may rely on them.
                    if (
                        type.Namespace?.StartsWith("Walkdown.Core", StringComparison.Ordinal) == true
                        && !type.IsAssignableTo(typeof(EntryRequest))
                        && schema.Properties is { Count: > 0 } properties
                    )
                        schema.Required = properties.Keys.ToHashSet();
                    return Task.CompletedTask;
                }
            );
        }
    );

var app = builder.Build();
app.UseDoors();
app.UseProblems();
app.UseReadiness();
Gate.Use(app);
app.UseRateLimiter();

// On this machine packing costs more than it saves.
app.UseWhen(
    http => http.Connection.RemoteIpAddress is { } from && !System.Net.IPAddress.IsLoopback(from),
    far => far.UseResponseCompression()
);
app.UseStatusCodePages(async context =>
{
    var response = context.HttpContext.Response;
    if (context.HttpContext.Request.Path.StartsWithSegments("/api"))
        await Problems
            .Of(
                response.StatusCode,
                response.StatusCode switch
                {
                    // What is wrong in a body says where; without a word it is the address.
                    400 => new("problem.unreadable", "query"),
                    405 => new("problem.method"),
                    415 => new("problem.media"),
                    _ => new("problem.nothing-here"),
                }
            )
            .ExecuteAsync(context.HttpContext);
});
var api = app.MapGroup("/api");
api.AddEndpointFilter(WholeBody.Filter);
api.AddEndpointFilter(Principals.Filter);
api.MapCards();
api.MapDefinitions();
api.MapWalk();
api.MapJobs();
api.MapSite();
api.MapImports();
api.MapRegister();
api.MapPlan();
api.MapWork();
api.MapRestore();
api.MapKit();
api.MapPower();
api.MapResults();
api.MapPaths();
api.MapViews();
api.MapCoverage();
api.MapAim();
api.MapMeasured();
api.MapPlates();
api.MapIdentity();
api.MapAddresses();
api.MapRecording();
api.MapRecorders();
api.MapPractice();
api.MapHandover();
api.MapPictures();
api.MapDemo(standIns);
api.MapAccess();
api.MapPasskeys();
api.MapAccounts();
api.MapNetwork();

// Said as a request delegate: made at build time, a fallback with a handler takes every address for its own.
// Where what was sent is neither JSON nor a file, it is that which nobody takes here.
RequestDelegate nothingHere = http =>
    (
        http.Request.ContentLength > 0
        && !(http.Request.ContentType ?? "").Contains("json")
        && !(http.Request.ContentType ?? "").Contains("octet")
            ? Problems.Of(415, "problem.media")
            : Problems.Of(404, "problem.nothing-here")
    ).ExecuteAsync(http);
app.MapFallback("/api/{**rest}", nothingHere).WithMetadata(new FallbackMetadata());
if (described)
    app.MapOpenApi("/api/openapi/{documentName}.json");
if (Directory.Exists(webRoot))
{
    var files = new PhysicalFileProvider(Path.GetFullPath(webRoot));
    app.UseStaticFiles(
        new StaticFileOptions
        {
            FileProvider = files,
            OnPrepareResponse = context =>
                context.Context.Response.Headers.CacheControl = context.Context.Request.Path.StartsWithSegments("/assets")
                    ? "public, max-age=31536000, immutable"
                    : "no-cache",
        }
    );
    app.MapFallback(
        "{*path:nonfile}",
        async context =>
        {
            context.Response.ContentType = "text/html; charset=utf-8";
            context.Response.Headers.CacheControl = "no-cache";
            await context.Response.SendFileAsync(Path.Combine(files.Root, "index.html"));
        }
    );
}

if (!describing)
{
    try
    {
        app.Services.GetRequiredService<DataFolder>().Open();
        app.Lifetime.ApplicationStopped.Register(app.Services.GetRequiredService<DataFolder>().Dispose);
        app.Services.GetRequiredService<LiveStream>();
        app.Services.GetRequiredService<WalkBoards>();
        phones = app.Services.GetRequiredService<PhoneDoor>();
        if (!app.Services.GetRequiredService<AccessBook>().Any && builder.Configuration["listen"] is not null)
            Console.Error.WriteLine("Nobody has an account yet: make the first one at this machine, then open the network there.");
        else if (app.Services.GetRequiredService<AccessBook>().Any)
            phones.Begin(builder.Configuration["listen"], builder.Configuration.GetValue("https-port", PhoneDoor.UsualPort));
    }
    catch (Exception problem) when (problem is DataFolderException or AccessStoreException)
    {
        Console.Error.WriteLine(problem.Message);
        return 1;
    }
    var folder = app.Services.GetRequiredService<DataFolder>();
    app.Lifetime.ApplicationStarted.Register(() =>
        app
            .Services.GetRequiredService<Readiness>()
            .Begin(app, folder.ReadOnly ? null : demoFolder, builder.Configuration["worked"], standIns)
    );
    app.Lifetime.ApplicationStopped.Register(() => RunningServer.Gone(folder));
    app.Lifetime.ApplicationStarted.Register(() =>
        RunningServer.Announce(folder, app.Urls.Select(u => new Uri(u).Port).FirstOrDefault(port))
    );
    app.Lifetime.ApplicationStarted.Register(() =>
        Console.WriteLine(
            $"Walkdown is at http://localhost:{port} (this machine only){(phones?.Address is { } at ? $", for phones at {at}" : "")}; "
                + $"data in {dataPath}"
        )
    );
}
try
{
    app.Run();
}
catch (IOException taken) when (taken.InnerException is Microsoft.AspNetCore.Connections.AddressInUseException)
{
    Console.Error.WriteLine($"Port {port} is in use already. Choose another: --port N");
    return 1;
}
return Environment.ExitCode;

bool Address(string name, out Uri? address)
{
    address = null;
    if (
        builder.Configuration[name] is not { Length: > 0 } text
        || Uri.TryCreate(text, UriKind.Absolute, out address) && address.Scheme is "http" or "https"
    )
        return true;
    Console.Error.WriteLine($"--{name} needs an address such as http://127.0.0.1:4690/");
    return false;
}

/// <summary>Named for the tests that start it.</summary>
public partial class ServerProgram;
