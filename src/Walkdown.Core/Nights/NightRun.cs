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

    /// <summary>Coarse detail must be so steep to say anything, grey levels squared.</summary>
    private const double LeastCoarse = 4;

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
    private (Message? Why, bool? Same, double Right, double Down)? _against;
    private bool _mayBeTurned;
    private (int Wide, int High) _size;

    /// <param name="target">What the camera is for, in shares of the picture.</param>
    /// <param name="day">The same view by day; null: none.</param>
    /// <param name="known">What else is known of it.</param>
    public NightRun(PictureShare target, GreyRaster? day, VeilKnown known) => (Target, _day, _known) = (target, day, known);

    /// <summary>Where it looks how sharp it is.</summary>
    public PictureShare Target { get; }

    /// <summary>What was done to find the reason, in turn.</summary>
    public IReadOnlyList<NightTry> Tries => _tries;

    /// <summary>Something was done: pictures from now on say what that changed.</summary>
    /// <returns>False: no veil was told yet, so that nothing can be held against it.</returns>
    public bool Tried(NightAct act)
    {
        if (_worst is not { } before || _first.IsEmpty || _tries.Count >= MostTries)
            return false;
        _mayBeTurned |= act == NightAct.Turned;
        _tries.Add(new(act, before, null));
        _maps.Clear();
        _sharp.Clear();
        // Turned, or without its cover, it may show something else.
        _against = null;
        return true;
    }

    /// <summary>The newest picture.</summary>
    public NightLook Next(SeenPicture picture)
    {
        var night = picture.Grey;
        var region = FocusSpots.Region(night, Target);
        if (night.Width < FocusSpots.LeastWide || night.Height < FocusSpots.LeastHigh)
            return Nothing(new("focus.too-small"));
        if (picture.IsColoured == true)
            return Nothing(new("night.coloured")) with { State = NightState.Colour };
        var thin = night.Thinned(Sampled);
        double light = 0;
        foreach (var level in thin.Levels)
            light += VeilMap.LinearOf(level) / thin.Levels.Length;
        if (light < BlackLight)
            return Nothing(new("night.black")) with { State = NightState.Black };
        var noise = PictureNoise.Of(night, 9, 16);
        if (_size != (night.Width, night.Height))
        {
            (_size, _against) = ((night.Width, night.Height), null);
            _maps.Clear();
            _sharp.Clear();
        }
        var (held, same, right, down) = _against ??= Against(night);
        var day = held is null ? _day : null;
        VeilMap? map = null;
        if (day is not null)
        {
            _maps.Add(VeilMap.Of(night, day, right, down));
            if (_maps.Count > Held)
                _maps.RemoveAt(0);
            map = VeilMap.Least(_maps);
        }
        var (share, worst) = (map?.Share, map?.Worst);
        var isVeiled = share >= NightLook.MostShare || worst >= NightLook.MostWorst;
        if (worst is { } most)
        {
            _worst = most;
            if (_tries.Count > 0)
                _tries[^1] = _tries[^1] with { After = most };
        }
        // Why it was veiled is told by how it was before anything was done to it.
        if (isVeiled && _tries.Count == 0)
            _first = VeilReasons.Of(map!, _known);
        var (sharpness, reach) = day is null ? (null, null) : AtTarget(night, day, region, map!, noise.SigmaTiles, right, down);
        // Who walks through the target has his own detail: the sharpest of the last pictures is the view's.
        if (sharpness is not null)
        {
            _sharp.Add(sharpness);
            if (_sharp.Count > Held)
                _sharp.RemoveAt(0);
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
            isVeiled || _tries.Count > 0 ? NightTries.After(_first, _tries) : [],
            sharpness,
            reach,
            noise.SignalDb,
            same,
            region
        );

        NightLook Nothing(Message why) =>
            new(NightState.Look, why, picture.IsColoured, null, null, null, null, [], null, null, null, null, region);
    }

    /// <summary>Why it cannot be held against the day's picture, and where what it shows stands there, in shares of the picture. Fog hides that
    /// it is the same view: then it is held to be, as long as nobody turned it.</summary>
    private (Message? Why, bool? Same, double Right, double Down) Against(GreyRaster night)
    {
        if (_day is not { } day)
            return (new("night.no-day"), null, 0, 0);
        if (Math.Abs((double)day.Height / day.Width * night.Width / night.Height - 1) > 0.02)
            return (new("night.other-shape"), null, 0, 0);
        if (AimLook.Of(new(day, SameViewDeg, 0), night, new(1, 1)).Measured is not { } measured)
            return (_mayBeTurned ? new("night.turned-unknown") : null, null, 0, 0);
        if (measured.OffDeg > MostTurnedDeg)
            return (new("focus.other-view"), false, 0, 0);
        // Half the width is as long as the lens, at 90 degrees.
        return (
            null,
            measured.OffDeg <= MostOffDeg,
            -Math.Tan(Angle.Rad(measured.PanDeg)) / 2,
            -Math.Tan(Angle.Rad(measured.TiltDeg)) / 2 * night.Width / night.Height
        );
    }

    private static (NightSharpness? Sharpness, NightReach? Reach) AtTarget(
        GreyRaster night,
        GreyRaster day,
        PictureRegion region,
        VeilMap map,
        double sigma,
        double right,
        double down
    )
    {
        // In the size of the smaller: what one of them cannot show says nothing.
        var wide = Math.Min(night.Width, day.Width);
        var (x, y) = ((double)region.X / night.Width, (double)region.Y / night.Height);
        // Where the target stood by day; out of that picture nothing is known of it.
        if (x + right < 0 || y + down < 0 || x + right + 0.16 > 1 || y + down + 0.16 > 1)
            return (null, null);
        var (now, then) = (Part(night, 0, 0), Part(day, right, down));
        var (fine, coarse) = (Detail(now, 1, sigma), Detail(now, 4, sigma / 4));
        var (fineThen, coarseThen) = (Detail(then, 1, Quiet(then)), Detail(then, 4, 0));
        NightSharpness? sharpness = null;
        if (fine is var (f, uf) && coarse is var (c, uc) && fineThen is var (fd, ud) && coarseThen is var (cd, ucd))
        {
            // Were it as sharp as by day, would that be seen in this light?
            var expected = c * fd / cd;
            var ratio = f / expected;
            if (expected > Math.Max(4, 2 * sigma * sigma))
                sharpness = new(ratio, ratio * (uf + uc + ud + ucd));
        }
        double light = 0,
            veil = 0;
        var n = 0;
        for (var i = 0; i < map.Tiles.Length; i++)
        {
            var (tx, ty) = ((i % map.Columns + 0.5) / map.Columns * night.Width, (i / map.Columns + 0.5) / map.Rows * night.Height);
            if (tx < region.X || tx >= region.X + region.Width || ty < region.Y || ty >= region.Y + region.Height)
                continue;
            (light, veil, n) = (light + map.Tiles[i].Light, veil + (map.Tiles[i].Veil ?? 0), n + 1);
        }
        var lit = n > 0 && map.Light > 0 ? (light - veil) / n / map.Light : 0;
        double? contrast =
            coarseThen is null ? null
            : sigma < 0.3 ? null
            : Math.Sqrt(Math.Max(0, Deviation(now) - sigma * sigma)) / sigma;
        return (sharpness, new(lit, contrast));

        GreyRaster Part(GreyRaster of, double byX, double byY)
        {
            var sized = of.Width == wide ? of : of.Sized(wide, (int)Math.Round((double)wide * of.Height / of.Width));
            var (w, h) = (
                Math.Min(sized.Width, region.Width * wide / night.Width),
                Math.Min(sized.Height, region.Height * wide / night.Width)
            );
            return sized.Cut(
                Math.Clamp((int)((x + byX) * sized.Width), 0, sized.Width - w),
                Math.Clamp((int)((y + byY) * sized.Height), 0, sized.Height - h),
                w,
                h
            );
        }
    }

    private static double Quiet(GreyRaster part) => PictureNoise.Of(part, 3, 3).SigmaTiles;

    private static double Deviation(GreyRaster part)
    {
        var (_, deviation) = GreyRaster.Moments(part.Histogram());
        return deviation * deviation;
    }

    /// <summary>Mean squared slope without noise, and how sure that is; null: too little is there.</summary>
    private static (double Energy, double Uncertainty)? Detail(GreyRaster part, int step, double sigma)
    {
        var small = step == 1 ? part : part.Sized(Math.Max(3, part.Width / step), Math.Max(3, part.Height / step));
        var (floor, energy) = (sigma * sigma, Slopes(small) - sigma * sigma);
        if (energy < LeastCoarse && step > 1 || energy <= 0)
            return null;
        var spread = Math.Sqrt((floor * floor + 2 * energy * floor) / (small.Levels.Length / 2.0));
        return (energy, 2 * spread / energy);

        static double Slopes(GreyRaster of) => Pictures.Sharpness.Of(of).GradientEnergy;
    }
}
