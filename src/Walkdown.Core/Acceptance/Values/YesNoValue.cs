namespace Walkdown.Core.Acceptance;

/// <summary>Yes or no.</summary>
public sealed record YesNoValue(bool Yes) : ReadingValue;
