using Walkdown.Core.Acceptance;
using Walkdown.Storage;

namespace Walkdown.Server.Handover;

/// <summary>One Card as it would be sealed alone.</summary>
public sealed record ShownAnswer(long Sequence, Verdict Verdict, int OpenFaults, string Shown);
