namespace Walkdown.Core.Acceptance;

/// <summary>The limits as they stood when a reading was kept, so that a later edition can say what it changed.</summary>
public sealed record LimitSeen(string Edition, double? Min, double? Max);
