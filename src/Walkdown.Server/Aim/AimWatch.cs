using System.Collections.Immutable;
using System.Diagnostics;
using Walkdown.Core.Aiming;
using Walkdown.Core.Focusing;
using Walkdown.Core.Measures;
using Walkdown.Core.Nights;
using Walkdown.Core.Optics;
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
/// <param name="Focus">How sharp it is; null: it is not focused.</param>
/// <param name="Night">What the dark does to it; null: it is not looked at by night.</param>
public sealed record AimShot(
    int Number,
    byte[] File,
    int Wide,
    int High,
    DateTimeOffset Since,
    AimLook? Look,
    double TookMs,
    bool IsFile,
    FocusLook? Focus,
    NightLook? Night
)
{
    /// <summary>How far hands that laid it flat may have moved it, degrees of the axis and about it.</summary>
    public (double OffDeg, double RollDeg) Hand { get; init; }

    /// <summary>What harms the agreed view; null: nothing can be told of it.</summary>
    public ImmutableArray<ViewHarm>? Harms { get; init; }

    /// <summary>How its targets are lit; null: it lies too far off to say where they are.</summary>
    public ImmutableArray<TargetLight>? Lights { get; init; }
}

/// <summary>What pictures of a head are held against.</summary>
/// <param name="ViewId">The agreed view; null: none is.</param>
/// <param name="Target">Its picture; null: it has none that can be read.</param>
/// <param name="Tolerance">How far a picture may be off.</param>
/// <param name="Design">As it was agreed; null: none is.</param>
internal sealed record AimAgainst(Guid? ViewId, AimTarget? Target, AimTolerance Tolerance, ViewDesign? Design);

/// <summary>What a head is looked at for.</summary>
public enum AimUse
{
    /// <summary>How it hangs against the agreed view.</summary>
    Aim,

    /// <summary>How sharp it is.</summary>
    Focus,

    /// <summary>What the dark does to it.</summary>
    Night,
}

/// <summary>What a head is looked at for, and where in its picture; how it hangs is told of all of it.</summary>
internal sealed record LookedFor(AimUse Use, PictureShare Target);

/// <summary>A picture by day that night pictures are held against.</summary>
/// <param name="Told">What is said of it.</param>
/// <param name="Picture">It; null: it cannot be read any more.</param>
/// <param name="Known">What else is known of the camera.</param>
internal sealed record NightBefore(NightAgainst? Told, GreyRaster? Picture, VeilKnown Known);

/// <summary>An earlier picture that sharpness is held against.</summary>
/// <param name="Told">What is said of it.</param>
/// <param name="Picture">It; null: it cannot be read any more.</param>
internal sealed record FocusBefore(FocusAgainst Told, GreyRaster? Picture);

/// <summary>
/// One head that somebody aims or focuses: its camera is asked for pictures as quickly as it gives them, as long as anybody looks. Whoever
/// turns and whoever reads see the same picture and the same "stop".
/// </summary>
internal sealed class AimWatch : IDisposable
{
    /// <summary>Nobody has asked for so long: the camera is left alone, and its login is forgotten.</summary>
    private static readonly TimeSpan Alone = TimeSpan.FromSeconds(15);

    /// <summary>After a trouble the camera is left alone so long.</summary>
    private static readonly TimeSpan Rest = TimeSpan.FromSeconds(1);

    /// <summary>Wide enough to be measured in, pixels; larger ones only take longer.</summary>
    private const int LeastWide = 600;

    /// <summary>So many pictures stay for who has just seen them.</summary>
    private const int MostRecent = 12;

    /// <summary>No camera is asked more often.</summary>
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(80);

    private readonly Lock _lock = new();

    /// <summary>One picture is measured after another: the camera's, and one that is shown and looked at anew.</summary>
    private readonly Lock _measuring = new();
    private readonly TimeProvider _time;
    private readonly CancellationTokenSource _over = new();
    private TaskCompletionSource _newer = new(TaskCreationOptions.RunContinuationsAsynchronously);
    private DateTimeOffset _asked;
    private readonly Queue<AimShot> _recent = new();
    private byte[]? _last;
    private readonly FocusBefore? _kept;
    private readonly NightBefore? _byDay;
    private FocusRun? _focus;
    private NightRun? _night;

    /// <summary>So much of a picture must agree that what it tells of the lens is believed.</summary>
    private const double SureOfLens = 0.8;

    /// <summary>How far its lens bends lines, by the pictures so far; null: none told.</summary>
    private double? _bend;
    private SwayRun? _sway;
    private LensDrive? _drive;

    /// <summary>As of the last picture: whoever asks does not wait for the one that is being measured.</summary>
    private volatile SwayLook? _swayLook;
    private int _number;
    private volatile bool _isRunning;
    private Task _running = Task.CompletedTask;

