using Walkdown.Core.Topics;

namespace Walkdown.Core.Finishing;

/// <summary>The end of a visit: handed over, and nobody filmed who should not be.</summary>
internal static class FinishingTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new() { };
}
