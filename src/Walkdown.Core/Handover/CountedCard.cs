using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Handover;

/// <summary>A Card as the sums count it.</summary>
/// <param name="Cancelled">Taken off the job: it has no Verdict that counts; its Faults and pictures stay on record.</param>
/// <param name="Label">Its label.</param>
/// <param name="OpenFaults">Faults that are open.</param>
/// <param name="Pictures">Pictures of it.</param>
/// <param name="Verdict">What it comes to.</param>
public readonly record struct CountedCard(string Label, Verdict Verdict, int OpenFaults, int Pictures, bool Cancelled = false);
