using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Optics;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>A place that no view of is known on the plan.</summary>
/// <param name="DeviceId">Which.</param>
/// <param name="Label">Of it.</param>
/// <param name="Head">From 1; null: all of it.</param>
/// <param name="Lacks">What nobody has said: place, view or bearing.</param>
public sealed record UnplacedView(Guid DeviceId, string Label, int? Head, string Lacks);

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

    /// <summary>The views of a job's heads as they hang on its plan, the agreed ones where there are some, else the last that was kept;
    /// and what is left out, with what it lacks.</summary>
    /// <param name="db">Of the record.</param>
    /// <param name="jobId">The job.</param>
    /// <param name="isCamera">Whether a kind, with the features of a place, looks at anything.</param>
    /// <param name="cancel">Ends it.</param>
    public static async Task<(List<PlacedView> Views, List<UnplacedView> LeftOut)> ViewsOf(
        WalkdownDb db,
        Guid jobId,
        Func<Device, bool> isCamera,
        CancellationToken cancel
    )
    {
        var devices = (await db.Devices.Where(d => d.JobId == jobId && !d.Cancelled).OrderBy(d => d.Label).ToListAsync(cancel))
            .Where(isCamera)
            .ToList();
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
        var (views, leftOut) = (new List<PlacedView>(), new List<UnplacedView>());
        foreach (var device in devices)
        {
            if (device is not { X: { } x, Y: { } y })
            {
                leftOut.Add(new(device.Id, device.Label, null, "place"));
                continue;
            }
            foreach (var head in heads[device.Id].OrderBy(h => h.Number))
            {
                var kept = planned[head.Id].ToList();
                var view = kept.LastOrDefault(v => v.AgreedBy is not null) ?? kept.LastOrDefault();
                if (view?.Design.AzimuthDeg is null)
                    leftOut.Add(new(device.Id, device.Label, head.Number, view is null ? "view" : "bearing"));
                else
                    views.Add(new(device.Id, device.Label, head.Number, new(x, y), view.Design, view.AgreedBy is not null));
            }
        }
        return (views, leftOut);
    }
}
