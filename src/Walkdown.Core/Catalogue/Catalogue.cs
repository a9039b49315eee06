using System.Text.Json;
using System.Text.Json.Serialization;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Diagnosis;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Catalogue;

/// <summary>What a kind of device brings: features that decide its checks, and figures used until the schedule gives better ones.</summary>
public sealed record DeviceKind
{
    public required string Id { get; init; }
    public ImmutableArray<string> Features { get; init; } = [];
    public int? PowerClass { get; init; }
    public double? WattsInfraredOff { get; init; }
    public double? WattsInfraredOn { get; init; }
    public int? SpeedMbps { get; init; }
    public string TextKey => "kind." + Id;
}

/// <summary>A limit as data: the number, and where it comes from.</summary>
public sealed record LimitEntry
{
    public required string Id { get; init; }
    public double? Min { get; init; }
    public double? Max { get; init; }
    public required Unit Unit { get; init; }
    public required string Source { get; init; }
    public required string Purpose { get; init; }
}

/// <summary>A figure a limit function or an expectation works with.</summary>
public sealed record FigureEntry
{
    public required string Id { get; init; }
    public required double Value { get; init; }
    public required string Source { get; init; }
}

public sealed record LimitSet
{
    public required string Edition { get; init; }
    public ImmutableArray<LimitEntry> Limits { get; init; } = [];
    public ImmutableArray<FigureEntry> Figures { get; init; } = [];
}

/// <summary>An act that may be recorded.</summary>
public sealed record ActDefinition
{
    public required string Id { get; init; }
    public required SubjectKind On { get; init; }
    public bool AsksEnd { get; init; }
    public bool NewUnit { get; init; }
    public int Minutes { get; init; } = 5;
    public string TextKey => "act." + Id;
}

/// <summary>A cause that Core may propose; its evidence function is in the registry of <see cref="Evidence"/>.</summary>
public sealed record CauseDefinition
{
    public required string Id { get; init; }
    public required ImmutableArray<CheckId> Checks { get; init; }
    public required string Evidence { get; init; }
    public required Severity Severity { get; init; }
    public int Minutes { get; init; } = 5;
}

/// <summary>One catalogue file. Any file may hold any part, so a new kind, its check and their texts can travel together.</summary>
public sealed record CatalogueFile
{
    [JsonPropertyName("$schema")]
    public string? Schema { get; init; }
    public ImmutableArray<CheckDefinition> Checks { get; init; } = [];
    public ImmutableArray<DeviceKind> Kinds { get; init; } = [];
    public LimitSet? LimitSet { get; init; }

    /// <summary>Limits beside those of the set in force.</summary>
    public ImmutableArray<LimitEntry> Limits { get; init; } = [];
    public ImmutableArray<ActDefinition> Acts { get; init; } = [];
    public ImmutableArray<CauseDefinition> Causes { get; init; } = [];

    /// <summary>Texts by language, then by code.</summary>
    public ImmutableDictionary<string, ImmutableDictionary<string, string>> Texts { get; init; } = ImmutableDictionary<string, ImmutableDictionary<string, string>>.Empty;
}

/// <summary>A fault in a catalogue file, in words for whoever edits it.</summary>
public sealed record CatalogueProblem(string File, string What);

