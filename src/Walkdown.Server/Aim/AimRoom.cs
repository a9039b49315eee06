using System.Collections.Concurrent;
using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Addressing;
using Walkdown.Core.Aiming;
using Walkdown.Core.Clocks;
using Walkdown.Core.Entries;
using Walkdown.Core.Focusing;
using Walkdown.Core.Measures;
using Walkdown.Core.Nights;
using Walkdown.Core.Optics;
using Walkdown.Devices.Discovery;
using Walkdown.Devices.Field;
using Walkdown.Formats;
using Walkdown.Server.Addresses;
using Walkdown.Server.Cards;
using Walkdown.Server.Handover;
using Walkdown.Server.Readings;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Aim;

/// <summary>Heads that are being aimed: one watch each, whoever looks.</summary>
public sealed class AimRoom(
    AddressBook book,
    FieldHttp http,
    NetworkSweep.Pace pace,
    CardService cards,
    KeptFiles keptFiles,
    PictureIntake intake,
    Observations observations,
    TimeProvider time
) : IDisposable
{
    private const int MostWatches = 64;

    /// <summary>As long is waited for a newer picture before the same is told again.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(5);

    private readonly ConcurrentDictionary<(Guid Device, Guid Head), AimWatch> _watches = new();

    /// <summary>A Card and one of its heads.</summary>
    private sealed record Head(LoadedCard Loaded, JudgedCard Judged, Guid Id, int Number)
    {
        public CardFacts Facts => Loaded.Facts;
        public PlannedView? View => Facts.AgreedView(Id);
    }

    /// <summary>Begins to ask the camera for pictures of a head, with this login; what was measured before is forgotten.</summary>
    /// <param name="wanted">What they are looked at for.</param>
    /// <returns>Null: no such head.</returns>
    /// <exception cref="Refusal">It cannot be asked.</exception>
    internal async Task<AimLive?> Begin(Guid deviceId, Guid headId, GivenLogin? login, LookedFor wanted)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        var known = await book.Load(head.Loaded.Job.Id);
        var found = known?.Ledger.Found.GetValueOrDefault(deviceId);
        if (Ipv4Address.Read(found?.Address ?? head.Facts.Place.Address) is not { } address)
            throw new Refusal(new("aim.no-address", head.Facts.Place.Label));
        var watch = await Renew(head, wanted);
        watch.Begin(
            new OnvifCamera(
                http,
                address,
                found?.Port ?? 80,
                found?.Path is { Length: > 0 } path ? path : OnvifCamera.UsualPath,
                found?.Tls ?? false,
                login is { User.Length: > 0 } ? new FieldLogin(login.User, login.Password) : null,
                pace.Patience,
                time
            ),
            head.Number
        );
        await watch.Wait(0, Patience, default);
        return Told(head, watch);
    }

    /// <summary>The newest that there is after a number, or the same again after a while.</summary>
    public async Task<AimLive?> Live(Guid deviceId, Guid headId, int after, CancellationToken cancel)
    {
        if (_watches.TryGetValue((deviceId, headId), out var watch))
            await watch.Wait(after, Patience, cancel);
        if (await Of(deviceId, headId) is not { } head)
            return null;
        if (watch is not null && watch.Against.ViewId != head.View?.Id)
        {
            var against = await Against(head);
            await Task.Run(() => watch.Hold(against), cancel);
        }
        return Told(head, watch);
    }

    /// <summary>A picture from a file, or of a monitor: measured once.</summary>
    /// <exception cref="Refusal">It is no picture.</exception>
    /// <param name="corners">Of its picture, where the file is a photograph of a monitor; null: it is the picture.</param>
    internal async Task<AimLive?> FromFile(Guid deviceId, Guid headId, byte[] file, LookedFor wanted, MonitorCorners? corners = null)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        var before = _watches.GetValueOrDefault((deviceId, headId));
        // A live one goes on by itself; a picture of another way ends it.
        var watch = before is { IsLive: false } && before.Wanted.Use == wanted.Use ? before : await Renew(head, wanted);
        var hand = (0.0, 0.0);
        if (corners is not null)
            (file, hand) = await Task.Run(() => Flat(file, corners, watch.Against.Target, head.View?.Design));
        return watch.Take(file, isFile: true, hand) ? Told(head, watch) : throw new Refusal(new("aim.not-a-picture"));
    }

    /// <summary>The picture on a photographed monitor, laid flat, in the shape of the agreed one.</summary>
    private static (byte[] File, (double OffDeg, double RollDeg) Hand) Flat(
        byte[] file,
        MonitorCorners corners,
        AimTarget? target,
        ViewDesign? design
    )
    {
        if (PictureFile.TryRead(file) is not { } photo)
            throw new Refusal(new("aim.not-a-picture"));
        if (corners.Refuse(photo.Width, photo.Height) is { } why)
            throw new Refusal(why);
        var shape = target?.Shape ?? (design is { PixelsWide: > 0, PixelsHigh: > 0 } d ? (double)d.PixelsHigh / d.PixelsWide : 9 / 16.0);
        return (
            PictureFile.Jpeg(corners.Straighten(photo, shape)),
            corners.Touched(photo.Width, photo.Height, target?.HorizontalDeg ?? design?.HorizontalDeg ?? 90)
        );
    }

    /// <summary>Its screws are tight now, or loose again.</summary>
    public async Task<AimLive?> Lock(Guid deviceId, Guid headId, bool tight)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        var watch = _watches.GetValueOrDefault((deviceId, headId));
        if (watch?.Shot is null)
            throw new Refusal(new("aim.nothing-yet"));
        watch.Lock(tight);
        return Told(head, watch);
    }

    /// <summary>Whether it stands still is measured, in the pictures that come.</summary>
    /// <exception cref="Refusal">It is not looked through live.</exception>
    internal async Task<AimLive?> Sway(Guid deviceId, Guid headId, SwayAsk ask)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        if (_watches.GetValueOrDefault((deviceId, headId)) is not { Wanted.Use: AimUse.Aim } watch || !watch.IsLive && ask != SwayAsk.End)
            throw new Refusal(new("sway.not-live"));
        await Task.Run(() =>
        {
            if (ask == SwayAsk.Unpushed)
                watch.Unpushed();
            else
                watch.Watch(ask == SwayAsk.Begin ? SwayTolerance.Of(head.Judged, head.Id) : null);
        });
        return Told(head, watch);
    }

    /// <summary>Has the motor of its lens driven.</summary>
    /// <exception cref="Refusal">It has none that can be driven from here.</exception>
    public async Task<AimLive?> Drive(Guid deviceId, Guid headId, MotorRequest request)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        if (_watches.GetValueOrDefault((deviceId, headId)) is not { Motor: not null } watch)
            throw new Refusal(new("motor.none"));
        if (request.Ask != MotorAsk.Stop)
        {
            await cards.NotWhileUpdating(deviceId, head.Facts.Place.Label);
            // Whoever drives it touches its lens: what leans on it is asked again.
            if (FocusRows.Leans(head.Judged, headId))
            {
                var now = time.GetUtcNow();
                var touched = new ActRequest(Guid.CreateVersion7(now), FocusRows.LensTouched, request.By, now, 0);
                if ((await cards.Append(deviceId, touched)).Result is { Kept: not Kept.New, Why: var why })
                    throw new Refusal(why ?? new("problem.unknown-act"));
                head = await Of(deviceId, headId) ?? head;
            }
        }
        if (!watch.Drive(request))
            throw new Refusal(new("motor.none"));
        return Told(head, watch);
    }

    /// <summary>Looks elsewhere how sharp it is, or begins anew.</summary>
    public async Task<AimLive?> Focus(Guid deviceId, Guid headId, PictureShare target)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        if (_watches.GetValueOrDefault((deviceId, headId)) is not { Wanted.Use: not AimUse.Aim } watch)
            throw new Refusal(new("aim.nothing-yet"));
        await Task.Run(() => watch.Focus(target));
        return Told(head, watch);
    }

    /// <summary>Something was done about what lies over its picture in the dark.</summary>
    /// <exception cref="Refusal">Nothing lies over it, as far as is known.</exception>
    public async Task<AimLive?> Tried(Guid deviceId, Guid headId, NightAct act)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        if (_watches.GetValueOrDefault((deviceId, headId)) is not { } watch || !await Task.Run(() => watch.Tried(act)))
            throw new Refusal(new("night.nothing-to-try"));
        return Told(head, watch);
    }

    /// <summary>Somebody walks through what its white light watches, now.</summary>
    /// <exception cref="Refusal">It has none, or nobody looks through it.</exception>
    public async Task<AimLive?> Walked(Guid deviceId, Guid headId)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        if (_watches.GetValueOrDefault((deviceId, headId)) is not { } watch || !await Task.Run(watch.Walked))
            throw new Refusal(new("night.lamp-none"));
        return Told(head, watch);
    }

    /// <summary>The picture that is shown stays, until somebody looks through the camera again.</summary>
    public async Task<AimLive?> Still(Guid deviceId, Guid headId)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        var watch = _watches.GetValueOrDefault((deviceId, headId));
        if (watch?.Shot is null)
            throw new Refusal(new("aim.nothing-yet"));
        await watch.Still();
        return Told(head, watch);
    }

    /// <summary>What two touched points of the picture that is shown say.</summary>
    /// <exception cref="Refusal">It is shown no more.</exception>
    public async Task<AimTouched?> Touch(Guid deviceId, Guid headId, AimTouchRequest request)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        var shot = Shown(deviceId, headId, request.Number);
        if (request.Touch.IsLight)
        {
            var light = await Task.Run(() => Light(head, shot, request.Touch));
            return new(null, light, AimRows.Of(head.Judged, head.Id, light).Select(r => RowOf(head, r.Row.Id, r.Value)).FirstOrDefault());
        }
        var measured = Measured(head, shot, request.Touch);
        return new(
            measured,
            null,
            AimRows.RowOf(head.Judged, measured.Check, head.Id) is { } row ? RowOf(head, row.Id, measured.Value) : null
        );
    }

    /// <summary>What a lamp or a mirror does to the picture that is shown.</summary>
    private TouchedLight Light(Head head, AimShot shot, AimTouch touch)
    {
        var now = time.GetUtcNow();
        var facts = head.Facts;
        return TouchedLight.Of(
            touch,
            PictureFile.TryRead(shot.File) ?? throw new Refusal(new("aim.not-a-picture")),
            head.View?.Design,
            shot.Look?.Measured,
            facts.Site.Where(facts.TimeZone) is var (latitude, longitude, _)
                ? new(latitude, longitude, SiteTime.StandardOffsetMinutes(facts.TimeZone, now), facts.DayOf(now))
                : null
        );
    }

    private static TouchMeasure Measured(Head head, AimShot shot, AimTouch touch) =>
        touch.Measure(shot.Wide, shot.High, RecordedWide(head), head.View?.Design)
        ?? throw new Refusal(new(head.View?.Design.Targets.IsEmpty != false ? "touch.no-target" : "touch.never-there"));

    private static int RecordedWide(Head head) =>
        head.View?.Design.PixelsWide ?? ViewProposal.Of(head.Facts.Place, ViewRules.Of(head.Facts, head.Judged.Catalogue)).PixelsWide;

    private AimShot Shown(Guid deviceId, Guid headId, int number) =>
        _watches.GetValueOrDefault((deviceId, headId))?.ShotOf(number) ?? throw new Refusal(new("aim.gone"));

    /// <summary>The file of the picture that is shown; null: it is not there any more.</summary>
    public byte[]? Picture(Guid deviceId, Guid headId, int number) => _watches.GetValueOrDefault((deviceId, headId))?.ShotOf(number)?.File;

    /// <summary>Keeps the picture that is shown, and what it says, so that readings can cite both.</summary>
    /// <returns>Null: no such head.</returns>
    /// <exception cref="Refusal">There is no such picture any more, or it cannot be kept.</exception>
    public async Task<AimKept?> Keep(Guid deviceId, Guid headId, AimKeepRequest request, CancellationToken cancel)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        var shot = Shown(deviceId, headId, request.Number);
        var isLocked = _watches.GetValueOrDefault((deviceId, headId))?.BeforeLock is not null;
        if (request.Touch?.Refuse() is var (wrong, _))
            throw new Refusal(wrong);
        // What says nothing is refused before its picture is kept.
        if (request.Touch is { IsLight: false } touched && Measured(head, shot, touched).Doubt is { } doubt)
            throw new Refusal(doubt);
        if (request.IsSway && _watches.GetValueOrDefault((deviceId, headId))?.Sway is not { Measured: not null, Phase: SwayPhase.Done })
            throw new Refusal(new("sway.nothing-yet"));
        if (request.PictureId == Guid.Empty)
            throw new Refusal(new("problem.no-id"));
        if (request.Caption.Length > 200)
            throw new Refusal(new("problem.text-too-long"));
        var picture = new NewPicture(
            request.PictureId,
            deviceId,
            request.By,
            shot.Since,
            shot.File,
            request.Caption,
            Personal: request.Personal
        );
        if (await intake.Take(picture, cancel) is var (_, why, _))
            throw new Refusal(why);
        var (told, evidence) =
            request.IsSway ? Swaying(head, request.PictureId)
            : request.Touch is { IsLight: true } light ? Lit(head, shot, light, request.PictureId)
            : request.Touch is { } touch ? Touched(head, shot, touch, request.PictureId)
            : request.Focus is { } focus ? Focused(head, shot, focus, request.PictureId)
            : shot.Night is { } dark ? ByNight(head, shot, dark, request.PictureId)
            : Aimed(head, shot, isLocked, request.PictureId);
        if (evidence.Inputs is { } inputs)
            evidence = evidence with { Inputs = EvidenceMark.With(inputs, shot.Wide, shot.High, shot.Hand) };
        if (told.Count == 0)
            return new(request.PictureId, null, [], evidence);
        var kept = await observations.KeepSeen(head.Loaded.Job.Id, deviceId, told, evidence, shot.Since);
        return new(request.PictureId, kept, [.. told.Select(v => RowOf(head, v.Key, v.Value))], evidence);
    }

    private static (Dictionary<string, ReadingValue> Told, EvidenceRequest Evidence) Aimed(
        Head head,
        AimShot shot,
        bool isLocked,
        Guid pictureId
    ) =>
        shot.Look is { } look && head.View is { } view
            ? (
                AimRows.Of(head.Judged, head.Id, look, isLocked).ToDictionary(r => r.Row.Id, r => r.Value),
                new(
                    pictureId,
                    null,
                    look.Measured?.Inputs(view.Design.HorizontalDeg, view.Design.TiltDeg),
                    AimLook.Algorithm,
                    AimLook.AlgorithmVersion
                )
            )
            : ([], new(pictureId));

    private (Dictionary<string, ReadingValue> Told, EvidenceRequest Evidence) Swaying(Head head, Guid pictureId) =>
        _watches.GetValueOrDefault((head.Facts.Place.Id, head.Id))?.Sway?.Measured is { } sway
            ? (
                AimRows.Of(head.Judged, head.Id, sway).ToDictionary(r => r.Row.Id, r => r.Value),
                new(pictureId, null, sway.Inputs(), SwayMeasure.Algorithm, SwayMeasure.AlgorithmVersion)
            )
            : ([], new(pictureId));

    private static (Dictionary<string, ReadingValue> Told, EvidenceRequest Evidence) Touched(
        Head head,
        AimShot shot,
        AimTouch touch,
        Guid pictureId
    )
    {
        var measured = Measured(head, shot, touch);
        return (
            AimRows.RowOf(head.Judged, measured.Check, head.Id) is { } row ? new() { [row.Id] = measured.Value } : [],
            new(
                pictureId,
                touch.Region(shot.Wide, shot.High),
                touch.Inputs(shot.Wide, shot.High, RecordedWide(head), head.View?.Design),
                AimTouch.Algorithm,
                AimTouch.AlgorithmVersion
            )
        );
    }

    private (Dictionary<string, ReadingValue> Told, EvidenceRequest Evidence) Lit(Head head, AimShot shot, AimTouch touch, Guid pictureId)
    {
        var light = Light(head, shot, touch);
        return (
            AimRows.Of(head.Judged, head.Id, light).ToDictionary(r => r.Row.Id, r => r.Value),
            new(
                pictureId,
                light.Region,
                touch.Inputs(shot.Wide, shot.High, RecordedWide(head)).AddRange(light.Inputs()),
                AimTouch.Algorithm,
                AimTouch.AlgorithmVersion
            )
        );
    }

    private static (Dictionary<string, ReadingValue> Told, EvidenceRequest Evidence) Focused(
        Head head,
        AimShot shot,
        FocusKeep focus,
        Guid pictureId
    ) =>
        shot.Focus is { Spots: [var target, ..] } look
            ? (
                FocusRows.Of(head.Judged, head.Id, look, focus.IsCovered).ToDictionary(r => r.Row.Id, r => r.Value),
                new(pictureId, target.Now.Region, look.Inputs(), FocusLook.Algorithm, FocusLook.AlgorithmVersion)
            )
            : ([], new(pictureId));

    private (Dictionary<string, ReadingValue> Told, EvidenceRequest Evidence) ByNight(
        Head head,
        AimShot shot,
        NightLook look,
        Guid pictureId
    )
    {
        // What its last picture alone gives is kept too: that can be read in it again.
        ImmutableSortedDictionary<string, double> alone =
            look.Target is { } target && PictureFile.TryRead(shot.File) is { } night
                ? NightLook.Alone(
                    night,
                    PictureByDay.Of(head.Facts, head.Id, shot.Since) is { } byDay ? PictureFile.TryRead(keptFiles.Read(byDay.Hash)) : null,
                    target.Middle(night.Width, night.Height)
                )
                : ImmutableSortedDictionary<string, double>.Empty;
        return (
            NightRows.Of(head.Judged, head.Id, look).ToDictionary(r => r.Row.Id, r => r.Value),
            new(pictureId, look.Target, look.Inputs().AddRange(alone), NightLook.Algorithm, NightLook.AlgorithmVersion)
        );
    }

    private static AimRow RowOf(Head head, string row, ReadingValue value)
    {
        var planned = head.Judged.Row(row)!;
        // The picture goes along with the reading.
        var would = Card.Preview(head.Facts, head.Judged.Catalogue, planned.Key, value, planned.Key.Under, null, seen: true);
        var held = head.Judged.Card.Rows.First(r => r.Key == planned.Key).HeldBy;
        return new(
            row,
            planned.Check.Id.Value,
            value,
            would.Counts ? would.Attempt.State : null,
            held.IsEmpty ? null : new Message("hold.until", $"@check.{held[0].Value}")
        );
    }

    private AimLive Told(Head head, AimWatch? watch)
    {
        var shot = watch?.Shot;
        AimMoved? moved =
            shot?.Look?.Measured is { } now && watch!.BeforeLock is { Look.Measured: { } before } locked && shot.Number > locked.Number
                ? now.Since(before, head.View?.Design.TiltDeg ?? 0)
                : null;
        return new(
            watch?.Wanted.Use,
            shot?.Number ?? 0,
            watch?.IsLive ?? false,
            shot?.IsFile ?? false,
            shot is null ? null : (time.GetUtcNow() - shot.Since).TotalMilliseconds,
            shot?.TookMs,
            shot?.Wide,
            shot?.High,
            shot?.Look,
            shot?.Harms,
            shot?.Lights,
            watch?.Trouble,
            watch?.WantsLogin ?? false,
            watch?.Against.Tolerance ?? AimTolerance.Of(head.Judged, head.Id),
            Agreed(head),
            watch?.BeforeLock is not null,
            moved,
            watch is { Wanted.Use: AimUse.Focus }
                ? new(
                    shot?.Focus,
                    watch.Before,
                    shot?.Focus is { } sharp ? FocusRows.Says(sharp) : null,
                    FocusRows.HasCover(head.Judged, head.Id),
                    watch.Motor is { } motor ? motor with { Voids = FocusRows.Leans(head.Judged, head.Id) } : null
                )
                : null,
            watch is { Wanted.Use: AimUse.Night }
                ? new(shot?.Night, watch.ByDay, shot?.Night is { } dark ? NightRows.Says(dark) : null, watch.Tries, watch.Next)
                : null,
            watch?.Sway
        );
    }

    private AimAgreed Agreed(Head head) =>
        head.View is not { } view ? new(null, null, null, new("aim.nothing-agreed"))
        : view.Picture is not { } picture ? new(view.AgreedBy, view.At, null, new("aim.no-agreed-picture"))
        : keptFiles.Has(picture.PictureHash) ? new(view.AgreedBy, view.At, picture.PictureId, null)
        : new(view.AgreedBy, view.At, null, new("aim.agreed-erased"));

    private async Task<Head?> Of(Guid deviceId, Guid headId) =>
        await cards.Judged(deviceId) is var (loaded, judged) && loaded.Facts.Heads.FirstOrDefault(h => h.Id == headId) is { } head
            ? new(loaded, judged, headId, head.Number)
            : null;

    /// <summary>A new watch on a head, in place of the one that was.</summary>
    private async Task<AimWatch> Renew(Head head, LookedFor wanted)
    {
        foreach (var (key, old) in _watches)
            if (old.IsForgotten && _watches.TryRemove(key, out var gone))
                gone.Dispose();
        if (_watches.Count >= MostWatches)
            throw new Refusal(new("aim.too-many", Message.Number(MostWatches, 0)));
        // Numbers go on: a page that shows the picture of another watch keeps none of this one in its place.
        var watch = new AimWatch(
            await Against(head),
            time,
            _watches.GetValueOrDefault((head.Facts.Place.Id, head.Id))?.Number ?? 0,
            wanted,
            wanted.Use == AimUse.Focus ? await Task.Run(() => Before(head)) : null,
            wanted.Use == AimUse.Night ? await Task.Run(() => ByDay(head)) : null
        );
        _watches.AddOrUpdate(
            (head.Facts.Place.Id, head.Id),
            watch,
            (_, before) =>
            {
                before.Dispose();
                return watch;
            }
        );
        return watch;
    }

    private Task<AimAgainst> Against(Head head) =>
        Task.Run(() =>
        {
            var target =
                head.View is { Picture: { } picture, Design: var design }
                && PictureFile.TryRead(keptFiles.Read(picture.PictureHash)) is { } grey
                    ? new AimTarget(grey, design.HorizontalDeg, design.TiltDeg)
                    : null;
            return new AimAgainst(head.View?.Id, target, AimTolerance.Of(head.Judged, head.Id), head.View?.Design);
        });

    /// <summary>The view by day: the picture in which its focus was measured, in the camera's own size; else the one that was
    /// agreed.</summary>
    private NightBefore ByDay(Head head)
    {
        var known = new VeilKnown(
            head.View?.Design.TiltDeg,
            FocusRows.HasCover(head.Judged, head.Id),
            NightRows.HasWhiteLight(head.Judged, head.Id)
        );
        if (PictureByDay.Of(head.Facts, head.Id, time.GetUtcNow()) is not { } byDay)
            return new(null, null, known);
        var picture = PictureFile.TryRead(keptFiles.Read(byDay.Hash));
        return new(new(byDay.At, byDay.IsOfFocus, byDay.PictureId, picture is null ? new("aim.agreed-erased") : null), picture, known);
    }

    /// <summary>The last picture of a head in which its focus was measured; null: none was kept.</summary>
    private FocusBefore? Before(Head head)
    {
        if (PictureByDay.LastFocus(head.Facts, head.Id, time.GetUtcNow()) is not { } last)
            return null;
        var picture = PictureFile.TryRead(keptFiles.Read(last.Evidence.PictureHash));
        return new(
            new(
                last.Reading.TakenAt,
                false,
                last.Reading.Key.Under == Condition.CoverOn ? true
                    : last.Reading.Key.Under == Condition.CoverOff ? false
                    : null,
                picture is null ? new("aim.agreed-erased") : null
            ),
            picture
        );
    }

    public void Dispose()
    {
        foreach (var watch in _watches.Values)
            watch.Dispose();
    }
}
