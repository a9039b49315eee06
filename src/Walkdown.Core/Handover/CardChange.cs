using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Handover;

/// <summary>What happened to a Card between two revisions.</summary>
/// <param name="BuiltOtherwise">Something of the register or its pictures changed: name, unit, address, port, channel.</param>
/// <param name="Before">Null: the Card was not in the revision before. <paramref name="After"/> null: it is no longer there.</param>
/// <param name="After">As it is after.</param>
/// <param name="Label">Its label.</param>
/// <param name="Rows">Its rows, in order.</param>
public sealed record CardChange(string Label, Verdict? Before, Verdict? After, ImmutableArray<RowChange> Rows, bool BuiltOtherwise = false);
