using Walkdown.Core.Aiming;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Focusing;

/// <summary>What whoever turns the ring, or steps the motor, has to do now.</summary>
public enum FocusState
{
    /// <summary>Nothing can be told of the target.</summary>
    Look,

    /// <summary>Turn slowly, either way: nothing has changed yet.</summary>
    Turn,

    /// <summary>It gets sharper: go on.</summary>
    Better,

    /// <summary>Past the sharpest by a little: go on until it is plainly softer, so that the top is known.</summary>
    Beyond,

    /// <summary>It gets softer: the other way.</summary>
    Worse,

    /// <summary>As sharp as it can be: the top was passed on both sides, and here it is again.</summary>
    Stop,
}

/// <summary>How sharp one part is.</summary>
/// <param name="Now">As measured in the newest picture.</param>
/// <param name="OfBest">Share of the sharpest that this part was since the ring was first turned; null: nothing can be told.</param>
/// <param name="Change">Against an earlier picture of the view; null: there is none.</param>
public sealed record SpotFocus(SpotDetail Now, double? OfBest, SpotChange? Change = null);

/// <summary>What pictures say to whoever focuses.</summary>
/// <param name="State">What to do.</param>
/// <param name="Why">Why nothing can be told; null: it can.</param>
/// <param name="OfBest">The target now, as a share of the sharpest that it was; null: nothing can be told.</param>
/// <param name="Uncertainty">Of that, by noise alone, twice the deviation.</param>
/// <param name="IsTopKnown">It was seen to get softer on both sides of its sharpest.</param>
/// <param name="Spots">Target, middle, corners.</param>
/// <param name="Trace">The target in the last pictures, each as a share of the sharpest, oldest first.</param>
/// <param name="Edge">An edge beside the target, measured; null: none is there that can be.</param>
/// <param name="Unlike">Why it is not held against the earlier picture; null: it is, or there is none.</param>
public sealed record FocusLook(
    FocusState State,
    Message? Why,
    double? OfBest,
    double Uncertainty,
    bool IsTopKnown,
    ImmutableArray<SpotFocus> Spots,
    ImmutableArray<double> Trace,
    EdgeNear? Edge,
    Message? Unlike = null
)
{
    /// <summary>What measures.</summary>
    public const string Algorithm = "focus";

    /// <summary>Its edition.</summary>
    public const int AlgorithmVersion = 1;

    private const string Detail = "detail_",
        Edged = "mtf50_";

    /// <summary>Whether an input says what one picture alone says; the others lean on those before it.</summary>
    internal static bool IsOfOne(string input) =>
        input.StartsWith(Detail, StringComparison.Ordinal) || input.StartsWith(Edged, StringComparison.Ordinal);

    /// <summary>Figures that a reading of it keeps, so that it can be held against later ones.</summary>
    public ImmutableSortedDictionary<string, double> Inputs()
    {
        var inputs = new Dictionary<string, double>();
        foreach (var spot in Spots)
        {
            var name = spot.Now.Spot.ToString();
            if (spot.Now.Detail is { } detail)
                inputs[$"{Detail}{name}"] = detail;
            if (spot.OfBest is { } best)
                inputs[$"of_best_{name}"] = Math.Round(best, 4);
            if (spot.Change?.Ratio is { } ratio)
                inputs[$"ratio_{name}"] = Math.Round(ratio, 4);
        }
        if (Edge is { } edge)
            (inputs[$"{Edged}cycles_per_pixel"], inputs[$"{Edged}uncertainty"]) = (
                Math.Round(edge.Mtf50, 4),
                Math.Round(edge.Uncertainty, 4)
            );
        return inputs.ToImmutableSortedDictionary();
    }
}

/// <summary>Pictures of one view while its lens is turned: how sharp each is against the sharpest, where that was, and which way to go.
/// A ring tells no position, so the order of pictures stands for it.</summary>
public sealed class FocusRun
{
    /// <summary>Less than this is no change.</summary>
    private const double Still = 0.04;

