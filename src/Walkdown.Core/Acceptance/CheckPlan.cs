using Walkdown.Core.Cabling;

namespace Walkdown.Core.Acceptance;

/// <summary>One row that the Card will have.</summary>
public sealed record PlannedRow(CheckKey Key, CheckDefinition Check, bool Required);

/// <summary>The rows of one Card: applicable checks, each by subject, part and condition.</summary>
public sealed record CheckPlan(ImmutableArray<PlannedRow> Rows)
{
    /// <summary>What the rules were asked with.</summary>
    internal IReadOnlySet<string> Features { get; private init; } = ImmutableHashSet<string>.Empty;

    public static CheckPlan For(CardFacts facts, Catalogue.Catalogue catalogue)
    {
        var place = facts.Place;
        var features = FeaturesOf(facts, catalogue);
        var rows = ImmutableArray.CreateBuilder<PlannedRow>();
        foreach (var check in catalogue.Checks)
        {
            if (!check.Applies.Holds(place.Kind, features))
                continue;
            var required = check.Required.Holds(place.Kind, features);
            foreach (var subject in SubjectsOf(check, facts))
            foreach (var part in PartsOf(check, subject, facts))
            foreach (var condition in ConditionsOf(check, features))
                rows.Add(new PlannedRow(new CheckKey(check.Id, subject with { Part = part }, condition), check, required));
        }
        return new CheckPlan(rows.ToImmutable()) { Features = features };
    }

    /// <summary>Everything that the rules of checks and items may ask for: of the kind, the model, the place, its mount, its feed and its
    /// run.</summary>
    internal static IReadOnlySet<string> FeaturesOf(CardFacts facts, Catalogue.Catalogue catalogue)
    {
        var place = facts.Place;
        var own = ImmutableArray.CreateBuilder<string>();
        own.AddRange(place.Features);
        own.AddRange(catalogue.Model(place.Model)?.Features ?? []);
        own.AddRange(facts.Practice.Features);
        if (place.Mount is { } mount)
            own.Add("mount-" + mount);
        if (place.CableEntry is { } entry)
            own.Add("entry-" + entry);
        if (facts.Supply is not null)
            own.Add("low-voltage");
        foreach (var run in facts.Runs)
        {
            if (run.Shared && !own.Contains("shared-run"))
                own.Add("shared-run");
            if (run.Port?.Mode == Power.SourceMode.LegacyHighPower && !own.Contains("legacy-source"))
                own.Add("legacy-source");
        }
        return catalogue.FeaturesOf(place.Kind, own.ToImmutable());
    }

    private static IEnumerable<Subject> SubjectsOf(CheckDefinition check, CardFacts facts) =>
        check.Per switch
        {
            SubjectKind.Place => [new Subject(SubjectKind.Place, facts.Place.Id)],
            SubjectKind.Unit => facts.Unit is { } unit ? [new Subject(SubjectKind.Unit, unit.Id)] : [],
            SubjectKind.Head => facts.Heads.Select(head => new Subject(SubjectKind.Head, head.Id)),
            SubjectKind.Run => facts.Runs.Select(run => new Subject(SubjectKind.Run, run.Id)),
            SubjectKind.Port => facts.Runs.Where(run => run.Port is not null).Select(run => new Subject(SubjectKind.Port, run.Port!.Id)),
            SubjectKind.Channel => facts.Channels.Select(channel => new Subject(SubjectKind.Channel, channel.Id)),
            _ => [],
        };

    /// <summary>Behind sharing adapters a device has two pairs, and its tester sees no more.</summary>
    private static IEnumerable<string> PartsOf(CheckDefinition check, Subject subject, CardFacts facts) =>
        check.PartsFrom != "pairs"
            ? [""]
            : (facts.Runs.Any(r => r.Id == subject.Id && r.Shared) ? PinPair.Shared : PinPair.All).Select(pair => pair.ToString());

    /// <summary>Conditions that the device can be in; a device that can be in none of them is read once, as it is.</summary>
    private static IEnumerable<Condition> ConditionsOf(CheckDefinition check, IReadOnlySet<string> features)
    {
        var possible = check
            .Under.Where(under =>
                (!under.HasFlag(Condition.InfraredOn) && !under.HasFlag(Condition.InfraredOff) || features.Contains("infrared"))
                && (!under.HasFlag(Condition.HeaterOn) || features.Contains("heater"))
            )
            .ToList();
        return possible.Count > 0 ? possible : [Condition.Any];
    }
}
