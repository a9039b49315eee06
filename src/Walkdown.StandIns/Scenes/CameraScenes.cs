using System.Collections.Concurrent;
using System.Globalization;
using System.Text.Json;
using SkiaSharp;
using Walkdown.Core;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Optics;
using Walkdown.StandIns.Cameras;

namespace Walkdown.StandIns.Scenes;

/// <summary>What is odd about how a camera hangs, degrees; heads are counted from 1.</summary>
/// <param name="Pan">It looks right of its agreed view by so much.</param>
/// <param name="Tilt">Below it.</param>
/// <param name="Roll">Turned about its axis, clockwise as it looks.</param>
/// <param name="Mirrored">Left and right changed by a setting.</param>
/// <param name="SlipPan">Tightening its screws turns it by so much.</param>
/// <param name="SlipTilt">Likewise.</param>
/// <param name="Covered">A cap or a film is before the lens.</param>
/// <param name="LagSeconds">It tells the picture of so long ago.</param>
/// <param name="Ring">Its ring is off its sharpest by so many steps, cover off; a step is about one depth of focus.</param>
/// <param name="CoverShift">Its cover moves where it is sharpest by so many steps.</param>
/// <param name="SlipRing">Tightening its screws turns the ring by so many.</param>
/// <param name="Smear">Where its cover is smeared: left, right or all.</param>
/// <param name="Night">What its own infrared does that it should not; null: nothing.</param>
/// <param name="NightRing">In the dark its sharpest is off by so many steps more.</param>
/// <param name="Sway">What it hangs on swings so far, end to end.</param>
/// <param name="Loose">Whoever pushes it turns it by so much.</param>
/// <param name="Stands">What stands in its view besides.</param>
/// <param name="Note">In words.</param>
public sealed record OddView(
    double Pan = 0,
    double Tilt = 0,
    double Roll = 0,
    bool Mirrored = false,
    double SlipPan = 0.3,
    double SlipTilt = 0.5,
    bool Covered = false,
    double LagSeconds = 0,
    double Ring = 0,
    double CoverShift = 0,
    double SlipRing = 0,
    string? Smear = null,
    NightFault? Night = null,
    double NightRing = 0,
    double Sway = 0,
    double Loose = 0,
    SceneThing[]? Stands = null,
    string? Note = null
);

/// <summary>How a head hangs now, against its agreed view; hidden from Walkdown.</summary>
/// <param name="Head">From 1.</param>
/// <param name="Pan">Right of it, degrees.</param>
/// <param name="Tilt">Below it, degrees.</param>
/// <param name="Roll">Clockwise as it looks, degrees.</param>
/// <param name="IsLocked">Its screws are tight.</param>
/// <param name="OffSharpest">Its ring is off its sharpest by so many steps now, as its cover stands.</param>
/// <param name="IsCovered">Its cover is on.</param>
/// <param name="IsInfraredOn">Its own light is on in the dark.</param>
/// <param name="ThrowsBack">What throws that light back still; null: nothing.</param>
/// <param name="Note">What is odd about it.</param>
public sealed record HeadTruth(
    int Head,
    double Pan,
    double Tilt,
    double Roll,
    bool IsLocked,
    double OffSharpest,
    bool IsCovered,
    bool IsInfraredOn,
    string? ThrowsBack,
    string? Note
);

/// <summary>What each camera of the simulated site sees: a made-up place of its own, drawn from how its heads truly hang. Turning a camera
/// moves its picture as glass would, and tightening its screws moves it a little.</summary>
public sealed class CameraScenes : ILensMotors
{
    private sealed record Hung(ScenePose Agreed, Scene Scene, OddView Odd)
    {
        public double Pan { get; init; }
        public double Tilt { get; init; }
        public double Roll { get; init; }
        public bool IsLocked { get; init; }

        /// <summary>When it was pushed last, seconds of the clock; null: never.</summary>
        public double? PushedAt { get; init; }
        public double Ring { get; init; }

        /// <summary>A motor turns its ring: where it stands, as a share of its travel; null: it has none.</summary>
        public double? Motor { get; init; }

        /// <summary>It moves until then, seconds of the clock.</summary>
        public double MovesUntil { get; init; }

