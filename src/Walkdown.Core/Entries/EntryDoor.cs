using Walkdown.Core.Measures;

namespace Walkdown.Core.Entries;

/// <summary>The one door to a Card: facts and a request give what is added, or a refusal. It reads no clock and writes nothing.</summary>
public static class EntryDoor
{
    /// <summary>Clocks further off than this are none.</summary>
    private const double MostOffsetMs = 1e13;

    /// <summary>What an entry adds, or why not.</summary>
    /// <param name="request">What is asked for.</param>
    /// <param name="at">The Card before it; <see cref="EntryContext.At"/> as <see cref="TakenAt(IEntry, DateTimeOffset)"/> gives
    /// it.</param>
    /// <param name="people">Who may write, with when they left; null: they are here.</param>
    public static EntryDecision Decide(EntryRequest request, EntryContext at, ImmutableDictionary<Guid, DateTimeOffset?> people) =>
        MayWrite(people.TryGetValue(request.By, out var left), left, at.At) is { } refused
            ? EntryDecision.Refuse(refused, "by")
            : request.Decide(at);

    /// <summary>What is wrong with an entry whatever it is about: no id, or a time that cannot be. Null where nothing is.</summary>
    public static (Message Why, string Field)? Malformed(IEntry entry, DateTimeOffset now) =>
        entry.Id == Guid.Empty ? (new Message("problem.no-id"), "id")
        : TakenAt(entry, now) is null ? (new Message("problem.time"), "takenAt")
        : null;

    /// <summary>The moment by the device's clock, corrected by its offset, in whole milliseconds; never later than now. Null where it
    /// cannot be: before 2020, or a clock that is off by centuries.</summary>
    public static DateTimeOffset? TakenAt(IEntry entry, DateTimeOffset now) => TakenAt(entry.TakenAt, entry.ClockOffsetMs, now);

    /// <inheritdoc cref="TakenAt(IEntry, DateTimeOffset)"/>
    /// <param name="takenAt">By the device's clock.</param>
    /// <param name="clockOffsetMs">To add to that clock, milliseconds.</param>
    /// <param name="now">By the record's clock.</param>
    public static DateTimeOffset? TakenAt(DateTimeOffset takenAt, double clockOffsetMs, DateTimeOffset now)
    {
        if (!double.IsFinite(clockOffsetMs) || Math.Abs(clockOffsetMs) > MostOffsetMs || takenAt.Year is < 1971 or > 9000)
            return null;
        var corrected = takenAt.ToUniversalTime().AddMilliseconds(clockOffsetMs);
        corrected = DateTimeOffset.FromUnixTimeMilliseconds(corrected.ToUnixTimeMilliseconds());
        return corrected > now ? now
            : corrected.Year < 2020 ? null
            : corrected;
    }

    /// <summary>Whether somebody may write what is of this moment: people of the job, until they left it. What they wrote while there, and
    /// send later, is taken. Null where they may.</summary>
    /// <param name="ofTheJob">They are people of it.</param>
    /// <param name="left">When they left; null while they are there.</param>
    /// <param name="at">When it was done.</param>
    public static Message? MayWrite(bool ofTheJob, DateTimeOffset? left, DateTimeOffset at) =>
        !ofTheJob ? new("problem.unknown-person")
        : at > left ? new("problem.person-left")
        : null;
}
