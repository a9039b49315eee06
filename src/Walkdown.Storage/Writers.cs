using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;

namespace Walkdown.Storage;

/// <summary>Who may write into a job: its people, until they left it. What somebody wrote while there, and sends later, is taken.</summary>
public static class Writers
{
    /// <summary>Why somebody may not write what is of this moment; null where they may.</summary>
    public static async Task<Message?> Refuse(WalkdownDb db, Guid jobId, Guid by, DateTimeOffset at, CancellationToken cancel = default)
    {
        var person = await db
            .People.Where(p => p.Id == by && p.JobId == jobId)
            .Select(p => new { p.Left, p.LeftAt })
            .FirstOrDefaultAsync(cancel);
        return EntryDoor.MayWrite(person is not null, person is { Left: true } ? person.LeftAt ?? DateTimeOffset.MinValue : null, at);
    }

    /// <summary>The name of who may write at this moment, or why they may not.</summary>
    public static async Task<(string? Name, Message? Why)> Named(
        WalkdownDb db,
        Guid jobId,
        Guid by,
        DateTimeOffset at,
        CancellationToken cancel = default
    ) =>
        await Refuse(db, jobId, by, at, cancel) is { } stranger
            ? (null, stranger)
            : (await db.People.Where(p => p.Id == by).Select(p => p.Name).FirstAsync(cancel), null);
}
