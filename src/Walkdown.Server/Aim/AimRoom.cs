using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Addressing;
using Walkdown.Core.Aiming;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;
using Walkdown.Devices.Discovery;
using Walkdown.Devices.Field;
using Walkdown.Formats;
using Walkdown.Server.Addresses;
using Walkdown.Server.Cards;
using Walkdown.Server.Handover;
using Walkdown.Server.Readings;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

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
    /// <returns>Null: no such head.</returns>
    /// <exception cref="Refusal">It cannot be asked.</exception>
    public async Task<AimLive?> Begin(Guid deviceId, Guid headId, GivenLogin? login)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        var known = await book.Load(head.Loaded.Job.Id);
        var found = known?.Ledger.Found.GetValueOrDefault(deviceId);
        if (Ipv4Address.Read(found?.Address ?? head.Facts.Place.Address) is not { } address)
            throw new Refusal(new("aim.no-address", head.Facts.Place.Label));
        var watch = await Renew(head);
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
    public async Task<AimLive?> FromFile(Guid deviceId, Guid headId, byte[] file)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        var before = _watches.GetValueOrDefault((deviceId, headId));
        // A live one goes on by itself; a picture of another way ends it.
        var watch = before is { IsLive: false } ? before : await Renew(head);
        try
        {
            watch.Take(file);
        }
        catch (BadInputException)
        {
            throw new Refusal(new("aim.not-a-picture"));
        }
        return Told(head, watch);
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

    /// <summary>The file of the picture that is shown; null: it is not there any more.</summary>
    public byte[]? Picture(Guid deviceId, Guid headId, int number) =>
        _watches.GetValueOrDefault((deviceId, headId))?.Shot is { } shot && shot.Number == number ? shot.File : null;

    /// <summary>Keeps the picture that is shown, and what it says, so that readings can cite both.</summary>
    /// <returns>Null: no such head.</returns>
    /// <exception cref="Refusal">There is no such picture any more, or it cannot be kept.</exception>
    public async Task<AimKept?> Keep(Guid deviceId, Guid headId, AimKeepRequest request, CancellationToken cancel)
    {
        if (await Of(deviceId, headId) is not { } head)
            return null;
        var watch = _watches.GetValueOrDefault((deviceId, headId));
        if (watch?.Shot is not { } shot || shot.Number != request.Number)
            throw new Refusal(new("aim.gone"));
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
        var values = Values(head, shot.Look, watch.BeforeLock is not null);
        var evidence = Evidence(head, shot.Look, request.PictureId);
        if (values.Count == 0)
            return new(request.PictureId, null, [], evidence);
        var kept = new ObservationRecord
        {
            Id = Guid.CreateVersion7(),
            JobId = head.Loaded.Job.Id,
            DeviceId = deviceId,
            Row = values.Keys.First(),
            Source = ReadingSource.Picture,
            RawJson = JsonSerializer.Serialize(shot.Look, CoreJson.Options),
            ValuesJson = JsonSerializer.Serialize(values, CoreJson.Options),
            At = shot.Since,
        };
        await observations.Keep(kept);
        return new(request.PictureId, kept.Id, [.. values.Select(v => RowOf(head, v.Key, v.Value))], evidence);
    }

    private static AimRow RowOf(Head head, string row, ReadingValue value)
    {
        var planned = head.Judged.Row(row)!;
        var would = Card.Preview(head.Facts, head.Judged.Catalogue, planned.Key, value, planned.Key.Under, null);
        var held = head.Judged.Card.Rows.First(r => r.Key == planned.Key).HeldBy;
        return new(
            row,
            planned.Check.Id.Value,
            value,
            would.Counts ? would.Attempt.State : null,
            held.IsEmpty ? null : new Message("hold.until", $"@check.{held[0].Value}")
        );
    }

    /// <summary>What the picture says to the rows of the head. What is too close to tell is left to whoever looks.</summary>
    private static Dictionary<string, ReadingValue> Values(Head head, AimLook? look, bool isLocked)
    {
        var values = new Dictionary<string, ReadingValue>();
        if (look is null)
            return values;
        void Put(string check, ReadingValue? value)
        {
            if (value is not null && RowOf(head, check) is { } row)
                values[row.Id] = value;
        }
        static NumberValue? Degrees(double? value) => value is { } v ? new NumberValue(Math.Round(v, 2), Unit.Degree) : null;
        static YesNoValue? Agrees(Outcome? off) =>
            off switch
            {
                Outcome.In => new(true),
                Outcome.Out => new(false),
                _ => null,
            };
        Put(isLocked ? "aim.off-after" : "aim.off", Degrees(look.OffDeg));
        Put(isLocked ? "aim.after" : "aim.view", look.Stands == Orientation.AsReference ? Agrees(look.Off) : null);
        Put("fixing.roll", Degrees(-look.RollDeg));
        Put(
            "aim.upright",
            look.Stands switch
            {
                Orientation.AsReference => new ChoiceValue("upright"),
                Orientation.UpsideDown => new ChoiceValue("upside-down"),
                Orientation.Mirrored or Orientation.Flipped => new ChoiceValue("mirrored"),
                _ => null,
            }
        );
        return values;
    }

    private static PlannedRow? RowOf(Head head, string check) =>
        head.Judged.Plan.FirstOrDefault(r =>
            r.Check.Id.Value == check && (r.Key.On.Kind == SubjectKind.Head ? r.Key.On.Id == head.Id : r.Key.On.Kind == SubjectKind.Place)
        );

    private static EvidenceRequest Evidence(Head head, AimLook? look, Guid pictureId)
    {
        if (look is null || head.View is not { } view)
            return new(pictureId);
        var inputs = ImmutableSortedDictionary.CreateBuilder<string, double>();
        inputs["agreed_horizontal_deg"] = view.Design.HorizontalDeg;
        inputs["agreed_tilt_deg"] = view.Design.TiltDeg;
        foreach (
            var (name, value) in new (string, double?)[]
            {
                ("pan_deg", look.PanDeg),
                ("tilt_deg", look.TiltDeg),
                ("roll_deg", look.RollDeg),
                ("off_deg", look.OffDeg),
                ("uncertainty_deg", look.UncertaintyDeg),
                ("overlap", look.Overlap),
                ("agreement", look.Agreement),
            }
        )
            if (value is { } v)
                inputs[name] = Math.Round(v, 4);
        return new(pictureId, null, inputs.ToImmutable(), AimLook.Algorithm, AimLook.AlgorithmVersion);
    }

    private AimLive Told(Head head, AimWatch? watch)
    {
        var shot = watch?.Shot;
        var (look, before) = (shot?.Look, watch?.BeforeLock?.Look);
        AimMoved? moved = null;
        if (look?.PanDeg is { } pan && before?.PanDeg is { } was && shot!.Number > watch!.BeforeLock!.Number)
        {
            var (byPan, byTilt, byRoll) = (
                pan - was,
                look.TiltDeg!.Value - before.TiltDeg!.Value,
                look.RollDeg!.Value - before.RollDeg!.Value
            );
            var tilt = head.View?.Design.TiltDeg ?? 0;
            moved = new(
                AimLook.Between(tilt - look.TiltDeg.Value, tilt - before.TiltDeg!.Value, byPan),
                AimLook.StepsOf(byPan, byTilt, byRoll, look.UncertaintyDeg!.Value, look.RollUncertaintyDeg!.Value)
            );
        }
        return new(
            shot?.Number ?? 0,
            watch?.IsLive ?? false,
            shot is null ? null : (time.GetUtcNow() - shot.Since).TotalMilliseconds,
            shot?.TookMs,
            shot?.Wide,
            shot?.High,
            look,
            watch?.Trouble,
            watch?.WantsLogin ?? false,
            watch?.Against.Tolerance ?? Tolerance(head),
            Agreed(head),
            watch?.BeforeLock is not null,
            moved
        );
    }

    private AimAgreed Agreed(Head head) =>
        head.View is not { } view ? new(null, null, null, new("aim.nothing-agreed"))
        : view.Picture is not { } picture ? new(view.AgreedBy, view.At, null, new("aim.no-agreed-picture"))
        : keptFiles.Has(picture.PictureHash) ? new(view.AgreedBy, view.At, picture.PictureId, null)
        : new(view.AgreedBy, view.At, null, new("aim.agreed-erased"));

    /// <summary>As the company's limit set and the camera's purpose have it.</summary>
    private static AimTolerance Tolerance(Head head)
    {
        double Most(string check, string figure) =>
            RowOf(head, check) is { } row && head.Judged.LimitOf(row.Key) is { Max: { } most }
                ? most
                : head.Judged.Catalogue.Figure(figure);
        return new(Most("aim.off", "aim.off"), Most("fixing.roll", "roll.horizon"));
    }

    private async Task<Head?> Of(Guid deviceId, Guid headId) =>
        await cards.Judged(deviceId) is var (loaded, judged) && loaded.Facts.Heads.FirstOrDefault(h => h.Id == headId) is { } head
            ? new(loaded, judged, headId, head.Number)
            : null;

    /// <summary>A new watch on a head, in place of the one that was.</summary>
    private async Task<AimWatch> Renew(Head head)
    {
        foreach (var (key, old) in _watches)
            if (old.IsForgotten && _watches.TryRemove(key, out var gone))
                gone.Dispose();
        if (_watches.Count >= MostWatches)
            throw new Refusal(new("aim.too-many", Message.Number(MostWatches, 0)));
        var watch = new AimWatch(await Against(head), time);
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

    private async Task<AimAgainst> Against(Head head) => new(head.View?.Id, await Task.Run(() => TargetOf(head)), Tolerance(head));

    private AimTarget? TargetOf(Head head)
    {
        if (head.View is not { Picture: { } picture } view || keptFiles.Read(picture.PictureHash) is not { } file)
            return null;
        try
        {
            return new(PictureFile.Read(file), view.Design.HorizontalDeg, view.Design.TiltDeg);
        }
        catch (BadInputException)
        {
            return null;
        }
    }

    public void Dispose()
    {
        foreach (var watch in _watches.Values)
            watch.Dispose();
    }
}
