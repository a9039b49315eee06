using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;

namespace Walkdown.Core.Acceptance;

/// <summary>The checks of all devices of one kind with the same features.</summary>
internal sealed class Outline
{
    /// <summary>A check as these devices have it.</summary>
    public sealed record Entry(
        CompiledCheck Compiled,
        bool Required,
        bool MayBeDue,
        ImmutableArray<Condition> Conditions,
        ImmutableArray<CheckItem> Items,
        ImmutableArray<string> Parts,
        ImmutableArray<AskedField> Fields,
        ImmutableArray<GoodWord> Good
    )
    {
        /// <summary>The items as a Card shows them.</summary>
        public ImmutableArray<CardItem> CardItems { get; } = [.. Items.Select(i => new CardItem(i.Id, i.Out, i.Bring, i.Loose))];
    }

    public Outline(Catalogue catalogue, string kind, ImmutableArray<string> own)
    {
        var features = own.Concat(catalogue.Kind(kind)?.Features ?? []).ToHashSet();
        Features = features;
        Checks =
        [
            .. catalogue
                .Checks.Where(check => check.Applies.Holds(kind, features))
                .Select(check => new Entry(
                    catalogue.Compiled(check.Id)!,
                    check.Required.Holds(kind, features) && !features.Contains(WorkScope.OutsideOf(check.Section)),
                    // What another row or a day makes due is due only where its part of the work is covered.
                    !check.DueWhen.IsEmpty && features.Contains(WorkScope.PartOf(check.Section)) && features.Contains(WorkScope.Said),
                    [.. CheckPlan.ConditionsOf(check, features)],
                    [.. check.Items.Where(item => item.Applies.Holds(kind, features))],
                    [.. check.Parts.Where(part => part.Applies.Holds(kind, features)).Select(part => part.Id)],
                    [
                        .. check
                            .Fields.Where(field => field.Applies.Holds(kind, features))
                            .Select(field => new AskedField(
                                field,
                                $"@field.{check.Id.Value}.{field.Id}",
                                [.. field.Good.Where(good => good.Applies.Holds(kind, features)).Select(good => good.Word)],
                                field.Limit is { } limit ? catalogue.Limit(limit) : null
                            )),
                    ],
                    [.. check.Good.Where(good => good.Applies.Holds(kind, features))]
                )),
        ];
    }

    public IReadOnlySet<string> Features { get; }
    public ImmutableArray<Entry> Checks { get; }
}

/// <summary>What a row waits for among the others of its Card.</summary>
/// <param name="Row">Its number.</param>
/// <param name="Gates">Numbers of the rows that should not be out.</param>
/// <param name="Holds">Numbers of the rows that must be in before the step.</param>
internal readonly record struct RowOrder(int Row, ImmutableArray<int> Gates, ImmutableArray<int> Holds)
{
    public static ImmutableArray<RowOrder> Of(ImmutableArray<PlannedRow> rows)
    {
        // The rows of a check stand together.
        var first = new Dictionary<CheckId, int>(rows.Length);
        for (var i = 0; i < rows.Length; i++)
            first.TryAdd(rows[i].Key.Check, i);
        var orders = ImmutableArray.CreateBuilder<RowOrder>();
        for (var i = 0; i < rows.Length; i++)
            if (rows[i].Check is not { Gates.IsEmpty: true, HoldUntil.IsEmpty: true })
                orders.Add(new(i, Others(rows[i], rows[i].Check.Gates), Others(rows[i], rows[i].Check.HoldUntil)));
        return orders.DrainToImmutable();

        // Of the same run, head or port where they are of one; of the device, all of them.
        ImmutableArray<int> Others(PlannedRow row, ImmutableArray<CheckId> checks)
        {
            if (checks.IsEmpty)
                return [];
            var others = ImmutableArray.CreateBuilder<int>(checks.Length);
            foreach (var check in checks)
                if (first.TryGetValue(check, out var i))
                    for (; i < rows.Length && rows[i].Key.Check == check; i++)
                        if (rows[i].Key.On.Kind != row.Key.On.Kind || rows[i].Key.On.Id == row.Key.On.Id)
                            others.Add(i);
            return others.DrainToImmutable();
        }
    }
}

