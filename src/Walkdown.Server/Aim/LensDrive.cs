using Walkdown.Core.Entries;
using Walkdown.Core.Focusing;
using Walkdown.Core.Measures;
using Walkdown.Devices.Discovery;
using Walkdown.Devices.Field;

namespace Walkdown.Server.Aim;

/// <summary>What the motor of a lens is asked for.</summary>
public enum MotorAsk
{
    /// <summary>To be driven through its focus, and left at the sharpest.</summary>
    Sharpest,

    /// <summary>A little on, or back.</summary>
    Step,

    /// <summary>To leave off, and go back to where it was.</summary>
    Stop,
}

/// <summary>About the motor of a lens.</summary>
/// <param name="By">Who asks.</param>
/// <param name="Share">Of a step: of its travel, negative: back.</param>
public sealed record MotorRequest(MotorAsk Ask, Guid By, double Share = 0) : IAsked;

/// <summary>The motor that focuses a head.</summary>
/// <param name="Travel">How far it can be driven.</param>
/// <param name="Place">Where it stands; null: it does not say.</param>
/// <param name="Sweep">What driving it through its focus has found; null: nobody asked.</param>
/// <param name="Trouble">Why it was not driven, or not back; null: it was, or nobody asked.</param>
public sealed record MotorLive(MotorTravel Travel, double? Place, MotorLook? Sweep, Message? Trouble)
{
    /// <summary>What was told of the focus is void once it is driven, and is entered so.</summary>
    public bool Voids { get; init; }
}

/// <summary>Drives the motor that focuses a head, a picture for each place; what fails or is left alone goes back to where it was.</summary>
internal sealed class LensDrive(OnvifCamera camera, int head, TimeProvider time)
{
    /// <summary>No motor takes longer through all of its travel.</summary>
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(12);

    /// <summary>Between two questions whether it still moves, and until its picture shows where it stands.</summary>
    private static readonly TimeSpan Beat = TimeSpan.FromMilliseconds(120),
        Settles = TimeSpan.FromMilliseconds(400);

    private const int MostTries = 3;

    private readonly FocusMotor _motor = new(camera, head, time);
    private readonly Lock _lock = new();
    private bool _isKnown,
        _isByHand,
        _isThere;
    private MotorTravel? _travel;
    private MotorSweep? _sweep;
    private double? _place,
        _began,
        _wanted;
    private Message? _trouble;

    /// <summary>What is known of it; null: it has none that can be driven from here, as far as is known.</summary>
    public MotorLive? Told
    {
        get
        {
            lock (_lock)
                return _travel is null ? null : new(_travel, _motor.IsSure ? _place : null, _sweep?.Look, _trouble);
        }
    }

    /// <summary>Takes an order; it is carried out before the next picture.</summary>
    /// <returns>False: there is no motor.</returns>
    public bool Ask(MotorRequest request)
    {
        lock (_lock)
        {
            if (_travel is not { } travel)
                return false;
            _trouble = null;
            switch (request.Ask)
            {
                case MotorAsk.Sharpest:
                    End();
                    (_sweep, _began) = (new(travel), _motor.IsSure ? _wanted ?? _place : null);
                    break;
                case MotorAsk.Step:
                    // Of steps that are pressed quickly each counts.
                    End();
                    _sweep = null;
                    _wanted = travel.Within((_wanted ?? _place ?? travel.Least) + request.Share * (travel.Most - travel.Least));
                    break;
                default:
                    End();
                    break;
            }
            return true;
        }
    }

    /// <summary>A sweep that is not over goes back to where it began; one that is says nothing of what comes after it.</summary>
    public void End()
    {
        lock (_lock)
        {
            if (_sweep?.Next is null)
            {
                _sweep = null;
                return;
            }
            _sweep.Fail(new("motor.stopped"));
            Back();
        }
    }

    /// <summary>Before a picture: drives where it is wanted, and waits until it is there.</summary>
    /// <exception cref="FieldTrouble">It wants a login.</exception>
    public async Task Before(CancellationToken cancel)
    {
        if (!_isKnown)
        {
            var travel = await _motor.Travel(cancel);
            var place = travel is null ? null : await Place(cancel);
            lock (_lock)
                (_travel, _place, _isKnown) = (travel, place, true);
        }
        while (true)
        {
            double to;
            MotorSweep? sweep = null;
            lock (_lock)
            {
                _isThere = false;
                if (_wanted is { } wanted)
                    (to, _wanted) = (wanted, null);
                else if (_sweep is { Next: { } next })
                    (to, sweep) = (next, _sweep);
                else
                    return;
            }
            Message? why = null;
            // One question that was lost on the way ends nothing.
            for (var tries = 0; tries < MostTries && (why = await Drive(to, cancel)) is not null; tries++)
                await Task.Delay(Settles, time, cancel);
            lock (_lock)
            {
                if (why is not null)
                {
                    // What is over stays as it was found.
                    sweep?.Fail(why);
                    (_trouble, _wanted) = (why, null);
                    return;
                }
                // Somebody asked for something else meanwhile.
                if (sweep is null || sweep != _sweep || sweep.Next != to)
                    continue;
                if (sweep.IsLook)
                {
                    _isThere = true;
                    return;
                }
                sweep.At(null);
            }
        }
    }

    /// <summary>After a picture: how sharp it is there.</summary>
    public void After(FocusLook? look)
    {
        lock (_lock)
        {
            if (!_isThere || _sweep?.Next is null)
                return;
            _isThere = false;
            _sweep.At(look is { Spots: [var target, ..] } ? target.Now.Detail : null);
            // What found nothing has changed nothing.
            if (_sweep.Look is { Phase: MotorPhase.Failed, Why.Code: not "motor.at-end" })
                Back();
        }
    }

    private void Back()
    {
        _wanted = _began;
        if (_began is null)
            _trouble = new("motor.left");
    }

    /// <summary>Nobody looks any more: it goes back, unless it stands where it was wanted.</summary>
    public async Task Leave()
    {
        End();
        double? to;
        lock (_lock)
            (to, _wanted) = (_wanted, null);
        if (to is not { } back)
            return;
        using var patience = new CancellationTokenSource(Longest, time);
        try
        {
            await _motor.Drive(back, patience.Token);
        }
        catch (Exception e) when (e is FieldTrouble or OperationCanceledException)
        {
            // It is not there to be driven; whoever comes next sees how sharp it is.
        }
    }

    /// <summary>Drives it, and waits until it stands.</summary>
    /// <returns>Why it is not there; null: it is.</returns>
    private async Task<Message?> Drive(double to, CancellationToken cancel)
    {
        try
        {
            if (!_isByHand)
                await _motor.ByHand(cancel);
            _isByHand = true;
            await _motor.Drive(to, cancel);
            var until = time.GetUtcNow() + Longest;
            while (true)
            {
                var (place, isMoving) = await _motor.Status(cancel);
                if (!isMoving)
                {
                    lock (_lock)
                        _place = place ?? to;
                    break;
                }
                if (time.GetUtcNow() > until)
                    return new("motor.stuck");
                await Task.Delay(Beat, time, cancel);
            }
            await Task.Delay(Settles, time, cancel);
            return null;
        }
        catch (FieldTrouble trouble) when (!trouble.WantsLogin)
        {
            return trouble.Why;
        }
    }

    private async Task<double?> Place(CancellationToken cancel)
    {
        try
        {
            return (await _motor.Status(cancel)).Position;
        }
        catch (FieldTrouble trouble) when (!trouble.WantsLogin)
        {
            return null;
        }
    }
}
