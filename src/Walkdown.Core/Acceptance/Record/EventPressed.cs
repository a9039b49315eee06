using Walkdown.Core.Recording;

namespace Walkdown.Core.Acceptance;

/// <summary>Somebody moved before the camera: what its recorder must have a clip of (<see cref="ClipProof"/>).</summary>
public sealed record EventPressed : CardEvent
{
    /// <summary>What was done.</summary>
    public required EventWay Way { get; init; }
}