/// <summary>The rows of one Card: applicable checks, each by subject, part and condition.</summary>
public sealed record CheckPlan(ImmutableArray<PlannedRow> Rows)
{
    /// <summary>What the rules were asked with.</summary>
    internal IReadOnlySet<string> Features { get; private init; } = ImmutableHashSet<string>.Empty;

    /// <summary>What comes before what, by the number of the rows.</summary>
    internal ImmutableArray<RowOrder> Orders { get; private init; } = [];

    /// <summary>The rows that a Card has, by what is fitted and how the job works; judged or not.</summary>
    public static CheckPlan For(CardFacts facts, Catalogue catalogue)
    {
        var outline = catalogue.OutlineOf(facts.Place.Kind, OwnFeatures(facts, catalogue));
        var rows = ImmutableArray.CreateBuilder<PlannedRow>(outline.Checks.Length + 16);
        foreach (var entry in outline.Checks)
        {
            var check = entry.Compiled.Definition;
            switch (check.Per)
            {
                case SubjectKind.Place:
                    Add(entry, new Subject(SubjectKind.Place, facts.Place.Id), "");
                    break;
                case SubjectKind.Unit when facts.Unit is { } unit:
                    Add(entry, new Subject(SubjectKind.Unit, unit.Id), "");
                    break;
                case SubjectKind.Head:
                    foreach (var head in facts.Heads)
                        Add(entry, new Subject(SubjectKind.Head, head.Id), "");
                    break;
                case SubjectKind.Run:
                    foreach (var run in facts.Runs)
                        Add(entry, new Subject(SubjectKind.Run, run.Id), run.Shared ? "shared" : "");
                    break;
                case SubjectKind.Port:
                    foreach (var run in facts.Runs)
                        if (run.Port is { } port)
                            Add(entry, new Subject(SubjectKind.Port, port.Id), "");
                    break;
                case SubjectKind.Channel:
                    foreach (var channel in facts.Channels)
                        Add(entry, new Subject(SubjectKind.Channel, channel.Id), "");
                    break;
            }
        }
        var planned = rows.DrainToImmutable();
        return new CheckPlan(planned) { Features = outline.Features, Orders = RowOrder.Of(planned) };

        void Add(Outline.Entry entry, Subject subject, string of)
        {
            if (!entry.Compiled.Definition.Parts.IsEmpty)
                foreach (var part in entry.Parts)
                    AddPart(entry, subject with { Part = part });
            else if (entry.Compiled.Definition.PartsFrom == "presets")
                for (var preset = 1; preset <= Presets(facts.Place.Features); preset++)
                    AddPart(entry, subject with { Part = string.Create(CultureInfo.InvariantCulture, $"preset-{preset}") });
            else if (entry.Compiled.Definition.PartsFrom != "pairs")
                AddPart(entry, subject);
            else
                // Behind sharing adapters a device has two pairs, and its tester sees no more.
                foreach (var pair in of == "shared" ? SharedPairs : AllPairs)
                    AddPart(entry, subject with { Part = pair });
        }

        void AddPart(Outline.Entry entry, Subject subject)
        {
            foreach (var condition in entry.Conditions)
                rows.Add(
                    new PlannedRow(
                        new CheckKey(entry.Compiled.Definition.Id, subject, condition),
                        entry.Compiled.Definition,
                        entry.Required
                    )
                    {
                        Entry = entry,
                    }
                );
        }
    }

