using System.Collections.Immutable;
using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.Extensions.Http.Resilience;
using Polly;
using Walkdown.Core.Addressing;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Devices.Discovery;
using Walkdown.Devices.Field;
using Walkdown.Formats;
using Walkdown.Server.Door;
using Walkdown.Server.Jobs;
using Walkdown.Server.Readings;
using Walkdown.Server.Recording;
using Walkdown.Server.Shared;
using Walkdown.Server.Work;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Addresses;

/// <summary>Addresses and logins: planned, found on the network, registered at recorders, and what can be done about each
/// difference.</summary>
public static class AddressEndpoints
{
    private const int MostRows = 500;

    private const int MostPlanBytes = 1024 * 1024;

    /// <param name="standIns">Where simulated recorders answer; null: nowhere.</param>
    /// <param name="shift">Of the ports of a simulated network; 0: the site is real.</param>
    /// <param name="listen">How long answers to a search are waited for.</param>
    public static void AddAddresses(this IServiceCollection services, Uri? standIns, int shift, TimeSpan listen)
    {
        services.AddSingleton(new FieldNetwork(shift > 0, shift > 0 ? shift : FieldNetwork.UsualShift));
        services.AddSingleton(of => new FieldHttp(of.GetRequiredService<FieldNetwork>(), Patient));
        services.AddSingleton(NetworkSweep.Pace.Usual with { Listen = listen });
        services.AddSingleton(new RecorderLists.At(standIns));
        services.AddOutside(Sources.Recorders, standIns);
        services.AddSingleton<AddressBook>();
        services.AddSingleton<NetworkWork>();
        services.AddSingleton<RecorderLists>();
        services.AddSingleton<SwitchLooks>();
        services.AddSingleton<AddressRowsDraft>();
    }

    /// <summary>
    /// Where no connection was made it is tried once more: on a long run of copper or over the air the first may get lost. What was
    /// answered, or broke off in the middle of an answer, is not asked twice: a login would be shown again.
    /// </summary>
    private static ResilienceHandler Patient(HttpMessageHandler sockets) =>
        new(
            new ResiliencePipelineBuilder<HttpResponseMessage>()
                .AddRetry(
                    new HttpRetryStrategyOptions
                    {
                        MaxRetryAttempts = 1,
                        Delay = TimeSpan.FromMilliseconds(150),
                        ShouldHandle = tried =>
                            ValueTask.FromResult(
                                tried.Outcome.Exception is HttpRequestException { HttpRequestError: HttpRequestError.ConnectionError }
                            ),
                    }
                )
                .Build()
        )
        {
            InnerHandler = sockets,
        };

