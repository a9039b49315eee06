namespace Walkdown.Core.Links;

/// <summary>Whether both ends may send at once.</summary>
public enum Duplex
{
    /// <summary>They may.</summary>
    Full,

    /// <summary>They take turns.</summary>
    Half,

    /// <summary>Not known.</summary>
    Unknown,
}
