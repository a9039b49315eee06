namespace Walkdown.Core.Acceptance;

/// <summary>What makes a row due that is else only offered: a word that another check's reading says, work that was done, or a day. The
/// part of the work must be covered too.</summary>
public sealed record Occasion
{
    /// <summary>The check whose reading makes it due.</summary>
    public CheckId? Check { get; init; }

    /// <summary>Words that make it due, as the reading says them: <c>yes</c>, a choice, a marked item, <c>item:state</c>,
    /// <c>field:word</c>. Empty: any reading does.</summary>
    public ImmutableArray<string> Says { get; init; } = [];

    /// <summary>The kind of work that makes it due.</summary>
    public string? Act { get; init; }

    /// <summary>The first day at the site on which it is due.</summary>
    public DateOnly? From { get; init; }
}