        /// <summary>Its motor can only be told to run.</summary>
        public bool OnlyRuns { get; init; }

        /// <summary>Its motor runs so, in shares of its quickest, since then, seconds of the clock.</summary>
        public (double Speed, double Since)? Runs { get; init; }
        public bool IsCovered { get; init; } = true;
        public bool IsInfraredOn { get; init; } = true;
        public bool IsShaded { get; init; }

        /// <summary>It has a white light that answers movement.</summary>
        public bool HasLight { get; init; }

        /// <summary>Somebody walked past last, seconds of the clock; null: nobody has.</summary>
        public double? WalkedAt { get; init; }

        /// <summary>Somebody wiped, pressed or took off what it was.</summary>
        public bool IsMended { get; init; }

        /// <summary>What throws its light back as it hangs now.</summary>
        public NightFault? ThrowsBack =>
            Odd.Night is not { } fault || IsMended ? null
            : fault.Kind == "wall" ? (IsShaded || Math.Abs(Pan - Odd.Pan) >= 8 ? null : fault)
            : !IsCovered ? null
            : fault.Kind is "rim" or "tilt" && Tilt - Odd.Tilt >= 5 ? null
            : fault;

        public double OffSharpest => Ring - (IsCovered ? Odd.CoverShift : 0);

        public ScenePose Pose => Agreed with { Azimuth = Agreed.Azimuth + Pan, Tilt = Agreed.Tilt + Tilt, Roll = Roll };

        /// <summary>Its pose at a moment: what it hangs on swings, and a push dies away.</summary>
        public ScenePose At(ScenePose pose, double seconds)
        {
            const double SwaysHz = 0.7,
                RingsHz = 3,
                Pushed = 1.5,
                DiesIn = 0.6;
            var (pan, tilt) = (
                Odd.Sway / 2 * Math.Sin(2 * Math.PI * SwaysHz * seconds),
                Odd.Sway / 6 * Math.Sin(2.3 * Math.PI * SwaysHz * seconds)
            );
            if (PushedAt is { } at && seconds >= at && seconds - at < 10 * DiesIn)
                pan += Pushed * Math.Exp((at - seconds) / DiesIn) * Math.Cos(2 * Math.PI * RingsHz * (seconds - at));
            return pan == 0 && tilt == 0 ? pose : pose with { Azimuth = pose.Azimuth + pan, Tilt = pose.Tilt + tilt };
        }
    }

    private const int MostKept = 24,
        MostDrawn = 6;

    /// <summary>Barrel of a lens of 90 degrees.</summary>
    private const double WideBarrel = 0.09;

    /// <summary>What a white light gives of daylight.</summary>
    private const double Lamp = 0.5;

    /// <summary>Wider ones are drawn at half the size: what a lens leaves of a fine picture, pixels.</summary>
    private const int Large = 1600;

    private static readonly ConcurrentDictionary<(ScenePose, int, string, int), Lazy<byte[]>> Trials = new();

    private readonly Lock _lock = new();
    private readonly Dictionary<(string Label, int Head), Hung> _heads = [];
    private readonly ConcurrentDictionary<string, Lazy<byte[]>> _drawn = new(),
        _seen = new();
    private readonly Queue<(DateTimeOffset At, string Label, int Head, ScenePose Pose)> _before = new();
    private readonly SimClock _clock;
    private readonly Func<string, LightTruth?> _lights;

