using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Handover;

/// <summary>One Card as whoever signs sees it.</summary>
public readonly record struct ShownCard(Guid Id, Verdict Verdict, int OpenFaults, int Unexpected, int Taken, int Total, bool Cancelled);