    /// <summary>Presets of a moving camera, by its feature <c>presets-N</c>; a device that says none has none.</summary>
    private static int Presets(ImmutableArray<string> features)
    {
        foreach (var feature in features)
            if (
                feature.StartsWith("presets-", StringComparison.Ordinal)
                && int.TryParse(feature.AsSpan(8), NumberStyles.None, CultureInfo.InvariantCulture, out var count)
            )
                return Math.Min(count, 64);
        return 0;
    }

    private static readonly ImmutableArray<string> AllPairs = [.. PinPair.All.Select(p => p.ToString())],
        SharedPairs = [.. PinPair.Shared.Select(p => p.ToString())];

    /// <summary>Everything that the rules of checks and items may ask for: of the kind, the model, the place, its mount, its feed and its
    /// run.</summary>
    internal static IReadOnlySet<string> FeaturesOf(CardFacts facts, Catalogue catalogue) =>
        catalogue.OutlineOf(facts.Place.Kind, OwnFeatures(facts, catalogue)).Features;

    private static ImmutableArray<string> OwnFeatures(CardFacts facts, Catalogue catalogue)
    {
        var place = facts.Place;
        var own = ImmutableArray.CreateBuilder<string>();
        own.AddRange(place.Features);
        own.AddRange(catalogue.Model(place.Model)?.Features ?? []);
        own.AddRange(catalogue.FeaturesOf(facts.Practice, place.Kind));
        if (catalogue.Model(place.Model) is { } model)
        {
            if (model.HeightLeastMetres is not null || model.HeightGreatestMetres is not null)
                own.Add("model-height");
            if (model.TiltLeast is not null || model.TiltGreatest is not null)
                own.Add("model-tilt");
            if (model.SlackMetres is not null)
                own.Add("model-slack");
            if (!model.Lights.IsEmpty)
                own.Add("model-lights");
            if (model.Cards is not null)
                own.Add("card-slot");
            if (model.Stops is not null)
                own.Add("model-stops");
            if (model.Reset?.Light is not null)
                own.Add("model-reset-light");
        }
        if (!facts.Heads.IsEmpty && facts.Heads.All(h => facts.AgreedView(h.Id)?.Design.AzimuthDeg is not null))
            own.Add("bearing-agreed");
        if (place.Mount is { } mount)
        {
            own.Add("mount-planned");
            own.Add("mount-" + mount);
        }
        if (place.CableEntry is { } entry)
            own.Add("entry-" + entry);
        if (facts.Supply is not null)
            own.Add("low-voltage");
        var contacts = own.Contains("contacts") || catalogue.Kind(place.Kind)?.Features.Contains("contacts") == true;
        if (Fixing.MountResolver.OfPlan(place.Mount, place.CableEntry, facts.Supply is not null, contacts) is { } resolved)
            foreach (var part in resolved.Parts)
                own.Add("needs-" + part);
        foreach (var run in facts.Runs)
        {
            if (run.Shared && !own.Contains("shared-run"))
                own.Add("shared-run");
            if (run.Pieces.Any(p => p.Kind == PieceKind.Splitter) && !own.Contains("splitter"))
                own.Add("splitter");
            if (run.Port?.Mode == Power.SourceMode.LegacyHighPower && !own.Contains("legacy-source"))
                own.Add("legacy-source");
        }
        return own.ToImmutable();
    }

    /// <summary>Conditions that the device can be in; a device that can be in none of them is read once, as it is.</summary>
    internal static IEnumerable<Condition> ConditionsOf(CheckDefinition check, IReadOnlySet<string> features)
    {
        var possible = check
            .Under.Where(under =>
                (!under.HasFlag(Condition.InfraredOn) && !under.HasFlag(Condition.InfraredOff) || features.Contains("infrared"))
                && (!under.HasFlag(Condition.HeaterOn) || features.Contains("heater"))
                && (!under.HasFlag(Condition.CoverOn) && !under.HasFlag(Condition.CoverOff) || features.Contains("cover"))
            )
            .ToList();
        return possible.Count > 0 ? possible : [Condition.Any];
    }
}
