using Walkdown.Storage;

namespace Walkdown.Server.Readings;

/// <summary>Where proposed readings come from.</summary>
public enum IntakeOrigin
{
    File,
    Sweep,
}