    /// <summary>A top is known once it was lower by so much on both sides (docs/calculations.md, N: span of a sweep).</summary>
    private const double LeastSpan = 0.10;

    /// <summary>So near the top is the top, and once said stays until it is further off.</summary>
    private const double StopAt = 0.97,
        StopUntil = 0.94;

    /// <summary>Whether two pictures show the same is asked as if they were so wide, degrees: a part of the picture, not of the
    /// world.</summary>
    private const double SameViewDeg = 90,
        MostOffDeg = 2.5;

    private const int Traced = 90,
        Kept = 4000,
        Sampled = 200_000;

    private readonly List<SpotDetail[]> _all = [];
    private readonly double[] _best = new double[Enum.GetValues<FocusSpot>().Length];
    private (int Wide, int High) _size;
    private int _bestAt = -1;
    private double _extreme;
    private bool _falls,
        _isStopped;
    private GreyRaster? _earlier;
    private (ImmutableArray<SpotDetail>? Spots, Message? Unlike)? _against;

    /// <param name="target">Where to look, in shares of the picture.</param>
    /// <param name="earlier">A picture of the same view that it is held against, part by part; null: none.</param>
    public FocusRun(PictureShare target, GreyRaster? earlier = null) => (Target, _earlier) = (target, earlier);

    /// <summary>Where it looks.</summary>
    public PictureShare Target { get; }

    /// <summary>From now on it is held against another picture; how sharp it was is not forgotten.</summary>
    /// <param name="earlier">Null: against none.</param>
    public void Hold(GreyRaster? earlier) => (_earlier, _against) = (earlier, null);

    /// <summary>The newest picture.</summary>
    /// <param name="picture">Of the same view as those before; in another size it begins anew.</param>
    public FocusLook Next(GreyRaster picture)
    {
        if (picture.Width < FocusSpots.LeastWide || picture.Height < FocusSpots.LeastHigh)
            return Nothing(new("focus.too-small"), []);
        if (EmptyPicture.Of(picture.Thinned(Sampled)) is { } empty)
            return Nothing(new($"aim.{empty.ToString().ToLowerInvariant()}"), []);
        // Another size is another measure: what was seen before says nothing of it.
        if (_size != (picture.Width, picture.Height))
        {
            _all.Clear();
            Array.Clear(_best);
            (_size, _bestAt, _falls, _isStopped, _against) = ((picture.Width, picture.Height), -1, false, false, null);
        }
        var now = FocusSpots.Of(picture, Target);
        var edge = EdgeNear.Of(picture, now[0].Region);
        var (against, unlike) = _against ??= Against(picture);
        if (now[0].Detail is not { } detail)
            return Nothing(new("focus.flat"), Told(now, against)) with { Edge = edge, Unlike = unlike };
        if (_all.Count == Kept)
            Forget();
        var before = _all.Count > 0 ? _all[^1][0].Detail!.Value : (double?)null;
        _all.Add([.. now]);
        Learn();
        var best = Math.Max(_best[0], detail);
        var share = detail / best;
        var noise = now[0].Uncertainty;
        // It turned round only where it came away from its last extreme: a picture that stands still swings a little.
        var turn = Math.Max(Still, noise) * _extreme;
        if (before is null || (_falls ? detail < _extreme : detail > _extreme))
            _extreme = detail;
        else if (Math.Abs(detail - _extreme) > turn)
            (_falls, _extreme) = (!_falls, detail);
        var isKnown = IsTopKnown();
        _isStopped = isKnown && share >= Math.Min(_isStopped ? StopUntil : StopAt, 1 - noise);
        var state =
            _isStopped ? FocusState.Stop
            : !HasSpan() ? FocusState.Turn
            : !isKnown && _falls && share >= 1 - LeastSpan && Climbs() == 1 ? FocusState.Beyond
            : _falls ? FocusState.Worse
            : FocusState.Better;
        return new(state, null, share, noise, isKnown, Told(now, against), Trace(best), edge, unlike);
    }

