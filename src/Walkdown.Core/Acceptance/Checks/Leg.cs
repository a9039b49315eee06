namespace Walkdown.Core.Acceptance;

/// <summary>The eight legs of the signal path, from the recorder to the scene.</summary>
public enum Leg
{
    /// <summary>Recorder and its channel.</summary>
    Recorder,

    /// <summary>The port.</summary>
    Port,

    /// <summary>The run.</summary>
    Run,

    /// <summary>What feeds the device.</summary>
    Power,

    /// <summary>The link.</summary>
    Link,

    /// <summary>Address and login.</summary>
    Address,

    /// <summary>The picture.</summary>
    Picture,

    /// <summary>How it is fixed.</summary>
    Fixing,
}