    public static void MapAddresses(this RouteGroupBuilder api)
    {
        var network = api.MapGroup("/jobs/{jobId:guid}/network").WithTags("Addresses");
        network.MapGet("", Get).WithName("getNetworkLedger");
        network.MapGet("/rows", GetRows).WithName("getLedgerRows");
        network.MapPut("/plan", Put).WithName("putNetworkPlan").Needs(Right.Plan);
        network
            .MapPost("/plan/check", (Guid jobId, PlanRequest request) => TypedResults.Ok(Wrong(request.Plan)))
            .WithName("checkNetworkPlan")
            .Needs(Right.Plan);
        network.MapGet("/plan.csv", PlanFile).WithName("getNetworkPlanFile").Produces(200, contentType: "text/csv");
        network
            .MapPost("/plan/file", ReadPlan)
            .WithName("readNetworkPlanFile")
            .Needs(Right.Plan)
            .Accepts<byte[]>("application/octet-stream")
            .WithMetadata(new RequestSizeLimitAttribute(MostPlanBytes + 1024));
        network.MapPost("/propose", Propose).WithName("proposeAddresses").Needs(Right.Plan);
        network
            .MapPost(
                "/looks",
                (Guid jobId, LookRequest r, NetworkWork work, WorkQueue queue) => Start(queue, "look", (p, c) => work.Look(jobId, r, p, c))
            )
            .WithName("lookAtNetwork")
            .Needs(Right.Work);
        network
            .MapPost(
                "/lease-servers",
                (Guid jobId, LeaseSearchRequest r, NetworkWork work, WorkQueue queue) =>
                    Start(queue, "leases", (_, c) => work.AskForLeases(jobId, r, c))
            )
            .WithName("askForLeases")
            .Needs(Right.Work);
        network
            .MapPost(
                "/ports",
                (Guid jobId, AskSwitchesRequest r, SwitchLooks work, WorkQueue queue) =>
                    Start(queue, "ports", (p, c) => work.Ask(jobId, r, p, c))
            )
            .WithName("askSwitches")
            .Needs(Right.Work);
        network
            .MapPost(
                "/mends",
                (Guid jobId, MendRequest r, NetworkWork work, WorkQueue queue) => Start(queue, "mend", (p, c) => work.Mend(jobId, r, p, c))
            )
            .WithName("mendAddress")
            .Needs(Right.Work);
        network
            .MapPost(
                "/restarts",
                (Guid jobId, RestartRequest r, NetworkWork work, WorkQueue queue) =>
                    Start(queue, "restart", (p, c) => work.Restart(jobId, r, p, c))
            )
            .WithName("restartDevice")
            .Needs(Right.Work);
        network
            .MapPost(
                "/given",
                (Guid jobId, GiveRequest r, NetworkWork work, WorkQueue queue) => Start(queue, "give", (p, c) => work.Give(jobId, r, p, c))
            )
            .WithName("giveAddresses")
            .Needs(Right.Work);
        network
            .MapPost(
                "/trials",
                (Guid jobId, TrialRequest r, NetworkWork work, WorkQueue queue) => Start(queue, "trial", (p, c) => work.Try(jobId, r, p, c))
            )
            .WithName("tryLogins")
            .Needs(Right.Work);
        network.MapPost("/anew", Anew).WithName("lookAnew").Needs(Right.Work);
        network.MapPost("/rows", Rows).WithName("addressRows").Needs(Right.Work);
        network
            .MapPost(
                "/lists/read",
                (Guid jobId, ListRequest r, RecorderWork recorders, WorkQueue queue) =>
                    Start(queue, "list", (_, c) => recorders.Read(jobId, r, c))
            )
            .WithName("readRecorderList")
            .Needs(Right.Work);
        network.MapPost("/lists/typed", Type).WithName("typeRecorderList").Needs(Right.Work);
        network
            .MapPost("/lists/file", Upload)
            .WithName("uploadRecorderList")
            .Needs(Right.Work)
            .Accepts<byte[]>("application/octet-stream")
            .WithMetadata(new RequestSizeLimitAttribute(SheetReader.MostBytes + 1024));
    }

    private static ImmutableArray<PlanTrouble> Wrong(NetworkPlan plan) => [.. plan.Check().Select(w => new PlanTrouble(w.Field, w.Why))];

    private static Ok<WorkAnswer> Start<T>(WorkQueue queue, string kind, Func<IProgress<(int, int)>, CancellationToken, Task<T>> work)
        where T : class => TypedResults.Ok(queue.Start(kind, async (progress, cancel) => await work(progress, cancel)));

