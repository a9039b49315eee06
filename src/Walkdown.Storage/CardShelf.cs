using System.Collections.Concurrent;
using System.Collections.Immutable;
using BitFaster.Caching.Lru;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;

namespace Walkdown.Storage;

/// <summary>
/// Cards in memory as they were loaded and judged: those that were asked for last, and what the Cards of a job share. Written under the
/// ledger's lock, read by anybody.
/// </summary>
internal sealed class CardShelf
{
    /// <summary>About 10 KB each.</summary>
    private const int MostLoaded = 6000;

    /// <summary>About 80 KB each.</summary>
    private const int MostJudged = 250;

    private readonly ConcurrentLru<Guid, LoadedCard> _loaded = new(MostLoaded);
    private readonly ConcurrentLru<Guid, JudgedCard> _judged = new(MostJudged);
    private readonly ConcurrentDictionary<Guid, JobFacts> _jobs = new();

    /// <summary>A Card; null where it has to be loaded.</summary>
    public LoadedCard? Find(Guid deviceId) => _loaded.TryGet(deviceId, out var card) ? card : null;

    public JobFacts? Job(Guid jobId) => _jobs.GetValueOrDefault(jobId);

    /// <summary>The Card as it is judged: from where it was last judged, where that is here.</summary>
    public JudgedCard Judge(LoadedCard card, Catalogue catalogue)
    {
        var id = card.Facts.Place.Id;
        var judged =
            _judged.TryGet(id, out var before) && ReferenceEquals(before.Catalogue, catalogue)
                ? before.At(card.Facts)
                : JudgedCard.Of(card.Facts, catalogue);
        _judged.AddOrUpdate(id, judged);
        return judged;
    }

    public void Put(JobFacts job) => _jobs.TryAdd(job.Job.Id, job);

    public void Put(LoadedCard card) => _loaded.AddOrUpdate(card.Facts.Place.Id, card);

    public void Put(LoadedCard card, JudgedCard judged)
    {
        Put(card);
        _judged.AddOrUpdate(card.Facts.Place.Id, judged);
    }

    public void Remove(Guid deviceId)
    {
        _loaded.TryRemove(deviceId);
        _judged.TryRemove(deviceId);
    }

    /// <summary>What the Cards of a job share is another now: those that are here get it, and keep their entries.</summary>
    public void Renew(JobFacts job)
    {
        _jobs[job.Job.Id] = job;
        foreach (var (id, card) in _loaded.Where(c => c.Value.Job.Id == job.Job.Id).ToList())
            _loaded.AddOrUpdate(
                id,
                card with
                {
                    Job = job.Job,
                    People = job.People,
                    Facts = card.Facts with
                    {
                        Instruments = job.Instruments,
                        Channels = card.Facts.Channels.Any(c => c.RecorderFacts is not null)
                            ?
                            [
                                .. card.Facts.Channels.Select(c =>
                                    c.RecorderFacts is { } recorder
                                        ? c with
                                        {
                                            RecorderFacts = recorder with { Instruments = job.Instruments },
                                        }
                                        : c
                                ),
                            ]
                            : card.Facts.Channels,
                    },
                }
            );
    }

    public void Clear()
    {
        _loaded.Clear();
        _judged.Clear();
        _jobs.Clear();
    }
}
