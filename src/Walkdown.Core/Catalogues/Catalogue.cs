using System.Collections.Concurrent;
using System.Collections.Frozen;
using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Catalogues;

/// <summary>Checks, kinds, limits, acts and causes: data, validated when they are read.</summary>
public sealed class Catalogue
{
    /// <summary>How catalogue files are read: camel case, comments and trailing commas allowed, no unknown members.</summary>
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        ReadCommentHandling = JsonCommentHandling.Skip,
        AllowTrailingCommas = true,
        RespectNullableAnnotations = true,
        NumberHandling = JsonNumberHandling.Strict,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
        // Else only the first reading or writing makes them whole, and whoever asks for the schema before that is refused.
        TypeInfoResolver = new DefaultJsonTypeInfoResolver(),
    };

    /// <summary>A member that no part of a catalogue has is refused, also where the catalogue comes inside a request: a mistyped
    /// name would be passed over in silence. Records that were sealed by another edition stay readable, so no type says this of
    /// itself.</summary>
    public static void NoUnknownMembers(JsonTypeInfo info)
    {
        if (info.Kind == JsonTypeInfoKind.Object && (info.Type.Namespace == typeof(Catalogue).Namespace || Parts.Contains(info.Type)))
            info.UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow;
    }

    private static readonly Type[] Parts =
    [
        typeof(CheckDefinition),
        typeof(CheckItem),
        typeof(Rule),
        typeof(PlausibleRange),
        typeof(GoodWord),
        typeof(Wait),
    ];

    private readonly Dictionary<string, DeviceKind> _kinds;
    private readonly Dictionary<string, DeviceModel> _models;
    private readonly Dictionary<string, LimitEntry> _limits;
    private readonly Dictionary<string, FigureEntry> _figures;
    private readonly ConcurrentDictionary<Feats, Outline> _outlines = new();
    private readonly ConcurrentDictionary<(string, int), Limit> _made = new();
    private readonly ConcurrentDictionary<(string, string, string), Message> _said = new();
    private readonly Dictionary<string, Limit> _limitOf;
    private readonly Lazy<ImmutableDictionary<CheckId, CompiledCheck>> _compiled;
    private readonly Lazy<FrozenSet<CheckId>> _askedAtRecorder;
    private readonly FrozenSet<string> _instruments,
        _byHand;

    private Catalogue(List<CatalogueFile> files)
    {
        var over = files.Where(f => f.Overrides).ToList();
        var checkOver = over.SelectMany(f => f.Checks).Select(c => c.Id).ToHashSet();
        var kindOver = over.SelectMany(f => f.Kinds).Select(k => k.Id).ToHashSet();
        var modelOver = over.SelectMany(f => f.Models).Select(m => m.Id).ToHashSet(StringComparer.OrdinalIgnoreCase);
        Checks =
        [
            .. files
                .SelectMany(f => f.Overrides ? f.Checks : f.Checks.Where(c => !checkOver.Contains(c.Id)))
                .Select((check, i) => (check, i))
                .OrderBy(c => c.check.Section)
                .ThenBy(c => c.i)
                .Select(c => c.check),
        ];
        Kinds = [.. files.SelectMany(f => f.Overrides ? f.Kinds : f.Kinds.Where(k => !kindOver.Contains(k.Id)))];
        Models = [.. files.SelectMany(f => f.Overrides ? f.Models : f.Models.Where(m => !modelOver.Contains(m.Id)))];
        var schoolOver = over.SelectMany(f => f.Schools).Select(s => s.Id).ToHashSet();
        Schools = [.. files.SelectMany(f => f.Overrides ? f.Schools : f.Schools.Where(s => !schoolOver.Contains(s.Id)))];
        Presences = [.. files.SelectMany(f => f.Presences).DistinctBy(p => p.Id)];
        InstrumentKinds = [.. files.SelectMany(f => f.InstrumentKinds).DistinctBy(k => k.Id)];
        _instruments = InstrumentKinds.SelectMany(k => k.Tools).ToFrozenSet();
        _byHand = InstrumentKinds.Where(k => k.ByHand).SelectMany(k => k.Tools).ToFrozenSet();
        Acts = [.. files.SelectMany(f => f.Acts)];
        Causes = [.. files.SelectMany(f => f.Causes)];
        LimitSet = files.Select(f => f.LimitSet).LastOrDefault(set => set is not null) ?? new LimitSet { Edition = "none" };
        if (over.Select(f => f.Edition).LastOrDefault(e => e is not null) is { } edition)
            LimitSet = LimitSet with { Edition = $"{LimitSet.Edition}, own edition {edition}" };
        Texts = files
            .SelectMany(f => f.Texts)
            .GroupBy(t => t.Key)
            .ToImmutableDictionary(
                g => g.Key,
                g => g.SelectMany(t => t.Value).GroupBy(t => t.Key).ToImmutableDictionary(t => t.Key, t => t.Last().Value)
            );
        _kinds = Kinds.DistinctBy(k => k.Id).ToDictionary(k => k.Id);
        _models = Models.DistinctBy(m => m.Id, StringComparer.OrdinalIgnoreCase).ToDictionary(m => m.Id, StringComparer.OrdinalIgnoreCase);
        _limits = over.SelectMany(f => f.Limits)
            .Concat(LimitSet.Limits)
            .Concat(files.SelectMany(f => f.Limits))
            .DistinctBy(l => l.Id)
            .ToDictionary(l => l.Id);
        _figures = over.SelectMany(f => f.Figures).Concat(LimitSet.Figures).DistinctBy(f => f.Id).ToDictionary(f => f.Id);
        CausesByCheck = Causes
            .SelectMany(c => c.Checks.Select(check => (check, c)))
            .GroupBy(x => x.check)
            .ToImmutableDictionary(g => g.Key, g => g.Select(x => x.c).ToImmutableArray());
        CheckById = Checks.DistinctBy(c => c.Id).ToImmutableDictionary(c => c.Id);
        _limitOf = _limits.Values.ToDictionary(
            l => l.Id,
            l => new Limit(l.Id, l.Min, l.Max, l.Unit, l.Source, l.Purpose, LimitSet.Edition)
        );
        OfHeads = Checks.Where(c => c.Per == SubjectKind.Head).Select(c => c.Id).ToFrozenSet();
        _compiled = new(() => CheckById.ToImmutableDictionary(c => c.Key, c => new CompiledCheck(c.Value, this)));
        _askedAtRecorder = new(() =>
            Checks
                .SelectMany(c => c.Needs.Select(n => n.Recorder).Append(c.Wait?.Recorder))
                .OfType<CheckId>()
                .Append(KnownChecks.Firmware)
                .ToFrozenSet()
        );
    }

    /// <summary>Fingerprint of every file that it was read from, sixteen hexadecimal digits: another text is another catalogue.</summary>
    public string Hash { get; private init; } = "";

    /// <summary>Every check in the Card's order.</summary>
    public ImmutableArray<CheckDefinition> Checks { get; }

    /// <summary>Kinds of device.</summary>
    public ImmutableArray<DeviceKind> Kinds { get; }

    /// <summary>Models with their templates.</summary>
    public ImmutableArray<DeviceModel> Models { get; }

    /// <summary>Questions on which practitioners differ, in the order in which they are asked.</summary>
    public ImmutableArray<School> Schools { get; }

    /// <summary>What rows wait for until a person says that it is there.</summary>
    public ImmutableArray<Presence> Presences { get; }

    /// <summary>Kinds of instrument.</summary>
    public ImmutableArray<InstrumentKind> InstrumentKinds { get; }

    /// <summary>
    /// Whether a check can have been read with an instrument that somebody has chosen: a slack is taped though the cable meter hangs on the
    /// belt, and what is seen by eye is read with nothing. What a check wants held against it is that kind of tool or nothing of the Kit.
    /// </summary>
    public bool IsReadWith(CheckDefinition check, Instrument instrument)
    {
        if (check.Tools.Any(_byHand.Contains))
            return InstrumentKinds.FirstOrDefault(k => k.Id == instrument.Kind) is not { Tools.IsEmpty: false } kind
                || check.Tools.Any(kind.Tools.Contains);
        return check.Tester is not null
            || check.Tools.Any(_instruments.Contains)
            || check.Entry == EntryKind.Number && instrument.Functions.Any(f => f.Unit == check.Unit);
    }

    /// <summary>What a typed reading was read with: what was chosen of the Kit, or nothing where the check cannot be read with that.</summary>
    public Guid? ReadWith(CheckDefinition check, ImmutableArray<Instrument> kit, Guid? chosen) =>
        kit.FirstOrDefault(i => i.Id == chosen) is { } instrument && !IsReadWith(check, instrument) ? null : chosen;

    /// <summary>Kinds of work.</summary>
    public ImmutableArray<ActDefinition> Acts { get; }

    /// <summary>Every limit in force, own ones in the place of those that ship.</summary>
    public IEnumerable<LimitEntry> Limits => _limits.Values;

    /// <summary>Every figure in force.</summary>
    public IEnumerable<FigureEntry> AllFigures => _figures.Values;

    /// <summary>Causes in order of likelihood.</summary>
    public ImmutableArray<CauseDefinition> Causes { get; }

    /// <summary>Causes of a check, in the catalogue's order.</summary>
    public ImmutableDictionary<CheckId, ImmutableArray<CauseDefinition>> CausesByCheck { get; }

    /// <summary>The limits in force.</summary>
    public LimitSet LimitSet { get; }

    /// <summary>Checks by id.</summary>
    public ImmutableDictionary<CheckId, CheckDefinition> CheckById { get; }

    /// <summary>Checks that are asked of each head.</summary>
    internal FrozenSet<CheckId> OfHeads { get; }

    /// <summary>Texts that files bring, by language.</summary>
    public ImmutableDictionary<string, ImmutableDictionary<string, string>> Texts { get; }

    /// <summary>A kind by its id; null: there is none.</summary>
    public DeviceKind? Kind(string id) => _kinds.GetValueOrDefault(id);

    /// <summary>Whether devices of a kind record others: cameras may have channels there.</summary>
    public bool Records(string kind) => Kind(kind)?.Features.Contains("recorder") == true;

    /// <summary>Names of the judges and expectations that a check may be given.</summary>
    public static ImmutableArray<string> JudgeNames { get; } = [.. Registry.Judges.Keys.Order(StringComparer.Ordinal)];

    /// <summary>Names of the expectations that a check may be given.</summary>
    public static ImmutableArray<string> ExpectationNames { get; } = [.. Registry.Expectations.Keys.Order(StringComparer.Ordinal)];

    /// <summary>The model's template, or null.</summary>
    public DeviceModel? Model(string id) => id.Length > 0 ? _models.GetValueOrDefault(id) : null;

    /// <summary>The figures of a device: its own, else its model's, else its kind's.</summary>
    public Nameplate NameplateOf(string kind, string model, int? powerClass, double? wattsInfraredOff, double? wattsInfraredOn)
    {
        var (m, k) = (Model(model), Kind(kind));
        return new Nameplate(
            powerClass ?? m?.PowerClass ?? k?.PowerClass,
            wattsInfraredOff ?? m?.WattsInfraredOff ?? k?.WattsInfraredOff,
            wattsInfraredOn ?? m?.WattsInfraredOn ?? k?.WattsInfraredOn
        );
    }

    /// <summary>A figure of the limit set; its absence is caught when the catalogue is read.</summary>
    public double Figure(string id) => _figures[id].Value;

    /// <summary>Where a figure comes from.</summary>
    public string FigureSource(string id) => _figures[id].Source;

    /// <summary>A limit by its id; null: there is none.</summary>
    public Limit? Limit(string id) => _limitOf.GetValueOrDefault(id);

    /// <summary>A limit that is the same wherever its name and number are: made once.</summary>
    internal Limit Made((string Name, int Number) key, Func<Limit> make) =>
        _made.TryGetValue(key, out var limit) ? limit : _made.GetOrAdd(key, _ => make());

    /// <summary>A sentence about figures of the limit set: made once.</summary>
    internal Message Said(string code, string figure, string? second = null) =>
        _said.TryGetValue((code, figure, second ?? ""), out var said)
            ? said
            : _said.GetOrAdd(
                (code, figure, second ?? ""),
                _ =>
                    second is null
                        ? new Message(code, Message.Number(Figure(figure)))
                        : new Message(code, Message.Number(Figure(figure)), Message.Number(Figure(second)))
            );

    /// <summary>Checks on the Card of a recorder that rows of its cameras wait for, need or compare with.</summary>
    public FrozenSet<CheckId> AskedAtRecorder => _askedAtRecorder.Value;

    /// <summary>Kinds of work that make something void on some device.</summary>
    public ImmutableArray<string> VoidingActs =>
        [
            .. Checks
                .SelectMany(c => c.VoidedBy.Concat(c.VoidedWhere.Select(v => v.Act).OfType<string>()))
                .Distinct()
                .Order(StringComparer.Ordinal),
        ];

    /// <summary>Of each kind of work that reaches from a recorder to its cameras, the checks that it makes void there.</summary>
    public ImmutableSortedDictionary<string, ImmutableArray<string>> VoidedAtRecorder =>
        Checks
            .SelectMany(c => c.VoidedWhere.Where(v => v is { AtRecorder: true, Act: not null }).Select(v => (Act: v.Act!, c.Id)))
            .GroupBy(v => v.Act)
            .ToImmutableSortedDictionary(g => g.Key, g => g.Select(v => v.Id.Value).ToImmutableArray(), StringComparer.Ordinal);

    /// <summary>The check as judging uses it; null where there is no such check.</summary>
    internal CompiledCheck? Compiled(CheckId id) => _compiled.Value.GetValueOrDefault(id);

    /// <summary>What a practice gives to every device of a kind: the sides that it takes, and what of the work it covers.</summary>
    public IEnumerable<string> FeaturesOf(Practice practice, string kind) =>
        Schools.SelectMany(s => s.SideOf(practice.Sides.GetValueOrDefault(s.Id)).Features).Concat(practice.Scope.FeaturesOf(kind));

    /// <summary>Why a job cannot work so; null where it can. A side that is on record and not known here is no such reason: it follows the
    /// default.</summary>
    public Message? Refuse(Practice practice)
    {
        foreach (var (school, side) in practice.Sides)
            if (Schools.All(s => s.Id != school || s.Sides.All(x => x.Id != side)))
                return new("practice.unknown-side", school, side);
        return practice.Scope.Parts.IsEmpty ? new("practice.empty-scope")
            : practice.Scope.ByKind.Keys.FirstOrDefault(k => Kind(k) is null) is { } stranger ? new("practice.unknown-kind", stranger)
            : null;
    }

    /// <summary>Sides that a practice takes and this catalogue does not know, each as <c>school: side</c>.</summary>
    public ImmutableArray<string> UnknownSides(Practice practice)
    {
        var settled = Settled(practice).Sides;
        return [.. practice.Sides.Where(s => settled.GetValueOrDefault(s.Key) != s.Value).Select(s => $"{s.Key}: {s.Value}")];
    }

    /// <summary>A practice that names its side of every school, so that whoever reads it later needs no catalogue.</summary>
    public Practice Settled(Practice practice) =>
        practice with
        {
            Sides = Schools.ToImmutableSortedDictionary(s => s.Id, s => s.SideOf(practice.Sides.GetValueOrDefault(s.Id)).Id),
        };

    /// <summary>Features of a device: those of its kind, and its own.</summary>
    public IReadOnlySet<string> FeaturesOf(string kind, ImmutableArray<string> own) => OutlineOf(kind, own).Features;

    /// <summary>The checks that a device with these features has: worked out once for all that are alike.</summary>
    internal Outline OutlineOf(string kind, ImmutableArray<string> own) =>
        _outlines.TryGetValue(new(kind, own), out var known)
            ? known
            : _outlines.GetOrAdd(new(kind, own), key => new Outline(this, key.Kind, key.Own));

    /// <summary>A kind with features, in the order in which they were found.</summary>
    private readonly record struct Feats(string Kind, ImmutableArray<string> Own)
    {
        public bool Equals(Feats other) => Kind == other.Kind && Own.AsSpan().SequenceEqual(other.Own.AsSpan());

        public override int GetHashCode()
        {
            var hash = new HashCode();
            hash.Add(Kind);
            foreach (var feature in Own)
                hash.Add(feature);
            return hash.ToHashCode();
        }
    }

    /// <summary>The catalogue that ships with Core, as named texts.</summary>
    public static ImmutableArray<(string Name, string Json)> Shipped { get; } =
    [
        .. from name in typeof(Catalogue).Assembly.GetManifestResourceNames()
        where name.StartsWith("catalogue/", StringComparison.Ordinal)
        orderby name
        select (name, new StreamReader(typeof(Catalogue).Assembly.GetManifestResourceStream(name)!).ReadToEnd()),
    ];

    /// <param name="files">The files, in order; see <see cref="Shipped"/>.</param>
    /// <param name="shippedTexts">Codes of the texts that ship beside Core; a file brings its own for what it adds.</param>
    /// <summary>Reads catalogue files in order. With problems there is no catalogue: half of one would judge wrongly.</summary>
    public static (Catalogue? Catalogue, ImmutableArray<CatalogueProblem> Problems) Read(
        IEnumerable<(string Name, string Json)> files,
        IReadOnlySet<string> shippedTexts
    )
    {
        var problems = ImmutableArray.CreateBuilder<CatalogueProblem>();
        var read = new List<(string Name, CatalogueFile File)>();
        using var sum = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        foreach (var (name, json) in files)
        {
            try
            {
                read.Add((name, JsonSerializer.Deserialize<CatalogueFile>(json, Json) ?? new CatalogueFile()));
                sum.AppendData(System.Text.Encoding.UTF8.GetBytes(name + "\n" + json + "\n"));
            }
            catch (Exception problem)
                when (problem is NotSupportedException or FormatException or ArgumentException or InvalidOperationException)
            {
                problems.Add(new CatalogueProblem(name, problem.Message.Length > 160 ? problem.Message[..160] : problem.Message));
            }
            catch (JsonException problem)
            {
                problems.Add(
                    new CatalogueProblem(name, $"line {problem.LineNumber + 1}, {problem.Path}: {problem.Message.Split(" Path:")[0]}")
                );
            }
        }
        Catalogue catalogue;
        try
        {
            catalogue = new Catalogue([.. read.Select(r => r.File)]) { Hash = Convert.ToHexStringLower(sum.GetHashAndReset())[..16] };
            foreach (var (name, file) in read)
                problems.AddRange(catalogue.ProblemsOf(file, shippedTexts).Select(what => new CatalogueProblem(name, what)));
        }
        catch (Exception problem)
            when (problem is NullReferenceException or InvalidOperationException or ArgumentException or KeyNotFoundException)
        {
            // A list that is null, an entry without its id: which file it is, its other problems say, or nobody can.
            problems.Add(new CatalogueProblem(read.Count > 0 ? read[^1].Name : "", "an entry is null or lacks its id"));
            return (null, problems.ToImmutable());
        }
        return problems.Count == 0 ? (catalogue, []) : (null, problems.ToImmutable());
    }

    private IEnumerable<string> ProblemsOf(CatalogueFile file, IReadOnlySet<string> shippedTexts)
    {
        foreach (var check in file.Checks)
        {
            var id = check.Id.Value;
            if (Checks.Count(c => c.Id == check.Id) > 1)
                yield return $"{id}: the id stands twice";
            if (check.Entry == EntryKind.Number && check.Unit == Unit.None)
                yield return $"{id}: a number needs a unit";
            if (check.Entry is EntryKind.List or EntryKind.Items && check.Items.IsEmpty)
                yield return $"{id}: a list needs items";
            foreach (var item in check.Items.Where(i => !HasText("item." + i.Id)))
                yield return $"{id}: no text item.{item.Id}";
            foreach (var tool in check.Tools.Where(t => !HasText("tool." + t)))
                yield return $"{id}: no text tool.{tool}";
            foreach (var hold in check.HoldUntil.Where(h => !CheckById.ContainsKey(h)))
                yield return $"{id}: its hold point '{hold}' is no check";
            if (check.Entry == EntryKind.Choice && check.Choices.IsEmpty)
                yield return $"{id}: a choice needs choices";
            if (!Registry.Judges.ContainsKey(check.Judge))
                yield return $"{id}: no judge is called '{check.Judge}'; there are "
                    + $"{string.Join(", ", Registry.Judges.Keys.Order(StringComparer.Ordinal))}";
            if (Registry.Judges.TryGetValue(check.Judge, out var judge) && judge.Entry != check.Entry)
                yield return $"{id}: the judge '{check.Judge}' judges {judge.Entry}, and the check is entered as {check.Entry}";
            if (check.Judge is "link-speed")
                foreach (
                    var choice in check.Choices.Where(c =>
                        c != "none"
                        && !(int.TryParse(c, CultureInfo.InvariantCulture, out var mbps) && Links.Negotiated.SpeedsMbps.Contains(mbps))
                    )
                )
                    yield return $"{id}: '{choice}' is no speed; there are none, {string.Join(", ", Links.Negotiated.SpeedsMbps)}";
            if (check.Judge is "poe-class")
                foreach (
                    var choice in check.Choices.Where(c =>
                        c is not ("none" or "passive" or "legacy")
                        && !(int.TryParse(c, CultureInfo.InvariantCulture, out var number) && number is >= 0 and <= 8)
                    )
                )
                    yield return $"{id}: '{choice}' is no power class; there are none, passive, legacy and 0 to 8";
            if (
                check.Plausible is { } plausible
                && !(double.IsFinite(plausible.Min) && double.IsFinite(plausible.Max) && plausible.Min <= plausible.Max)
            )
                yield return $"{id}: what is plausible runs from a lesser to a greater number";
            if (check.ReadTo is { } half && !(double.IsFinite(half) && half >= 0 && check.Entry == EntryKind.Number))
                yield return $"{id}: how finely it is read is a number from 0 on, of a number";
            if (check.Decimals is < 0 or > 6 || check.Minutes is < 0 or > 10_000)
                yield return $"{id}: 0 to 6 decimals, and 0 to 10,000 minutes";
            if (check.Under.IsEmpty || check.Under.Any(u => ((int)u & ~0x1FF) != 0))
                yield return $"{id}: it is taken under no condition that there is";
            foreach (var word in check.Good.Where(g => !check.Choices.Contains(g.Word)))
                yield return $"{id}: '{word.Word}' is good and no choice";
            if (check.Judge == "choice" && check.Good.IsEmpty && check.Expect is null)
                yield return $"{id}: nothing says which of its choices is right";
            if (check.Wait is { } wait)
            {
                if (wait.Sorts != 1)
                    yield return $"{id}: its wait is begun by {(wait.Sorts == 0 ? "nothing" : "more than one sort of thing")}";
                if (wait.From > wait.To)
                    yield return $"{id}: its first day is after its last";
                if ((wait.After ?? wait.Recorder) is { } begins && (!CheckById.ContainsKey(begins) || begins == check.Id))
                    yield return $"{id}: its wait begins with '{begins}', which is no other check";
                if (wait.AfterAct is { } work && Acts.All(a => a.Id != work))
                    yield return $"{id}: its wait begins with '{work}', which is no act";
                if (wait.Presence is { } there && Presences.All(p => p.Id != there))
                    yield return $"{id}: it waits for '{there}', which nobody can say is there";
                if (
                    (wait.Minutes is not null || wait.After is not null || wait.AfterAct is not null)
                    && (
                        wait.Minutes is null
                        || !_figures.TryGetValue(wait.Minutes, out var length)
                        || length.Value is not (>= 0 and <= 525_600)
                    )
                )
                    yield return $"{id}: its wait needs a figure of 0 to 525,600 minutes; '{wait.Minutes}' is none";
            }
            if (check.Countdown is { } window)
            {
                if (!_figures.TryGetValue(window.Figure, out var open) || open.Value is not (>= 1 and <= 3600))
                    yield return $"{id}: its window needs a figure of 1 to 3,600 seconds; '{window.Figure}' is none";
                if (
                    window.Field is { } counted
                    && (check.Lines is not null || check.Fields.All(f => f.Id != counted || f is not { Unit: Unit.Count }))
                )
                    yield return $"{id}: its window is counted in '{counted}', which is no count of a form of one line";
            }
            foreach (var problem in FormProblemsOf(check))
                yield return problem;
            foreach (var occasion in check.DueWhen)
            {
                if (occasion is { Check: null, Act: null, From: null })
                    yield return $"{id}: it is due when nothing is said";
                if (occasion.Check is { } said && (!CheckById.ContainsKey(said) || said == check.Id))
                    yield return $"{id}: it is due by '{said}', which is no other check";
                if (occasion.Act is { } done && Acts.All(a => a.Id != done))
                    yield return $"{id}: it is due after '{done}', which is no act";
            }
            foreach (var part in check.Parts.Where(p => !HasText("part." + p.Id)))
                yield return $"{id}: no text part.{part.Id}";
            if (check.Parts.DistinctBy(p => p.Id).Count() != check.Parts.Length || !check.Parts.IsEmpty && check.PartsFrom is not null)
                yield return $"{id}: its parts stand once each, and are its own or another's";
            foreach (var good in check.Good.Where(g => g.Part is { } of && check.Parts.All(p => p.Id != of)))
                yield return $"{id}: '{good.Word}' is good for '{good.Part}', which is no part";
            if (check.Expect is { } expect && !Registry.Expectations.ContainsKey(expect))
                yield return $"{id}: no expectation is called '{expect}'";
            if (check.Expect is { } wanted && Registry.Expectations.GetValueOrDefault(wanted)?.Unit is { } of && of != check.Unit)
                yield return $"{id}: the expectation '{wanted}' is in {of}, the check in {check.Unit}";
            if (check.PartsFrom is not (null or "pairs" or "presets"))
                yield return $"{id}: no parts are called '{check.PartsFrom}'";
            if (check.PartsFrom == "pairs" && check.Per != SubjectKind.Run)
                yield return $"{id}: pairs are parts of a run";
            foreach (var topic in check.Sheet.Where(s => !DeviceModel.Topics.Contains(s)))
                yield return $"{id}: a template says nothing of '{topic}'; there are {string.Join(", ", DeviceModel.Topics)}";
            foreach (var need in check.Needs)
            {
                if ((need.Act is null) == (need.Recorder is null))
                    yield return $"{id}: it needs work or a check of the recorder, one of them";
                if (need.Act is { } done && Acts.All(a => a.Id != done))
                    yield return $"{id}: it needs '{done}', which is no act";
                if (need.Recorder is { } there && !CheckById.ContainsKey(there))
                    yield return $"{id}: it needs '{there}', which is no check";
            }
            foreach (var gate in check.Gates.Where(g => !CheckById.ContainsKey(g)))
                yield return $"{id}: its gate '{gate}' is no check";
            foreach (var act in check.VoidedBy.Where(a => Acts.All(x => x.Id != a)))
                yield return $"{id}: '{act}' is no act";
            foreach (var where in check.VoidedWhere)
                if (where.Act is null == where.Check is null)
                    yield return $"{id}: work or a reading makes it void, one of them";
                else if (where.Check is { } reading)
                {
                    if (!CheckById.TryGetValue(reading, out var other))
                        yield return $"{id}: '{reading}' is no check";
                    else if (reading == check.Id || other.VoidedWhere.Any(v => v.Check is not null))
                        yield return $"{id}: '{reading}' is itself made void by a reading";
                }
                else if (Acts.FirstOrDefault(a => a.Id == where.Act) is not { } known)
                    yield return $"{id}: '{where.Act}' is no act";
                else if (where.End is null == !where.AtRecorder)
                    yield return $"{id}: '{where.Act}' makes it void at an end of the run or at the recorder, one of them";
                else if (where.End is not null && !known.AsksEnd)
                    yield return $"{id}: nobody is asked at which end '{where.Act}' was done";
                else if (where.AtRecorder && known.On != SubjectKind.Place)
                    yield return $"{id}: '{where.Act}' is work on a run, not on a recorder";
            foreach (var limit in check.Limits)
            {
                if (limit.StartsWith("set:", StringComparison.Ordinal))
                {
                    if (!_limits.TryGetValue(limit[4..], out var entry))
                        yield return $"{id}: the limit set has no '{limit[4..]}'";
                    else if (entry.Unit != check.Unit)
                        yield return $"{id}: the limit '{entry.Id}' is in {entry.Unit}, the check in {check.Unit}";
                }
                else if (!limit.StartsWith("fn:", StringComparison.Ordinal) || !Registry.Limits.ContainsKey(limit[3..]))
                    yield return $"{id}: no limit is called '{limit}'";
                else if (Registry.Limits[limit[3..]].Unit is var unit && unit != check.Unit)
                    yield return $"{id}: the limit '{limit}' is in {unit}, the check in {check.Unit}";
            }
            if (!HasText(check.TextKey))
                yield return $"{id}: no text {check.TextKey}";
        }
        foreach (var limit in file.Limits.Concat(file.LimitSet?.Limits ?? []))
        {
            if (limit.Min is null && limit.Max is null)
                yield return $"{limit.Id}: a limit needs a least or a greatest value";
            if (limit.Min is { } low && !double.IsFinite(low) || limit.Max is { } high && !double.IsFinite(high))
                yield return $"{limit.Id}: a limit is a number";
            if (limit.Min > limit.Max)
                yield return $"{limit.Id}: the least value is above the greatest";
            if (string.IsNullOrWhiteSpace(limit.Source) || string.IsNullOrWhiteSpace(limit.Purpose))
                yield return $"{limit.Id}: a limit names its source and its purpose";
        }
        foreach (
            var figure in file
                .Figures.Concat(file.LimitSet?.Figures ?? [])
                .Where(f => f.Value is not (>= 0 and <= 1e9) || string.IsNullOrWhiteSpace(f.Source))
        )
            yield return $"{figure.Id}: a figure needs a number from 0 on and its source";
        // Of two with one id only the later one would hold, and nobody would see that.
        foreach (
            var twice in Twice("limit", [file.LimitSet?.Limits ?? [], file.Limits], l => l.Id)
                .Concat(Twice("figure", [file.LimitSet?.Figures ?? [], file.Figures], f => f.Id))
                .Concat(Twice("act", [file.Acts], a => a.Id))
                .Concat(Twice("cause", [file.Causes], c => c.Id))
                .Concat(Twice("instrument", [file.InstrumentKinds], i => i.Id))
        )
            yield return twice;
        foreach (var kind in file.Kinds)
        {
            if (Kinds.Count(k => k.Id == kind.Id) > 1)
                yield return $"{kind.Id}: the kind stands twice";
            if (kind.PowerClass is < 0 or > 8)
                yield return $"{kind.Id}: power class {kind.PowerClass} does not exist; there are 0 to 8";
            if (kind.SpeedMbps is { } speed && !Links.Negotiated.SpeedsMbps.Contains(speed))
                yield return $"{kind.Id}: {speed} Mb/s is no speed; there are {string.Join(", ", Links.Negotiated.SpeedsMbps)}";
            if (new[] { kind.WattsInfraredOff, kind.WattsInfraredOn }.Any(w => w is not (null or (> 0 and <= 1000))))
                yield return $"{kind.Id}: watts are above 0 and up to 1,000";
            if (!HasText(kind.TextKey))
                yield return $"{kind.Id}: no text {kind.TextKey}";
        }
        foreach (var model in file.Models)
        {
            if (Models.Count(m => m.Id.Equals(model.Id, StringComparison.OrdinalIgnoreCase)) > 1)
                yield return $"{model.Id}: the model stands twice";
            if (Kind(model.Kind) is null)
                yield return $"{model.Id}: no kind is called '{model.Kind}'";
            if (model.PowerClass is < 0 or > 8)
                yield return $"{model.Id}: power class {model.PowerClass} does not exist; there are 0 to 8";
            if (model.SpeedMbps is { } speed && !Links.Negotiated.SpeedsMbps.Contains(speed))
                yield return $"{model.Id}: {speed} Mb/s is no speed; there are {string.Join(", ", Links.Negotiated.SpeedsMbps)}";
            if (new[] { model.WattsInfraredOff, model.WattsInfraredOn }.Any(w => w is not (null or (> 0 and <= 1000))))
                yield return $"{model.Id}: watts are above 0 and up to 1,000";
            if (
                new[]
                {
                    model.TiltLeast,
                    model.TiltGreatest,
                    model.HeightLeastMetres,
                    model.HeightGreatestMetres,
                    model.SlackMetres,
                    model.BoxSessionMinutes,
                    model.BootSecondsLeast,
                    model.BootSecondsMost,
                }.Any(n => n is { } x && !(Math.Abs(x) <= 1e6))
            )
                yield return $"{model.Id}: a figure is no number that can be";
            if (model.BootSecondsLeast > model.BootSecondsMost)
                yield return $"{model.Id}: the shortest start is longer than the longest";
            foreach (var light in model.Lights)
            {
                foreach (
                    var lamp in light.Beside is { } beside
                        ? [new(light.Colour, light.RhythmMs), beside]
                        : new Lamp[] { new(light.Colour, light.RhythmMs) }
                )
                {
                    if (lamp.Colour is not ("green" or "amber" or "red" or "blue" or "white"))
                        yield return $"{model.Id}: no light is '{lamp.Colour}'; there are green, amber, red, blue and white";
                    if (lamp.RhythmMs.IsDefault || lamp.RhythmMs.Length is 0 or > 12 || lamp.RhythmMs.Any(ms => ms is < 20 or > 10_000))
                        yield return $"{model.Id}: the rhythm of '{light.Id}' needs 1 to 12 times of 20 to 10,000 ms";
                }
                if (light.Dial is < 1 or > 12)
                    yield return $"{model.Id}: a pointer stands at 1 to 12";
            }
            if (model.Lights.DistinctBy(l => l.Id).Count() != model.Lights.Length)
                yield return $"{model.Id}: a light pattern stands twice";
            foreach (var problem in model.ProblemsOfParts())
                yield return problem;
            if (model.TiltLeast > model.TiltGreatest)
                yield return $"{model.Id}: the least tilt is above the greatest";
            if (model.HeightLeastMetres > model.HeightGreatestMetres)
                yield return $"{model.Id}: the least height is above the greatest";
            foreach (var unknown in model.Unknown.Where(u => !DeviceModel.Figures.Contains(u)))
                yield return $"{model.Id}: no figure is called '{unknown}'; there are {string.Join(", ", DeviceModel.Figures)}";
        }
        foreach (var school in file.Schools)
        {
            if (Schools.Count(s => s.Id == school.Id) > 1)
                yield return $"{school.Id}: the school stands twice";
            if (school.Sides.Length < 2 || school.Sides.DistinctBy(s => s.Id).Count() != school.Sides.Length)
                yield return $"{school.Id}: a school has two sides or more, each once";
            if (school.Default is { } side && school.Sides.All(s => s.Id != side))
                yield return $"{school.Id}: its default '{side}' is none of its sides";
            foreach (var text in school.Sides.Select(s => $"{school.TextKey}.{s.Id}").Prepend(school.TextKey).Where(t => !HasText(t)))
                yield return $"{school.Id}: no text {text}";
        }
        foreach (var presence in file.Presences.Where(p => !HasText(p.TextKey)))
            yield return $"{presence.Id}: no text {presence.TextKey}";
        foreach (var cause in file.Causes.Where(c => !Registry.Evidence.ContainsKey(c.Evidence)))
            yield return $"{cause.Id}: no evidence is called '{cause.Evidence}'";
        foreach (var cause in file.Causes.Where(c => Registry.Evidence.GetValueOrDefault(c.Evidence)?.BySaying == c.Says.IsEmpty))
            yield return $"{cause.Id}: words speak for it, or something else does";
        foreach (var cause in file.Causes)
        foreach (var unknown in cause.Checks.Where(c => !CheckById.ContainsKey(c)))
            yield return $"{cause.Id}: it explains '{unknown}', which is no check";
        foreach (var act in file.Acts.Where(a => !HasText(a.TextKey)))
            yield return $"{act.Id}: no text {act.TextKey}";
        foreach (var act in file.Acts.Where(a => a.Explained && !HasText(a.TextKey + ".void")))
            yield return $"{act.Id}: no text {act.TextKey}.void";
        foreach (var minutes in file.Acts.Select(a => (a.Id, a.Minutes)).Concat(file.Causes.Select(c => (c.Id, c.Minutes))))
            if (minutes.Minutes is < 0 or > 10_000)
                yield return $"{minutes.Id}: 0 to 10,000 minutes";
        if (file.LimitSet is not null)
            foreach (var figure in Registry.Figures.Where(f => !_figures.ContainsKey(f)))
                yield return $"the limit set lacks the figure '{figure}'";

        IEnumerable<string> FormProblemsOf(CheckDefinition check)
        {
            var id = check.Id.Value;
            if (check.Entry == EntryKind.Form == check.Fields.IsEmpty)
                yield return $"{id}: a form has fields, and nothing else has";
            if (check.Fields.DistinctBy(f => f.Id).Count() != check.Fields.Length)
                yield return $"{id}: a field stands twice";
            foreach (var field in check.Fields)
            {
                var name = $"field.{id}.{field.Id}";
                foreach (var text in field.Words.Select(w => $"{name}.{w}").Prepend(name).Where(t => !HasText(t)))
                    yield return $"{id}: no text {text}";
                if (field.Entry == FieldEntry.Word == field.Words.IsEmpty)
                    yield return $"{id}: the field '{field.Id}' has words, and takes one of them, or neither";
                foreach (var good in field.Good.Where(g => !field.Words.Contains(g.Word)))
                    yield return $"{id}: '{good.Word}' is good and no word of '{field.Id}'";
                if (field.Limit is { } limit && (!_limits.TryGetValue(limit, out var entry) || entry.Unit != field.Unit))
                    yield return $"{id}: the field '{field.Id}' has no limit '{limit}' in its unit";
                if (field.Plausible is { } may && !(double.IsFinite(may.Min) && double.IsFinite(may.Max) && may.Min <= may.Max))
                    yield return $"{id}: what is plausible of '{field.Id}' runs from a lesser to a greater number";
            }
            if (check.Lines is { } lines)
            {
                if (lines.Least < 1 || lines.Most < lines.Least || lines.Most > 500)
                    yield return $"{id}: a form takes 1 to 500 lines";
                if (lines.SecondsApart is { } apart && !_figures.ContainsKey(apart))
                    yield return $"{id}: no figure is called '{apart}'";
            }
        }

        static IEnumerable<string> Twice<T>(string what, ImmutableArray<T>[] lists, Func<T, string> id) =>
            lists.SelectMany(list => list.GroupBy(id)).Where(g => g.Count() > 1).Select(g => $"{g.Key}: the {what} stands twice");

        bool HasText(string key) => shippedTexts.Contains(key) || Texts.TryGetValue("en", out var english) && english.ContainsKey(key);
    }
}
