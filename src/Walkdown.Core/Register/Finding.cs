using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>Something in the register that does not agree.</summary>
/// <param name="What">The sentence, as <c>finding.…</c>.</param>
/// <param name="Devices">Whom it concerns, in order.</param>
/// <param name="Field">The column to look at.</param>
public sealed record Finding(Message What, ImmutableArray<Guid> Devices, string Field);
