using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization.Metadata;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Merging;
using Walkdown.Core.Register;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>The tables of a job, as a bundle carries them: in the order in which they lean on each other.</summary>
public static class BundleTables
{
    internal const string OwnCatalogue = "catalogue/own.json";

    public const string Format = "walkdown-bundle/1";
    internal const string HeadName = "bundle.json";
    internal const long MostTable = 1L << 30;
    internal const long MostFile = 8L << 30;
    internal const int MostFiles = 2_000_000;

    internal static readonly JsonSerializerOptions RowJson = RowOptions();

    /// <summary>Tables in the order in which rows may lean on those before.</summary>
    internal static readonly ImmutableArray<Table> Tables =
    [
        Of<Job>((db, job) => db.Jobs.Where(x => x.Id == job)),
        Of<Person>((db, job) => db.People.Where(x => x.JobId == job)),
        Of<Area>((db, job) => db.Areas.Where(x => x.JobId == job), sameAs: (a, b) => a.Name == b.Name),
        Of<Cabinet>((db, job) => db.Cabinets.Where(x => x.JobId == job), sameAs: (a, b) => a.Label == b.Label),
        Of<Port>(
            (db, job) => db.Ports.Where(x => db.Cabinets.Any(c => c.Id == x.CabinetId && c.JobId == job)),
            sameAs: (a, b) => a.CabinetId == b.CabinetId && a.Switch == b.Switch && a.Number == b.Number
        ),
        Of<PowerSource>(
            (db, job) => db.Sources.Where(x => x.JobId == job),
            sameAs: (a, b) => a.Kind == b.Kind && a.CabinetId == b.CabinetId && a.Label == b.Label
        ),
        Of<Device>((db, job) => db.Devices.Where(x => x.JobId == job), label: (d, l) => d.Label = l ?? d.Label, labelOf: d => d.Label),
        Of<InstalledUnit>((db, job) => db.Units.Where(x => x.JobId == job), sameAs: (a, b) => a.Serial.Length > 0 && a.Serial == b.Serial),
        Of<Installation>((db, job) => db.Installations.Where(x => db.Devices.Any(d => d.Id == x.DeviceId && d.JobId == job))),
        Of<Head>(
            (db, job) => db.Heads.Where(x => db.Devices.Any(d => d.Id == x.DeviceId && d.JobId == job)),
            sameAs: (a, b) => a.DeviceId == b.DeviceId && a.Number == b.Number
        ),
        Of<Channel>((db, job) => db.Channels.Where(x => db.Devices.Any(d => d.Id == x.RecorderId && d.JobId == job))),
        Of<Run>((db, job) => db.Runs.Where(x => x.JobId == job), label: (r, l) => r.Label = l ?? r.Label, labelOf: r => r.Label),
        Of<RunEnd>((db, job) => db.RunEnds.Where(x => db.Runs.Any(r => r.Id == x.RunId && r.JobId == job))),
        Of<PlanDrawing>((db, job) => db.Drawings.Where(x => x.JobId == job)),
        Of<InstrumentRecord>((db, job) => db.Instruments.Where(x => x.JobId == job)),
        Of<InstrumentCheck>((db, job) => db.InstrumentChecks.Where(x => x.JobId == job)),
        Of<ReadingRecord>((db, job) => db.Readings.Where(x => db.Devices.Any(d => d.Id == x.DeviceId && d.JobId == job))),
        Of<CardEventRecord>((db, job) => db.CardEvents.Where(x => db.Devices.Any(d => d.Id == x.DeviceId && d.JobId == job))),
        Of<Fault>((db, job) => db.Faults.Where(x => db.Devices.Any(d => d.Id == x.DeviceId && d.JobId == job))),
        Of<FaultStep>(
            (db, job) =>
                db.FaultSteps.Where(x => db.Faults.Any(f => f.Id == x.FaultId && db.Devices.Any(d => d.Id == f.DeviceId && d.JobId == job)))
        ),
        Of<RegisterChange>((db, job) => db.RegisterChanges.Where(x => x.JobId == job)),
        Of<Edition>(
            (db, job) =>
            {
                // What an edition is of is a name, not an id: which names are this job's is asked first.
                string[] of =
                [
                    $"practice:{job}",
                    .. db.Sources.Where(s => s.JobId == job).Select(s => s.Id).AsEnumerable().Select(id => $"source:{id}"),
                    .. db.Instruments.Where(i => i.JobId == job).Select(i => i.Id).AsEnumerable().Select(id => $"instrument:{id}"),
                ];
                return db.Editions.Where(x => of.Contains(x.Of));
            },
            sameAs: (a, b) => a.Of == b.Of && a.Version == b.Version
        ),
        Of<ObservationRecord>((db, job) => db.Observations.Where(x => x.JobId == job)),
        Of<NetworkLook>((db, job) => db.Looks.Where(x => x.JobId == job)),
        Of<Picture>((db, job) => db.Pictures.Where(x => x.JobId == job)),
        Of<Erasure>((db, job) => db.Erasures.Where(x => x.JobId == job), sameAs: (a, b) => a.PictureId == b.PictureId),
        Of<Revision>((db, job) => db.Revisions.Where(x => x.JobId == job)),
        Of<JournalEntry>((db, job) => db.Journal.Where(x => x.JobId == job && x.Kind != "summaries-rebuilt" && x.Kind != "bundle-in")),
    ];

