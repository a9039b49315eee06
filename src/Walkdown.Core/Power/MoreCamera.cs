namespace Walkdown.Core.Power;

/// <summary>A camera that hangs nowhere yet, to see what its port would take.</summary>
/// <param name="PowerClass">0 to 8.</param>
/// <param name="Watts">At the port, at its heaviest; null: what its class may take.</param>
public sealed record MoreCamera(int PowerClass, double? Watts = null)
{
    /// <summary>More than this are not one source's any more.</summary>
    public const int Most = 48;

    /// <summary>Whether they can be tried: so many, each of a class there is, and of no more watts than a port can give.</summary>
    public static bool AreSound(IReadOnlyCollection<MoreCamera?> cameras) =>
        cameras.Count <= Most && cameras.All(c => c is { PowerClass: >= 0 and <= 8 } && c.Watts is null or >= 0 and <= 120);
}
