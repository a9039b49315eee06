using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Server.Door;
using Walkdown.Server.Jobs;
using Walkdown.Server.Shared;
using Walkdown.Server.Work;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Practice;

/// <summary>What the forms need of the catalogue, and what is wrong with a company's own files.</summary>
/// <param name="Voiding">Kinds of work that make something void on some device.</param>
/// <param name="VoidedAtRecorder">Of each kind of work on a recorder, the checks of its cameras that it makes void.</param>
public sealed record CatalogueAnswer(
    string Edition,
    ImmutableArray<ActDefinition> Acts,
    ImmutableArray<string> Voiding,
    ImmutableSortedDictionary<string, ImmutableArray<string>> VoidedAtRecorder,
    ImmutableArray<CatalogueProblem> Problems,
    int Checks,
    int Kinds
);

public sealed record TimeAnswer(DateTimeOffset Now);

/// <summary>One kept edition: who changed it and why.</summary>
public sealed record EditionLine(int Version, string Why, string By, DateTimeOffset At);

/// <summary>How a job works where practitioners differ, and what it covers.</summary>
/// <param name="Sides">The side taken, by school; a school that is not named follows its default.</param>
/// <param name="Scope">What of the work is covered; null: nobody says it, and what was due before schools were data stays due.</param>
public sealed record PracticeSettings(
    DecisionRule Rule,
    WiringScheme Scheme,
    ImmutableSortedDictionary<string, string>? Sides = null,
    ScopeSettings? Scope = null
)
{
    public Core.Acceptance.Practice ToCore() =>
        new(Rule, Scheme) { Sides = Sides ?? ImmutableSortedDictionary<string, string>.Empty, Scope = Scope?.ToCore() ?? WorkScope.Former };
}

/// <summary>Parts of the work that are covered, and those of kinds that differ.</summary>
public sealed record ScopeSettings(ImmutableArray<Section> Parts, ImmutableSortedDictionary<string, ImmutableArray<Section>>? ByKind = null)
{
    /// <summary>In the order of the work, each part once.</summary>
    public WorkScope ToCore() =>
        new(Sorted(Parts), (ByKind ?? WorkScope.Whole.ByKind).ToImmutableSortedDictionary(k => k.Key, k => Sorted(k.Value)));

    private static ImmutableArray<Section> Sorted(ImmutableArray<Section> parts) => [.. parts.Distinct().Order()];
}

/// <param name="Settings">With a side for every school.</param>
/// <param name="Schools">Every school with its sides, in the order in which they are asked.</param>
/// <param name="Parts">Parts of the work that a job may cover, in their order.</param>
/// <param name="Unknown">Sides on record that the catalogue in force does not know: their school follows its default.</param>
public sealed record PracticeAnswer(
    PracticeSettings Settings,
    ImmutableArray<EditionLine> Editions,
    ImmutableArray<School> Schools,
    ImmutableArray<Section> Parts,
    ImmutableArray<string> Unknown
);

/// <summary>What is in force, and what of it was edited here.</summary>
public sealed record OwnCatalogueAnswer(
    CatalogueFile Own,
    string Edition,
    ImmutableArray<DeviceKind> Kinds,
    ImmutableArray<DeviceModel> Models,
    ImmutableArray<LimitEntry> Limits,
    ImmutableArray<FigureEntry> Figures,
    ImmutableArray<CheckDefinition> Checks,
    ImmutableArray<EditionLine> Editions,
    ImmutableArray<string> Judges,
    ImmutableArray<string> Expectations,
    ImmutableArray<string> Features,
    SheetWords Sheet
);

/// <summary>Words that the parts of a model's sheet may hold.</summary>
/// <param name="Interfaces">What is sealed.</param>
/// <param name="Fastened">Parts that something holds.</param>
/// <param name="Settings">What is set somewhere.</param>
/// <param name="Surfaces">Where.</param>
public sealed record SheetWords(
    ImmutableArray<string> Interfaces,
    ImmutableArray<string> Fastened,
    ImmutableArray<string> Settings,
    ImmutableArray<string> Surfaces
);

/// <summary>A catalogue that a bundle brought.</summary>
/// <param name="From">Fingerprint of the key that sealed the bundle.</param>
/// <param name="Problems">Why it could not be put in force as it is.</param>
public sealed record CatalogueProposal(
    Guid Id,
    string From,
    string Why,
    DateTimeOffset At,
    CatalogueFile Own,
    ImmutableArray<CatalogueProblem> Problems
);

public sealed record ChangePracticeRequest(PracticeSettings Settings, string Why, Guid By) : Core.Entries.IAsked;

public sealed record ChangeCatalogueRequest(CatalogueFile Own, string Why, Guid By) : Core.Entries.IAsked;

