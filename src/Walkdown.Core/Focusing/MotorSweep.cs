using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Focusing;

/// <summary>How far the motor of a lens can be driven, in the camera's own figures.</summary>
/// <param name="Least">One end.</param>
/// <param name="Most">The other; above the first.</param>
public sealed record MotorTravel(double Least, double Most)
{
    /// <summary>It is a travel at all.</summary>
    public bool IsSound => double.IsFinite(Most - Least) && Most > Least;

    /// <summary>A place within it.</summary>
    public double Within(double position) => Math.Clamp(position, Least, Most);
}

/// <summary>How sharp the target was with the motor at a place.</summary>
/// <param name="Position">In the camera's own figures.</param>
/// <param name="Detail">Energy of slopes at the target, freed of noise; 0: nothing could be told.</param>
public sealed record MotorStep(double Position, double Detail);

/// <summary>What a sweep of the motor is at.</summary>
public enum MotorPhase
{
    /// <summary>Once through all of its travel.</summary>
    Through,

    /// <summary>More finely about the sharpest that was seen.</summary>
    Finer,

    /// <summary>Back to the sharpest, and a look whether it is there.</summary>
    Back,

    /// <summary>It stands at its sharpest, as seen.</summary>
    Done,

    /// <summary>It found none; why is told.</summary>
    Failed,
}

/// <summary>What a sweep of the motor has found so far.</summary>
/// <param name="Phase">What it is at.</param>
/// <param name="Why">Why it failed; null: it has not.</param>
/// <param name="Steps">What was seen, in turn.</param>
/// <param name="Planned">Places that it looks at in all, as far as is known now.</param>
/// <param name="Top">Where it is sharpest; null: not known yet.</param>
/// <param name="OfBest">The last look as a share of the sharpest that was seen; null: no look back yet.</param>
public sealed record MotorLook(MotorPhase Phase, Message? Why, ImmutableArray<MotorStep> Steps, int Planned, double? Top, double? OfBest);

/// <summary>
/// Drives the motor of a lens through its focus and leaves it at the sharpest: once through all of its travel, then more finely about the
/// best, each pass from the same side, since gears have play; then back, and a look whether it is as sharp there (docs/calculations.md, N).
/// </summary>
public sealed class MotorSweep
{
    /// <summary>Places of the first pass, and of each finer one about its best.</summary>
    private const int First = 15,
        Each = 9;

    /// <summary>Where its neighbours are as sharp as this, the top needs no finer pass.</summary>
    private const double Flat = 0.97;

    /// <summary>As sharp as this, back at the top, is there.</summary>
    private const double There = 0.94;

    private const int MostPasses = 6;

    /// <summary>Play of gears is taken to be at most this share of the travel.</summary>
    private const double Play = 0.02;

    private readonly MotorTravel _travel;
    private readonly List<MotorStep> _steps = [];
    private readonly Queue<(double Place, bool IsLook)> _places = new();
    private List<MotorStep> _pass = [],
        _through = [];
    private MotorPhase _phase;
    private Message? _why,
        _whyAtEnd;
    private double _step,
        _best;
    private double? _top,
        _ofBest;
    private int _passes;

    /// <param name="travel">A sound one.</param>
    public MotorSweep(MotorTravel travel)
    {
        _travel = travel;
        _step = (travel.Most - travel.Least) / (First - 1);
        Begin(MotorPhase.Through, travel.Least, travel.Most, First);
    }

    /// <summary>Where to drive next; null: it is over.</summary>
    public double? Next => _places.TryPeek(out var next) ? next.Place : null;

    /// <summary>Whether the next place is looked at; one that is not is only driven to, so that the one after it is come to from
    /// below.</summary>
    public bool IsLook => _places.TryPeek(out var next) && next.IsLook;

    /// <summary>What it has found so far.</summary>
    public MotorLook Look => new(_phase, _why, [.. _steps], _steps.Count + Ahead, _top, _ofBest);

    /// <summary>Looks that are sure to come.</summary>
    private int Ahead =>
        _places.Count(p => p.IsLook)
        + _phase switch
        {
            MotorPhase.Through => Each + 1,
            MotorPhase.Finer => 1,
            _ => 0,
        };

