using System.Collections.Immutable;
using Walkdown.Core.Catalogue;
using Walkdown.Server.Shared;

namespace Walkdown.Server.Practice;

/// <summary>What the forms need of the catalogue, and what is wrong with a company's own files.</summary>
public sealed record CatalogueAnswer(string Edition, ImmutableArray<ActDefinition> Acts, ImmutableArray<CatalogueProblem> Problems, int Checks, int Kinds);

public sealed record TimeAnswer(DateTimeOffset Now);

public static class PracticeEndpoints
{
    public static void MapPractice(this RouteGroupBuilder api)
    {
        api.MapGet("/catalogue", (CatalogueStore store) =>
        {
            var now = store.Current;
            return TypedResults.Ok(new CatalogueAnswer(now.Catalogue.LimitSet.Edition, now.Catalogue.Acts, now.Problems, now.Catalogue.Checks.Length, now.Catalogue.Kinds.Length));
        }).WithTags("Practice").WithName("getCatalogue");
        api.MapGet("/texts", (CatalogueStore store) => TypedResults.Ok(store.Texts.All)).WithTags("Practice").WithName("getTexts");
        api.MapGet("/time", (TimeProvider time) => TypedResults.Ok(new TimeAnswer(time.GetUtcNow()))).WithTags("Practice").WithName("getTime");
    }
}
