using Walkdown.Core.Measures;

namespace Walkdown.Core.Nights;

/// <summary>A camera changed over.</summary>
/// <param name="ToNight">From colour to grey; false: back.</param>
/// <param name="At">By the clock of who looks: the first picture after it.</param>
/// <param name="Light">Of the last picture before it, share of white, linear: what the picture had left of light.</param>
public sealed record SwitchedOver(bool ToNight, DateTimeOffset At, double Light);

/// <summary>What was seen of changing over while somebody covered the light sensor and uncovered it.</summary>
/// <param name="Changes">The last ones, oldest first.</param>
/// <param name="Says">Word of the row: both or hunts; null: too little was seen, and whether it stays is for whoever covers the
/// sensor.</param>
/// <param name="Told">In words.</param>
public sealed record SwitchTold(ImmutableArray<SwitchedOver> Changes, string? Says, Message Told);

/// <summary>Watches a camera change between colour and grey. Over once and back once, and then at rest, is how it should be. Somebody who
/// covers its light sensor twice makes four changes within a minute; six and more are hunting: its own infrared lights what it looks at,
/// and it takes that for day (practice).</summary>
public sealed class DayNightSwitch
{
    private static readonly TimeSpan Hunting = TimeSpan.FromSeconds(60),
        Rest = TimeSpan.FromSeconds(10);

    private const int MayHunt = 4,
        Hunts = 6,
        Kept = 12;

    private readonly List<SwitchedOver> _changes = [];
    private bool? _was;
    private double _light;
    private DateTimeOffset _last;

    /// <summary>The next picture.</summary>
    /// <param name="isColoured">Null: not known.</param>
    /// <param name="light">Of it, share of white, linear.</param>
    /// <param name="at">When it was seen.</param>
    public void Next(bool? isColoured, double light, DateTimeOffset at)
    {
        if (isColoured is not { } coloured)
            return;
        if (_was is { } was && was != coloured)
        {
            _changes.Add(new(!coloured, at, _light));
            if (_changes.Count > Kept)
                _changes.RemoveAt(0);
        }
        (_was, _light, _last) = (coloured, light, at);
    }

    /// <summary>What was seen; null: it has not changed over.</summary>
    public SwitchTold? Told
    {
        get
        {
            if (_changes.Count == 0)
                return null;
            var last = _changes[^1];
            var both = _changes.Any(c => c.ToNight) && _changes.Any(c => !c.ToNight);
            var code =
                IsWithin(Hunts) ? "hunts"
                : IsWithin(MayHunt) ? "many"
                : !both ? (last.ToNight ? "over" : "back")
                : _last - last.At >= Rest ? "both"
                : "rest";
            return new(
                [.. _changes],
                code is "hunts" or "both" ? code : null,
                new("night.switch-" + code, Message.Number(_changes.Count), Message.Number(100 * last.Light, 0))
            );
        }
    }

    /// <summary>So many changes came within a minute.</summary>
    private bool IsWithin(int changes) =>
        _changes.Zip(_changes.Skip(changes - 1), (first, last) => last.At - first.At).Any(took => took <= Hunting);
}