    private static async Task<Results<Ok<NetworkLedger>, ProblemHttpResult>> Get(Guid jobId, AddressBook book, RecorderLists lists) =>
        await book.Answer(jobId, lists.CanRead) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "problem.unknown-job");

    /// <param name="key">Of the one row that is wanted.</param>
    private static async Task<Results<Ok<LedgerRows>, ProblemHttpResult>> GetRows(
        Guid jobId,
        AddressBook book,
        string? key = null,
        int skip = 0,
        int take = 100
    ) =>
        skip < 0 || take is < 1 or > MostRows
            ? Problems.Of(422, new Message("problem.page", MostRows.ToString(CultureInfo.InvariantCulture)), "take")
        : await book.Rows(jobId, key, skip, take) is { } rows ? TypedResults.Ok(rows)
        : Problems.Of(404, "problem.unknown-job");

    private static async Task<Results<Ok<NetworkLedger>, ProblemHttpResult>> Put(
        Guid jobId,
        PlanRequest request,
        AddressBook book,
        RecorderLists lists
    ) =>
        request.Plan.Check() is [var (field, why), ..] ? Problems.Of(422, why, field)
        : await book.Keep(jobId, request.Plan) && await book.Answer(jobId, lists.CanRead) is { } answer ? TypedResults.Ok(answer)
        : Problems.Of(404, "problem.unknown-job");

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> PlanFile(Guid jobId, AddressBook book) =>
        await book.Load(jobId) is not { } known ? Problems.Of(404, "problem.unknown-job")
        : known.Plan is not { } plan ? Problems.Of(422, "lan.none")
        : TypedResults.File(NetworkPlanFile.Write(plan), "text/csv; charset=utf-8", "network.csv");

    /// <summary>What a file says, for somebody to look at: nothing is kept of it.</summary>
    private static async Task<Results<Ok<PlanRead>, ProblemHttpResult>> ReadPlan(
        Guid jobId,
        HttpRequest request,
        Ledger ledger,
        CancellationToken cancel
    )
    {
        if (!await ImportEndpoints.Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        var plan = NetworkPlanFile.Read(await ImportEndpoints.Body(request, cancel, MostPlanBytes), cancel);
        return TypedResults.Ok(new PlanRead(plan, Wrong(plan)));
    }

    private static async Task<Results<Ok<ImmutableArray<ProposedAddress>>, ProblemHttpResult>> Propose(
        Guid jobId,
        ProposeRequest request,
        AddressBook book
    ) => await book.Propose(jobId, request) is { } proposed ? TypedResults.Ok(proposed) : Problems.Of(404, "problem.unknown-job");

    private static async Task<Results<Ok<NetworkLedger>, ProblemHttpResult>> Anew(Guid jobId, AddressBook book, RecorderLists lists)
    {
        if (await book.Load(jobId) is null)
            return Problems.Of(404, "problem.unknown-job");
        await book.Keep(jobId, LookKind.Network, AddressBook.Anew, "", ImmutableArray<FoundDevice>.Empty);
        return TypedResults.Ok((await book.Answer(jobId, lists.CanRead))!);
    }

    private static async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> Rows(
        Guid jobId,
        Ledger ledger,
        AddressRowsDraft rows,
        WorkQueue queue
    ) =>
        await ImportEndpoints.Exists(ledger, jobId)
            ? TypedResults.Ok(queue.Start("sweep", async (progress, cancel) => await rows.Make(jobId, progress, cancel)))
            : Problems.Of(404, "problem.unknown-job");

    private static async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> Type(
        Guid jobId,
        TypedListRequest request,
        Ledger ledger,
        RecorderLists lists,
        WorkQueue queue
    ) =>
        !await ImportEndpoints.Exists(ledger, jobId) ? Problems.Of(404, "problem.unknown-job")
        : request.Channels.IsDefaultOrEmpty ? Problems.Of(422, "list.nothing-typed", "channels")
        : Start(queue, "list", (_, stop) => lists.Type(jobId, request, stop));

    private static async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> Upload(
        Guid jobId,
        string recorder,
        string? by,
        HttpRequest request,
        Ledger ledger,
        RecorderLists lists,
        WorkQueue queue,
        CancellationToken cancel
    )
    {
        if (!await ImportEndpoints.Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        var file = await ImportEndpoints.Body(request, cancel, SheetReader.MostBytes);
        return Start(queue, "list", (_, stop) => lists.Upload(jobId, recorder, by ?? "", file, stop));
    }
}