    internal static readonly string[] Register =
    [
        nameof(Job),
        nameof(Cabinet),
        nameof(Port),
        nameof(PowerSource),
        nameof(Device),
        nameof(Run),
        nameof(InstrumentRecord),
    ];

    /// <summary>Tables that older bundles do not have.</summary>
    internal static readonly string[] Later = ["Observation", nameof(NetworkLook)];

    /// <summary>The shape of a bundle: its list, and the rows of each table.</summary>
    public static JsonNode Schema() =>
        new JsonObject
        {
            ["bundle.json"] = CoreJson.Options.GetJsonSchemaAsNode(typeof(BundleHead)),
            ["data"] = new JsonObject(
                Tables.Select(t => KeyValuePair.Create(t.Name + ".json", (JsonNode?)RowJson.GetJsonSchemaAsNode(t.ListType)))
            ),
        };

    /// <summary>Every sequence of a job, each once, in order.</summary>
    internal static async Task<long[]> Ranks(WalkdownDb db, Guid jobId)
    {
        // The newest entry that a revision holds may be one that no table shows, such as a rebuilt summary's.
        var all = (await db.Revisions.Where(r => r.JobId == jobId).Select(r => r.UpTo).ToListAsync()).ToHashSet();
        foreach (var table in Tables)
            await table.Sequences(db, jobId, all);
        return [.. all.Order()];
    }

    internal static long Rank(long[] ranks, long sequence) => Array.BinarySearch(ranks, sequence) is >= 0 and var at ? at + 1 : 0;

    internal static void Renumber(object row, Func<long, long> to)
    {
        switch (row)
        {
            case ReadingRecord r:
                r.Sequence = to(r.Sequence);
                break;
            case CardEventRecord e when e.ToCore() is UnreadableEvent:
                e.Sequence = to(e.Sequence);
                break;
            case CardEventRecord e:
                e.Sequence = to(e.Sequence);
                e.BodyJson = JsonSerializer.Serialize(e.ToCore() with { Sequence = e.Sequence }, CoreJson.Options);
                break;
            case Fault f:
                f.Sequence = to(f.Sequence);
                break;
            case FaultStep s:
                s.Sequence = to(s.Sequence);
                break;
            case RegisterChange c:
                c.Sequence = to(c.Sequence);
                break;
            case Picture p:
                p.Sequence = to(p.Sequence);
                break;
            case Erasure e:
                e.Sequence = to(e.Sequence);
                break;
            case Revision r:
                (r.Sequence, r.UpTo) = (to(r.Sequence), to(r.UpTo));
                break;
            case JournalEntry j:
                j.Sequence = to(j.Sequence);
                break;
        }
    }

    /// <summary>Rows as they stand in the database, without the objects that they lead to.</summary>
    internal static JsonSerializerOptions RowOptions()
    {
        var options = new JsonSerializerOptions
        {
            NumberHandling = System.Text.Json.Serialization.JsonNumberHandling.Strict,
            RespectRequiredConstructorParameters = true,
        };
        options.Converters.Add(new System.Text.Json.Serialization.JsonStringEnumConverter(namingPolicy: null, allowIntegerValues: false));
        options.TypeInfoResolver = new DefaultJsonTypeInfoResolver
        {
            Modifiers =
            {
                static info =>
                {
                    for (var i = info.Properties.Count - 1; i >= 0; i--)
                    {
                        var type = info.Properties[i].PropertyType;
                        if (
                            type.Namespace == "Walkdown.Storage.Entities" && !type.IsEnum
                            || type.IsGenericType && type.GetGenericTypeDefinition() == typeof(List<>)
                        )
                            info.Properties.RemoveAt(i);
                    }
                },
            },
        };
        return options;
    }

