using Walkdown.Core.Measures;

namespace Walkdown.Core.Nights;

/// <summary>The white light of a camera came on, or went off.</summary>
/// <param name="IsOn">It came on.</param>
/// <param name="At">By the clock of who looks: the first picture of it.</param>
/// <param name="AfterWalkSeconds">Since somebody said that he walks through; null: nobody had.</param>
public sealed record LampChange(bool IsOn, DateTimeOffset At, double? AfterWalkSeconds);

/// <summary>What pictures say of a camera's white light.</summary>
/// <param name="IsLit">It is on now.</param>
/// <param name="Changes">The last ones, oldest first.</param>
/// <param name="Movement">Word of the row: comes-on or stays-dark; null: nobody walked through, or it is too soon.</param>
/// <param name="Colour">colour or grey; null: it was not on for long enough, or the camera's colour is not known.</param>
/// <param name="Still">goes-off or stays-on; null: too soon.</param>
/// <param name="Told">In words, what happened last.</param>
public sealed record LampTold(
    bool IsLit,
    ImmutableArray<LampChange> Changes,
    string? Movement,
    string? Colour,
    string? Still,
    Message Told
);

/// <summary>
/// Watches a camera's white light in its own pictures: whether it comes on when somebody walks through, whether colour comes back with it
/// and whether it goes off again. A camera's exposure hides how bright it is, so that colour, and signal against noise, tell it as well as
/// light. Whether its setting can be switched off, and whom it lights beside the site, no picture shows.
/// </summary>
internal sealed class WhiteLightWatch
{
    /// <summary>So much more light, or signal against noise, than at rest is a lamp's.</summary>
    private const double MoreLight = 1.6,
        MoreDb = 4;

    /// <summary>So many pictures one after another: headlights go by, and one picture may be broken.</summary>
    private const int InTurn = 2;

    private const int Kept = 12,
        AtRest = 6;

    /// <summary>A lamp that answers a walk does so within this; one that stays on so long after it is left on; and so long it must be on
    /// before a picture that stays grey says something. Who covers a light sensor by day uncovers it within a minute.</summary>
    private static readonly TimeSpan Answers = TimeSpan.FromSeconds(15),
        Dusk = TimeSpan.FromMinutes(1),
        Long = TimeSpan.FromMinutes(5),
        Settles = TimeSpan.FromSeconds(5);

    private readonly List<LampChange> _changes = [];
    private readonly Queue<Seen> _rest = new();
    private readonly List<Seen> _other = [];
    private DateTimeOffset? _walked,
        _last,
        _since,
        _day;
    private bool _isLit,
        _answered,
        _wasColoured,
        _wasSeenToWalk;
    private string? _movement,
        _colour,
        _still;

    /// <summary>One picture.</summary>
    private readonly record struct Seen(bool? IsColoured, double Light, double? Db, DateTimeOffset At);

    /// <summary>It is on, or the newest picture looks as if it were: nothing is told of the dark.</summary>
    public bool MayBeLit => _isLit ? _other.Count < InTurn : _other.Count > 0;

    /// <summary>Somebody walks through what it watches, now: in the dark, while it is off, else it tells nothing.</summary>
    public void Walked(DateTimeOffset at) => (_walked, _wasSeenToWalk) = (at, _last is not null && !_isLit && !IsByDay);

    /// <summary>The next picture.</summary>
    /// <param name="isColoured">Null: not known.</param>
    /// <param name="light">Of it, share of white, linear.</param>
    /// <param name="db">Signal against noise, dB; null: not known.</param>
    /// <param name="at">When it was seen.</param>
    public void Next(bool? isColoured, double light, double? db, DateTimeOffset at)
    {
        var now = new Seen(isColoured, light, db, at);
        _last = at;
        var isOther = IsLamp(now) != _isLit;
        if (!isOther)
        {
            _other.Clear();
            if (!_isLit)
                Rest(now);
        }
        else
        {
            _other.Add(now);
            if (_other.Count >= InTurn)
                Change(_other[0].At);
        }
        if (_isLit)
            Lit(now);
        // Nothing came, and it was looked at all the while..
        else if (
            !IsByDay
            && _walked is { } walked
            && _wasSeenToWalk
            && at - walked > Answers
            && !_changes.Exists(c => c.IsOn && c.At >= walked)
        )
            _movement = "stays-dark";
    }

