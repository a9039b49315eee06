using System.Collections.Immutable;
using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Threading.Channels;
using Microsoft.EntityFrameworkCore;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Shared;

/// <summary>What a browser hears: something of this kind was kept for this Card. It asks again for what it shows.</summary>
/// <param name="Reached">Other Cards that it judges anew, such as those on the same run.</param>
public sealed record LiveEvent(string Kind, Guid? DeviceId, Guid? By, long Sequence, ImmutableArray<Guid> Reached);

/// <summary>One stream a browser; the event's id is the journal's sequence, and Last-Event-ID resumes after it.</summary>
public sealed class LiveStream : IDisposable
{
    private readonly Ledger _ledger;
    private readonly HashSet<Channel<(JournalEntry Entry, ImmutableArray<Guid> Reached)>> _listeners = [];
    private readonly Lock _lock = new();

    public LiveStream(Ledger ledger)
    {
        _ledger = ledger;
        _ledger.Committed += Tell;
    }

    public void Dispose() => _ledger.Committed -= Tell;

    private void Tell(JournalEntry entry, ImmutableArray<Guid> reached)
    {
        lock (_lock)
            foreach (var listener in _listeners)
                listener.Writer.TryWrite((entry, reached));
    }

    public async IAsyncEnumerable<SseItem<LiveEvent>> Listen(Guid jobId, long? after, [EnumeratorCancellation] CancellationToken cancel)
    {
        // A listener that is far behind loses the oldest: it resumes by sequence when it reconnects.
        var channel = System.Threading.Channels.Channel.CreateBounded<(JournalEntry Entry, ImmutableArray<Guid> Reached)>(
            new BoundedChannelOptions(500) { FullMode = BoundedChannelFullMode.DropOldest }
        );
        lock (_lock)
            _listeners.Add(channel);
        try
        {
            long seen;
            await using (var db = _ledger.OpenDb())
            {
                seen = after ?? await db.Journal.Where(j => j.JobId == jobId).MaxAsync(j => (long?)j.Sequence, cancel) ?? 0;
                // All that was missed, a portion at a time; whom each reached is not on record, so the greeting has everything asked for
                // again.
                while (
                    await db
                        .Journal.Where(j => j.JobId == jobId && j.Sequence > seen)
                        .OrderBy(j => j.Sequence)
                        .Take(1000)
                        .ToListAsync(cancel)
                        is { Count: > 0 } some
                )
                    foreach (var missed in some)
                    {
                        seen = missed.Sequence;
                        yield return Item(missed, []);
                    }
            }
            yield return new SseItem<LiveEvent>(new LiveEvent("hello", null, null, seen, []), "hello") { EventId = seen.ToString() };
            while (!cancel.IsCancellationRequested)
            {
                (JournalEntry Entry, ImmutableArray<Guid> Reached)? told = null;
                try
                {
                    using var beat = CancellationTokenSource.CreateLinkedTokenSource(cancel);
                    beat.CancelAfter(TimeSpan.FromSeconds(15));
                    told = await channel.Reader.ReadAsync(beat.Token);
                }
                catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
                {
                    // Nothing for a while: a beat, so that both sides notice a dead line.
                }
                catch (OperationCanceledException)
                {
                    yield break;
                }
                if (told is not { } heard)
                    yield return new SseItem<LiveEvent>(new LiveEvent("beat", null, null, seen, []), "beat");
                else if (heard.Entry.JobId == jobId && heard.Entry.Sequence > seen)
                {
                    seen = heard.Entry.Sequence;
                    yield return Item(heard.Entry, heard.Reached);
                }
            }
        }
        finally
        {
            lock (_lock)
                _listeners.Remove(channel);
        }
    }

    private static SseItem<LiveEvent> Item(JournalEntry entry, ImmutableArray<Guid> reached) =>
        new(new LiveEvent(entry.Kind, entry.DeviceId, entry.By, entry.Sequence, reached), "kept") { EventId = entry.Sequence.ToString() };
}
