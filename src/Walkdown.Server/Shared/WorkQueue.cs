using System.Collections.Concurrent;
using Microsoft.AspNetCore.Http.HttpResults;
using Walkdown.Core.Measures;
using Walkdown.Reports;
using Walkdown.Server.Handover;
using Walkdown.Server.Jobs;
using Walkdown.Server.Practice;
using Walkdown.Server.Readings;
using Walkdown.Storage;

namespace Walkdown.Server.Shared;

public enum WorkState
{
    Running,
    Done,
    Failed,
    Cancelled,
}

/// <summary>Long work as it stands.</summary>
/// <param name="Outcome">What came of a schedule, once it is done.</param>
/// <param name="Impact">What a change of practice or catalogue touches, once it is known.</param>
/// <param name="Results">Readings that a sweep or a file proposes.</param>
/// <param name="Why">Why it failed.</param>
/// <param name="Revision">What was sealed.</param>
/// <param name="Checked">What a document in hand turned out to be.</param>
/// <param name="Bundle">What a bundle brought.</param>
/// <param name="Ask">A bundle that waits to be taken, with whose seal it bears.</param>
public sealed record WorkAnswer(
    Guid Id,
    string Kind,
    WorkState State,
    int Done,
    int Of,
    OutcomeAnswer? Outcome,
    Impact? Impact,
    IntakeAnswer? Results,
    string? Why,
    RevisionLine? Revision = null,
    RecordVerdict? Checked = null,
    BundleOutcome? Bundle = null,
    BundleAsk? Ask = null
);

/// <summary>Work that outlives its request: it reports how far it is and can be cancelled. What it writes is one transaction, so that a
/// cancelled one kept nothing.</summary>
public sealed class WorkQueue(IHostApplicationLifetime lifetime, CatalogueStore catalogue, ILogger<WorkQueue> log) : IAsyncDisposable
{
    private readonly ConcurrentDictionary<Guid, Task> _running = new();

    /// <summary>Whoever stops the server waits until long work has noticed: nothing writes into a folder that was let go.</summary>
    public async ValueTask DisposeAsync()
    {
        await Task.WhenAny(Task.WhenAll(_running.Values), Task.Delay(TimeSpan.FromSeconds(20)));
        _atOnce.Dispose();
    }

    private const int MostKept = 50,
        MostWaiting = 24;

    /// <summary>So much long work at once; what comes after waits in the order in which it was asked for.</summary>
    private readonly SemaphoreSlim _atOnce = new(3, 3);
    private readonly ConcurrentDictionary<Guid, Work> _all = new();

    private sealed class Work(Guid id, string kind, CancellationTokenSource cancel)
    {
        public Guid Id => id;
        public string Kind => kind;
        public CancellationTokenSource Cancel => cancel;
        public WorkState State { get; set; }
        public int Done { get; set; }
        public int Of { get; set; }
        public object? Result { get; set; }
        public string? Why { get; set; }
        public DateTime Started { get; } = DateTime.UtcNow;
        public WorkAnswer Answer =>
            new(
                id,
                kind,
                State,
                Done,
                Of,
                Result as OutcomeAnswer,
                Result as Impact,
                Result as IntakeAnswer,
                Why,
                Result as RevisionLine,
                Result as RecordVerdict,
                Result as BundleOutcome,
                Result as BundleAsk
            );
    }

    /// <summary>Starts the work and answers at once. Its result is what <see cref="Get"/> gives when it is done.</summary>
    public WorkAnswer Start(string kind, Func<IProgress<(int Done, int Of)>, CancellationToken, Task<object?>> run)
    {
        foreach (var old in _all.Values.Where(w => w.State != WorkState.Running).OrderByDescending(w => w.Started).Skip(MostKept))
            _all.TryRemove(old.Id, out _);
        if (_all.Values.Count(w => w.State == WorkState.Running) >= MostWaiting)
            throw new Refusal(
                new Message("problem.too-much-work", MostWaiting.ToString(System.Globalization.CultureInfo.InvariantCulture))
            );
        var work = new Work(Guid.CreateVersion7(), kind, CancellationTokenSource.CreateLinkedTokenSource(lifetime.ApplicationStopping));
        _all[work.Id] = work;
        _running[work.Id] = Task.Run(async () =>
        {
            var begun = false;
            try
            {
                await _atOnce.WaitAsync(work.Cancel.Token);
                begun = true;
                work.Result = await run(new Report(work), work.Cancel.Token);
                work.State = WorkState.Done;
            }
            catch (OperationCanceledException)
            {
                work.State = WorkState.Cancelled;
            }
            catch (Refusal refusal)
            {
                work.Why = catalogue.Texts.Say(refusal.What);
                work.State = WorkState.Failed;
            }
            catch (BundleException bundle)
            {
                work.Why = catalogue.Texts.Say(bundle.What);
                work.State = WorkState.Failed;
            }
            catch (SheetException sheet)
            {
                work.Why = catalogue.Texts.Say(sheet.What);
                work.State = WorkState.Failed;
            }
            catch (Exception problem)
            {
                log.LogError(problem, "Work failed: {Kind}", kind);
                work.Why = catalogue.Texts.Say(Problems.MessageOf(problem));
                work.State = WorkState.Failed;
            }
            finally
            {
                if (begun)
                    _atOnce.Release();
                work.Cancel.Dispose();
                _running.TryRemove(work.Id, out var _);
            }
        });
        return work.Answer;
    }

    public WorkAnswer? Get(Guid id) => _all.TryGetValue(id, out var work) ? work.Answer : null;

    public WorkAnswer? Cancel(Guid id)
    {
        if (!_all.TryGetValue(id, out var work))
            return null;
        if (work.State == WorkState.Running)
            try
            {
                work.Cancel.Cancel();
            }
            catch (ObjectDisposedException)
            {
                // It ended in the same moment.
            }
        return work.Answer;
    }

    private sealed class Report(Work work) : IProgress<(int Done, int Of)>
    {
        void IProgress<(int Done, int Of)>.Report((int Done, int Of) value) => (work.Done, work.Of) = value;
    }
}

/// <summary>Work that cannot be done, with its sentence.</summary>
public sealed class Refusal(Message what) : Exception(what.Code)
{
    public Message What { get; } = what;
}

public static class WorkEndpoints
{
    public static void MapWork(this RouteGroupBuilder api)
    {
        api.MapGet(
                "/progress/{id:guid}",
                Results<Ok<WorkAnswer>, ProblemHttpResult> (Guid id, WorkQueue work) =>
                    work.Get(id) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "problem.unknown-work")
            )
            .WithTags("Work")
            .WithName("getWork");
        api.MapPost(
                "/progress/{id:guid}/cancel",
                Results<Ok<WorkAnswer>, ProblemHttpResult> (Guid id, WorkQueue work) =>
                    work.Cancel(id) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "problem.unknown-work")
            )
            .WithTags("Work")
            .WithName("cancelWork");
    }
}
