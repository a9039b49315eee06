using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Nights;
using Walkdown.Core.Optics;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Aiming;

/// <summary>How a target of a view is lit, in its picture.</summary>
public enum TargetLightState
{
    /// <summary>Neither of the others.</summary>
    Shown,

    /// <summary>Dark before bright light: a figure before a window, a gate against the sky.</summary>
    Backlit,

    /// <summary>Burnt out: white where it is.</summary>
    White,
}

/// <summary>Light on a target against the light behind it, by what the camera made of both (docs/calculations.md, L).</summary>
/// <param name="Name">Of the target.</param>
/// <param name="Region">Where it stands in the picture, by the agreed view.</param>
/// <param name="Light">On it: the middle of its levels as linear light, share of white.</param>
/// <param name="Behind">Around it: the brightest twentieth, likewise.</param>
/// <param name="ContrastDb">Of the one against the other, in the picture.</param>
/// <param name="State">What that means.</param>
/// <param name="Said">In words; null: nothing is to be said.</param>
public sealed record TargetLight(
    string Name,
    PictureRegion Region,
    double Light,
    double Behind,
    double ContrastDb,
    TargetLightState State,
    Message? Said
)
{
    /// <summary>Backlit: no more light on it than the first, no less behind it than the second, shares of white.</summary>
    private const double Dark = 0.06,
        Bright = 0.6;

    /// <summary>White from here.</summary>
    private const double White = 0.95;

    /// <summary>A picture without light in it is the night's, and says nothing of the day's.</summary>
    private const double LeastLight = 0.2;

    /// <summary>A target is so wide at least as a share of its height, and is looked at around it to as much again on each side.</summary>
    private const double WideToHigh = 0.4;

    /// <summary>Smaller ones say nothing, pixels.</summary>
    private const int LeastPixels = 6;

    /// <summary>The targets of an agreed view in a picture that lies on it.</summary>
    /// <param name="view">As agreed.</param>
    /// <param name="picture">Of it, aimed as it was agreed.</param>
    /// <param name="bend">How far its lens bends lines, as far as is known (<see cref="CameraTurn.Bend"/>).</param>
    /// <returns>Of those that stand in the picture; empty: none does, or it is dark.</returns>
    public static ImmutableArray<TargetLight> Of(ViewDesign view, GreyRaster picture, double bend = 0)
    {
        if (LinearAt(picture.Histogram(), 95) < LeastLight)
            return [];
        return [.. view.Targets.Select(t => Of(t.Name, RegionOf(view, t, picture, bend), picture)).OfType<TargetLight>()];
    }

    private static TargetLight? Of(string name, PictureRegion? region, GreyRaster picture)
    {
        if (region is not { } at)
            return null;
        var (left, top) = (Math.Max(0, at.X - at.Width), Math.Max(0, at.Y - at.Height));
        var (right, bottom) = (Math.Min(picture.Width, at.X + 2 * at.Width), Math.Min(picture.Height, at.Y + 2 * at.Height));
        var on = picture.Cut(at.X, at.Y, at.Width, at.Height).Histogram();
        var around = picture.Cut(left, top, right - left, bottom - top).Histogram();
        for (var g = 0; g < around.Length; g++)
            around[g] -= on[g];
        if (around.Sum() < LeastPixels * LeastPixels)
            return null;
        var (light, behind) = (LinearAt(on, 50), LinearAt(around, 95));
        // Black is less than the least grey level, nobody knows by how much.
        var contrast = 20 * Math.Log10(behind / Math.Max(light, TileLight.LinearOf(1)));
        var state =
            light >= White ? TargetLightState.White
            : light <= Dark && behind >= Bright ? TargetLightState.Backlit
            : TargetLightState.Shown;
        return new(
            name,
            at,
            light,
            behind,
            contrast,
            state,
            state switch
            {
                TargetLightState.White => new("target-light.white", Message.Said(name)),
                TargetLightState.Backlit => new("target-light.backlit", Message.Said(name), Message.Number(contrast, 0)),
                _ => null,
            }
        );
    }

    /// <summary>Where a target stands, from the ground to its top; null: not in the picture, or too small there.</summary>
    private static PictureRegion? RegionOf(ViewDesign view, ViewTarget target, GreyRaster picture, double bend)
    {
        if (
            view.Seen(target.GroundMetres, target.AsideMetres, target.HeightMetres, bend) is not { } top
            || view.Seen(target.GroundMetres, target.AsideMetres, 0, bend) is not { } foot
        )
            return null;
        var (x, from, to) = (top.X * picture.Width, top.Y * picture.Height, foot.Y * picture.Height);
        if (!double.IsFinite(x + from + to))
            return null;
        var half = WideToHigh / 2 * Math.Max(LeastPixels, to - from);
        var left = (int)Math.Clamp(x - half, 0, picture.Width);
        var right = (int)Math.Clamp(x + half, 0, picture.Width);
        var above = (int)Math.Clamp(from, 0, picture.Height);
        var below = (int)Math.Clamp(to, 0, picture.Height);
        return right - left >= LeastPixels / 2 && below - above >= LeastPixels ? new(left, above, right - left, below - above) : null;
    }

    private static double LinearAt(ReadOnlySpan<int> histogram, double percent) =>
        TileLight.LinearOf((byte)GreyRaster.Percentile(histogram, percent));
}
