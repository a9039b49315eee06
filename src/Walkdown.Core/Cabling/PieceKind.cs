namespace Walkdown.Core.Cabling;

/// <summary>What a piece of a run is.</summary>
public enum PieceKind
{
    /// <summary>Fixed cable.</summary>
    Cable,

    /// <summary>A cord.</summary>
    Cord,

    /// <summary>A patch panel.</summary>
    Panel,

    /// <summary>A coupler.</summary>
    Coupler,

    /// <summary>A surge protector.</summary>
    Protector,

    /// <summary>An adapter by which two devices share a run.</summary>
    SharingAdapter,

    /// <summary>An injector.</summary>
    Injector,

    /// <summary>A splitter.</summary>
    Splitter,
}
