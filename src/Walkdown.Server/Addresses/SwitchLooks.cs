using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Addressing;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;
using Walkdown.Devices;
using Walkdown.Server.Readings;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Addresses;

/// <summary>Which device hangs on which port, asked of the job's switches.</summary>
public sealed class SwitchLooks(Ledger ledger, AddressBook book, IHttpClientFactory clients, RecorderLists.At at)
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(5);

    /// <summary>So many switches are asked at once.</summary>
    private const int AtOnce = 4;

    /// <summary>Asks every switch that a run of the job ends at, and keeps what they have learned.</summary>
    public async Task<LookAnswer> Ask(Guid jobId, AskSwitchesRequest request, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        if (await book.Load(jobId) is null)
            throw new Refusal(new("problem.unknown-job"));
        if (at.Address is null)
            throw new Refusal(new("ports.nowhere"));
        List<string> cabinets;
        await using (var db = ledger.OpenDb())
            cabinets = [.. (await Seats(db, jobId)).Values.Select(s => s.Cabinet).Distinct().Order(NaturalOrder.Instance)];
        if (cabinets.Count == 0)
            throw new Refusal(new("ports.none"));
        var tables = new SwitchTables(clients.CreateClient(Sources.Recorders), Patience);
        var answers = new (ImmutableArray<LearnedAddress> Learned, Message? Trouble)[cabinets.Count];
        var done = 0;
        await Parallel.ForAsync(
            0,
            cabinets.Count,
            new ParallelOptions { MaxDegreeOfParallelism = AtOnce, CancellationToken = cancel },
            async (i, stop) =>
            {
                answers[i] = await tables.Ask(cabinets[i], stop);
                progress.Report((Interlocked.Increment(ref done), cabinets.Count));
            }
        );
        ImmutableArray<LearnedAddress> learned = [.. answers.SelectMany(a => a.Learned)];
        var troubles = answers.Select(a => a.Trouble).OfType<Message>().ToImmutableArray();
        if (learned.IsEmpty)
            throw new Refusal(troubles.FirstOrDefault(new Message("ports.empty")));
        await book.Keep(jobId, LookKind.Ports, "switches", request.By, PortTables.Nearest(learned));
        return new(
            learned.Length,
            [new("ports.asked", Message.Number(answers.Count(a => !a.Learned.IsEmpty), 0), Message.Number(learned.Length, 0)), .. troubles]
        );
    }

    /// <summary>The devices of a job, each with the port that it should hang on.</summary>
    internal static async Task<IReadOnlyList<PlannedPort>> Planned(WalkdownDb db, Guid jobId, ImmutableArray<PlannedDevice> devices)
    {
        var seats = await Seats(db, jobId);
        return [.. devices.Select(d => new PlannedPort(d.Id, d.Label, d.Mac, seats.GetValueOrDefault(d.Id), d.IsCamera))];
    }

    private static async Task<Dictionary<Guid, PortSeat>> Seats(WalkdownDb db, Guid jobId)
    {
        var ports = (
            await db
                .RunEnds.Where(e => e.Port != null && e.Port.Cabinet.JobId == jobId)
                .Select(e => new
                {
                    e.RunId,
                    e.OfDeviceId,
                    e.Port!.Cabinet.Label,
                    e.Port.Switch,
                    e.Port.Number,
                })
                .ToListAsync()
        ).ToLookup(e => e.RunId);
        var devices = await db
            .RunEnds.Where(e => e.DeviceId != null && db.Devices.Any(d => d.Id == e.DeviceId && d.JobId == jobId && !d.Cancelled))
            .Select(e => new { e.RunId, Device = e.DeviceId!.Value })
            .ToListAsync();
        var seats = new Dictionary<Guid, PortSeat>();
        foreach (var device in devices)
            if (
                // Its own port comes before one that nobody has named for himself.
                ports[device.RunId]
                    .Where(p => p.OfDeviceId is null || p.OfDeviceId == device.Device)
                    .OrderBy(p => p.OfDeviceId is null)
                    .FirstOrDefault() is
                { } port
            )
                seats.TryAdd(device.Device, new(port.Switch.Length > 0 ? $"{port.Label} {port.Switch}" : port.Label, port.Number));
        return seats;
    }
}
