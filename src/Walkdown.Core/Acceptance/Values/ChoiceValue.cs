namespace Walkdown.Core.Acceptance;

/// <summary>One of a check's words, or the id of a light.</summary>
public sealed record ChoiceValue(string Choice) : ReadingValue;
