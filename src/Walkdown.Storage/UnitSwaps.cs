using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Entries;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>What a swap changes in the register: the unit that leaves, and the one that comes.</summary>
internal static class UnitSwaps
{
    public static async Task Write(WalkdownDb db, Guid jobId, Guid place, UnitSwap swap)
    {
        await db
            .Installations.Where(i => i.DeviceId == place && i.Until == null)
            .ExecuteUpdateAsync(u => u.SetProperty(i => i.Until, swap.At));
        var unit = await db.Units.FirstOrDefaultAsync(u => u.JobId == jobId && u.Serial == swap.Serial);
        if (unit is null)
            db.Add(
                unit = new InstalledUnit
                {
                    Id = Guid.CreateVersion7(),
                    JobId = jobId,
                    Serial = swap.Serial,
                }
            );
        db.Add(
            new Installation
            {
                Id = Guid.CreateVersion7(),
                DeviceId = place,
                UnitId = unit.Id,
                From = swap.At,
            }
        );
        await db.SaveChangesAsync();
    }
}
