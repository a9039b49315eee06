using System.Collections.Concurrent;
using System.Collections.Frozen;
using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>A cell of the register in the database file that holds what no program writes there.</summary>
/// <param name="Row">Id of the row; <see cref="Guid.Empty"/> where that is what is damaged.</param>
/// <param name="Cell">Table and column, <c>Runs.Material</c>.</param>
/// <param name="Label">What people call the row; null where that cannot be read, or it has no name.</param>
public sealed record DamagedCell(Guid Row, string Cell, string? Label = null)
{
    public override string ToString() => Label is null ? Cell : $"{Cell} ({Label})";
}

/// <summary>
/// Cells of the register's tables that hold what no program writes there: a bad sector, somebody's hand. Reading one must not stop the job,
/// so it is read as something that can be worked with; that it was not on record is known here, and what leans on the row is not judged.
/// </summary>
public static class RegisterDamage
{
    /// <summary>What a scan found.</summary>
    /// <param name="At">The journal as it was then: a later entry may have written the cell anew.</param>
    private sealed record Scan(
        ImmutableArray<DamagedCell> Cells,
        FrozenDictionary<Guid, ImmutableArray<string>> ByRow,
        long Sightings,
        long At
    );

    private static readonly Type[] Register =
    [
        typeof(Job),
        typeof(Area),
        typeof(Cabinet),
        typeof(Port),
        typeof(PowerSource),
        typeof(Device),
        typeof(InstalledUnit),
        typeof(Installation),
        typeof(Head),
        typeof(Channel),
        typeof(Run),
        typeof(RunEnd),
        typeof(PlanDrawing),
    ];

    private static readonly ConcurrentDictionary<string, Scan> Known = new();

    private static long _sightings;

    /// <summary>Words and ids of the register are read also where they are none; each such reading is noticed.</summary>
    internal static void Bear(ModelBuilder model)
    {
        foreach (var property in Register.SelectMany(type => model.Entity(type).Metadata.GetProperties()))
            if ((Nullable.GetUnderlyingType(property.ClrType) ?? property.ClrType) is var type && type == typeof(Guid))
                property.SetValueConverter(typeof(IdConverter));
            else if (type.IsEnum)
                property.SetValueConverter(typeof(WordConverter<>).MakeGenericType(type));
    }

    /// <summary>The register's tables.</summary>
    public static IEnumerable<IEntityType> Tables(IModel model) => Register.Select(type => model.FindEntityType(type)!);

    /// <summary>Forgets what was found in a file: another one lies in its place.</summary>
    public static void Forget(string file) => Known.TryRemove(Path.GetFullPath(file), out _);

    /// <summary>Damaged cells by the id of their row.</summary>
    public static async Task<FrozenDictionary<Guid, ImmutableArray<string>>> Of(WalkdownDb db) => (await Look(db, anew: false)).ByRow;

    /// <summary>Damaged cells of a whole file, table by table, looked for anew: numbers and texts give no sign when they are
    /// read.</summary>
    public static async Task<ImmutableArray<DamagedCell>> All(WalkdownDb db) => (await Look(db, anew: true)).Cells;

    /// <summary>Takes figures that cannot be read for what nobody knows: read as a number they would be nought.</summary>
    /// <param name="sources">Not tracked.</param>
    public static async Task<List<PowerSource>> Blank(WalkdownDb db, List<PowerSource> sources)
    {
        var damaged = await Of(db);
        var type = db.Model.FindEntityType(typeof(PowerSource))!;
        foreach (var source in sources)
        foreach (var cell in damaged.GetValueOrDefault(source.Id, []))
            if (type.FindProperty(cell[(cell.IndexOf('.', StringComparison.Ordinal) + 1)..]) is { IsNullable: true } figure)
                figure.PropertyInfo!.SetValue(source, null);
        return sources;
    }

