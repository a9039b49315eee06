namespace Walkdown.Core.Entries;

/// <summary>An entry to one Card, as it is asked for. Each sort knows what it needs of the Card and what it adds; nothing else
/// does.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">When it was done, by the device's own clock.</param>
/// <param name="ClockOffsetMs">Milliseconds to add to that clock to get the record's.</param>
public abstract record EntryRequest(Guid Id, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs) : IEntry
{
    /// <summary>Most characters of a text or a reason.</summary>
    public const int MostText = 2000;

    /// <summary>Most characters of a person's name.</summary>
    public const int MostName = 120;

    /// <summary>The journal's word for this sort of entry; never renamed.</summary>
    public abstract string JournalKind();

    /// <summary>What a later page reads of it before the door: a kept answer, or a unit that hangs elsewhere.</summary>
    public virtual EntryNeeds Needs() => default;

    /// <summary>What it adds to the Card, or why not. Called by <see cref="EntryDoor.Decide"/>, which has looked at id, time and
    /// person.</summary>
    protected internal abstract EntryDecision Decide(EntryContext at);

    /// <summary>Nothing but blanks, or longer than <see cref="MostText"/>.</summary>
    protected static bool IsBlank(string? text) => string.IsNullOrWhiteSpace(text) || text.Length > MostText;

    /// <summary>Nothing but blanks, or longer than <see cref="MostName"/>.</summary>
    protected static bool IsNoName(string? name) => string.IsNullOrWhiteSpace(name) || name.Length > MostName;

    /// <summary>Longer than <see cref="MostText"/>.</summary>
    protected static bool IsTooLong(string? text) => text?.Length > MostText;
}