public sealed record OwnRequest(CatalogueFile Own);

/// <summary>One Card that a change touches.</summary>
public sealed record ImpactLine(Guid DeviceId, string Label, Verdict From, Verdict To, int RowsAdded, int RowsGone, int RowsOtherwise);

/// <summary>What a change would do, before it is made. Lines: Verdicts that change first, at most 200.</summary>
/// <param name="Cards">Cards with at least one row that is new, gone, or judged otherwise.</param>
public sealed record Impact(int Cards, int OfCards, int Verdicts, ImmutableArray<ImpactLine> Lines);

/// <summary>Changes of practice and catalogue: what they would touch, and making them; each kept as an edition with who and why.</summary>
public sealed class PracticeService(Ledger ledger, CatalogueStore catalogue, WorkQueue work, TimeProvider time)
{
    /// <summary>What a job's practice is set to, and between what it chose.</summary>
    public async Task<PracticeAnswer> AnswerOf(Job job)
    {
        var (kept, now) = (KeptPractice.Of(job), catalogue.Catalogue);
        var settled = now.Settled(kept);
        return new(
            new(settled.Rule, settled.Scheme, settled.Sides, kept.Scope.IsFormer ? null : new(kept.Scope.Parts, kept.Scope.ByKind)),
            await Editions("practice:" + job.Id),
            now.Schools,
            WorkScope.Whole.Parts,
            now.UnknownSides(kept)
        );
    }

    /// <summary>Judges every Card as it is and as it would be.</summary>
    /// <param name="with">Another catalogue; null for the one in force.</param>
    /// <param name="changed">What else a Card would be judged from; null where nothing else is.</param>
    public async Task<Impact> ImpactOf(
        Guid jobId,
        Catalogue? with,
        Func<CardFacts, CardFacts>? changed,
        IProgress<(int Done, int Of)> progress,
        CancellationToken cancel
    )
    {
        await using var db = ledger.OpenDb();
        var now = catalogue.Catalogue;
        with ??= now;
        var ids = await db.Devices.Where(d => d.JobId == jobId && !d.Cancelled).Select(d => d.Id).ToListAsync(cancel);
        var lines = new List<ImpactLine>();
        var done = 0;
        foreach (var some in ids.Chunk(250))
        {
            foreach (var card in await CardFactsLoader.Load(db, some, time.GetUtcNow()))
            {
                var before = Card.Judge(card.Facts, now);
                var after = Card.Judge(changed is null ? card.Facts : changed(card.Facts), with);
                if (ChangeImpact.Between(before, after) is { } i)
                    lines.Add(
                        new ImpactLine(card.Facts.Place.Id, card.Facts.Place.Label, i.From, i.To, i.RowsAdded, i.RowsGone, i.RowsOtherwise)
                    );
            }
            cancel.ThrowIfCancellationRequested();
            progress.Report((done += some.Length, ids.Count));
        }
        return new Impact(
            lines.Count,
            ids.Count,
            lines.Count(l => l.From != l.To),
            [.. lines.OrderBy(l => l.From == l.To).ThenBy(l => l.Label, Core.Register.NaturalOrder.Instance).Take(200)]
        );
    }

    public Message? Refuse(PracticeSettings settings) => catalogue.Catalogue.Refuse(settings.ToCore());

    public WorkAnswer ChangePractice(Guid jobId, ChangePracticeRequest request) =>
        work.Start(
            "practice",
            async (progress, cancel) =>
            {
                var practice = request.Settings.ToCore();
                var impact = await ImpactOf(jobId, null, facts => ChangeImpact.Under(facts, practice), progress, cancel);
                await ledger.Change(
                    jobId,
                    "practice",
                    async (db, _) =>
                    {
                        var job = await db.Jobs.AsTracking().FirstAsync(j => j.Id == jobId, cancel);
                        KeptPractice.Keep(job, practice);
                        db.Add(
                            await EditionOf(
                                db,
                                "practice:" + jobId,
                                JsonSerializer.Serialize(request.Settings, CoreJson.Options),
                                request.Why,
                                request.By
                            )
                        );
                        return (true, true);
                    }
                );
                await ledger.AfterChange(jobId, null, catalogue.Catalogue, progress);
                return impact;
            }
        );

