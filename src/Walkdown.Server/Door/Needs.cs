using Walkdown.Core.People;

namespace Walkdown.Server.Door;

/// <summary>What one needs for an address of the interface.</summary>
public sealed record Needed(Right Right);

/// <summary>Anybody may ask this: who is not signed in yet, in order to be.</summary>
public sealed record OpenToAll;

/// <summary>Said beside each route: what one needs for it. Reads that say nothing need <see cref="Right.Look"/>; a write that says nothing
/// is refused to everybody.</summary>
public static class NeedsExtensions
{
    public static TBuilder Needs<TBuilder>(this TBuilder builder, Right right)
        where TBuilder : IEndpointConventionBuilder => builder.WithMetadata(new Needed(right));

    public static TBuilder ToAll<TBuilder>(this TBuilder builder)
        where TBuilder : IEndpointConventionBuilder => builder.WithMetadata(new OpenToAll());

    /// <summary>What an endpoint needs; null where it is open, or where it is a write that names nothing.</summary>
    public static Right? RightOf(this Endpoint endpoint, string method) =>
        endpoint.Metadata.GetMetadata<Needed>() is { } needed ? needed.Right
        : HttpMethods.IsGet(method) || HttpMethods.IsHead(method) ? Right.Look
        : null;
}
