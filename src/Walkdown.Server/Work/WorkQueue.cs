using System.Collections.Concurrent;
using System.Threading.Channels;
using Walkdown.Core.Measures;
using Walkdown.Devices.Field;
using Walkdown.Formats;
using Walkdown.Reports;
using Walkdown.Server.Addresses;
using Walkdown.Server.Handover;
using Walkdown.Server.Jobs;
using Walkdown.Server.Practice;
using Walkdown.Server.Readings;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Work;

/// <summary>
/// Work that outlives its request: it waits in the order in which it was asked for, a few at a time, reports how far it is and can be
/// cancelled. What it writes is one transaction, so that a cancelled one kept nothing.
/// </summary>
public sealed class WorkQueue(CatalogueStore catalogue, ILogger<WorkQueue> log) : BackgroundService
{
    private const int MostKept = 50,
        MostWaiting = 24,
        AtOnce = 3;

    private readonly Channel<Work> _waiting = Channel.CreateBounded<Work>(MostWaiting);
    private readonly ConcurrentDictionary<Guid, Work> _all = new();

    /// <summary>Never let go of: a host may stop what it has disposed already.</summary>
    private readonly CancellationTokenSource _stopping = new();

    private sealed class Work(
        Guid id,
        string kind,
        Func<IProgress<(int Done, int Of)>, CancellationToken, Task<object?>> run,
        CancellationTokenSource cancel
    ) : IProgress<(int Done, int Of)>
    {
        public Guid Id => id;

        /// <summary>Let go of once it has run: what it was given, such as a login, lives no longer.</summary>
        public Func<IProgress<(int Done, int Of)>, CancellationToken, Task<object?>>? Run { get; set; } = run;
        public CancellationTokenSource Cancel => cancel;
        public string Kind => kind;
        public WorkState State { get; set; }
        public object? Result { get; set; }
        public string? Why { get; set; }

        /// <summary>It had its turn.</summary>
        public bool Begun { get; set; }
        public DateTime Started { get; } = DateTime.UtcNow;
        private int _done,
            _of;

        void IProgress<(int Done, int Of)>.Report((int Done, int Of) value) => (_done, _of) = value;

        public WorkAnswer Answer =>
            new(
                id,
                kind,
                State,
                _done,
                _of,
                Result as OutcomeAnswer,
                Result as Impact,
                Result as IntakeAnswer,
                Why,
                Result as RevisionLine,
                Result as RecordVerdict,
                Result as BundleOutcome,
                Result as BundleAsk,
                Result as DraftPack,
                Result as LookAnswer
            );
    }

    /// <summary>Puts the work into the queue and answers at once. Its result is what <see cref="Get"/> gives when it is done.</summary>
    /// <exception cref="Refusal">Too much waits already.</exception>
    public WorkAnswer Start(string kind, Func<IProgress<(int Done, int Of)>, CancellationToken, Task<object?>> run)
    {
        foreach (var old in _all.Values.Where(w => w.State != WorkState.Running).OrderByDescending(w => w.Started).Skip(MostKept))
            _all.TryRemove(old.Id, out _);
        var work = new Work(Guid.CreateVersion7(), kind, run, CancellationTokenSource.CreateLinkedTokenSource(_stopping.Token));
        if (_all.Values.Count(w => w.State == WorkState.Running) >= MostWaiting || !_waiting.Writer.TryWrite(work))
            throw new Refusal(
                new Message("problem.too-much-work", MostWaiting.ToString(System.Globalization.CultureInfo.InvariantCulture))
            );
        _all[work.Id] = work;
        return work.Answer;
    }

    public WorkAnswer? Get(Guid id) => _all.TryGetValue(id, out var work) ? work.Answer : null;

    public WorkAnswer? Cancel(Guid id)
    {
        if (!_all.TryGetValue(id, out var work))
            return null;
        // What still waits for its turn will not have it.
        lock (work)
            if (!work.Begun)
                (work.State, work.Run) = (WorkState.Cancelled, null);
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

    /// <summary>Whoever stops the server waits until long work has noticed: nothing writes into a folder that was let go.</summary>
    public override async Task StopAsync(CancellationToken cancellationToken)
    {
        await _stopping.CancelAsync();
        await base.StopAsync(cancellationToken);
    }

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) =>
        Task.WhenAll(Enumerable.Range(0, AtOnce).Select(_ => Task.Run(() => TakeTurns(stoppingToken), CancellationToken.None)));

    private async Task TakeTurns(CancellationToken stopping)
    {
        try
        {
            await foreach (var work in _waiting.Reader.ReadAllAsync(stopping))
                await Do(work);
        }
        catch (OperationCanceledException)
        {
            // The server stops; what waits is not begun.
        }
    }

    private async Task Do(Work work)
    {
        lock (work)
        {
            if (work.State != WorkState.Running)
                return;
            work.Begun = true;
        }
        try
        {
            work.Cancel.Token.ThrowIfCancellationRequested();
            work.Result = await work.Run!(work, work.Cancel.Token);
            work.State = WorkState.Done;
        }
        catch (OperationCanceledException)
        {
            work.State = WorkState.Cancelled;
        }
        catch (Exception problem)
        {
            var told = problem switch
            {
                Refusal refusal => refusal.What,
                BundleException bundle => bundle.What,
                SheetException sheet => sheet.What,
                FieldTrouble field => field.Why,
                _ => null,
            };
            if (told is null)
                log.LogError(problem, "Work failed: {Kind}", work.Kind);
            work.Why = catalogue.Texts.Say(told ?? Problems.MessageOf(problem));
            work.State = WorkState.Failed;
        }
        finally
        {
            work.Run = null;
            work.Cancel.Dispose();
        }
    }
}
