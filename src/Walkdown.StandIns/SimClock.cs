namespace Walkdown.StandIns;

/// <summary>The one clock of the simulated outside. It can run fast, and says whether it is dark.</summary>
public sealed class SimClock(TimeProvider real)
{
    private readonly Lock _lock = new();
    private readonly DateTimeOffset _origin = real.GetUtcNow();
    private DateTimeOffset _since = real.GetUtcNow();
    private double _before;
    private double _speed = 1;

    /// <summary>Simulated seconds for each real one.</summary>
    public double Speed
    {
        get
        {
            lock (_lock)
                return _speed;
        }
        set
        {
            lock (_lock)
            {
                _before = Now();
                (_since, _speed) = (real.GetUtcNow(), Math.Clamp(value, 0, 10_000));
            }
        }
    }

    /// <summary>Infrared is on everywhere while it is dark.</summary>
    public bool Dark { get; set; }

    /// <summary>Simulated seconds since the start.</summary>
    public double Seconds
    {
        get
        {
            lock (_lock)
                return Now();
        }
    }

    public DateTimeOffset Time => _origin.AddSeconds(Seconds);

    private double Now() => _before + (real.GetUtcNow() - _since).TotalSeconds * _speed;
}
