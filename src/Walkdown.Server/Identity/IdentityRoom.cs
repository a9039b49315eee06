using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Diagnostics;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;
using Walkdown.Formats;
using Walkdown.Server.Addresses;
using Walkdown.Server.Cards;
using Walkdown.Server.Handover;
using Walkdown.Server.Readings;
using Walkdown.Server.Recording;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Identity;

/// <summary>What the channels of recorders show: looked at, compared, and told to the Cards. Pictures of a look live in memory
/// until the next one; what is told to a Card is kept with it.</summary>
public sealed class IdentityRoom(
    RecorderBook book,
    RecorderWork recorders,
    CardService cards,
    KeptFiles keptFiles,
    PictureIntake pictures,
    Observations observations,
    TimeProvider time
)
{
    /// <summary>So many pictures are had at once from one recorder: more would hold up what it records.</summary>
    private const int AtOnce = 4;

    /// <summary>So many agreed views are held ready.</summary>
    private const int MostPrints = 400;

    /// <summary>Pictures of so many recorders are held.</summary>
    private const int MostBoards = 8;

    /// <param name="Pictures">By channel, as they came.</param>
    /// <param name="Agreed">Pictures of the agreed views, by channel's id.</param>
    private sealed record Board(
        Guid JobId,
        int Number,
        DateTimeOffset At,
        double TookMs,
        ChannelViews Views,
        IReadOnlyDictionary<int, byte[]> Pictures,
        IReadOnlyDictionary<Guid, (Guid Picture, PlannedChannel Channel)> Agreed
    );

    private readonly ConcurrentDictionary<Guid, Board> _boards = new();
    private readonly ConcurrentDictionary<string, ViewPrint> _prints = new();
    private int _looks;

    /// <summary>Takes a picture of every channel, and compares.</summary>
    /// <exception cref="Refusal">There is no such recorder, or it cannot be asked.</exception>
    public async Task<LookAnswer> Look(Guid jobId, Guid recorderId, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        var known = await Known(jobId, recorderId);
        var plan = known.Planned.GroupBy(p => p.Number).ToDictionary(g => g.Key, g => g.First());
        var told = (known.Reading?.Channels ?? []).Where(c => c.State != ChannelState.Empty).Select(c => c.Number);
        var numbers = plan.Keys.Union(told).Order().ToArray();
        if (numbers.Length == 0)
            throw new Refusal(new("identity.no-channels", Message.Said(known.Label)));
        var of = 2 * numbers.Length;
        var done = 0;
        var at = time.GetUtcNow();
        var had = new ConcurrentDictionary<int, byte[]>();
        var why = new ConcurrentDictionary<int, Message>();
        await Parallel.ForEachAsync(
            numbers,
            new ParallelOptions { MaxDegreeOfParallelism = AtOnce, CancellationToken = cancel },
            async (number, stop) =>
            {
                var (picture, trouble) = await recorders.Picture(known.Label, number, stop);
                if (picture is not null)
                    had[number] = picture;
                if (trouble is not null)
                    why[number] = trouble;
                progress.Report((Interlocked.Increment(ref done), of));
            }
        );
        // One that does not answer at all is said so, and no board of nothing is shown.
        if (had.IsEmpty && why.Values.Distinct().ToArray() is [var all] && all.Code != "identity.nobody")
            throw new Refusal(all);
        var agreed = await Agreed(known, cancel);
        var began = Stopwatch.GetTimestamp();
        var seen = new SeenChannel[numbers.Length];
        Parallel.For(
            0,
            numbers.Length,
            new ParallelOptions { CancellationToken = cancel },
            i =>
            {
                var number = numbers[i];
                var grey = PictureFile.TryRead(had.GetValueOrDefault(number));
                if (grey is null && had.TryRemove(number, out _))
                    why[number] = new("identity.not-a-picture");
                var print = grey is null ? null : new ViewPrint(grey);
                seen[i] = new(number, plan.GetValueOrDefault(number), print, why.GetValueOrDefault(number));
            }
        );
        var views = ChannelViews.Of(
            seen,
            [.. agreed.Select(a => new AgreedPrint(a.Value.Channel, a.Value.Print))],
            known.Planned.Length,
            () => progress.Report((Interlocked.Increment(ref done), of)),
            cancel
        );
        var board = new Board(
            jobId,
            Interlocked.Increment(ref _looks),
            at,
            Stopwatch.GetElapsedTime(began).TotalMilliseconds,
            views,
            had,
            agreed.ToDictionary(a => a.Key, a => (a.Value.Picture, a.Value.Channel))
        );
        _boards[recorderId] = board;
        while (_boards.Count > MostBoards && _boards.MinBy(b => b.Value.Number) is var oldest)
            _boards.TryRemove(oldest);
        var right = views.Channels.Count(c => c.Finding == ShownView.Same);
        return new(numbers.Length, [new("identity.looked", Message.Number(right, 0), Message.Number(numbers.Length, 0))]);
    }

    /// <summary>What was seen last.</summary>
    /// <exception cref="Refusal">There is no such recorder.</exception>
    public async Task<IdentityBoard> Get(Guid jobId, Guid recorderId)
    {
        var known = await Known(jobId, recorderId);
        if (!_boards.TryGetValue(recorderId, out var board))
            return new(known.Label, null, 0, 0, [], [], 0, known.Planned.Length, recorders.CanRead);
        return new(
            known.Label,
            board.At,
            board.Number,
            board.TookMs,
            [
                .. board.Views.Channels.Select(c => new BoardChannel(
                    c,
                    board.Pictures.ContainsKey(c.Number),
                    c.Planned is { } own && board.Agreed.TryGetValue(own.Id, out var mine) ? mine.Picture : null,
                    [
                        .. c
                            .Compared.Where(v => board.Agreed.ContainsKey(v.Channel))
                            .Select(v =>
                            {
                                var (picture, channel) = board.Agreed[v.Channel];
                                return new BoardView(channel.Device, channel.Said, picture, v);
                            }),
                    ]
                )),
            ],
            board.Views.Exchanges,
            board.Views.Unagreed,
            known.Planned.Length,
            recorders.CanRead
        );
    }

    /// <summary>The picture of a channel of a look; null: it is not here any more.</summary>
    public byte[]? Picture(Guid jobId, Guid recorderId, int look, int channel) =>
        // Whoever may see one job asks for no picture of another.
        _boards.TryGetValue(recorderId, out var board)
        && board.JobId == jobId
        && board.Number == look
            ? board.Pictures.GetValueOrDefault(channel)
            : null;

    /// <summary>Tells the rows of channels what was seen, with the picture that it was seen in.</summary>
    /// <exception cref="Refusal">That look is not here any more.</exception>
    public async Task<LookAnswer> Tell(
        Guid jobId,
        Guid recorderId,
        TellViewsRequest request,
        IProgress<(int, int)> progress,
        CancellationToken cancel
    )
    {
        var known = await Known(jobId, recorderId);
        if (!_boards.TryGetValue(recorderId, out var board) || board.Number != request.Number)
            throw new Refusal(new("identity.gone"));
        if (request.Channels.IsDefaultOrEmpty)
            throw new Refusal(new("identity.none-chosen"));
        var chosen = request.Channels.ToHashSet();
        var lines = board.Views.Channels.Where(c => chosen.Contains(c.Number)).ToList();
        var refused = new List<(int Channel, Message Why)>();
        foreach (var line in lines)
        {
            cancel.ThrowIfCancellationRequested();
            if (await Tell(known, board, line, request.By, cancel) is { } why)
                refused.Add((line.Number, why));
            progress.Report((lines.IndexOf(line) + 1, lines.Count));
        }
        var told = lines.Count - refused.Count;
        return new(
            told,
            [
                new(told == 1 ? "identity.told-1" : "identity.told", Message.Number(told, 0)),
                .. refused
                    .GroupBy(r => r.Why)
                    .SelectMany(g => new[] { new Message("identity.not-told", string.Join(", ", g.Select(r => r.Channel))), g.Key }),
            ]
        );
    }

    /// <returns>Why it was not told; null: it was.</returns>
    private async Task<Message?> Tell(RecorderBook.Known known, Board board, ChannelView line, Guid by, CancellationToken cancel)
    {
        if (line is not { Planned: { } planned, ShowsPlanned: { } shows } || !board.Pictures.TryGetValue(line.Number, out var file))
            return new("identity.says-nothing");
        if (await cards.Judged(planned.Device) is not var (loaded, judged))
            return new("problem.unknown-card");
        if (judged.Plan.FirstOrDefault(r => r.Check.Id == ChannelView.Row && r.Key.On.Id == planned.Id) is not { } row)
            return new("identity.no-row");
        var value = new YesNoValue(shows);
        var picture = new NewPicture(Guid.CreateVersion7(), planned.Device, by, board.At, file, $"{known.Label} {line.Number}");
        if (await pictures.Take(picture, cancel) is var (_, why, _))
            return why;
        var kept = await observations.KeepSeen(
            known.JobId,
            planned.Device,
            new Dictionary<string, ReadingValue> { [row.Id] = value },
            line,
            board.At
        );
        var now = time.GetUtcNow();
        var (_, result) = await cards.Append(
            planned.Device,
            new ReadingRequest(
                Guid.CreateVersion7(),
                row.Id,
                ReadingSource.Typed,
                by,
                now,
                0,
                value,
                ObservationId: kept,
                Evidence: [new EvidenceRequest(picture.Id, null, line.Inputs, ChannelView.Algorithm, ChannelView.AlgorithmVersion)]
            ),
            cancel
        );
        return result.Kept is Kept.New or Kept.Already ? null : result.Why ?? new("problem.unforeseen");
    }

    /// <summary>Views of this recorder that were agreed with a picture, by the id of their channel.</summary>
    private async Task<Dictionary<Guid, (Guid Picture, PlannedChannel Channel, ViewPrint Print)>> Agreed(
        RecorderBook.Known known,
        CancellationToken cancel
    )
    {
        var devices = known.Planned.Select(p => p.Device).Distinct().ToList();
        var facts = (await cards.Judged(devices, cancel: cancel)).ToDictionary(c => c.Loaded.Facts.Place.Id, c => c.Loaded.Facts);
        var all = new Dictionary<Guid, (Guid, PlannedChannel, ViewPrint)>();
        foreach (var channel in known.Planned)
        {
            if (
                facts.GetValueOrDefault(channel.Device) is { } own
                && own.Heads.FirstOrDefault(h => h.Number == channel.Head) is { } head
                && own.AgreedView(head.Id)?.Picture is { } picture
                && Print(picture.PictureHash) is { } print
            )
                all[channel.Id] = (picture.PictureId, channel, print);
        }
        return all;
    }

    /// <summary>Made once for a picture; null: it was erased.</summary>
    private ViewPrint? Print(string hash)
    {
        if (!keptFiles.Has(hash))
        {
            _prints.TryRemove(hash, out _);
            return null;
        }
        if (_prints.TryGetValue(hash, out var made))
            return made;
        if (PictureFile.TryRead(keptFiles.Read(hash)) is not { } grey)
            return null;
        if (_prints.Count > MostPrints)
            _prints.Clear();
        return _prints[hash] = new(grey);
    }

    private async Task<RecorderBook.Known> Known(Guid jobId, Guid recorder) =>
        await book.Load(jobId, recorder) is { Length: 1 } known ? known[0] : throw new Refusal(new("recorder.none"));
}
