using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Catalogues;

/// <summary>A cause that Core may propose; its evidence function is in the registry of <see cref="Evidence"/>.</summary>
public sealed record CauseDefinition
{
    /// <summary>Id; never renamed.</summary>
    public required string Id { get; init; }

    /// <summary>Checks that it may be the cause of.</summary>
    public required ImmutableArray<CheckId> Checks { get; init; }

    /// <summary>Name of what speaks for it, in the topics.</summary>
    public required string Evidence { get; init; }

    /// <summary>It lies in the unit itself: a unit that worked on the bench does not have it.</summary>
    public bool InUnit { get; init; }

    /// <summary>Words of a choice that speak for it, where <see cref="Evidence"/> is <c>says</c>.</summary>
    public ImmutableArray<string> Says { get; init; } = [];

    /// <summary>How much it weighs.</summary>
    public required Severity Severity { get; init; }

    /// <summary>Minutes that a look takes.</summary>
    public int Minutes { get; init; } = 5;
}
