namespace Walkdown.Core.Acceptance;

/// <summary>One item of a row that is a list, as it applies here.</summary>
/// <param name="Bring">Not in the pack: to be brought.</param>
/// <param name="Id">Its id.</param>
/// <param name="Loose">It is confirmed by itself.</param>
/// <param name="Out">It is marked as the exception.</param>
public sealed record CardItem(string Id, bool Out, bool Bring, bool Loose);
