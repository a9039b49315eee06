namespace Walkdown.Core.Entries;

/// <summary>A question or an entry that says who asks. Who may is decided by <see cref="EntryDoor.MayWrite"/> alone.</summary>
public interface IAsked
{
    /// <summary>The person's id; until there are accounts, whom the browser was told.</summary>
    Guid By { get; }
}
