namespace Walkdown.Core.Acceptance;

/// <summary>An entry on record that cannot be read any more. It is counted and told, and changes nothing else.</summary>
public sealed record UnreadableEvent : CardEvent;
