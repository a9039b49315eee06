using Walkdown.Core.Measures;

namespace Walkdown.Core.Handover;

/// <summary>Something that a reader of the record should know.</summary>
/// <param name="By">Whose readings it is about; null where nobody's in particular.</param>
/// <param name="What">What it is about, as a code.</param>
public sealed record HonestyRemark(Message What, Guid? By);