    /// <param name="against">What its pictures are held against.</param>
    /// <param name="number">Of the last picture of the head that anybody may still be looking at; 0: none.</param>
    /// <param name="wanted">What they are looked at for.</param>
    /// <param name="kept">An earlier picture, for focus; null: none was kept.</param>
    /// <param name="byDay">The same view by day, for the night; null: it is not looked at for that.</param>
    public AimWatch(AimAgainst against, TimeProvider time, int number, LookedFor wanted, FocusBefore? kept, NightBefore? byDay)
    {
        (Against, _time, _number, Wanted, _kept, _byDay) = (against, time, number, wanted, kept, byDay);
        LookAt(wanted.Target, kept?.Picture);
        _asked = time.GetUtcNow();
    }

    /// <summary>What its pictures are held against.</summary>
    public AimAgainst Against { get; private set; }

    /// <summary>Somebody has agreed anew: from now on that counts, also for the picture that is shown.</summary>
    public void Hold(AimAgainst against)
    {
        lock (_lock)
        {
            (Against, BeforeLock, _bend) = (against, null, null);
            _recent.Clear();
            Shot = Shot is null ? null : Shot with { Look = null, Harms = null, Lights = null };
        }
        Again();
    }

    public AimShot? Shot { get; private set; }

    /// <summary>The picture of a number, the newest or one that was shown a moment ago: who presses has seen that one; null: it is
    /// gone.</summary>
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

    /// <summary>What its pictures are looked at for.</summary>
    public LookedFor Wanted { get; }

    /// <summary>The picture by day; null: there is none.</summary>
    public NightAgainst? ByDay =>
        _byDay?.Told is { } told ? told with { Why = told.Why ?? (Shot?.Night is { Veil: null, Why: { } why } ? why : null) } : null;

    /// <summary>What was done about the night.</summary>
    public ImmutableArray<NightTry> Tries
    {
        get
        {
            lock (_measuring)
                return [.. _night?.Tries ?? []];
        }
    }

    /// <summary>What is worth doing about the night next; once it is gone, what can have done it.</summary>
    public ImmutableArray<NightAct> Next =>
        Shot?.Night is { } look
            ? NightTries.Next(look.Reasons, _byDay?.Known.HasCover, Tries, isGone: look.State != NightState.Veiled)
            : [];

    /// <summary>Something was done about the night: pictures from now on say what it changed.</summary>
    /// <returns>False: nothing lies over the picture, as far as is known.</returns>
    public bool Tried(NightAct act)
    {
        lock (_measuring)
            if (_night?.Tried(act) != true)
                return false;
        lock (_lock)
            _last = null;
        Pulse();
        return true;
    }

    /// <summary>Somebody walks through what its white light watches.</summary>
    /// <returns>False: it has none, or is not looked at by night.</returns>
    public bool Walked()
    {
        lock (_measuring)
            if (_night?.Walked(_time.GetUtcNow()) != true)
                return false;
        lock (_lock)
            _last = null;
        Pulse();
        return true;
    }

    /// <summary>How still it stands; null: nobody asked, or it was touched since.</summary>
    public SwayLook? Sway => _swayLook;

    /// <summary>How still it stands is measured from now on; null: it is asked no more.</summary>
    public void Watch(SwayTolerance? tolerance)
    {
        lock (_measuring)
            Told(tolerance is null ? null : new SwayRun(tolerance));
        Again();
    }

    /// <summary>What it says is there for whoever asks; while it is measured.</summary>
    private void Told(SwayRun? sway) => (_sway, _swayLook) = (sway, sway?.Look);

    /// <summary>Nobody will push it.</summary>
    public void Unpushed()
    {
        lock (_measuring)
        {
            _sway?.Unpushed();
            Told(_sway);
        }
        Again();
    }

    /// <summary>Of the last picture; 0: there was none yet.</summary>
    public int Number => _number;

    /// <summary>What sharpness is held against; null: nothing.</summary>
    public FocusAgainst? Before =>
        (BeforeLock is { } shot ? new(shot.Since, true, null, null) : _kept?.Told) is { } told
            ? told with
            {
                Why = told.Why ?? Shot?.Focus?.Unlike,
            }
            : null;

    /// <summary>Looks elsewhere in the picture, or begins anew: what was measured is forgotten.</summary>
    public void Focus(PictureShare target)
    {
        // What was measured elsewhere says nothing of it.
        _drive?.End();
        lock (_measuring)
            LookAt(target, Earlier());
        Again();
    }

    private void LookAt(PictureShare target, GreyRaster? earlier)
    {
        if (Wanted.Use == AimUse.Focus)
            _focus = new(target, earlier);
        if (Wanted.Use == AimUse.Night)
            _night = new(target, _byDay?.Picture, _byDay?.Known ?? new());
    }

