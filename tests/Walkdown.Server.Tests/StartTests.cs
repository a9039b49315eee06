using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Metadata;
using Walkdown.Storage;

namespace Walkdown.Server.Tests;

/// <summary>The start: what is made beforehand is what would be made now, and what was stopped in the middle is looked through.</summary>
public sealed class StartTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("walkdown-start-").FullName;

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(_folder, true);
    }

    private static IEnumerable<string> Shape(IModel model) =>
        from type in model.GetEntityTypes()
        from line in type.GetProperties()
            .Select(p =>
                $"{type.Name}.{p.Name} {p.GetColumnName()} {p.ClrType} {p.IsNullable} "
                + $"{p.GetTypeMapping().Converter?.GetType()} {p.ValueGenerated}"
            )
            .Concat(type.GetIndexes().Select(i => $"{type.Name} index {string.Join(',', i.Properties.Select(p => p.Name))} {i.IsUnique}"))
            .Concat(
                type.GetForeignKeys()
                    .Select(f => $"{type.Name} to {f.PrincipalEntityType.Name} by {string.Join(',', f.Properties.Select(p => p.Name))}")
            )
        orderby line
        select line;

    /// <summary>Holds where the model was written beforehand, as ./walkdown does; a build by hand compares it with itself.</summary>
    [Fact]
    public void TheModelMadeBeforehandIsTheOneThatTheEntitiesGive()
    {
        var options = new DbContextOptionsBuilder<WalkdownDb>().UseSqlite("Data Source=:memory:").Options;
        using var db = new WalkdownDb(options);
        // The design-time model is always built from the entities; the other comes ready.
        var built = db.GetService<IDesignTimeModel>().Model;
        Assert.IsNotType<RuntimeModel>(built, exactMatch: false);
        Assert.IsType<RuntimeModel>(db.Model, exactMatch: false);
        Assert.Equal(
            Shape(built).Select(l => l.Replace("Microsoft.EntityFrameworkCore.Storage.ValueConversion.", "")),
            Shape(db.Model).Select(l => l.Replace("Microsoft.EntityFrameworkCore.Storage.ValueConversion.", ""))
        );
    }

    [Fact]
    public async Task AFolderThatWasStoppedInTheMiddleIsLookedThroughAndOneThatWasNotIsNot()
    {
        using (var first = new DataFolder(_folder))
        {
            first.Open();
            Assert.True(File.Exists(Path.Combine(_folder, ".open")));
        }
        Assert.False(File.Exists(Path.Combine(_folder, ".open")));
        SqliteConnection.ClearAllPools();
        // A page in the middle is overwritten: the file opens, and is damaged.
        using (var file = new FileStream(Path.Combine(_folder, "walkdown.db"), FileMode.Open))
        {
            file.Position = file.Length / 2 / 4096 * 4096;
            file.Write(new byte[4096 * 6]);
        }
        using (var clean = new DataFolder(_folder))
        {
            clean.Open();
            Assert.False(clean.IsDamaged);
            Assert.False(await clean.LookThrough());
            Assert.True(clean.IsDamaged);
        }
        SqliteConnection.ClearAllPools();
        File.WriteAllText(Path.Combine(_folder, ".open"), "");
        using var unclean = new DataFolder(_folder);
        var refused = Assert.Throws<DataFolderException>(unclean.Open);
        Assert.Contains("damaged", refused.Message);
    }
}
