using System.Collections.Immutable;
using System.Text.Json.Serialization.Metadata;
using Microsoft.AspNetCore.Http.HttpResults;
using Walkdown.Core.Acceptance;
using Walkdown.Server.Shared;

namespace Walkdown.Server.Cards;

/// <summary>What the checks of a catalogue say, once for all Cards.</summary>
/// <param name="Version">Of the catalogue; a Card names the one that it was judged by.</param>
public sealed record DefinitionsAnswer(string Version, ImmutableArray<CheckDefinition> Checks);

/// <summary>Definitions travel once, by version; rows of Cards name their check.</summary>
public static class Definitions
{
    public static void MapDefinitions(this RouteGroupBuilder api) =>
        api.MapGet(
                "/catalogue/definitions",
                Results<Ok<DefinitionsAnswer>, StatusCodeHttpResult> (CatalogueStore store, HttpContext http) =>
                {
                    var inForce = store.Catalogue;
                    var tag = $"\"{inForce.Hash}\"";
                    http.Response.Headers.ETag = tag;
                    http.Response.Headers.CacheControl = "private, no-cache";
                    return http
                        .Request.Headers.IfNoneMatch.ToString()
                        .Split(',')
                        .Any(t => t.Trim() is var known && (known == tag || known == "W/" + tag || known == "*"))
                        ? TypedResults.StatusCode(StatusCodes.Status304NotModified)
                        : TypedResults.Ok(new DefinitionsAnswer(inForce.Hash, inForce.Checks));
                }
            )
            .WithTags("Cards")
            .WithName("getDefinitions");

    /// <summary>Takes out of a row, as the API answers it, what <see cref="DefinitionsAnswer"/> says.</summary>
    public static void Apart(JsonTypeInfo type)
    {
        if (type.Type != typeof(CardRow))
            return;
        for (var i = type.Properties.Count - 1; i >= 0; i--)
            if (type.Properties[i].Name == "check")
                type.Properties.RemoveAt(i);
    }
}