    /// <summary>One that came on by itself may be anything that shines: it tells no row.</summary>
    private void Lit(Seen now)
    {
        if (!_answered)
            return;
        _wasColoured |= now.IsColoured == true;
        // A camera that saw in colour before tells nothing by its colour.
        if (_rest.Any(r => r.IsColoured == false))
        {
            if (_wasColoured)
                _colour = "colour";
            else if (now.IsColoured == false && now.At - _since > Settles)
                _colour = "grey";
        }
        var from = _walked > _since ? _walked : _since;
        if (now.At - from > Long)
            _still = "stays-on";
    }

    private void Change(DateTimeOffset at)
    {
        (_isLit, _since) = (!_isLit, at);
        var after = _walked is { } walked && at >= walked ? (at - walked).TotalSeconds : (double?)null;
        _changes.Add(new(_isLit, at, after));
        if (_changes.Count > Kept)
            _changes.RemoveAt(0);
        if (_isLit)
        {
            _answered = _wasSeenToWalk && after <= Answers.TotalSeconds;
            _wasColoured = false;
            _movement = _answered ? "comes-on" : _movement;
        }
        else if (_answered)
            _still = "goes-off";
        _other.Clear();
    }

    /// <summary>It saw in colour before anything came on: by day, or nobody can tell.</summary>
    private bool IsByDay => _rest.Any(r => r.IsColoured == true);

    private void Rest(Seen now)
    {
        _rest.Enqueue(now);
        if (now.IsColoured == true)
            _day = now.At;
        if (_rest.Count > AtRest)
            _rest.Dequeue();
    }

    private bool IsLamp(Seen now)
    {
        // By day a cloud that goes is as much light; and what comes back of colour soon after it is the day, unless somebody walks.
        if (_rest.Count < InTurn || IsByDay || (!_isLit && now.At - _day < Dusk && !(now.At - _walked <= Answers)))
            return false;
        if (now.IsColoured == true && _rest.All(static r => r.IsColoured == false))
            return true;
        var light = _rest.Select(r => r.Light).Order().ElementAt(_rest.Count / 2);
        var noise = _rest.Select(r => r.Db).OfType<double>().Order().ToArray();
        return now.Light > MoreLight * light || (noise.Length > 0 && now.Db > noise[noise.Length / 2] + MoreDb);
    }

    /// <summary>What was seen; null: no picture yet.</summary>
    public LampTold? Told => _last is not { } last ? null : new(_isLit, [.. _changes], _movement, _colour, _still, Words(last));

    private Message Words(DateTimeOffset last)
    {
        var waits = _walked is { } walked && last - walked <= Answers && !_changes.Exists(c => c.IsOn && c.At >= walked);
        var change = _changes.LastOrDefault();
        if (IsByDay && !_isLit)
            return new("night.lamp-by-day");
        if (waits)
            return new("night.lamp-waits", Message.Number(Math.Max(0, (Answers - (last - _walked!.Value)).TotalSeconds), 0));
        if (_movement == "stays-dark" && !(change?.At >= _walked))
            return new("night.lamp-dark", Message.Number(Answers.TotalSeconds, 0));
        if (change is null)
            return new("night.lamp-rest");
        if (change.IsOn)
            return change.AfterWalkSeconds is { } after
                ? new(
                    _colour == "colour" ? "night.lamp-on-colour"
                        : _colour == "grey" ? "night.lamp-on-grey"
                        : "night.lamp-on",
                    Message.Number(after, 0),
                    Message.Number((last - change.At).TotalSeconds, 0)
                )
                : new("night.lamp-on-alone", Message.Number((last - change.At).TotalSeconds, 0));
        var on = _changes.LastOrDefault(c => c.IsOn);
        return new("night.lamp-off", Message.Number(on is null ? 0 : (change.At - on.At).TotalSeconds, 0));
    }
}
