namespace Walkdown.Core.Acceptance;

/// <summary>A part of a subject that has a row of its own: a group of fasteners, an interface, a preset. Its words:
/// <c>part.ID</c>.</summary>
public sealed record CheckPart
{
    /// <summary>Id within its check; never renamed.</summary>
    public required string Id { get; init; }

    /// <summary>Where there is one.</summary>
    public Rule Applies { get; init; } = new();
}
