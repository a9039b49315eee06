namespace Walkdown.Core.Acceptance;

/// <summary>A Fault with its derived standing.</summary>
/// <param name="ClosedBy">The reading that proves the repair.</param>
/// <param name="ClosedAt">When; null: it is open.</param>
/// <param name="Fault">The Fault.</param>
/// <param name="Open">Nothing has closed it.</param>
/// <param name="Repairs">Work that was done for it.</param>
public sealed record FaultOnCard(FaultRecord Fault, bool Open, Guid? ClosedBy, DateTimeOffset? ClosedAt, ImmutableArray<Act> Repairs)
{
    /// <summary>Who ended it with a word, where no reading could; null: nobody.</summary>
    public FaultEnd? Ended { get; init; }

    /// <summary>Its row is not there any more, does not apply or says nothing against it: a word may end it.</summary>
    public bool MayEnd { get; init; }
}