    /// <summary>The picture that sharpness is held against; null: none that can be read.</summary>
    private GreyRaster? Earlier() => BeforeLock is { } shot ? PictureFile.TryRead(shot.File) : _kept?.Picture;

    /// <summary>The picture that is shown is measured anew.</summary>
    private void Again()
    {
        AimShot? shot;
        lock (_lock)
            (shot, _last) = (Shot, null);
        if (shot is not null)
            Take(shot.File, shot.IsFile, shot.Hand, isAgain: true);
    }

    /// <summary>Nobody has looked for a while.</summary>
    public bool IsForgotten => _time.GetUtcNow() - _asked > Alone * 8;

    /// <summary>Asks a camera until nobody looks any more, or its login is refused.</summary>
    public void Begin(OnvifCamera camera, int head)
    {
        _isRunning = true;
        if (Wanted.Use == AimUse.Focus)
            _drive = new(camera, head, _time);
        _running = Task.Run(() => Run(camera, head));
    }

    /// <summary>The motor that focuses it; null: it is not focused live, or has none that can be driven.</summary>
    public MotorLive? Motor => _isRunning ? _drive?.Told : null;

    /// <summary>Has the motor driven.</summary>
    /// <returns>False: there is none.</returns>
    public bool Drive(MotorRequest request) => _isRunning && _drive?.Ask(request) == true;

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
                    place ??= SnapshotPlace.Choose(
                        await camera.SnapshotPlaces(over),
                        head,
                        Wanted.Use == AimUse.Aim ? LeastWide : int.MaxValue
                    );
                    if (_drive is not null)
                        await _drive.Before(over);
                    var isPicture = Take(await camera.Snapshot(place, over));
                    _drive?.After(Shot?.Focus);
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
            // A login that was refused is not shown again.
            if (_drive is not null && !WantsLogin)
                await _drive.Leave();
            _isRunning = false;
            // Without pictures nothing more can be told of what was begun.
            lock (_measuring)
                if (_sway is { IsDone: false })
                    Told(null);
            Pulse();
        }
    }

    /// <summary>A picture, from the camera or from a file.</summary>
    /// <returns>False: it is none, or none that can be measured.</returns>
    /// <param name="isAgain">It is the one that was shown already.</param>
    public bool Take(byte[] file, bool isFile = false, (double OffDeg, double RollDeg) hand = default, bool isAgain = false)
    {
        lock (_measuring)
        {
            // A camera that tells the picture before has told nothing new: its age goes on.
            if (_last is not null && file.AsSpan().SequenceEqual(_last))
            {
                Tell(null, false);
                return true;
            }
            var began = Stopwatch.GetTimestamp();
            var against = Against;
            if (PictureFile.TryReadSeen(file) is not { Grey: var grey } seen)
                return false;
            var (focus, night) = (_focus?.Next(grey), _night?.Next(seen, _time.GetUtcNow()));
            // While it is left alone nobody turns it: pictures come the quicker, and more of them tell of its sway.
            var isWatched = _sway is { IsDone: false };
            if (isWatched && !isAgain)
            {
                _sway!.Next(grey, _time.GetUtcNow());
                Told(_sway);
            }
            var look =
                !isWatched && Wanted.Use == AimUse.Aim && against.Target is { } target
                    ? AimLook.Of(target, grey, against.Tolerance, Shot?.Look?.State == AimState.Stop, hand, _bend)
                    : null;
            // What one picture told of the lens holds for those after it, which lie too near to tell; one with a lorry before half of it does not.
            if (look?.Measured is { Bend: { } bend, Agreement: >= SureOfLens })
                _bend = bend;
            var harms = look is null ? null : ViewHarm.Of(against.Target!, look, grey);
            // Where it lies on the agreed view the targets are known too.
            var lights =
                harms is null || against.Design is not { } design
                    ? (ImmutableArray<TargetLight>?)null
                    : TargetLight.Of(design, grey, _bend ?? 0);
            var took = Stopwatch.GetElapsedTime(began).TotalMilliseconds;
            lock (_lock)
            {
                // Held against what is agreed no more: the next one will say.
                if (against != Against)
                    (look, harms, lights) = (null, null, null);
                _last = file;
                Shot = new(++_number, file, grey.Width, grey.Height, _time.GetUtcNow(), look, took, isFile, focus, night)
                {
                    Hand = hand,
                    Harms = harms,
                    Lights = lights,
                };
                _recent.Enqueue(Shot);
                if (_recent.Count > MostRecent)
                    _recent.Dequeue();
                (Trouble, WantsLogin) = (null, false);
            }
        }
        Pulse();
        return true;
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
        lock (_measuring)
        {
            lock (_lock)
                BeforeLock = tight ? BeforeLock ?? Shot : null;
            Told(null);
            _focus?.Hold(Earlier());
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