    /// <param name="odd">What is not as agreed, as JSON by label.</param>
    /// <param name="schedule">Rows of the schedule.</param>
    /// <param name="clock">Says whether it is dark.</param>
    /// <param name="lights">White lights as they truly are, by label; null: each does what it should.</param>
    public CameraScenes(
        string odd,
        IEnumerable<IReadOnlyDictionary<string, string>> schedule,
        SimClock clock,
        Func<string, LightTruth?>? lights = null
    )
    {
        (_clock, _lights) = (clock, lights ?? (static _ => null));
        var odds = JsonSerializer.Deserialize<Dictionary<string, OddView[]>>(odd, CoreJson.Options)!;
        CatalogueFile[] files = [.. Catalogue.Shipped.Select(f => JsonSerializer.Deserialize<CatalogueFile>(f.Json, Catalogue.Json)!)];
        var models = files.SelectMany(f => f.Models).ToDictionary(m => m.Id);
        var lit = files.SelectMany(f => f.Kinds).Where(k => k.Features.Contains(new("white-light"))).Select(k => k.Id).ToHashSet();
        foreach (var row in schedule)
        {
            var label = row["label"];
            var model = models.GetValueOrDefault(row.GetValueOrDefault("model", ""));
            var heads = int.TryParse(row.GetValueOrDefault("heads", ""), out var n) ? n : 1;
            var seed = label.Aggregate(17, (sum, c) => sum * 31 + c) & 0x7FFFFFFF;
            for (var head = 1; head <= heads; head++)
            {
                var of = odds.GetValueOrDefault(label) is { } all && all.Length >= head ? all[head - 1] : new OddView();
                var height = double.TryParse(row.GetValueOrDefault("height_m", ""), CultureInfo.InvariantCulture, out var high)
                    ? high
                    : 3.5;
                var agreed = new ScenePose
                {
                    Height = height,
                    Azimuth = seed % 360 + (head - 1) * 360.0 / heads,
                    Tilt = ViewProposal.TiltOf(height, model, row.GetValueOrDefault("kind") == "number-plate", 10),
                    Field = model?.Lens?.WidestDeg is { } widest and < 150 ? widest : 90,
                };
                // A wide lens bends lines, a long one hardly.
                agreed = agreed with
                {
                    Barrel = WideBarrel * Math.Clamp((agreed.Field - 30) / 60, 0, 1.3),
                };
                _heads[(label, head)] = new(agreed, new Scene(1 + seed % 9973, of.Stands, agreed.Azimuth), of)
                {
                    Pan = of.Pan,
                    Tilt = of.Tilt,
                    Roll = of.Roll,
                    Ring = of.Ring,
                    HasLight = lit.Contains(row.GetValueOrDefault("kind", "")),
                    Motor = model?.Lens?.Set == LensSet.Motor ? ShareOf(of.Ring) : null,
                    OnlyRuns = row.GetValueOrDefault("kind") == "number-plate",
                };
            }
        }
    }

    /// <summary>How the heads of a camera hang; empty: there is none.</summary>
    public IReadOnlyList<HeadTruth> Of(string label)
    {
        lock (_lock)
            return
            [
                .. _heads
                    .Where(h => h.Key.Label == label)
                    .OrderBy(h => h.Key.Head)
                    .Select(h => new HeadTruth(
                        h.Key.Head,
                        h.Value.Pan,
                        h.Value.Tilt,
                        h.Value.Roll,
                        h.Value.IsLocked,
                        h.Value.OffSharpest,
                        h.Value.IsCovered,
                        h.Value.IsInfraredOn,
                        h.Value.ThrowsBack?.Kind,
                        h.Value.Odd.Note
                    )),
            ];
    }

    /// <summary>Turns a head by hand; one whose screws are tight does not turn.</summary>
    /// <returns>False: it is tight, or there is none.</returns>
    public bool Turn(string label, int head, double pan, double tilt, double roll)
    {
        lock (_lock)
        {
            if (!_heads.TryGetValue((label, head), out var hung) || hung.IsLocked)
                return false;
            Remember(label, head, hung);
            _heads[(label, head)] = hung with
            {
                Pan = Turned(hung.Pan + pan),
                Tilt = Math.Clamp(hung.Tilt + tilt, -90 - hung.Agreed.Tilt, 90 - hung.Agreed.Tilt),
                Roll = Turned(hung.Roll + roll),
            };
            return true;
        }

        static double Turned(double degrees) => degrees - 360 * Math.Round(degrees / 360);
    }

    /// <summary>Pushes a camera once by hand: it swings, and comes back unless it is loose.</summary>
    public bool Push(string label)
    {
        lock (_lock)
        {
            var of = _heads.Where(h => h.Key.Label == label).ToList();
            foreach (var (key, hung) in of)
                _heads[key] = hung with { PushedAt = _clock.Seconds, Pan = hung.Pan + hung.Odd.Loose };
            return of.Count > 0;
        }
    }

