using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Walking;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Walk;

/// <summary>
/// The Walk of each job in memory: loaded once, followed by the ledger's summaries, and written out once per change however many ask. A
/// change of the register loads it anew.
/// </summary>
public sealed class WalkBoards : IDisposable
{
    private readonly Ledger _ledger;
    private readonly CatalogueStore _catalogue;
    private readonly TimeProvider _time;
    private readonly Dictionary<Guid, Board> _boards = [];
    private readonly SemaphoreSlim _refreshing = new(1, 1);
    private readonly Lock _lock = new();

    public WalkBoards(Ledger ledger, CatalogueStore catalogue, TimeProvider time)
    {
        _time = time;
        _ledger = ledger;
        _catalogue = catalogue;
        ledger.Summarised += Follow;
        ledger.Committed += Forget;
        ledger.Unsettled += job =>
        {
            lock (_lock)
                _boards.Remove(job);
        };
    }

    /// <summary>The board of a job; null where no such job is on record.</summary>
    public async Task<Board?> Of(Guid jobId)
    {
        var inForce = _catalogue.Current;
        lock (_lock)
            if (_boards.TryGetValue(jobId, out var known) && known.Signature == inForce.Signature && !known.HasEnded())
                return known;
        // What was judged by another catalogue or program is judged anew before anybody sees it; many who ask at once wait for one.
        await _refreshing.WaitAsync();
        try
        {
            await _ledger.Refresh(jobId, inForce.Catalogue);
        }
        finally
        {
            _refreshing.Release();
        }
        // Loaded while nobody writes, so that no summary slips between the load and the first that is heard.
        return await _ledger.Quiet(async () =>
        {
            var board = await Board.Load(_ledger, jobId, inForce, _time);
            if (board is not null)
                lock (_lock)
                    _boards[jobId] = board;
            return board;
        });
    }

    public void Dispose() => _refreshing.Dispose();

    /// <summary>After a restore: everything is another.</summary>
    public void ForgetAll()
    {
        lock (_lock)
            _boards.Clear();
    }

    private void Follow(CardSummary summary, long sequence)
    {
        lock (_lock)
            if (_boards.TryGetValue(summary.JobId, out var board))
                board.Follow(summary, sequence);
    }

    private void Forget(JournalEntry entry, ImmutableArray<Guid> _)
    {
        // Entries of one Card have told their summaries; of the register's, and of changes, the map says which alter the Walk.
        if (
            entry.DeviceId is not null && entry.Kind != "register"
            || entry.DeviceId is null && !ChangeMap.Of(entry.Kind).HasFlag(Alters.Walk)
        )
            return;
        lock (_lock)
            _boards.Remove(entry.JobId);
    }
}

/// <summary>One job's Walk.</summary>
public sealed class Board
{
    private readonly Lock _lock = new();
    private readonly TimeProvider _time;
    private readonly Job _job;
    private readonly ImmutableArray<RoundStop> _order;
    private readonly Dictionary<Guid, WalkStop> _stops;
    private readonly Dictionary<Guid, long> _changedAt = [];
    private readonly Dictionary<Guid, Verdict> _verdicts;
    private readonly ImmutableArray<WalkCabinet> _cabinets;
    private readonly WalkDrawing? _drawing;
    private readonly long _loadedAt;
    private long _sequence;
    private Guid? _lastWorked;
    private readonly AreaBytes[] _areas;
    private readonly Dictionary<Guid, AreaBytes> _areaOf = [];
    private (long At, DateTimeOffset Until, byte[] Bytes)? _whole;

    private Board(
        Job job,
        ImmutableArray<RoundStop> order,
        Dictionary<Guid, WalkStop> stops,
        ImmutableArray<WalkCabinet> cabinets,
        WalkDrawing? drawing,
        long sequence,
        Guid? lastWorked,
        string signature,
        TimeProvider time
    )
    {
        _time = time;
        (_job, _order, _stops, _cabinets, _drawing, _loadedAt, _sequence, _lastWorked, Signature) = (
            job,
            order,
            stops,
            cabinets,
            drawing,
            sequence,
            sequence,
            lastWorked,
            signature
        );
        _verdicts = stops.ToDictionary(s => s.Key, s => s.Value.Verdict);
        _areas = [.. order.Select(s => stops[s.Id]).GroupBy(s => s.Area).Select(a => new AreaBytes(a.Key, [.. a.Select(s => s.Id)]))];
        foreach (var area in _areas)
        foreach (var stop in area.Stops)
            _areaOf[stop] = area;
    }

