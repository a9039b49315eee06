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

/// <summary>Readings of the rows of Cards that the network showed, to be looked at and taken by a person; each cites what was found.</summary>
public sealed class AddressRowsDraft(Ledger ledger, CatalogueStore catalogue, AddressBook book, ResultIntake intake, TimeProvider time)
{
    /// <exception cref="Refusal">Nothing was found that a row asks for.</exception>
    public async Task<IntakeAnswer> Make(Guid jobId, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        var known = await book.Load(jobId) ?? throw new Refusal(new("problem.unknown-job"));
        var plan = known.Made ?? throw new Refusal(new("lan.none"));
        var rows = known.Ledger.Rows.Where(r => r is { Planned: not null, Found: not null }).ToDictionary(r => r.Planned!.Id);
        var entries = new List<IntakeEntry>();
        var now = time.GetUtcNow();
        var seen = known.Looks.LastOrDefault(l => l.Kind == LookKind.Network)?.At ?? now;
        foreach (var some in rows.Keys.Chunk(250))
        {
            cancel.ThrowIfCancellationRequested();
            await using var db = ledger.OpenDb();
            foreach (var card in await CardFactsLoader.Load(db, some, now))
            {
                var place = card.Facts.Place;
                var asked = CheckPlan.For(card.Facts, catalogue.Catalogue).Rows.ToLookup(r => r.Check.Id);
                var found = rows[place.Id].Found!;
                foreach (var (check, value) in AddressRows.Of(plan, rows[place.Id]))
                foreach (var row in asked[check].Where(r => r.Key.On.Part.Length == 0))
                    entries.Add(
                        new IntakeEntry(
                            new InstrumentResult(0, place.Label, row.Check.Id.Value, "", row.Key.Under, "", "", seen, "", "", value, null)
                        )
                        {
                            Device = place.Id,
                            Label = place.Label,
                            Key = row.Key,
                            Source = ReadingSource.Network,
                            Heard = new ObservationRecord
                            {
                                Id = Guid.CreateVersion7(),
                                JobId = jobId,
                                DeviceId = place.Id,
                                Row = row.Id,
                                Source = ReadingSource.Network,
                                Serial = found.Serial?.Trim() is { Length: <= 60 } serial ? serial : "",
                                RawJson = JsonSerializer.Serialize(found, CoreJson.Options),
                                ValuesJson = JsonSerializer.Serialize(
                                    new Dictionary<string, ReadingValue> { [row.Id] = value },
                                    CoreJson.Options
                                ),
                                At = seen,
                            },
                        }
                    );
            }
        }
        return entries.Count == 0 ? throw new Refusal(new("lan.nothing-for-cards")) : await intake.Keep(jobId, entries, progress, cancel);
    }
}
