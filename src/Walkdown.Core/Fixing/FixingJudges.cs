using Walkdown.Core.Acceptance;
using Walkdown.Core.Aiming;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;

namespace Walkdown.Core.Fixing;

/// <summary>Holes and mounts.</summary>
internal static class FixingJudges
{
    /// <summary>The tilt against its window, and what of the ground the picture then holds at the height that was read or is
    /// planned.</summary>
    internal static Judged Tilt(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var judged = GeneralJudges.Window(c, value, window, accuracy, takenAt);
        var height = c.Counting.Number(KnownChecks.Height, new Subject(SubjectKind.Place, c.Facts.Place.Id)) ?? c.Facts.Place.HeightMetres;
        if (height is not (> 0 and <= 1000) || c.Model?.Lens is not { TallestDeg: > 0 and < 180 and var tall } lens)
            return judged;
        var because = judged.Because.ToBuilder();
        because.Add(Reach("wide", tall));
        if (lens.LowestDeg is > 0 and < 180 and var low && low < tall)
            because.Add(Reach("narrow", low));
        return judged with { Because = because.ToImmutable() };

        Message Reach(string end, double vertical)
        {
            var seen = Coverage.Of(height.Value, Math.Clamp(((NumberValue)value).Value, -90, 90), vertical);
            return !seen.IsInView ? new($"tilt.sees.none.{end}")
                : seen.FarMetres is { } far
                    ? new($"tilt.sees.{end}", Message.Number(Math.Max(0, seen.BlindMetres!.Value), 1), Message.Number(far, 1))
                : new($"tilt.sees.horizon.{end}", Message.Number(Math.Max(0, seen.BlindMetres!.Value), 1));
        }
    }

    /// <summary>A bearing against that of the agreed view, the short way round: 355 degrees lie 10 beside 5.</summary>
    internal static Judged Bearing(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        if (AgreedViews.Bearing(c) is not { } planned)
            return GeneralJudges.NotJudged(new Message("expect.none.no-bearing"));
        var off = Math.IEEERemainder(((NumberValue)value).Value - planned, 360);
        var judged = GeneralJudges.Window(c, new NumberValue(planned + off, Unit.Degree), window, accuracy, takenAt);
        return judged with
        {
            Because = judged.Because.Insert(
                0,
                Math.Abs(off) < 0.5
                    ? new("bearing.as-agreed")
                    : new(off < 0 ? "bearing.left" : "bearing.right", Message.Number(Math.Abs(off), 0))
            ),
        };
    }

    /// <summary>The smallest hole for what passes, against the one that was made; a bushing must let the cables through and fit the
    /// hole.</summary>
    internal static Judged Hole(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (
            line.Of("passes")?.Word is not { } passes
            || line.Of("cables")?.Number is not { } cables
            || line.Of("hole")?.Number is not { } hole
        )
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, "hole")));
        var cable = c.Catalogue.Figure("passage.bare-cable");
        var clearance = c.Catalogue.Figure("passage.clearance");
        var least = Passage.SmallestMm(c.Catalogue.Figure("passage." + passes), cable, Math.Max(1, (int)cables), clearance);
        var because = ImmutableArray.CreateBuilder<Message>();
        because.Add(new("hole.least", Message.Number(least, 0), FormJudges.Name(c, "passes") + "." + passes, Message.Number(cables, 0)));
        var state = hole >= least ? State.In : State.Out;
        if (state == State.Out)
            because.Add(new(passes == "bare-cable" ? "hole.too-small" : "hole.too-small-or-box", Message.Number(least - hole, 0)));
        var bundle = Passage.BundleMm(cable, Math.Max(1, (int)cables));
        if (line.Of("bushing")?.Number is { } bushing && bushing > 0)
        {
            if (bushing < bundle)
                (state, because) = (State.Out, With(because, new("hole.bushing-small", Message.Number(bundle, 0))));
            else if (bushing > hole)
                (state, because) = (State.Out, With(because, new("hole.bushing-wide", Message.Number(bushing - hole, 0))));
        }
        else if (c.Has("outdoor") && line.Of("sealed")?.Word != "yes")
            (state, because) = (State.Out, With(because, new("hole.open")));
        return new(state, null, null, because.ToImmutable());

        static ImmutableArray<Message>.Builder With(ImmutableArray<Message>.Builder list, Message one)
        {
            list.Insert(0, one);
            return list;
        }
    }

    /// <summary>What suits surface and route, against the plan's mount and the box that is there.</summary>
    internal static Judged Mount(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (
            line.Of("surface")?.Word is not { } surface
            || line.Of("route")?.Word is not { } word
            || line.Of("extra")?.Word is not { } extra
        )
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, "surface")));
        var route = word switch
        {
            "inside" => CableRoute.FromInside,
            "conduit" => CableRoute.Conduit,
            _ => CableRoute.OnSurface,
        };
        var resolved = MountResolver.Resolve(
            surface,
            route,
            extra is "power" or "both" || c.Has("low-voltage"),
            extra is "contacts" or "both",
            c.Has("outdoor")
        );
        var because = ImmutableArray.CreateBuilder<Message>();
        var state = State.In;
        if (resolved.BoxRequired && line.Of("box")?.Word == "no")
        {
            state = State.Out;
            because.Add(new("mount.no-box", string.Join(", ", resolved.Because.Select(b => "@" + b))));
        }
        if (c.Facts.Place.Mount is not { } planned)
        {
            if (state == State.In)
                state = State.NotJudged;
            because.Add(new("mount.no-plan", Words(resolved)));
        }
        // A box under what hangs there is no other mount.
        else if (!resolved.Mounts.Contains(planned) && !(planned == "junction-box" && surface is "wall" or "ceiling" or "eaves"))
        {
            state = State.Out;
            because.Add(new("mount.other", $"@choice.fixing.mount.{planned}", Words(resolved)));
        }
        if (!resolved.Parts.IsEmpty)
            because.Add(new("mount.parts", string.Join(", ", resolved.Parts.Select(p => "@mount.part." + p))));
        because.Add(new("mount.hole", "@" + resolved.Hole));
        return new(state, null, null, because.ToImmutable());

        static string Words(ResolvedMount resolved) => string.Join(", ", resolved.Mounts.Select(m => $"@choice.fixing.mount.{m}"));
    }
}
