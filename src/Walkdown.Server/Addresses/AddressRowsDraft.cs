using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Addressing;
using Walkdown.Core.Results;
using Walkdown.Server.Readings;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Addresses;

/// <summary>Readings of the rows of Cards that the network showed, to be looked at and taken by a person; each cites what was
/// found.</summary>
public sealed class AddressRowsDraft(Ledger ledger, CatalogueStore catalogue, AddressBook book, ResultIntake intake, TimeProvider time)
{
    /// <exception cref="Refusal">Nothing was found that a row asks for.</exception>
    public async Task<IntakeAnswer> Make(Guid jobId, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        var known = await book.Load(jobId) ?? throw new Refusal(new("problem.unknown-job"));
        var plan = known.Made ?? throw new Refusal(new("lan.none"));
        var rows = known.Ledger.Rows.Where(r => r is { Planned: not null, Found: not null }).ToDictionary(r => r.Planned!.Id);
        // Who gives addresses is asked of the network, and told on the Cards of the gear that keeps a row for it.
        var leases = known.Leases?.Reading();
        var gear = leases is null ? [] : known.Planned.Where(p => !p.IsCamera).Select(p => p.Id);
        var cameras = known.Planned.Where(p => p.IsCamera).Select(p => p.Id).ToHashSet();
        var seats = known.Ports?.AsPlanned.Where(s => cameras.Contains(s.Key)).ToDictionary() ?? [];
        var entries = new List<IntakeEntry>();
        var clockLimit = catalogue.Catalogue.Limit("time.offset")?.Max;
        var now = time.GetUtcNow();
        DateTimeOffset Last(LookKind kind) => known.Looks.LastOrDefault(l => l.Kind == kind)?.At ?? now;
        var (looked, asked, ports) = (Last(LookKind.Network), Last(LookKind.Leases), Last(LookKind.Ports));
        foreach (var some in rows.Keys.Union(gear).Union(seats.Keys).Chunk(250))
        {
            cancel.ThrowIfCancellationRequested();
            await using var db = ledger.OpenDb();
            foreach (var card in await CardFactsLoader.Load(db, some, now))
            {
                var place = card.Facts.Place;
                var plans = CheckPlan.For(card.Facts, catalogue.Catalogue).Rows.ToLookup(r => r.Check.Id);
                void Add(CheckId check, ReadingValue value, DateTimeOffset seen, string? serial, object raw)
                {
                    foreach (var row in plans[check].Where(r => r.Key.On.Part.Length == 0))
                        entries.Add(IntakeEntry.OfNetwork(jobId, place, row, value, seen, serial, raw));
                }
                if (rows.GetValueOrDefault(place.Id) is { } line)
                    foreach (var (check, value) in AddressRows.Of(plan, line, clockLimit))
                        Add(check, value, looked, line.Found!.Serial, line.Found);
                // On a port of its own that nobody else was learned at; of several runs nobody knows which it came by.
                if (seats.GetValueOrDefault(place.Id) is { } seat && plans[PortTables.CameraPort.Check].Count() == 1)
                    Add(PortTables.CameraPort.Check, PortTables.CameraPort.Value, ports, null, seat);
                if (leases is { } told)
                    Add(told.Check, told.Value, asked, null, known.Leases!.Servers.Select(s => s.Offer).ToList());
            }
        }
        return entries.Count == 0 ? throw new Refusal(new("lan.nothing-for-cards")) : await intake.Keep(jobId, entries, progress, cancel);
    }
}
