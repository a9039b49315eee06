using System.Collections.Immutable;
using System.Diagnostics;
using Walkdown.Core.Aiming;
using Walkdown.Core.Focusing;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;
using Walkdown.Devices.Discovery;
using Walkdown.Devices.Field;
using Walkdown.Formats;

namespace Walkdown.Server.Aim;

/// <summary>One picture of a head.</summary>
/// <param name="Number">Counts them.</param>
/// <param name="File">As the camera gave it.</param>
/// <param name="Since">When it was first seen.</param>
/// <param name="Look">What it says; null: no view with a picture was agreed.</param>
/// <param name="TookMs">From the picture to what it says.</param>
/// <param name="IsFile">It came from a file, not from the camera.</param>
/// <param name="Focus">How sharp it is; null: it is aimed.</param>
public sealed record AimShot(
    int Number,
    byte[] File,
    int Wide,
    int High,
    DateTimeOffset Since,
    AimLook? Look,
    double TookMs,
    bool IsFile,
    FocusLook? Focus
);

/// <summary>What pictures of a head are held against.</summary>
/// <param name="ViewId">The agreed view; null: none is.</param>
/// <param name="Target">Its picture; null: it has none that can be read.</param>
/// <param name="Tolerance">How far a picture may be off.</param>
internal sealed record AimAgainst(Guid? ViewId, AimTarget? Target, AimTolerance Tolerance);

/// <summary>An earlier picture that sharpness is held against.</summary>
/// <param name="Told">What is said of it.</param>
/// <param name="Picture">It; null: it cannot be read any more.</param>
internal sealed record FocusBefore(FocusAgainst Told, GreyRaster? Picture);

/// <summary>
/// One head that somebody aims: its camera is asked for pictures as quickly as it gives them, as long as anybody looks. Whoever turns and
/// whoever reads see the same picture and the same "stop".
/// </summary>
internal sealed class AimWatch : IDisposable
{
    /// <summary>Nobody has asked for so long: the camera is left alone, and its login is forgotten.</summary>
    private static readonly TimeSpan Alone = TimeSpan.FromSeconds(15);

    /// <summary>After a trouble the camera is left alone so long.</summary>
    private static readonly TimeSpan Rest = TimeSpan.FromSeconds(1);

    /// <summary>Wide enough to be measured in, pixels; larger ones only take longer.</summary>
    private const int LeastWide = 600;

    /// <summary>Whether two pictures show the same is asked as if they were so wide, degrees: a part of the picture, not of the world.</summary>
    private const double SameViewDeg = 90,
        MostOffDeg = 2.5;

    /// <summary>So many pictures stay for who has just seen them.</summary>
    private const int MostRecent = 12;

    /// <summary>No camera is asked more often.</summary>
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(80);

    private readonly Lock _lock = new();
    private readonly TimeProvider _time;
    private readonly CancellationTokenSource _over = new();
    private TaskCompletionSource _newer = new(TaskCreationOptions.RunContinuationsAsynchronously);
    private DateTimeOffset _asked;
    private readonly Queue<AimShot> _recent = new();
    private byte[]? _last;
    private FocusRun? _run;
    private FocusBefore? _before;
    private ImmutableArray<SpotDetail>? _beforeSpots;
    private volatile bool _isRunning;
    private Task _running = Task.CompletedTask;

    /// <param name="against">What its pictures are held against.</param>
    /// <param name="focus">Where to look how sharp they are; null: it is aimed.</param>
    /// <param name="before">An earlier picture, for focus; null: none was kept.</param>
    public AimWatch(AimAgainst against, TimeProvider time, PictureShare? focus = null, FocusBefore? before = null)
    {
        (Against, _time, _before) = (against, time, before);
        if (focus is { } target)
            _run = new(target);
        _asked = time.GetUtcNow();
    }

    /// <summary>What its pictures are held against.</summary>
    public AimAgainst Against { get; private set; }

    /// <summary>Somebody has agreed anew: from now on that counts, also for the picture that is shown.</summary>
    public void Hold(AimAgainst against)
    {
        AimShot? shot;
        lock (_lock)
        {
            (Against, BeforeLock) = (against, null);
            _recent.Clear();
            (shot, _last, Shot) = (Shot, null, Shot is null ? null : Shot with { Look = null });
        }
        if (shot is not null)
            Take(shot.File, shot.IsFile);
    }

    public AimShot? Shot { get; private set; }

    /// <summary>The picture of a number, the newest or one that was shown a moment ago: who presses has seen that one; null: it is gone.</summary>
    public AimShot? ShotOf(int number)
    {
        lock (_lock)
            return _recent.FirstOrDefault(s => s.Number == number);
    }

    public Message? Trouble { get; private set; }

    public bool WantsLogin { get; private set; }

    /// <summary>The last picture before its screws were tightened; null: they are loose.</summary>
    public AimShot? BeforeLock { get; private set; }

    public bool IsLive => _isRunning;

    /// <summary>It is looked how sharp its pictures are.</summary>
    public bool IsFocused => _run is not null;

    /// <summary>What sharpness is held against; null: nothing.</summary>
    public FocusAgainst? Before => _before?.Told;

    /// <summary>Looks elsewhere in the picture, or begins anew: what was measured is forgotten.</summary>
    public void Focus(PictureShare target)
    {
        AimShot? shot;
        lock (_lock)
        {
            (_run, _beforeSpots, _last) = (new(target), null, null);
            shot = Shot;
        }
        if (shot is { } shown)
            Take(shown.File, shown.IsFile);
    }

