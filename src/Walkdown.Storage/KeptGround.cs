using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Optics;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>What of a job's plan matters to its views, as its row keeps it, and where its views hang.</summary>
public static class KeptGround
{
    /// <summary>What stands in an entry that speaks of a view, and in no other.</summary>
    private const string OfViews = "\"horizontalDeg\"";

    /// <summary>What was drawn; what cannot be read was not.</summary>
    public static SiteGround Of(Job job) =>
        Stored.Read<SiteGround>(job.GroundJson) is { } ground && ground.Refuse() is null ? ground : SiteGround.Undrawn;

    /// <summary>Tells what was drawn from what somebody else drew meanwhile.</summary>
    public static string VersionOf(Job job) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(job.GroundJson ?? "")))[..16];

    /// <summary>Puts it into the row of its job.</summary>
    public static void Keep(Job job, SiteGround ground) =>
        job.GroundJson =
            ground.Grounds.IsEmpty && ground.Walls.IsEmpty && ground.NorthDeg == 0
                ? null
                : JsonSerializer.Serialize(ground, CoreJson.Options);

    /// <summary>All heads of a job's cameras, where they hang, and what was planned for them.</summary>
    /// <param name="db">Of the record.</param>
    /// <param name="jobId">The job.</param>
    /// <param name="catalogue">Knows what looks at anything.</param>
    /// <param name="cancel">Ends it.</param>
    public static async Task<ImmutableArray<HangingHead>> HeadsOf(WalkdownDb db, Guid jobId, Catalogue catalogue, CancellationToken cancel)
    {
        var devices = await db.Devices.Where(d => d.JobId == jobId && !d.Cancelled).OrderBy(d => d.Label).ToListAsync(cancel);
        var heads = (await db.Heads.Where(h => db.Devices.Any(d => d.Id == h.DeviceId && d.JobId == jobId)).ToListAsync(cancel)).ToLookup(
            h => h.DeviceId
        );
        // Of thousands of entries only those that speak of views are read.
        var planned = (
            await db
                .CardEvents.Where(e => db.Devices.Any(d => d.Id == e.DeviceId && d.JobId == jobId) && e.BodyJson.Contains(OfViews))
                .OrderBy(e => e.Sequence)
                .ToListAsync(cancel)
        )
            .Select(e => e.ToCore())
            .OfType<PlannedView>()
            .ToLookup(v => v.HeadId);
        return
        [
            .. from device in devices
            where catalogue.FeaturesOf(device.Kind, device.OwnFeatures()).Contains("camera")
            from head in heads[device.Id].OrderBy(h => h.Number)
            select new HangingHead(
                device.Id,
                device.Label,
                head.Number,
                device is { X: { } x, Y: { } y } ? new PlanPoint(x, y) : null,
                [.. planned[head.Id]]
            ),
        ];
    }
}