    /// <summary>Turns the ring of a head's lens; whether its screws are tight, a ring gives way to who wants it.</summary>
    /// <param name="steps">Towards far; negative: towards near.</param>
    /// <returns>False: there is none.</returns>
    public bool Ring(string label, int head, double steps)
    {
        lock (_lock)
        {
            if (!_heads.TryGetValue((label, head), out var hung))
                return false;
            var ring = Math.Clamp(hung.Ring + steps, -MostRing, MostRing);
            _heads[(label, head)] = hung with { Ring = ring, Motor = hung.Motor is null ? null : ShareOf(ring) };
            return true;
        }
    }

    /// <summary>A ring is turned so far either way.</summary>
    private const double MostRing = 20;

    private static double ShareOf(double ring) => (ring + MostRing) / (2 * MostRing);

    /// <summary>Play of a motor's gears, steps of the ring, so that the ring comes after it; and how long it takes through all of its
    /// travel.</summary>
    private const double Play = 0.5,
        SecondsThrough = 3;

    /// <inheritdoc/>
    public (double At, bool IsMoving)? Motor(string label, int head, double? to)
    {
        lock (_lock)
        {
            if (!_heads.TryGetValue((label, head), out var hung) || hung.Motor is null)
                return null;
            hung = RunUntilNow(hung);
            if (to is { } wanted)
            {
                var share = Math.Clamp(wanted, 0, 1);
                hung = Driven(hung, share) with { MovesUntil = _clock.Seconds + SecondsThrough * Math.Abs(share - hung.Motor!.Value) };
            }
            _heads[(label, head)] = hung;
            return (hung.Motor!.Value, hung.Runs is not null || _clock.Seconds < hung.MovesUntil);
        }
    }

    /// <inheritdoc/>
    public bool OnlyRuns(string label, int head)
    {
        lock (_lock)
            return _heads.TryGetValue((label, head), out var hung) && hung.OnlyRuns;
    }

    /// <inheritdoc/>
    public void Run(string label, int head, double speed)
    {
        lock (_lock)
            if (_heads.TryGetValue((label, head), out var hung) && hung.Motor is not null)
                _heads[(label, head)] = RunUntilNow(hung) with { Runs = speed == 0 ? null : (speed, _clock.Seconds) };
    }

    private static Hung Driven(Hung hung, double share)
    {
        var drives = 2 * MostRing * share - MostRing;
        return hung with { Motor = share, Ring = Math.Clamp(hung.Ring, drives - Play / 2, drives + Play / 2) };
    }

    /// <summary>As its motor has driven it so far: at its end it stands, and hums.</summary>
    private Hung RunUntilNow(Hung hung) =>
        hung is not { Runs: var (speed, since), Motor: { } at }
            ? hung
            : Driven(hung, Math.Clamp(at + speed * (_clock.Seconds - since) / SecondsThrough, 0, 1)) with
            {
                Runs = (speed, _clock.Seconds),
            };

    /// <summary>Puts the cover of all heads on, or takes it off.</summary>
    public bool Cover(string label, bool on)
    {
        lock (_lock)
        {
            var of = _heads.Keys.Where(k => k.Label == label).ToList();
            foreach (var key in of)
                _heads[key] = _heads[key] with { IsCovered = on };
            return of.Count > 0;
        }
    }

    /// <summary>What a hand does about the night: wipe, film, foam; infrared, shade: on, or off again.</summary>
    /// <returns>False: there is no such camera, or nothing of that kind is done.</returns>
    public bool Night(string label, string what)
    {
        lock (_lock)
        {
            var of = _heads.Where(h => h.Key.Label == label).ToList();
            foreach (var (key, hung) in of)
                if (After(hung) is { } after)
                    _heads[key] = after;
                else
                    return false;
            return of.Count > 0;
        }

        Hung? After(Hung hung) =>
            what switch
            {
                "wipe" => Mended(hung, "finger", "smudge"),
                "film" => Mended(hung, "film"),
                "foam" => Mended(hung, "foam"),
                "infrared" => hung with { IsInfraredOn = !hung.IsInfraredOn },
                "shade" => hung with { IsShaded = !hung.IsShaded },
                _ => null,
            };

        static Hung Mended(Hung hung, params ReadOnlySpan<string> kinds) =>
            hung with
            {
                IsMended = hung.IsMended || kinds.Contains(hung.Odd.Night?.Kind),
            };
    }

