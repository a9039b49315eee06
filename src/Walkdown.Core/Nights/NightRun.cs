using Walkdown.Core.Aiming;
using Walkdown.Core.Entries;
using Walkdown.Core.Focusing;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Nights;

/// <summary>Pictures of one view in the dark, one after another, each held against the same view by day: what lies over it, how sharp its
/// target is and how it is lit. What only goes by is taken for no veil.</summary>
public sealed class NightRun
{
    /// <summary>Held to be the same view up to here, and turned up to the second figure, degrees as if the picture were
    /// <see cref="SameViewDeg"/> wide; turned, what both show is compared.</summary>
    private const double MostOffDeg = 1,
        MostTurnedDeg = 20,
        SameViewDeg = 90;

    /// <summary>More is not tried one after another.</summary>
    private const int MostTries = 40;

    /// <summary>Coarse detail is told at this fraction of the size, and must be so steep to say anything, grey levels squared.</summary>
    private const int Coarse = 4;
    private const double LeastCoarse = 4;

    /// <summary>Less noise than this cannot be told, grey levels.</summary>
    private const double LeastNoise = 0.3;

    private const int Sampled = 200_000;

    /// <summary>Less light than this is black, share of white.</summary>
    private const double BlackLight = 0.004;

    /// <summary>So many pictures back a veil must have been there.</summary>
    private const int Held = 8;

    private readonly GreyRaster? _day;
    private readonly VeilKnown _known;
    private readonly List<VeilMap> _maps = [];
    private readonly List<NightSharpness> _sharp = [];
    private readonly List<NightTry> _tries = [];
    private ImmutableArray<VeilGuess> _first = [];
    private double? _worst;
    private bool _isVeiled;

    /// <summary>The veil at its most since the last act was told, or since the beginning.</summary>
    private double? _stood;
    private Standing? _against;
    private int _sinceAgainst;
    private bool _mayBeTurned;
    private (int Wide, int High) _size;

    /// <summary>How the night's picture stands to the day's.</summary>
    /// <param name="Why">Why it cannot be held against it; null: it can.</param>
    /// <param name="Same">It shows the same; false: it was turned; null: cannot be told.</param>
    /// <param name="Right">What it shows stands so far right by day, share of the width.</param>
    /// <param name="Down">Likewise below, share of the height.</param>
    private sealed record Standing(Message? Why, bool? Same = null, double Right = 0, double Down = 0)
    {
        /// <summary>Light of the day's tiles where the night's stand; worked out once.</summary>
        public ImmutableArray<TileLight?> Day { get; init; } = [];

        /// <summary>What was learnt of one still counts for the other.</summary>
        public bool IsLike(Standing other) =>
            Why == other.Why && Math.Abs(Right - other.Right) < Still && Math.Abs(Down - other.Down) < Still;

        private const double Still = 0.01;
    }

    /// <param name="target">What the camera is for, in shares of the picture.</param>
    /// <param name="day">The same view by day; null: none.</param>
    /// <param name="known">What else is known of it.</param>
    public NightRun(PictureShare target, GreyRaster? day, VeilKnown known) =>
        (Target, _day, _known, Lamp) = (target, day, known, known.HasWhiteLight ? new() : null);

    /// <summary>Where it looks how sharp it is.</summary>
    public PictureShare Target { get; }

    /// <summary>What was done to find the reason, in turn.</summary>
    public IReadOnlyList<NightTry> Tries => _tries;

    /// <summary>Something is done: while light lies over the picture, those from now on say what that changes. On a picture that came clean it
    /// is what cleaned it, whatever was told of it before: nobody tries anything on a clean one.</summary>
    /// <returns>False: no veil was told yet, so that nothing can be held against it.</returns>
    public bool Tried(NightAct act)
    {
        if (_worst is not { } now || _first.IsEmpty || _tries.Count >= MostTries)
            return false;
        _mayBeTurned |= act == NightAct.Turned;
        var (before, after) = IsGone && _stood is { } stood ? (stood, now) : (now, (double?)null);
        if (after is not null && _tries.Count > 0)
            _tries[^1] = _tries[^1] with { After = before };
        _tries.Add(new(act, before, after));
        _stood = before;
        Forget();
        // Turned, or without its cover, it may show something else.
        _against = null;
        return true;
    }

    /// <summary>A veil was there, and is no more.</summary>
    private bool IsGone => !_isVeiled && _worst <= NightTry.MuchLess * _stood;

    /// <summary>Its changes between day and night.</summary>
    private DayNightSwitch Switch { get; } = new();

    /// <summary>Its white light; null: it has none.</summary>
    private WhiteLightWatch? Lamp { get; }

    /// <summary>Somebody walks through what its white light watches, now.</summary>
    /// <returns>False: it has none, as far as is known.</returns>
    public bool Walked(DateTimeOffset at)
    {
        Lamp?.Walked(at);
        return Lamp is not null;
    }

