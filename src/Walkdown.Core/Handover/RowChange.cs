using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Handover;

/// <summary>One row that a later revision says otherwise.</summary>
/// <param name="NewReading">It rests on another reading than before.</param>
/// <param name="After">As it is after.</param>
/// <param name="Before">As it was before.</param>
/// <param name="Key">Which row.</param>
public sealed record RowChange(CheckKey Key, State? Before, State? After, bool NewReading);