    /// <summary>Of the catalogue it was made with.</summary>
    public string Signature { get; }

    private DateTimeOffset _endsAt = DateTimeOffset.MaxValue;

    /// <summary>What could be done somewhere no longer can, such as after dawn: summaries are judged anew.</summary>
    internal bool HasEnded()
    {
        lock (_lock)
            return _endsAt <= _time.GetUtcNow();
    }

    public ImmutableArray<RoundStop> Order => _order;

    /// <summary>The newest entry that the Walk shows.</summary>
    public long Sequence
    {
        get
        {
            lock (_lock)
                return _sequence;
        }
    }

    /// <summary>Stops of an area in their order; null: of all.</summary>
    public IEnumerable<Guid> StopsOf(string? area) => _areas.Where(a => area is null || a.Name == area).SelectMany(a => a.Stops);

    internal static async Task<Board?> Load(Ledger ledger, Guid jobId, CatalogueStore.InForce inForce, TimeProvider time)
    {
        await using var db = ledger.OpenDb();
        if (await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId) is not { } job)
            return null;
        var devices = await db.Devices.Include(d => d.Area).Where(d => d.JobId == jobId && !d.Cancelled).ToListAsync();
        var cards = await db.Cards.Where(c => c.JobId == jobId).ToDictionaryAsync(c => c.DeviceId);
        var order = Round.Order(
            devices.Select(d => new RoundStop(
                d.Id,
                d.Label,
                d.Area.Order,
                inForce.Catalogue.FeaturesOf(d.Kind, []).Contains("recorder"),
                d.X,
                d.Y
            ))
        );
        var stops = devices.ToDictionary(
            d => d.Id,
            d =>
                Shown(
                    new WalkStop(
                        d.Id,
                        d.Label,
                        d.Name,
                        d.Area.Name,
                        d.Kind,
                        Verdict.Open,
                        [],
                        0,
                        0,
                        0,
                        d.X,
                        d.Y,
                        d.Reach == "ground" ? [] : [d.Reach],
                        null
                    ),
                    cards.GetValueOrDefault(d.Id)
                )
        );
        var cabinets = await db
            .Cabinets.Where(c => c.JobId == jobId)
            .OrderBy(c => c.Label)
            .Select(c => new WalkCabinet(c.Id, c.Label, c.Name, c.X, c.Y))
            .ToListAsync();
        var drawing = await db
            .Drawings.Where(d => d.JobId == jobId)
            .Select(d => new WalkDrawing(d.Hash, d.Name, d.WidthPixels, d.HeightPixels, d.MetresPerPixel, d.LeftMetres, d.TopMetres))
            .FirstOrDefaultAsync();
        var sequence = await db.Journal.MaxAsync(j => (long?)j.Sequence) ?? 0;
        return new Board(
            job,
            order,
            stops,
            [.. cabinets],
            drawing,
            sequence,
            cards.Values.Where(c => c.LastSequence > 0).MaxBy(c => c.LastSequence)?.DeviceId,
            inForce.Signature,
            time
        )
        {
            _endsAt = devices
                .Select(d => cards.GetValueOrDefault(d.Id)?.WaitsEnds)
                .OfType<DateTimeOffset>()
                .DefaultIfEmpty(DateTimeOffset.MaxValue)
                .Min(),
        };
    }

    internal void Follow(CardSummary summary, long sequence)
    {
        lock (_lock)
        {
            // Two entries may be told out of order; the older one has nothing to add.
            if (
                !_stops.TryGetValue(summary.DeviceId, out var stop)
                || sequence <= _loadedAt
                || _changedAt.GetValueOrDefault(summary.DeviceId) > sequence
            )
                return;
            _stops[summary.DeviceId] = Shown(stop, summary);
            if (summary.WaitsEnds is { } ends && ends < _endsAt)
                _endsAt = ends;
            _verdicts[summary.DeviceId] = summary.Verdict;
            _changedAt[summary.DeviceId] = sequence;
            _areaOf[summary.DeviceId].Bytes = null;
            if (sequence > _sequence && summary.LastSequence == sequence)
                _lastWorked = summary.DeviceId;
            _sequence = Math.Max(_sequence, sequence);
        }
    }

    /// <summary>The whole Walk as JSON. Areas are written out once, and again only when one of their Stops changed.</summary>
    public byte[] Whole()
    {
        lock (_lock)
        {
            // What waits comes back by itself: the next Stop is another then, though nothing was entered.
            var now = _time.GetUtcNow();
            if (_whole is { } known && known.At == _sequence && now < known.Until)
                return known.Bytes;
            // The frame is an answer without areas; they go where its empty list stands.
            var frame = JsonSerializer.Serialize(Answer([]), CoreJson.Options);
            const string Empty = "\"areas\":[]";
            var at = frame.IndexOf(Empty, StringComparison.Ordinal) + Empty.Length - 1;
            using var stream = new MemoryStream(_areas.Sum(a => a.Bytes?.Length ?? 40_000) + frame.Length + 64);
            stream.Write(Encoding.UTF8.GetBytes(frame[..at]));
            for (var i = 0; i < _areas.Length; i++)
            {
                var bytes = _areas[i].Bytes ??= JsonSerializer.SerializeToUtf8Bytes(
                    new WalkArea(_areas[i].Name, [.. _areas[i].Stops.Select(id => _stops[id])]),
                    CoreJson.Options
                );
                if (i > 0)
                    stream.WriteByte((byte)',');
                stream.Write(bytes);
            }
            stream.Write(Encoding.UTF8.GetBytes(frame[at..]));
            _whole = (
                _sequence,
                _stops.Values.Where(s => s.WaitsUntil > now).Select(s => s.WaitsUntil!.Value).DefaultIfEmpty(DateTimeOffset.MaxValue).Min(),
                stream.ToArray()
            );
            return _whole.Value.Bytes;
        }
    }

    private WalkAnswer Answer(ImmutableArray<WalkArea> areas) =>
        new(_job.Id, _job.Name, _job.TimeZone, _job.Simulated, areas, _cabinets, _drawing, Next(), Verdicts(), _sequence);

    /// <summary>What has changed since; null where it must be asked for as a whole.</summary>
    public WalkChanges? Since(long sequence)
    {
        lock (_lock)
            // A sequence beyond this one's is of another record, such as before a restore.
            return sequence < _loadedAt || sequence > _sequence
                ? null
                : new WalkChanges([.. _changedAt.Where(c => c.Value > sequence).Select(c => _stops[c.Key])], Next(), Verdicts(), _sequence);
    }

    private NextStop? Next() =>
        Round.Next(
            _order,
            _verdicts,
            _lastWorked,
            _stops.Where(s => s.Value.Blocked is not null || s.Value.Total == 0 || IsWaiting(s.Value)).Select(s => s.Key).ToHashSet()
        );

    /// <summary>All that is left there waits: until a time that has not come, or for what nobody has said is there.</summary>
    private bool IsWaiting(WalkStop stop) => stop.WaitsFor is not null && (stop.WaitsUntil is not { } until || until > _time.GetUtcNow());

    private ImmutableDictionary<string, int> Verdicts() =>
        Enum.GetValues<Verdict>().ToImmutableDictionary(v => Codes.Of(v), v => _verdicts.Values.Count(x => x == v));

    private static WalkStop Shown(WalkStop stop, CardSummary? card) =>
        card is null
            ? stop
            : stop with
            {
                Verdict = card.Verdict,
                Taken = card.Taken,
                Total = card.Total,
                OpenFaults = card.OpenFaults,
                Legs = [.. Stored.Read<State[]>(card.LegsJson) ?? []],
                WaitsUntil = card.WaitsUntil,
                WaitsFor = card.WaitsFor,
                Blocked = card.BlockJson is { } json
                    ? JsonSerializer.Deserialize<Block>(json, CoreJson.Options) is { } b
                        ? new WalkBlock(b.SetAside ? null : b.BlockedBy, b.Reason, b.Until)
                        : null
                    : null,
            };

    /// <summary>An area as it is written out; no bytes where one of its Stops has changed since.</summary>
    private sealed class AreaBytes(string name, ImmutableArray<Guid> stops)
    {
        public string Name => name;
        public ImmutableArray<Guid> Stops => stops;
        public byte[]? Bytes { get; set; }
    }
}
