using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;

namespace Walkdown.Storage;

/// <summary>Fetches what an entry needs of outside its Card: nothing for most of them.</summary>
internal static class EntryLookups
{
    /// <param name="context">Gives a context of the open transaction.</param>
    public static async Task<EntryContext> For(EntryContext at, EntryNeeds needs, Guid jobId, Func<WalkdownDb> context)
    {
        if (needs.ObservationId is { } cited)
            at = at with { Heard = await Heard(context(), cited, at.Facts.Place.Id) };
        if (needs.UnitSerial is { Length: > 0 } serial)
            at = at with
            {
                UnitHangs = await context()
                    .Installations.AnyAsync(i => i.Unit.JobId == jobId && i.Unit.Serial == serial && i.Until == null),
            };
        if (needs.Pictures)
        {
            var (db, place) = (context(), at.Facts.Place.Id);
            at = at with
            {
                Pictures = (
                    await db
                        .Pictures.Where(p => p.DeviceId == place && !db.Erasures.Any(e => e.PictureId == p.Id))
                        .Select(p => new { p.Id, p.Hash })
                        .ToListAsync()
                ).ToImmutableDictionary(p => p.Id, p => p.Hash),
            };
        }
        return at;
    }

    /// <summary>What a source answered before, for this place.</summary>
    private static async Task<Observation?> Heard(WalkdownDb db, Guid id, Guid place) =>
        await db.Observations.FirstOrDefaultAsync(o => o.Id == id && o.DeviceId == place) is { } kept
            ? new Observation(
                kept.Id,
                kept.Source,
                kept.Serial,
                kept.At,
                Stored.Read<Dictionary<string, ReadingValue>>(kept.ValuesJson) ?? []
            )
            : null;
}