    /// <summary>The newest picture.</summary>
    /// <param name="picture">Of the same camera.</param>
    /// <param name="at">When it was seen; null: when it changes over, and its white light, is not asked.</param>
    public NightLook Next(SeenPicture picture, DateTimeOffset? at = null)
    {
        var thin = picture.Grey.Thinned(Sampled);
        double light = 0;
        foreach (var level in thin.Levels)
            light += TileLight.LinearOf(level) / thin.Levels.Length;
        if (at is { } moment)
        {
            Lamp?.Next(picture.IsColoured, light, PictureNoise.Of(thin).SignalDb, moment);
            // What its lamp does to colour is no change between day and night.
            if (Lamp?.MayBeLit != true)
                Switch.Next(picture.IsColoured, light, moment);
        }
        return Look(picture, thin, light) with { Switch = Switch.Told, Lamp = Lamp?.Told };
    }

    private NightLook Look(SeenPicture picture, GreyRaster thin, double light)
    {
        var night = picture.Grey;
        var region = FocusSpots.Region(night, Target);
        if (night.Width < FocusSpots.LeastWide || night.Height < FocusSpots.LeastHigh)
            return Nothing(new("focus.too-small"));
        if (Lamp?.MayBeLit == true)
            return Nothing(new("night.lamp-lit"));
        if (picture.IsColoured == true)
            return Nothing(new("night.coloured")) with { State = NightState.Colour };
        if (light < BlackLight)
            return Nothing(new("night.black")) with { State = NightState.Black };
        var noise = PictureNoise.Of(night, 9, 16);
        if (_size != (night.Width, night.Height))
        {
            (_size, _against) = ((night.Width, night.Height), null);
            Forget();
        }
        // Somebody may turn it and say nothing.
        if (_against is null || ++_sinceAgainst >= Held)
        {
            var stands = Against(night);
            if (_against is { } before && !stands.IsLike(before))
                Forget();
            (_against, _sinceAgainst) = (stands, 0);
        }
        var (held, day) = (_against.Why, _against.Why is null ? _day : null);
        VeilMap? map = null;
        if (day is not null)
        {
            Keep(_maps, VeilMap.Of([.. VeilMap.Lights(night).OfType<TileLight>()], _against.Day));
            map = VeilMap.Least(_maps);
        }
        var (share, worst) = (map?.Share, map?.Worst);
        // Little light that lies just as one reason would have it lie is that; what a view that is lit unevenly shows lies anyhow.
        var guesses = worst >= NightLook.MayBeWorst || share >= NightLook.MostShare ? VeilReasons.Of(map!, _known) : [];
        var isVeiled =
            share >= NightLook.MostShare
            || worst >= NightLook.MostWorst
            || (worst >= NightLook.MostInPattern && guesses is [{ IsItsPattern: true }, ..]);
        if (worst is { } most)
        {
            (_worst, _stood, _isVeiled) = (most, Math.Max(_stood ?? 0, most), isVeiled);
            if (_tries.Count > 0)
                _tries[^1] = _tries[^1].Since(most);
        }
        // Why it was veiled is told by how it was before anything was done to it.
        if (isVeiled && _tries.Count == 0)
            _first = guesses;
        var (sharpness, reach) = day is null ? (null, null) : AtTarget(night, day, region, map!, noise.SigmaTiles, _against);
        // Who walks through the target has his own detail: the sharpest of the last pictures is the view's.
        if (sharpness is not null)
        {
            Keep(_sharp, sharpness);
            sharpness = _sharp.MaxBy(s => s.Ratio);
        }
        var state =
            isVeiled ? NightState.Veiled
            : sharpness?.IsSoft == true ? NightState.Soft
            : noise.SignalDb < NightLook.LeastSignalDb ? NightState.Noise
            : map?.Known >= NightLook.LeastKnown && sharpness?.IsSoft == false ? NightState.Clear
            : NightState.Look;
        if (state == NightState.Look)
            held ??= map?.Known < NightLook.LeastKnown ? new("night.little-known") : new("night.no-detail");
        return new(
            state,
            held,
            picture.IsColoured,
            map,
            share,
            worst,
            Haze.Of(thin),
            isVeiled || IsGone || _tries.Count > 0 ? NightTries.After(_first, _tries) : [],
            sharpness,
            reach,
            noise.SignalDb,
            _against.Same,
            region
        )
        {
            Suspects = isVeiled || IsGone ? [] : [.. guesses.Where(static g => g.MayBe).Take(3).Select(static g => g.Reason)],
        };

        NightLook Nothing(Message why) =>
            new(NightState.Look, why, picture.IsColoured, null, null, null, null, [], null, null, null, null, region);
    }

    private void Forget()
    {
        _maps.Clear();
        _sharp.Clear();
    }

