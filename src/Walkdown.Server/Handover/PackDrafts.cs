using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Measures;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Handover;

/// <summary>
/// Packs as they would be sealed, to be read before anybody signs: the same pages, marked as drafts. Nothing is added to the record and
/// nothing is sealed. They lie beside the packs for a day, and go when a picture of their job is erased.
/// </summary>
public sealed class PackDrafts(PackMaker maker, Ledger ledger, DataFolder folder, TimeProvider time)
{
    /// <summary>As long as somebody reads before signing.</summary>
    private static readonly TimeSpan Lives = TimeSpan.FromHours(24);

    /// <exception cref="Refusal">The job has no devices, or a picture was erased meanwhile.</exception>
    public async Task<DraftPack> Make(Guid jobId, DraftRequest request, IProgress<(int Done, int Of)> progress, CancellationToken cancel)
    {
        foreach (var old in Drafts("*").Where(d => Directory.GetLastWriteTimeUtc(d) < time.GetUtcNow().UtcDateTime - Lives))
            Directory.Delete(old, true);
        var asked = new PackRequest(Guid.CreateVersion7(), request.DeviceId, [], "", [request.Language]);
        var erased = await Erasures(jobId);
        var work = Path.Combine(folder.PacksPath, $".{asked.Id:N}");
        Directory.CreateDirectory(work);
        try
        {
            var steps = new PackSteps(progress);
            var made = await maker.Gather(jobId, asked, time.GetUtcNow(), work, PackArchive.Of, null, steps, cancel);
            var kept = FolderOf(jobId, asked.Id);
            Directory.CreateDirectory(kept);
            var files = await maker.Pages(made.Record, asked.Languages, null, null, work, steps, cancel);
            foreach (var file in files)
                File.Move(file, Path.Combine(kept, Path.GetFileName(file)));
            // A picture that was erased while this was drawn may be in it.
            if (await Erasures(jobId) != erased)
            {
                Directory.Delete(kept, true);
                throw new Refusal(new("handover.changed-meanwhile"));
            }
            return new DraftPack(asked.Id, [.. files.Select(f => Path.GetFileName(f))], made.Record.Shown ?? "");
        }
        finally
        {
            Directory.Delete(work, true);
        }
    }

    /// <summary>Lets go of a job's drafts: a picture that is erased is in none of them.</summary>
    public void Forget(Guid jobId)
    {
        foreach (var draft in Drafts($"{jobId:N}-*"))
            Directory.Delete(draft, true);
    }

    /// <summary>A volume of a draft; null where there is none of that name, or its time is over.</summary>
    public string? PathOf(Guid jobId, Guid id, string file)
    {
        var path = Path.Combine(FolderOf(jobId, id), Path.GetFileName(file));
        return file.EndsWith(".pdf", StringComparison.Ordinal) && File.Exists(path) ? path : null;
    }

    private string FolderOf(Guid jobId, Guid id) => Path.Combine(folder.PacksPath, $"{DataFolder.DraftPrefix}{jobId:N}-{id:N}");

    private List<string> Drafts(string which) => [.. Directory.EnumerateDirectories(folder.PacksPath, DataFolder.DraftPrefix + which)];

    private async Task<int> Erasures(Guid jobId)
    {
        await using var db = ledger.OpenDb();
        return await db.Erasures.CountAsync(e => e.JobId == jobId);
    }
}