    public WorkAnswer ChangeCatalogue(Guid jobId, ChangeCatalogueRequest request) =>
        work.Start(
            "catalogue",
            async (progress, cancel) =>
            {
                var (tried, problems) = catalogue.With(request.Own);
                if (tried is null)
                    throw new Refusal(new Message("practice.refused", string.Join("; ", problems.Select(p => p.What))));
                var impact = await ImpactOf(jobId, tried, null, progress, cancel);
                var inForce = false;
                try
                {
                    await ledger.Change(
                        jobId,
                        "catalogue",
                        async (db, _) =>
                        {
                            // Numbered and put in force under the one lock: of two who change it at once, the later follows the earlier.
                            var edition = (await db.Editions.Where(e => e.Of == "own").MaxAsync(e => (int?)e.Version, cancel) ?? 0) + 1;
                            var json = JsonSerializer.Serialize(request.Own with { Overrides = true, Edition = edition }, Catalogue.Json);
                            db.Add(await EditionOf(db, "own", json, request.Why, request.By));
                            await db.SaveChangesAsync(CancellationToken.None);
                            catalogue.Keep(json);
                            inForce = true;
                            return (true, true);
                        }
                    );
                }
                catch when (inForce)
                {
                    // What is not on record is in force nowhere.
                    catalogue.Undo();
                    throw;
                }
                List<Guid> jobs;
                await using (var db = ledger.OpenDb())
                    jobs = await db.Jobs.Select(j => j.Id).ToListAsync(CancellationToken.None);
                foreach (var job in jobs)
                    await ledger.AfterChange(job, null, catalogue.Catalogue, progress);
                return impact;
            }
        );

    /// <summary>Catalogues that came with bundles, newest first: each is a proposal, in force nowhere.</summary>
    public async Task<ImmutableArray<CatalogueProposal>> Proposals()
    {
        await using var db = ledger.OpenDb();
        var own = await db.Editions.Where(e => e.Of == "own").Select(e => e.Json).ToListAsync();
        return
        [
            .. (await db.Editions.Where(e => e.Of.StartsWith("proposal:")).OrderByDescending(e => e.At).Take(20).ToListAsync())
                .Where(e => !own.Contains(e.Json))
                .Select(e => (Row: e, File: Read(e.Json)))
                .Where(e => e.File is not null)
                .Select(e => new CatalogueProposal(e.Row.Id, e.Row.By, e.Row.Why, e.Row.At, e.File!, catalogue.With(e.File!).Problems)),
        ];

        static CatalogueFile? Read(string json)
        {
            try
            {
                return JsonSerializer.Deserialize<CatalogueFile>(json, Catalogue.Json);
            }
            catch (Exception problem) when (problem is JsonException or NotSupportedException)
            {
                return null;
            }
        }
    }

    public async Task<ImmutableArray<EditionLine>> Editions(string of)
    {
        await using var db = ledger.OpenDb();
        return
        [
            .. await db
                .Editions.Where(e => e.Of == of)
                .OrderByDescending(e => e.Version)
                .Take(50)
                .Select(e => new EditionLine(e.Version, e.Why, e.By, e.At))
                .ToListAsync(),
        ];
    }

    private async Task<Edition> EditionOf(WalkdownDb db, string of, string json, string why, Guid by) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Of = of,
            Version = (await db.Editions.Where(e => e.Of == of).MaxAsync(e => (int?)e.Version) ?? 0) + 1,
            Json = json,
            Why = why.Trim(),
            By = await db.People.Where(p => p.Id == by).Select(p => p.Name).FirstAsync(),
            At = time.GetUtcNow(),
        };
}