    /// <summary>The motor stands at <see cref="Next"/>.</summary>
    /// <param name="detail">How sharp the target is there; null: nothing could be told, or it is not looked at.</param>
    public void At(double? detail)
    {
        var (place, isLook) = _places.Dequeue();
        if (!isLook)
            return;
        var seen = new MotorStep(place, detail is { } d && double.IsFinite(d) ? Math.Max(0, d) : 0);
        _steps.Add(seen);
        _pass.Add(seen);
        if (_places.Count > 0)
            return;
        if (_phase == MotorPhase.Back)
            Returned(seen);
        else
            Passed();
    }

    /// <summary>Nothing more is driven.</summary>
    public void Fail(Message why)
    {
        _places.Clear();
        (_phase, _why) = (MotorPhase.Failed, why);
    }

    private void Passed()
    {
        var high = _pass.MaxBy(s => s.Detail)!;
        if (_phase == MotorPhase.Through)
            _through = _pass;
        else if (high.Detail < There * _best)
        {
            // What was so sharp there went by: the rest of the first pass knows the top.
            _through.Remove(_through.MaxBy(s => s.Detail)!);
            (_phase, _pass, high) = (MotorPhase.Through, _through, _through.MaxBy(s => s.Detail)!);
            _step = (_travel.Most - _travel.Least) / (First - 1);
        }
        var found = FocusSweep.Of([.. _pass.Select(s => s.Position)], [.. _pass.Select(s => s.Detail)]);
        _best = high.Detail;
        if (_phase == MotorPhase.Through && (found.Verdict == FocusVerdict.NoClearPeak || _passes >= MostPasses))
        {
            Fail(new(_passes >= MostPasses ? "motor.not-there" : "motor.flat"));
            return;
        }
        var isBeside = found.Verdict == FocusVerdict.PeakAtEndOfSweep;
        _top = isBeside ? high.Position : found.Position ?? high.Position;
        var isAtEnd = isBeside && (_top <= _travel.Least || _top >= _travel.Most);
        // The top of the first pass lies between its places: about it, once more finely at least.
        if (_phase == MotorPhase.Through || !isAtEnd && !IsFlatAbout(high) && _passes < MostPasses)
        {
            // Beside the pass it is further on, as coarsely as before.
            if (_phase == MotorPhase.Through || !isBeside)
                _step *= 2.0 / (Each - 1);
            About(_top.Value);
            return;
        }
        if (isBeside && !isAtEnd)
        {
            Fail(new("motor.not-there"));
            return;
        }
        // Where it cannot go on it may still have got sharper: it is left there, and that is said.
        _whyAtEnd = isAtEnd ? new("motor.at-end") : null;
        Begin(MotorPhase.Back, _top.Value, _top.Value, 1);
    }

    private bool IsFlatAbout(MotorStep top)
    {
        var at = _pass.IndexOf(top);
        return at > 0 && at < _pass.Count - 1 && Math.Min(_pass[at - 1].Detail, _pass[at + 1].Detail) >= Flat * top.Detail;
    }

    private void Returned(MotorStep seen)
    {
        _ofBest = _best > 0 ? Math.Min(1, seen.Detail / _best) : 0;
        if (_whyAtEnd is { } why)
            Fail(why);
        else if (_ofBest >= There)
            _phase = MotorPhase.Done;
        else if (_passes < MostPasses)
        {
            // Somebody went by when it was told, or the play is greater: about it once more.
            _step *= 2;
            About(seen.Position);
        }
        else
            Fail(new("motor.not-there"));
    }

    private void About(double place)
    {
        var half = (Each - 1) / 2 * _step;
        Begin(MotorPhase.Finer, _travel.Within(place - half), _travel.Within(place + half), Each);
    }

    /// <summary>Places from the lowest on, come to from below.</summary>
    private void Begin(MotorPhase phase, double from, double to, int count)
    {
        (_phase, _pass) = (phase, []);
        _passes += phase == MotorPhase.Back ? 0 : 1;
        var below = _travel.Within(from - Play * (_travel.Most - _travel.Least));
        if (below < from)
            _places.Enqueue((below, false));
        for (var i = 0; i < count; i++)
            _places.Enqueue((count == 1 ? from : from + (to - from) * i / (count - 1), true));
    }
}