    internal static Table Of<T>(
        Func<WalkdownDb, Guid, IQueryable<T>> rows,
        Func<T, T, bool>? sameAs = null,
        Action<T, string?>? label = null,
        Func<T, string>? labelOf = null
    )
        where T : class => new Table<T>(rows, sameAs, label, labelOf);

    internal abstract class Table
    {
        public abstract string Name { get; }
        public abstract Type ListType { get; }

        /// <summary>Rows of a job.</summary>
        public abstract Task<int> Count(WalkdownDb db, Guid jobId);

        /// <summary>Adds the sequences of a job's rows, where they have any.</summary>
        public abstract Task Sequences(WalkdownDb db, Guid jobId, HashSet<long> into);

        /// <summary>Writes the rows of a job as one array, in the order of their ids, one at a time.</summary>
        public abstract Task Write(WalkdownDb db, Guid jobId, Stream into, Action<object> change, CancellationToken cancel);

        /// <summary>The rows of an array that are not here, some at a time.</summary>
        /// <param name="other">Ids that stand for the same thing here, added to by tables that know sameness.</param>
        /// <exception cref="JsonException">No such rows.</exception>
        public abstract IAsyncEnumerable<IReadOnlyList<object>> News(
            WalkdownDb db,
            Guid jobId,
            Stream from,
            Dictionary<Guid, Guid> other,
            ImmutableArray<MergeConflict>.Builder conflicts,
            CancellationToken cancel
        );

        /// <summary>Adds rows within the open transaction.</summary>
        public abstract Task Add(WalkdownDb db, IReadOnlyList<object> news, CancellationToken cancel);
    }

