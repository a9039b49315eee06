using Microsoft.EntityFrameworkCore;

namespace Walkdown.Storage;

/// <summary>The unit that hangs at a place now.</summary>
/// <param name="Serial">Its serial number.</param>
/// <param name="HardwareAddress">Empty: not known.</param>
public readonly record struct UnitAtPlace(string Serial, string HardwareAddress)
{
    /// <summary>Of every place of a job that has one.</summary>
    public static async Task<Dictionary<Guid, UnitAtPlace>> Of(WalkdownDb db, Guid jobId) => (
            await db
                .Installations.Where(i => i.Until == null && i.Unit.JobId == jobId)
                .Select(i => new
                {
                    i.DeviceId,
                    i.Unit.Serial,
                    i.Unit.HardwareAddress,
                })
                .ToListAsync()
        ).GroupBy(i => i.DeviceId).ToDictionary(g => g.Key, g => new UnitAtPlace(g.First().Serial, g.First().HardwareAddress ?? ""));
}
