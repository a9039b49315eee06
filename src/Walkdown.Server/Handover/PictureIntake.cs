using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Reports;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Handover;

/// <summary>A picture as it comes in.</summary>
/// <param name="Id">Made by whoever took it.</param>
/// <param name="At">When it was taken, by the record's clock.</param>
/// <param name="Personal">People can be told apart in it.</param>
public sealed record NewPicture(
    Guid Id,
    Guid DeviceId,
    Guid By,
    DateTimeOffset At,
    byte[] File,
    string Caption = "",
    PictureMoment Moment = PictureMoment.General,
    bool Personal = false
);

/// <summary>Takes pictures of a place in: without where they were taken, small and upright for pages, kept once whatever they are
/// of.</summary>
public sealed class PictureIntake(Ledger ledger, KeptFiles keptFiles)
{
    private const int MostAPlace = 60;

    /// <summary>Null where it is kept; else the status and the sentence of why not.</summary>
    public async Task<(int Status, Message Why, string? Field)?> Take(NewPicture picture, CancellationToken cancel)
    {
        // Where it was taken, and by whose phone, is nobody's business: it does not come in.
        if (PictureFile.WithoutPlace(picture.File) is not { } clean || Photo.Read(clean) is not { } photo)
            return (
                422,
                Photo.Beyond(picture.File) is var (wide, high)
                    ? new Message("picture.too-many-pixels", Message.Number(wide), Message.Number(high))
                    : new Message("picture.not-a-picture"),
                null
            );
        await using var db = ledger.OpenDb();
        if (await db.Devices.Where(d => d.Id == picture.DeviceId).Select(d => (Guid?)d.JobId).FirstOrDefaultAsync(cancel) is not { } jobId)
            return (404, new Message("problem.unknown-card"), null);
        if (await Writers.Refuse(db, jobId, picture.By, picture.At, cancel) is { } stranger)
            return (422, stranger, "by");
        var (hash, shown) = (await keptFiles.Put(clean, cancel), await keptFiles.Put(photo.Shown, cancel));
        var refused = await ledger.Change(
            jobId,
            "picture",
            async (change, sequence) =>
            {
                if (await change.Pictures.FirstOrDefaultAsync(p => p.Id == picture.Id) is { } there)
                    return (
                        there.Hash == hash && there.DeviceId == picture.DeviceId ? null : new Message("problem.same-id-other-body"),
                        false
                    );
                if (await change.Pictures.CountAsync(p => p.DeviceId == picture.DeviceId) >= MostAPlace)
                    return (new Message("picture.too-many", MostAPlace.ToString()), false);
                change.Add(
                    new Picture
                    {
                        Id = picture.Id,
                        JobId = jobId,
                        DeviceId = picture.DeviceId,
                        Hash = hash,
                        ShownHash = shown,
                        MediaType = photo.MediaType,
                        Width = photo.Width,
                        Height = photo.Height,
                        Bytes = clean.Length,
                        Caption = picture.Caption.Trim(),
                        Moment = picture.Moment,
                        Personal = picture.Personal,
                        By = picture.By,
                        TakenAt = picture.At,
                        Sequence = sequence,
                    }
                );
                return ((Message?)null, true);
            }
        );
        return refused is null ? null : (409, refused, null);
    }
}
