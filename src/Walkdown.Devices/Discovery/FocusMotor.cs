using Walkdown.Core.Focusing;
using Walkdown.Devices.Field;

namespace Walkdown.Devices.Discovery;

/// <summary>What the motor that focuses a head takes.</summary>
/// <param name="Places">Places that it can be driven to; null: it takes none.</param>
/// <param name="Speed">Its quickest, in its own figures, where it can be told to run; null: it cannot.</param>
public sealed record FocusMoves(MotorTravel? Places, double? Speed);

/// <summary>The motor that focuses a head: driven to a place where the camera takes one; else run for as long as that takes, counted from
/// its near end, against which it runs first.</summary>
public sealed class FocusMotor(OnvifCamera camera, int head, TimeProvider time)
{
    /// <summary>Of a motor that can only run a place is so many seconds of running from its near end; so many are taken for all of
    /// its travel.</summary>
    public const double Through = 8;

    private const int StopTries = 3;

    private FocusMoves? _moves;

    /// <summary>Counted; until it was run against its end, from wherever it stood.</summary>
    private double _counted = Through / 2;
    private bool _isHome;

    /// <summary>Where it stands is known, or it says so itself.</summary>
    public bool IsSure => _moves?.Places is not null || _isHome;

    /// <summary>How far it can be driven; null: it has none that can be driven from here.</summary>
    /// <exception cref="FieldTrouble">It gave no answer to that, or wants a login.</exception>
    public async Task<MotorTravel?> Travel(CancellationToken cancel) =>
        (_moves = await camera.FocusMoves(head, cancel)) is { } moves ? moves.Places ?? new MotorTravel(0, Through) : null;

    /// <summary>Has the camera leave its focus alone.</summary>
    public Task ByHand(CancellationToken cancel) => camera.FocusByHand(head, cancel);

    /// <summary>Drives it; one that can only run is there when this is over.</summary>
    /// <param name="to">A place within its travel.</param>
    /// <exception cref="FieldTrouble">It does not take it.</exception>
    public async Task Drive(double to, CancellationToken cancel)
    {
        if (_moves is not { Places: null, Speed: { } speed })
        {
            await camera.DriveFocus(head, to, cancel);
            return;
        }
        // To its near end it runs as long as its whole travel takes: from then on it is known where it stands.
        var seconds = to <= 0 ? -Through : to - _counted;
        if (Math.Abs(seconds) < 1e-3)
            return;
        var began = time.GetTimestamp();
        try
        {
            await camera.RunFocus(head, Math.Sign(seconds) * speed, cancel);
            began = time.GetTimestamp();
            await Task.Delay(TimeSpan.FromSeconds(Math.Abs(seconds)), time, cancel);
        }
        finally
        {
            // Until it is known to stand, nothing is known of where.
            var wasHome = _isHome;
            _isHome = false;
            await Stop();
            var ran = Math.Sign(seconds) * time.GetElapsedTime(began).TotalSeconds;
            (_counted, _isHome) = (Math.Clamp(_counted + ran, 0, Through), wasHome || to <= 0 && -ran >= Through - 0.1);
        }
        if (to <= 0)
            _counted = 0;
    }

    /// <summary>Where it stands.</summary>
    /// <returns>Its place, null where nothing says it; whether it still moves.</returns>
    public async Task<(double? Position, bool IsMoving)> Status(CancellationToken cancel)
    {
        if (_moves is not { Places: null })
            return await camera.FocusStatus(head, cancel);
        return (_counted, false);
    }

    /// <summary>A motor that runs is stopped, whoever has left meanwhile.</summary>
    private async Task Stop()
    {
        for (var tries = 1; ; tries++)
            try
            {
                using var patience = new CancellationTokenSource(TimeSpan.FromSeconds(2), time);
                await camera.StopFocus(head, patience.Token);
                return;
            }
            catch (Exception e) when (e is FieldTrouble or OperationCanceledException && tries < StopTries)
            {
                // Asked once more: a lens that runs on stands at its end, and is out of focus.
            }
    }
}
