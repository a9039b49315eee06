using Walkdown.Core.Cabling;

namespace Walkdown.Core.Acceptance;

/// <summary>Work that makes earlier readings void only where it was done: at one end of the run, or at the recorder that shows the device
/// (CAPABILITIES, "What a later action makes void").</summary>
public sealed record VoidingAct
{
    /// <summary>Id of the act in the catalogue.</summary>
    public required string Act { get; init; }

    /// <summary>The end of the run that it was done at; null: it was done at the recorder.</summary>
    public CableEnd? End { get; init; }

    /// <summary>It is on the Card of the recorder that shows the device, not on its own.</summary>
    public bool AtRecorder { get; init; }
}
