namespace Walkdown.Core.Acceptance;

/// <summary>What stands on record and cannot be read any more. Its row is not judged; nothing else suffers.</summary>
public sealed record UnreadableValue : ReadingValue;
