using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Handover;

/// <summary>One exception of a Card, as the pack's first pages list them.</summary>
/// <param name="Row">The row it is about; null where it is about the whole Card or a Fault.</param>
/// <param name="Who">Who allowed, exempted, raised or holds it up.</param>
/// <param name="Why">Their reason, or the Fault's title.</param>
/// <param name="By">Who.</param>
/// <param name="Kind">Its kind.</param>
/// <param name="TextKey">Code of its words.</param>
/// <param name="Until">The last day on which it holds; null: for good.</param>
public sealed record CardException(ExceptionKind Kind, CheckKey? Row, string? TextKey, Guid? By, string? Who, string? Why, DateOnly? Until)
{
    /// <summary>Rows of one check that were not taken are one exception.</summary>
    public int Count { get; init; } = 1;

    /// <summary>Which of several heads, runs, ports or channels the row is of; null: there is one, or it is about all of them.</summary>
    public Message? Of { get; init; }
}