    /// <summary>The parts of the earlier picture; none where it shows something else.</summary>
    private (ImmutableArray<SpotDetail>? Spots, Message? Unlike) Against(GreyRaster picture)
    {
        if (_earlier is not { } earlier)
            return (null, null);
        if ((earlier.Width, earlier.Height) != (picture.Width, picture.Height))
            return (null, new("focus.other-size"));
        var look = AimLook.Of(new(earlier, SameViewDeg, 0), picture, new(1, 1), bend: 0);
        return look.Measured?.OffDeg <= MostOffDeg ? (FocusSpots.Of(earlier, Target), null) : (null, new("focus.other-view"));
    }

    /// <summary>What each part was at its sharpest, two pictures in a row: one alone may have shown something that went by.</summary>
    private void Learn()
    {
        if (_all.Count < 2)
            return;
        var (last, now) = (_all[^2], _all[^1]);
        for (var spot = 0; spot < _best.Length; spot++)
            if (last[spot].Detail is { } a && now[spot].Detail is { } b && Math.Min(a, b) > _best[spot])
            {
                _best[spot] = Math.Min(a, b);
                if (spot == 0)
                    _bestAt = a > b ? _all.Count - 2 : _all.Count - 1;
            }
    }

    private bool HasSpan()
    {
        var (least, most) = (double.MaxValue, 0.0);
        foreach (var spots in _all)
            (least, most) = (Math.Min(least, spots[0].Detail!.Value), Math.Max(most, spots[0].Detail!.Value));
        return most - least >= LeastSpan * most;
    }

    private bool IsTopKnown() => Climbs() == 2;

    /// <summary>0: it was never seen to rise to its sharpest; 1: from plainly softer up to it; 2: and down again to plainly
    /// softer.</summary>
    private int Climbs()
    {
        if (_bestAt < 0)
            return 0;
        var (low, top, step) = ((1 - LeastSpan) * _best[0], StopAt * _best[0], 0);
        var wasLow = false;
        foreach (var spots in _all)
        {
            var detail = spots[0].Detail!.Value;
            if (step == 1 && detail < low)
                return 2;
            wasLow |= detail < low;
            if (wasLow && detail >= top)
                step = 1;
        }
        return step;
    }

    /// <summary>Very long at it: what was low, and what was best, is kept in a few pictures.</summary>
    private void Forget()
    {
        var keep = Math.Max(0, Math.Min(_bestAt, _all.Count - Kept / 2) - 1);
        var low = _all.Take(keep).MinBy(s => s[0].Detail!.Value);
        _all.RemoveRange(0, keep);
        _bestAt -= keep;
        if (low is not null)
        {
            _all.Insert(0, low);
            _bestAt++;
        }
        if (_all.Count >= Kept)
            _all.RemoveRange(_bestAt + 1, Kept / 4);
    }

    private ImmutableArray<SpotFocus> Told(ImmutableArray<SpotDetail> now, ImmutableArray<SpotDetail>? against) =>
        [
            .. now.Select(spot =>
            {
                var best = Math.Max(_best[(int)spot.Spot], spot.Detail ?? 0);
                return new SpotFocus(
                    spot,
                    spot.Detail / (best > 0 ? best : null),
                    against is { } earlier ? SpotChange.Of(earlier[(int)spot.Spot], spot) : null
                );
            }),
        ];

    private ImmutableArray<double> Trace(double best) =>
        [.. _all.Skip(_all.Count - Traced).Select(s => Math.Round(s[0].Detail!.Value / best, 4))];

    private FocusLook Nothing(Message why, ImmutableArray<SpotFocus> spots) =>
        new(FocusState.Look, why, null, 0, _bestAt >= 0 && IsTopKnown(), spots, _best[0] > 0 ? Trace(_best[0]) : [], null);
}
