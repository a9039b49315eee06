namespace Walkdown.Core.Acceptance;

/// <summary>A word of a choice that is right.</summary>
public sealed record GoodWord
{
    /// <summary>One of the check's choices.</summary>
    public required string Word { get; init; }

    /// <summary>The part that it is right for; null: for each.</summary>
    public string? Part { get; init; }

    /// <summary>Whether it is one of this part's.</summary>
    internal bool IsOf(string part) => Part is null || Part == part;

    /// <summary>Where it is right, such as under one school.</summary>
    public Rule Applies { get; init; } = new();
}