    private static async Task<Scan> Look(WalkdownDb db, bool anew)
    {
        var file = Path.GetFullPath(db.Database.GetDbConnection().DataSource);
        var sightings = Interlocked.Read(ref _sightings);
        var scan = Known.GetValueOrDefault(file);
        if (!anew && scan is not null && scan.Sightings == sightings && scan.Cells.IsEmpty)
            return scan;
        var at = await db.Journal.MaxAsync(j => (long?)j.Sequence) ?? 0;
        if (!anew && scan is not null && scan.Sightings == sightings && scan.At == at)
            return scan;
        var cells = ImmutableArray.CreateBuilder<DamagedCell>();
        await db.Database.OpenConnectionAsync();
        try
        {
            foreach (var type in Tables(db.Model))
                await Find(db, type, cells);
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
        scan = new Scan(
            cells.ToImmutable(),
            cells
                .Where(c => c.Row != Guid.Empty)
                .GroupBy(c => c.Row, c => c.Cell)
                .ToFrozenDictionary(g => g.Key, g => g.ToImmutableArray()),
            sightings,
            at
        );
        return Known[file] = scan;
    }

    private static async Task Find(WalkdownDb db, IEntityType type, ImmutableArray<DamagedCell>.Builder cells)
    {
        var table = type.GetTableName()!;
        var key = type.FindPrimaryKey()!.Properties.Single().GetColumnName();
        var columns = type.GetProperties().Select(p => (Name: p.GetColumnName(), Bad: BadIf(p))).ToList();
        var named = columns.Select(c => c.Name).FirstOrDefault(n => n is "Label" or "Serial" or "Name") is { } name
            ? $"\"{name}\""
            : "NULL";
        await using var command = db.Database.GetDbConnection().CreateCommand();
        command.CommandText =
            $"SELECT \"{key}\", {named}, {string.Join(", ", columns.Select(c => c.Bad))} FROM \"{table}\" "
            + $"WHERE {string.Join(" OR ", columns.Select(c => c.Bad))} LIMIT 1000";
        await using var found = await command.ExecuteReaderAsync();
        while (await found.ReadAsync())
        {
            var row = found.GetValue(0) is byte[] id ? IdBytes.ReadOrNobody(id) : Guid.Empty;
            var label = found.GetValue(1) as string;
            for (var i = 0; i < columns.Count; i++)
                if (found.GetInt64(i + 2) != 0)
                    cells.Add(new DamagedCell(row, $"{table}.{columns[i].Name}", label));
        }
    }

    /// <summary>SQL that is 1 for a value which the column cannot hold.</summary>
    private static string BadIf(IProperty property)
    {
        var column = $"\"{property.GetColumnName()}\"";
        var type = Nullable.GetUnderlyingType(property.ClrType) ?? property.ClrType;
        var bad =
            type == typeof(Guid) ? $"typeof({column}) <> 'blob' OR length({column}) <> {IdBytes.Length}"
            : type.IsEnum ? $"{column} NOT IN ({string.Join(", ", Enum.GetNames(type).Select(n => $"'{n}'"))})"
            : type == typeof(double) ? $"typeof({column}) NOT IN ('real', 'integer')"
            : type == typeof(string) ? $"typeof({column}) <> 'text'"
            : $"typeof({column}) <> 'integer'";
        return property.IsNullable ? $"({column} IS NOT NULL AND ({bad}))" : $"({column} IS NULL OR {bad})";
    }

    private static T Noticed<T>(T read, bool isDamaged)
    {
        if (isDamaged)
            Interlocked.Increment(ref _sightings);
        return read;
    }

    private static T Word<T>(string text)
        where T : struct, Enum
    {
        var word = Damaged.Word<T>(text);
        return Noticed(word, Damaged.Is(word));
    }

    private static Guid Id(byte[] bytes)
    {
        var id = IdBytes.ReadOrNobody(bytes);
        return Noticed(id, id == Guid.Empty);
    }

    /// <summary>As <see cref="Damaged.IdOrNobody"/>, and noticed.</summary>
    internal sealed class IdConverter() : ValueConverter<Guid, byte[]>(id => IdBytes.Of(id), bytes => Id(bytes));

    /// <summary>As <see cref="Damaged.WordOrNone{T}"/>, and noticed: writing the word anew is a change.</summary>
    internal sealed class WordConverter<T>() : ValueConverter<T, string>(value => value.ToString(), text => Word<T>(text))
        where T : struct, Enum;
}