    /// <summary>Nobody has looked for a while.</summary>
    public bool IsForgotten => _time.GetUtcNow() - _asked > Alone * 8;

    /// <summary>Asks a camera until nobody looks any more, or its login is refused.</summary>
    public void Begin(OnvifCamera camera, int head)
    {
        _isRunning = true;
        _running = Task.Run(() => Run(camera, head));
    }

    private async Task Run(OnvifCamera camera, int head)
    {
        var over = _over.Token;
        SnapshotPlace? place = null;
        try
        {
            while (!over.IsCancellationRequested && _time.GetUtcNow() - _asked < Alone)
            {
                try
                {
                    place ??= SnapshotPlace.Choose(await camera.SnapshotPlaces(over), head, IsFocused ? int.MaxValue : LeastWide);
                    var isPicture = Take(await camera.Snapshot(place, over));
                    if (!isPicture)
                        Tell(new("aim.not-a-picture"), false);
                    await Task.Delay(isPicture ? Pause : Rest, _time, over);
                }
                catch (FieldTrouble trouble)
                {
                    Tell(trouble.Why, trouble.WantsLogin);
                    // A wrong login that is shown again and again locks a camera.
                    if (trouble.WantsLogin)
                        return;
                    await Task.Delay(Rest, _time, over);
                }
            }
        }
        catch (OperationCanceledException)
        {
            // Somebody began anew.
        }
        finally
        {
            _isRunning = false;
            Pulse();
        }
    }

    /// <summary>A picture, from the camera or from a file.</summary>
    /// <returns>False: it is none.</returns>
    public bool Take(byte[] file, bool isFile = false)
    {
        // A camera that tells the picture before has told nothing new: its age goes on.
        if (_last is not null && file.AsSpan().SequenceEqual(_last))
        {
            Tell(null, false);
            return true;
        }
        var began = Stopwatch.GetTimestamp();
        if (PictureFile.TryRead(file) is not { } grey)
            return false;
        var against = Against;
        var focus = IsFocused ? Sharp(grey) : null;
        var look =
            focus is null && against.Target is { } target
                ? AimLook.Of(target, grey, against.Tolerance, Shot?.Look?.State == AimState.Stop)
                : null;
        var took = Stopwatch.GetElapsedTime(began).TotalMilliseconds;
        lock (_lock)
        {
            // Held against what is agreed no more: the next one will say.
            if (against != Against)
                look = null;
            _last = file;
            Shot = new((Shot?.Number ?? 0) + 1, file, grey.Width, grey.Height, _time.GetUtcNow(), look, took, isFile, focus);
            _recent.Enqueue(Shot);
            if (_recent.Count > MostRecent)
                _recent.Dequeue();
            (Trouble, WantsLogin) = (null, false);
        }
        Pulse();
        return true;
    }

    /// <summary>How sharp it is, also against the earlier picture where that shows the same.</summary>
    private FocusLook Sharp(GreyRaster picture)
    {
        var run = _run!;
        if (_before is { Picture: { } before, Told.Why: null } earlier && _beforeSpots is null)
        {
            Message? why =
                (before.Width, before.Height) != (picture.Width, picture.Height) ? new("focus.other-size")
                : AimLook.Of(new(before, SameViewDeg, 0), picture, new(1, 1)) is { Measured: { } moved } && moved.OffDeg <= MostOffDeg
                    ? null
                : new("focus.other-view");
            if (why is null)
                _beforeSpots = FocusSpots.Of(before, run.Target);
            else
                _before = earlier with { Told = earlier.Told with { Why = why } };
        }
        return run.Next(picture, _beforeSpots);
    }

    private void Tell(Message? trouble, bool wantsLogin)
    {
        var changed = Trouble?.Code != trouble?.Code;
        (Trouble, WantsLogin) = (trouble, wantsLogin);
        if (changed)
            Pulse();
    }

    /// <summary>The camera is asked no more; what it showed last stays.</summary>
    public async Task Still()
    {
        await _over.CancelAsync();
        await _running;
    }

    /// <summary>Screws tight, or the cover on: what is measured from now on is against the picture before.</summary>
    public void Lock(bool tight)
    {
        lock (_lock)
        {
            BeforeLock = tight ? BeforeLock ?? Shot : null;
            if (IsFocused && BeforeLock is { } shot)
                (_before, _beforeSpots) = (new(new(shot.Since, true, null, null), PictureFile.TryRead(shot.File)), null);
        }
        Pulse();
    }

    /// <summary>Somebody looks; waits until there is something newer than he has, or for a while.</summary>
    public async Task Wait(int after, TimeSpan atMost, CancellationToken cancel)
    {
        _asked = _time.GetUtcNow();
        Task newer;
        lock (_lock)
        {
            if (Shot is { } shot && shot.Number > after || !_isRunning)
                return;
            newer = _newer.Task;
        }
        try
        {
            await newer.WaitAsync(atMost, _time, cancel);
        }
        catch (TimeoutException)
        {
            // Nothing newer: what there is is told again, older.
        }
        _asked = _time.GetUtcNow();
    }

    private void Pulse()
    {
        TaskCompletionSource before;
        lock (_lock)
            (before, _newer) = (_newer, new(TaskCreationOptions.RunContinuationsAsynchronously));
        before.TrySetResult();
    }

    public void Dispose()
    {
        _over.Cancel();
        Pulse();
    }
}
