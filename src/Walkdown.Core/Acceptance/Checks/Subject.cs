namespace Walkdown.Core.Acceptance;

/// <summary>The subject of one row; the part names a piece of it (<c>pair 4-5</c>), empty for the whole.</summary>
public readonly record struct Subject(SubjectKind Kind, Guid Id, string Part = "");
