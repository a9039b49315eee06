namespace Walkdown.Core.Acceptance;

/// <summary>A head of a camera, from 1.</summary>
public sealed record HeadFacts(Guid Id, int Number);
