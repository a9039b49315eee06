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
}