    private static void Keep<T>(List<T> last, T newest)
    {
        last.Add(newest);
        if (last.Count > Held)
            last.RemoveAt(0);
    }

    /// <summary>Fog hides that it is the same view: then it is held to be, as long as nobody said that he turned it.</summary>
    private Standing Against(GreyRaster night)
    {
        if (_day is not { } day)
            return new(new("night.no-day"));
        if (Math.Abs((double)day.Height / day.Width * night.Width / night.Height - 1) > 0.02)
            return new(new("night.other-shape"));
        if (AimLook.Of(new(day, SameViewDeg, 0), night, new(1, 1), bend: 0).Measured is not { } measured)
            return _mayBeTurned ? new(new("night.turned-unknown")) : new Standing(null) { Day = VeilMap.Lights(day) };
        if (measured.OffDeg > MostTurnedDeg)
            return new(new("focus.other-view"), false);
        // Half the width is as long as the lens, at 90 degrees.
        var (right, down) = (-Angle.Tan(measured.PanDeg) / 2, -Angle.Tan(measured.TiltDeg) / 2 * night.Width / night.Height);
        return new(null, measured.OffDeg <= MostOffDeg, right, down) { Day = VeilMap.Lights(day, right, down) };
    }

    private static (NightSharpness? Sharpness, NightReach? Reach) AtTarget(
        GreyRaster night,
        GreyRaster day,
        PictureRegion region,
        VeilMap map,
        double sigma,
        Standing stands
    )
    {
        // Where the target stood by day; out of that picture nothing is known of it.
        var there = (
            X: (int)(((double)region.X / night.Width + stands.Right) * day.Width),
            Y: (int)(((double)region.Y / night.Height + stands.Down) * day.Height),
            Wide: (int)((double)region.Width / night.Width * day.Width),
            High: (int)((double)region.Height / night.Height * day.Height)
        );
        if (there is not { X: >= 0, Y: >= 0 } || there.X + there.Wide > day.Width || there.Y + there.High > day.Height)
            return (null, null);
        var here = night.Cut(region.X, region.Y, region.Width, region.Height);
        var then = day.Cut(there.X, there.Y, there.Wide, there.High);
        // In the size of the smaller: what one of them cannot show says nothing. Averaged, noise is less by as much.
        var (wide, high) = (Math.Min(here.Width, then.Width), Math.Min(here.Height, then.Height));
        var (now, by) = (here.Sized(wide, high), then.Sized(wide, high));
        var (grain, grainBy) = (sigma * wide / region.Width, PictureNoise.Of(by, 3, 3).SigmaTiles);
        var ((fine, uf), (coarse, uc)) = (Detail(now, 1, grain), Detail(now, Coarse, grain));
        var ((fineBy, ufb), (coarseBy, ucb)) = (Detail(by, 1, grainBy), Detail(by, Coarse, grainBy));
        var isSeenBy = coarseBy >= LeastCoarse && fineBy > 0;
        NightSharpness? sharpness = null;
        // Were it as sharp as by day, would that be seen in this light?
        var expected = isSeenBy ? coarse * fineBy / coarseBy : 0;
        if (coarse >= LeastCoarse && fine > 0 && expected > Math.Max(4, 2 * grain * grain))
            sharpness = new(fine / expected, fine / expected * (uf + uc + ufb + ucb));
        var (light, veil, n) = (0.0, 0.0, 0);
        for (var i = 0; i < map.Tiles.Length; i++)
        {
            var (x, y) = ((i % map.Columns + 0.5) / map.Columns * night.Width, (i / map.Columns + 0.5) / map.Rows * night.Height);
            if (x < region.X || x >= region.X + region.Width || y < region.Y || y >= region.Y + region.Height)
                continue;
            (light, veil, n) = (light + map.Tiles[i].Light, veil + (map.Tiles[i].Veil ?? 0), n + 1);
        }
        var lit = n > 0 && map.Light > 0 ? (light - veil) / n / map.Light : 0;
        // Without noise, or where by day too nothing stands out, the one says nothing of the other.
        double? contrast = null;
        if (isSeenBy && sigma >= LeastNoise)
        {
            var (_, deviation) = GreyRaster.Moments(here.Histogram());
            contrast = Math.Sqrt(Math.Max(0, deviation * deviation - sigma * sigma)) / sigma;
        }
        return (sharpness, new(lit, contrast));
    }

    /// <summary>Slopes at a fraction of the size, and how sure they are.</summary>
    private static (double Energy, double Uncertainty) Detail(GreyRaster part, int step, double noise)
    {
        var small = part.Sized(Math.Max(3, part.Width / step), Math.Max(3, part.Height / step));
        var (energy, uncertainty, _) = FocusSpots.Slopes(small, noise / step);
        return (energy, uncertainty);
    }
}