    internal sealed class Table<T>(
        Func<WalkdownDb, Guid, IQueryable<T>> rows,
        Func<T, T, bool>? sameAs,
        Action<T, string?>? label,
        Func<T, string>? labelOf
    ) : Table
        where T : class
    {
        private const int Some = 2000;
        private static readonly System.Reflection.PropertyInfo IdOf = typeof(T).GetProperty("Id") ?? typeof(T).GetProperty("JobId")!;
        private static readonly System.Reflection.PropertyInfo[] Leans =
        [
            .. typeof(T)
                .GetProperties()
                .Where(p => p.CanWrite && p.Name != "Id" && (p.PropertyType == typeof(Guid) || p.PropertyType == typeof(Guid?))),
        ];

        /// <summary>Of the file in the bundle: a format that outlives the names of classes.</summary>
        public override string Name =>
            typeof(T) == typeof(InstalledUnit) ? "Unit"
            : typeof(T) == typeof(ObservationRecord) ? "Observation"
            : typeof(T).Name;
        public override Type ListType => typeof(List<T>);

        /// <summary>What is only ever added needs no look at all that is here.</summary>
        private bool OnlyAdded => sameAs is null && labelOf is null && !Register.Contains(Name);

        public override Task<int> Count(WalkdownDb db, Guid jobId) => rows(db, jobId).CountAsync();

        public override async Task Sequences(WalkdownDb db, Guid jobId, HashSet<long> into)
        {
            if (typeof(T).GetProperty("Sequence")?.PropertyType != typeof(long))
                return;
            await foreach (var sequence in rows(db, jobId).AsNoTracking().Select(r => EF.Property<long>(r, "Sequence")).AsAsyncEnumerable())
                into.Add(sequence);
        }

        public override async Task Write(WalkdownDb db, Guid jobId, Stream into, Action<object> change, CancellationToken cancel)
        {
            await JsonSerializer.SerializeAsync(into, Changed(), RowJson, cancel);

            async IAsyncEnumerable<T> Changed()
            {
                await foreach (
                    var row in rows(db, jobId)
                        .AsNoTracking()
                        .OrderBy(r => EF.Property<Guid>(r, IdOf.Name))
                        .AsAsyncEnumerable()
                        .WithCancellation(cancel)
                )
                {
                    change(row);
                    yield return row;
                }
            }
        }

        public override async IAsyncEnumerable<IReadOnlyList<object>> News(
            WalkdownDb db,
            Guid jobId,
            Stream from,
            Dictionary<Guid, Guid> other,
            ImmutableArray<MergeConflict>.Builder conflicts,
            [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
        )
        {
            // The register is looked at whole: it is small beside what was done on it.
            var here = OnlyAdded ? [] : (await rows(db, jobId).AsNoTracking().ToListAsync(cancel)).ToDictionary(Id);
            var labels = labelOf is null ? null : here.Values.Select(labelOf).ToHashSet(Labels.Comparer);
            var some = new List<T>(Some);
            await foreach (var row in JsonSerializer.DeserializeAsyncEnumerable<T>(from, RowJson, cancel))
            {
                some.Add(row ?? throw new JsonException());
                if (some.Count < Some)
                    continue;
                yield return await Join();
                some.Clear();
            }
            yield return await Join();

            async Task<IReadOnlyList<object>> Join()
            {
                foreach (var row in some)
                foreach (var lean in Leans)
                    if (lean.GetValue(row) is Guid at && other.TryGetValue(at, out var mine))
                        lean.SetValue(row, mine);
                if (OnlyAdded)
                {
                    var ids = some.Select(Id).ToList();
                    var known = (
                        await db.Set<T>()
                            .AsNoTracking()
                            .Select(r => EF.Property<Guid>(r, IdOf.Name))
                            .Where(id => ids.Contains(id))
                            .ToListAsync(cancel)
                    ).ToHashSet();
                    return [.. some.Where(r => known.Add(Id(r)))];
                }
                var news = new List<T>();
                foreach (var row in some)
                    if (IsNews(row))
                        news.Add(row);
                // Twice in one file is once.
                return [.. news.DistinctBy(Id)];
            }

            // What is the same by its nature is taken for ours; a label that two things bear gets a number.
            bool IsNews(T row)
            {
                if (here.TryGetValue(Id(row), out var same))
                {
                    if (Register.Contains(Name))
                        conflicts.AddRange(BundleReader.Differences(NameOf(same), same, row));
                    return false;
                }
                if (sameAs is not null && here.Values.FirstOrDefault(x => sameAs(x, row)) is { } like)
                {
                    other[Id(row)] = Id(like);
                    return false;
                }
                if (labels is not null && !labels.Add(labelOf!(row)))
                {
                    var was = labelOf(row);
                    var n = 2;
                    while (!labels.Add($"{was} ({n})"))
                        n++;
                    label!(row, $"{was} ({n})");
                    conflicts.Add(new(was, new("bundle.label", $"{was} ({n})")));
                }
                return true;
            }
        }

        public override async Task Add(WalkdownDb db, IReadOnlyList<object> news, CancellationToken cancel)
        {
            if (!OnlyAdded)
            {
                db.AddRange(news);
                await db.SaveChangesAsync(cancel);
                db.ChangeTracker.Clear();
                return;
            }
            // Many and plain: one statement, prepared once; columns and how their values are written are the model's.
            var entity = db.Model.FindEntityType(typeof(T))!;
            var columns = entity
                .GetProperties()
                .Select(p => (p.PropertyInfo, p.GetTypeMapping().Converter, Name: p.GetColumnName()))
                .ToArray();
            using var insert = (SqliteCommand)db.Database.GetDbConnection().CreateCommand();
            insert.Transaction = (SqliteTransaction)db.Database.CurrentTransaction!.GetDbTransaction();
            var names = string.Join(", ", columns.Select(c => $"\"{c.Name}\""));
            var values = string.Join(", ", columns.Select((_, i) => "$" + i));
            insert.CommandText = $"INSERT INTO \"{entity.GetTableName()}\" ({names}) VALUES ({values})";
            for (var i = 0; i < columns.Length; i++)
                insert.Parameters.Add(new SqliteParameter { ParameterName = "$" + i });
            foreach (var row in news)
            {
                cancel.ThrowIfCancellationRequested();
                for (var i = 0; i < columns.Length; i++)
                {
                    var value = columns[i].PropertyInfo!.GetValue(row);
                    insert.Parameters[i].Value =
                        (value is not null && columns[i].Converter is { } converter ? converter.ConvertToProvider(value) : value)
                        ?? DBNull.Value;
                }
                insert.ExecuteNonQuery();
            }
        }

        private static Guid Id(T row) => (Guid)IdOf.GetValue(row)!;

        private string NameOf(T row) =>
            labelOf?.Invoke(row)
            ?? row switch
            {
                Cabinet c => c.Label,
                PowerSource s => s.Label,
                Job j => j.Name,
                InstrumentRecord i => i.Name,
                Port p => $"{p.Switch} {p.Number}".Trim(),
                _ => "",
            };
    }
}
