using Walkdown.Core.Acceptance;
using Walkdown.Core.Recording;

namespace Walkdown.Core.Entries;

/// <summary>Somebody moved before the camera, just now: pressed where it was done, with a network or without.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Way">What was done.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock: the moment itself.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
public sealed record EventPressRequest(Guid Id, EventWay Way, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs)
    : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <summary>Seconds by which a moment may lie ahead: what is further is no moment, and its clip would be looked for at
    /// another.</summary>
    private const double MostAhead = 5;

    /// <inheritdoc/>
    public override string JournalKind() => "event";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at) =>
        at.Facts.Channels.IsEmpty ? EntryDecision.Refuse("event.no-channel-here", "way")
        : !Enum.IsDefined(Way) ? EntryDecision.Refuse("event.no-way", "way")
        // The door takes what lies ahead as of now; of a moment that has to be found again that is another one.
        : (TakenAt.AddMilliseconds(ClockOffsetMs) - at.At).TotalSeconds > MostAhead ? EntryDecision.Refuse("event.clock", "takenAt")
        : EntryDecision.Of(
            new EventPressed
            {
                Id = Id,
                By = By,
                At = at.At,
                Sequence = at.Sequence,
                Way = Way,
            }
        );
}
