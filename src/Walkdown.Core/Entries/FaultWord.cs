namespace Walkdown.Core.Entries;

/// <summary>A word added to a Fault.</summary>
/// <param name="FaultId">The Fault.</param>
/// <param name="Text">The word.</param>
/// <param name="By">Whose it is.</param>
/// <param name="At">When it was said.</param>
/// <param name="Sequence">The journal's order.</param>
/// <param name="Id">Its id.</param>
public sealed record FaultWord(Guid Id, Guid FaultId, string Text, Guid By, DateTimeOffset At, long Sequence);
