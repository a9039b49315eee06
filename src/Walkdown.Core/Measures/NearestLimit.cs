namespace Walkdown.Core.Measures;

/// <summary>Which limit a value is nearest to.</summary>
public enum NearestLimit
{
    /// <summary>The least.</summary>
    Min,

    /// <summary>The greatest.</summary>
    Max,

    /// <summary>Both alike.</summary>
    Both,
}
