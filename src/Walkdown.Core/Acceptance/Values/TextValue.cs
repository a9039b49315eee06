namespace Walkdown.Core.Acceptance;

/// <summary>A word as it was read off, such as a version.</summary>
public sealed record TextValue(string Text) : ReadingValue;