public static class PracticeEndpoints
{
    public static void MapPractice(this RouteGroupBuilder api)
    {
        api.MapGet(
                "/catalogue",
                (CatalogueStore store) =>
                {
                    var now = store.Current;
                    return TypedResults.Ok(
                        new CatalogueAnswer(
                            now.Catalogue.LimitSet.Edition,
                            now.Catalogue.Acts,
                            now.Catalogue.VoidingActs,
                            now.Catalogue.VoidedAtRecorder,
                            now.Problems,
                            now.Catalogue.Checks.Length,
                            now.Catalogue.Kinds.Length
                        )
                    );
                }
            )
            .WithTags("Practice")
            .WithName("getCatalogue");
        api.MapGet("/texts", (CatalogueStore store) => TypedResults.Ok(store.Texts.All)).WithTags("Practice").WithName("getTexts");
        api.MapGet("/time", (TimeProvider time) => TypedResults.Ok(new TimeAnswer(time.GetUtcNow())))
            .WithTags("Practice")
            .WithName("getTime");
        api.MapGet(
                "/catalogue/own",
                async (CatalogueStore store, PracticeService practice) =>
                {
                    var c = store.Catalogue;
                    return TypedResults.Ok(
                        new OwnCatalogueAnswer(
                            store.Own(),
                            c.LimitSet.Edition,
                            c.Kinds,
                            c.Models,
                            [.. c.Limits],
                            [.. c.AllFigures],
                            c.Checks,
                            await practice.Editions("own"),
                            Catalogue.JudgeNames,
                            Catalogue.ExpectationNames,
                            [.. c.Kinds.SelectMany(k => k.Features).Distinct().Order()],
                            new(DeviceModel.Interfaces, DeviceModel.FastenedParts, DeviceModel.Settings, DeviceModel.SurfaceWords)
                        )
                    );
                }
            )
            .WithTags("Practice")
            .WithName("getOwnCatalogue");
        api.MapGet("/catalogue/proposals", async (PracticeService practice) => TypedResults.Ok(await practice.Proposals()))
            .WithTags("Practice")
            .WithName("getProposals");
        var job = api.MapGroup("/jobs/{jobId:guid}").WithTags("Practice");
        job.MapGet(
                "/practice",
                async Task<Results<Ok<PracticeAnswer>, ProblemHttpResult>> (Guid jobId, Ledger ledger, PracticeService practice) =>
                {
                    await using var db = ledger.OpenDb();
                    return await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId) is { } j
                        ? TypedResults.Ok(await practice.AnswerOf(j))
                        : Problems.Of(404, "problem.unknown-job");
                }
            )
            .WithName("getPractice");
        job.MapPost(
                "/practice/impact",
                async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> (
                    Guid jobId,
                    PracticeSettings settings,
                    Ledger ledger,
                    PracticeService practice,
                    WorkQueue work
                ) =>
                    !await ImportEndpoints.Exists(ledger, jobId) ? Problems.Of(404, "problem.unknown-job")
                    : practice.Refuse(settings) is { } wrong ? Problems.Of(422, wrong)
                    : TypedResults.Ok(
                        work.Start(
                            "impact",
                            async (progress, cancel) =>
                                await practice.ImpactOf(
                                    jobId,
                                    null,
                                    facts => ChangeImpact.Under(facts, settings.ToCore()),
                                    progress,
                                    cancel
                                )
                        )
                    )
            )
            .WithName("tryPractice")
            .Needs(Right.Practise);
        job.MapPost(
                "/practice",
                async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> (
                    Guid jobId,
                    ChangePracticeRequest request,
                    Ledger ledger,
                    PracticeService practice,
                    TimeProvider time
                ) =>
                    await Bad(ledger, jobId, request.By, request.Why, time.GetUtcNow()) is { } bad ? bad
                    : practice.Refuse(request.Settings) is { } wrong ? Problems.Of(422, wrong)
                    : TypedResults.Ok(practice.ChangePractice(jobId, request))
            )
            .WithName("changePractice")
            .Needs(Right.Practise);
        job.MapPost(
                "/catalogue/impact",
                async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> (
                    Guid jobId,
                    OwnRequest request,
                    Ledger ledger,
                    CatalogueStore store,
                    PracticeService practice,
                    WorkQueue work
                ) =>
                {
                    if (!await ImportEndpoints.Exists(ledger, jobId))
                        return Problems.Of(404, "problem.unknown-job");
                    var (with, problems) = store.With(request.Own);
                    return with is null
                        ? Refused(problems)
                        : TypedResults.Ok(
                            work.Start("impact", async (progress, cancel) => await practice.ImpactOf(jobId, with, null, progress, cancel))
                        );
                }
            )
            .WithName("tryCatalogue")
            .Needs(Right.Practise);
        job.MapPost(
                "/catalogue",
                async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> (
                    Guid jobId,
                    ChangeCatalogueRequest request,
                    Ledger ledger,
                    CatalogueStore store,
                    PracticeService practice,
                    TimeProvider time
                ) =>
                {
                    if (await Bad(ledger, jobId, request.By, request.Why, time.GetUtcNow()) is { } bad)
                        return bad;
                    var (with, problems) = store.With(request.Own);
                    return with is null ? Refused(problems) : TypedResults.Ok(practice.ChangeCatalogue(jobId, request));
                }
            )
            .WithName("changeCatalogue")
            .Needs(Right.Practise);
    }

    private static ProblemHttpResult Refused(ImmutableArray<CatalogueProblem> problems) =>
        Problems.Of(
            422,
            new Message("practice.refused", string.Join("; ", problems.Select(p => p.What))),
            more: new Dictionary<string, object?> { ["problems"] = problems }
        );

    private static async Task<ProblemHttpResult?> Bad(Ledger ledger, Guid jobId, Guid by, string why, DateTimeOffset now)
    {
        if (string.IsNullOrWhiteSpace(why) || why.Length > 400)
            return Problems.Of(422, "practice.why");
        await using var db = ledger.OpenDb();
        if (!await db.Jobs.AnyAsync(j => j.Id == jobId))
            return Problems.Of(404, "problem.unknown-job");
        return await Writers.Refuse(db, jobId, by, now) is { } stranger ? Problems.Of(422, stranger, "by") : null;
    }
}
