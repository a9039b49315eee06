using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Tests;

/// <summary>What is put in force here is in force with the very next question.</summary>
public sealed class CatalogueStoreTests
{
    /// <summary>Also where many ask in the moment in which one of them is reading it.</summary>
    [Fact]
    public async Task NobodyIsGivenTheOldEditionWhileTheNewOneIsRead()
    {
        var root = Directory.CreateTempSubdirectory("walkdown-test-").FullName;
        try
        {
            using var folder = new DataFolder(root);
            Directory.CreateDirectory(folder.CatalogueFolder);
            var store = new CatalogueStore(folder);
            _ = store.Catalogue;
            for (var edition = 1; edition <= 20; edition++)
            {
                store.Keep($"{{ \"overrides\": true, \"edition\": {edition} }}");
                using var together = new Barrier(4);
                var seen = await Task.WhenAll(
                    Enumerable
                        .Range(0, 4)
                        .Select(_ =>
                            Task.Factory.StartNew(
                                () =>
                                {
                                    together.SignalAndWait();
                                    return store.Catalogue.LimitSet.Edition;
                                },
                                TaskCreationOptions.LongRunning
                            )
                        )
                );
                Assert.All(seen, e => Assert.EndsWith($"own edition {edition}", e, StringComparison.Ordinal));
            }
        }
        finally
        {
            Directory.Delete(root, true);
        }
    }

    [Fact]
    public async Task EachOfManyQuickEditionsIsInForceAtOnce()
    {
        var root = Directory.CreateTempSubdirectory("walkdown-test-").FullName;
        try
        {
            using var folder = new DataFolder(root);
            Directory.CreateDirectory(folder.CatalogueFolder);
            var store = new CatalogueStore(folder);
            // Others ask without a pause while it is written.
            using var end = new CancellationTokenSource();
            var others = Task.Run(() =>
            {
                while (!end.IsCancellationRequested)
                    _ = store.Catalogue;
            });
            for (var edition = 1; edition <= 60; edition++)
            {
                store.Keep($"{{ \"overrides\": true, \"edition\": {edition} }}");
                Assert.EndsWith($"own edition {edition}", store.Catalogue.LimitSet.Edition, StringComparison.Ordinal);
            }
            await end.CancelAsync();
            await others;
        }
        finally
        {
            Directory.Delete(root, true);
        }
    }
}
