namespace Walkdown.Core.Entries;

/// <summary>What everything that somebody enters carries: an id made in the browser, who, and when by the browser's clock with its measured
/// offset to the server.</summary>
public interface IEntry : IAsked
{
    /// <summary>Version 7 id made by whoever enters; the same id with the same body is harmless.</summary>
    Guid Id { get; }

    /// <summary>When it was done, by the device's own clock.</summary>
    DateTimeOffset TakenAt { get; }

    /// <summary>Milliseconds to add to that clock to get the record's.</summary>
    double ClockOffsetMs { get; }
}