    /// <summary>Somebody walks past a camera: in the dark its white light sees him.</summary>
    public bool Walk(string label)
    {
        lock (_lock)
        {
            var of = _heads.Where(h => h.Key.Label == label).ToList();
            foreach (var (key, hung) in of)
                _heads[key] = hung with { WalkedAt = _clock.Seconds };
            return of.Count > 0;
        }
    }

    /// <summary>Its white light is on.</summary>
    private bool IsLit(string label, Hung hung)
    {
        const double Answers = 1,
            StaysOn = 12;
        if (!hung.HasLight || !_clock.Dark || hung.WalkedAt is not { } walked || _lights(label) is { Dead: true })
            return false;
        var since = _clock.Seconds - walked;
        return since >= Answers && (since < StaysOn || _lights(label) is { Held: true });
    }

    /// <summary>Tightens or loosens the screws of all heads; tightening turns them a little.</summary>
    public bool Lock(string label, bool tight)
    {
        lock (_lock)
        {
            var of = _heads.Where(h => h.Key.Label == label).ToList();
            foreach (var (key, hung) in of)
            {
                var slips = tight && !hung.IsLocked;
                Remember(key.Label, key.Head, hung);
                _heads[key] = hung with
                {
                    IsLocked = tight,
                    Pan = hung.Pan + (slips ? hung.Odd.SlipPan : 0),
                    Tilt = hung.Tilt + (slips ? hung.Odd.SlipTilt : 0),
                    Ring = hung.Ring + (slips ? hung.Odd.SlipRing : 0),
                };
            }
            return of.Count > 0;
        }
    }

    /// <summary>Its picture as JPEG, as it hangs now.</summary>
    /// <param name="wide">Pixels; its height is 9 to 16.</param>
    /// <returns>Null: there is no such head.</returns>
    public byte[]? Picture(string label, int head, int wide)
    {
        Hung hung;
        ScenePose pose;
        lock (_lock)
        {
            if (!_heads.TryGetValue((label, head), out hung!))
                return null;
            _heads[(label, head)] = hung = RunUntilNow(hung);
            pose = hung.Pose;
            if (hung.Odd.LagSeconds > 0)
                pose = Before(label, head, _clock.Time.AddSeconds(-hung.Odd.LagSeconds)) ?? pose;
        }
        pose = hung.At(pose, _clock.Seconds);
        // What moves in the picture moves every two seconds; a large one is drawn anew less often, and only its noise is new.
        var beat = (int)(_clock.Seconds / 2);
        var large = wide > Large ? beat / 15 : beat;
        var isLit = IsLit(label, hung);
        var mood = new SceneMood
        {
            Daylight =
                !_clock.Dark ? 1
                : isLit ? Lamp
                : 0.05,
            Infrared = hung.IsInfraredOn && !isLit ? 0.9 : 0,
            Moving = 2,
            Seed = 100 + large % 50_000,
        };
        var lens = new SceneLens(
            hung.OffSharpest + (_clock.Dark ? hung.Odd.NightRing : 0),
            hung.IsCovered ? hung.Odd.Smear : null,
            _clock.Dark ? 3 : 2,
            1000 + (int)(2 * _clock.Seconds) % 50_000
        );
        return Jpeg(
            $"{label} {head}",
            hung,
            pose,
            mood,
            wide,
            hung.Odd,
            lens,
            isLit ? null : hung.ThrowsBack,
            isLit && _lights(label) is not { Grey: true }
        );
    }

    /// <summary>What was agreed at the trial aim, on another day under another sun.</summary>
    public byte[]? Agreed(string label, int head, int wide)
    {
        Hung hung;
        lock (_lock)
            if (!_heads.TryGetValue((label, head), out hung!))
                return null;
        // It never changes: drawn once, however many worlds stand side by side.
        return Trials
            .GetOrAdd(
                (hung.Agreed, hung.Scene.Seed, string.Join(' ', hung.Odd.Stands ?? []), wide),
                _ =>
                    new(() =>
                        Jpeg(
                            $"{label} {head} agreed",
                            hung,
                            hung.Agreed,
                            new SceneMood { SunAzimuth = 150 },
                            wide,
                            new(),
                            new(0, null, 1, 1)
                        )
                    )
            )
            .Value;
    }