/// <summary>Checks, kinds, limits, acts and causes: data, validated when they are read.</summary>
public sealed class Catalogue
{
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        ReadCommentHandling = JsonCommentHandling.Skip,
        AllowTrailingCommas = true,
        RespectNullableAnnotations = true,
        NumberHandling = JsonNumberHandling.Strict,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
    };

    private readonly Dictionary<string, DeviceKind> _kinds;
    private readonly Dictionary<string, LimitEntry> _limits;
    private readonly Dictionary<string, FigureEntry> _figures;
    private readonly Dictionary<(string, string), IReadOnlySet<string>> _features = [];

    private Catalogue(List<CatalogueFile> files)
    {
        Checks = [.. files.SelectMany(f => f.Checks).Select((check, i) => (check, i)).OrderBy(c => c.check.Section).ThenBy(c => c.i).Select(c => c.check)];
        Kinds = [.. files.SelectMany(f => f.Kinds)];
        Acts = [.. files.SelectMany(f => f.Acts)];
        Causes = [.. files.SelectMany(f => f.Causes)];
        LimitSet = files.Select(f => f.LimitSet).LastOrDefault(set => set is not null) ?? new LimitSet { Edition = "none" };
        Texts = files.SelectMany(f => f.Texts).GroupBy(t => t.Key)
            .ToImmutableDictionary(g => g.Key, g => g.SelectMany(t => t.Value).GroupBy(t => t.Key).ToImmutableDictionary(t => t.Key, t => t.Last().Value));
        _kinds = Kinds.DistinctBy(k => k.Id).ToDictionary(k => k.Id);
        _limits = LimitSet.Limits.Concat(files.SelectMany(f => f.Limits)).DistinctBy(l => l.Id).ToDictionary(l => l.Id);
        _figures = LimitSet.Figures.DistinctBy(f => f.Id).ToDictionary(f => f.Id);
        CheckById = Checks.DistinctBy(c => c.Id).ToImmutableDictionary(c => c.Id);
    }

    public ImmutableArray<CheckDefinition> Checks { get; }
    public ImmutableArray<DeviceKind> Kinds { get; }
    public ImmutableArray<ActDefinition> Acts { get; }
    public ImmutableArray<CauseDefinition> Causes { get; }
    public LimitSet LimitSet { get; }
    public ImmutableDictionary<CheckId, CheckDefinition> CheckById { get; }
    public ImmutableDictionary<string, ImmutableDictionary<string, string>> Texts { get; }

    public DeviceKind? Kind(string id) => _kinds.GetValueOrDefault(id);

    /// <summary>A figure of the limit set; its absence is caught when the catalogue is read.</summary>
    public double Figure(string id) => _figures[id].Value;

    public string FigureSource(string id) => _figures[id].Source;

    public Limit? Limit(string id) =>
        _limits.TryGetValue(id, out var l) ? new Limit(l.Id, l.Min, l.Max, l.Unit, l.Source, l.Purpose, LimitSet.Edition) : null;

    public IReadOnlySet<string> FeaturesOf(string kind, ImmutableArray<string> own)
    {
        var key = (kind, string.Join(' ', own));
        lock (_features)
        {
            if (!_features.TryGetValue(key, out var set)) _features[key] = set = own.Concat(Kind(kind)?.Features ?? []).ToHashSet();
            return set;
        }
    }

    /// <summary>The catalogue that ships with Core, as named texts.</summary>
    public static ImmutableArray<(string Name, string Json)> Shipped { get; } = [..
        from name in typeof(Catalogue).Assembly.GetManifestResourceNames()
        where name.StartsWith("catalogue/", StringComparison.Ordinal)
        orderby name
        select (name, new StreamReader(typeof(Catalogue).Assembly.GetManifestResourceStream(name)!).ReadToEnd())];

    /// <param name="files">The files, in order; see <see cref="Shipped"/>.</param>
    /// <param name="shippedTexts">Codes of the texts that ship beside Core; a file brings its own for what it adds.</param>
    /// <summary>Reads catalogue files in order. With problems there is no catalogue: half of one would judge wrongly.</summary>
    public static (Catalogue? Catalogue, ImmutableArray<CatalogueProblem> Problems) Read(IEnumerable<(string Name, string Json)> files, IReadOnlySet<string> shippedTexts)
    {
        var problems = ImmutableArray.CreateBuilder<CatalogueProblem>();
        var read = new List<(string Name, CatalogueFile File)>();
        foreach (var (name, json) in files)
        {
            try
            {
                read.Add((name, JsonSerializer.Deserialize<CatalogueFile>(json, Json) ?? new CatalogueFile()));
            }
            catch (JsonException problem)
            {
                problems.Add(new CatalogueProblem(name, $"line {problem.LineNumber + 1}, {problem.Path}: {problem.Message.Split(" Path:")[0]}"));
            }
        }
        var catalogue = new Catalogue([.. read.Select(r => r.File)]);
        foreach (var (name, file) in read) problems.AddRange(catalogue.ProblemsOf(file, shippedTexts).Select(what => new CatalogueProblem(name, what)));
        return problems.Count == 0 ? (catalogue, []) : (null, problems.ToImmutable());
    }

    private IEnumerable<string> ProblemsOf(CatalogueFile file, IReadOnlySet<string> shippedTexts)
    {
        foreach (var check in file.Checks)
        {
            var id = check.Id.Value;
            if (Checks.Count(c => c.Id == check.Id) > 1) yield return $"{id}: the id stands twice";
            if (check.Entry == EntryKind.Number && check.Unit == Unit.None) yield return $"{id}: a number needs a unit";
            if (check.Entry == EntryKind.Choice && check.Choices.IsEmpty) yield return $"{id}: a choice needs choices";
            if (!Judges.All.ContainsKey(check.Judge)) yield return $"{id}: no judge is called '{check.Judge}'; there are {string.Join(", ", Judges.All.Keys)}";
            if (check.Expect is { } expect && !Expectations.All.ContainsKey(expect)) yield return $"{id}: no expectation is called '{expect}'";
            if (check.PartsFrom is not (null or "pairs")) yield return $"{id}: no parts are called '{check.PartsFrom}'";
            if (check.PartsFrom == "pairs" && check.Per != SubjectKind.Run) yield return $"{id}: pairs are parts of a run";
            foreach (var gate in check.Gates.Where(g => !CheckById.ContainsKey(g))) yield return $"{id}: its gate '{gate}' is no check";
            foreach (var act in check.VoidedBy.Where(a => Acts.All(x => x.Id != a))) yield return $"{id}: '{act}' is no act";
            foreach (var limit in check.Limits)
            {
                if (limit.StartsWith("set:", StringComparison.Ordinal))
                {
                    if (!_limits.TryGetValue(limit[4..], out var entry)) yield return $"{id}: the limit set has no '{limit[4..]}'";
                    else if (entry.Unit != check.Unit) yield return $"{id}: the limit '{entry.Id}' is in {entry.Unit}, the check in {check.Unit}";
                }
                else if (!limit.StartsWith("fn:", StringComparison.Ordinal) || !LimitFunctions.All.ContainsKey(limit[3..])) yield return $"{id}: no limit is called '{limit}'";
            }
            if (!HasText(check.TextKey)) yield return $"{id}: no text {check.TextKey}";
        }
        foreach (var kind in file.Kinds)
        {
            if (Kinds.Count(k => k.Id == kind.Id) > 1) yield return $"{kind.Id}: the kind stands twice";
            if (kind.PowerClass is < 0 or > 8) yield return $"{kind.Id}: power class {kind.PowerClass} does not exist; there are 0 to 8";
            if (!HasText(kind.TextKey)) yield return $"{kind.Id}: no text {kind.TextKey}";
        }
        foreach (var cause in file.Causes.Where(c => !Evidence.All.ContainsKey(c.Evidence))) yield return $"{cause.Id}: no evidence is called '{cause.Evidence}'";
        foreach (var act in file.Acts.Where(a => !HasText(a.TextKey))) yield return $"{act.Id}: no text {act.TextKey}";
        if (file.LimitSet is not null)
            foreach (var figure in LimitFunctions.Figures.Concat(Expectations.Figures).Where(f => !_figures.ContainsKey(f))) yield return $"the limit set lacks the figure '{figure}'";

        bool HasText(string key) => shippedTexts.Contains(key) || Texts.TryGetValue("en", out var english) && english.ContainsKey(key);
    }
}