    /// <summary>What a camera sees that is on no schedule.</summary>
    public byte[] Stranger(string name)
    {
        var hung = new Hung(new ScenePose { Azimuth = name.Length * 40 }, new Scene(20_000 + name.Length), new OddView());
        return Jpeg("stranger " + name, hung, hung.Agreed, new SceneMood { Seed = 7 }, 640, hung.Odd, new(0, null, 2, 7));
    }

    private byte[] Jpeg(
        string of,
        Hung hung,
        ScenePose pose,
        SceneMood mood,
        int wide,
        OddView odd,
        SceneLens lens,
        NightFault? fault = null,
        bool isInColour = false
    )
    {
        var high = wide * 9 / 16;
        // Asked by two at once, or once more within the beat: the same place, drawn once.
        if (_drawn.Count >= MostDrawn)
            _drawn.Clear();
        if (_seen.Count >= MostKept)
            _seen.Clear();
        var key = string.Create(
            CultureInfo.InvariantCulture,
            $"{of} {wide} {pose.Azimuth:R} {pose.Tilt:R} {pose.Roll:R} {mood.Seed} {mood.Daylight} {mood.Infrared}"
        );
        var back = odd.Covered ? null : fault;
        var drawn = _drawn
            .GetOrAdd(
                key,
                _ =>
                    new(() =>
                        odd.Covered ? Cap(wide, high, mood.Seed)
                        : wide > Large ? SceneLens.Twice(hung.Scene.DrawColours(pose, mood, wide / 2, high / 2), wide / 2, high / 2)
                        : hung.Scene.DrawColours(pose, mood, wide, high)
                    )
            )
            .Value;
        return _seen
            .GetOrAdd(
                $"{key} {lens} {back} {isInColour}",
                _ =>
                    new(() =>
                    {
                        var colours = (byte[])drawn.Clone();
                        // What stands there by day stands there by night as well, lit otherwise.
                        if (back is not null && mood.Daylight >= 1)
                            SceneNight.ByDay(colours, wide, high, back);
                        var grain =
                            mood.Daylight < 1 && !isInColour
                                ? SceneNight.Through(colours, wide, high, back ?? new(null, 0), mood.Infrared > 0)
                                : 1;
                        (lens with { Noise = grain * lens.Noise }).Through(colours, wide, high);
                        if (odd.Mirrored)
                            Mirror(colours, wide);
                        using var bitmap = new SKBitmap(new SKImageInfo(wide, high, SKColorType.Rgba8888, SKAlphaType.Opaque));
                        colours.CopyTo(bitmap.GetPixelSpan());
                        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, wide > Large ? 92 : 85);
                        return data.ToArray();
                    })
            )
            .Value;
    }

    private static void Mirror(byte[] colours, int wide)
    {
        var pixels = System.Runtime.InteropServices.MemoryMarshal.Cast<byte, uint>(colours.AsSpan());
        for (var at = 0; at < pixels.Length; at += wide)
            pixels.Slice(at, wide).Reverse();
    }

    /// <summary>Black with the noise of a sensor that sees nothing.</summary>
    private static byte[] Cap(int wide, int high, int seed)
    {
        var colours = new byte[4 * wide * high];
        var random = new Random(seed);
        for (var i = 0; i < colours.Length; i += 4)
        {
            colours[i] = colours[i + 1] = colours[i + 2] = (byte)random.Next(0, 5);
            colours[i + 3] = 255;
        }
        return colours;
    }

    private void Remember(string label, int head, Hung hung)
    {
        if (_before.Count > 200)
            _before.Dequeue();
        _before.Enqueue((_clock.Time, label, head, hung.Pose));
    }

    /// <summary>How it hung at a moment; null: as it hangs now.</summary>
    private ScenePose? Before(string label, int head, DateTimeOffset at) =>
        _before.FirstOrDefault(b => b.Label == label && b.Head == head && b.At > at) is { Pose: { } pose } ? pose : null;
}
