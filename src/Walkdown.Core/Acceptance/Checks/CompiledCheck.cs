using System.Collections.Frozen;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Acceptance;

/// <summary>
/// A check as judging uses it: the names of its judge, its limits and its expectation looked up once a catalogue, with every other check
/// whose readings enter (its leaning), so that a reading judges anew what leans on it and nothing else.
/// </summary>
internal sealed class CompiledCheck
{
    public CompiledCheck(CheckDefinition definition, Catalogue catalogue)
    {
        Definition = definition;
        Judge = Registry.Judges.GetValueOrDefault(definition.Judge)?.Judge;
        Expect = definition.Expect is { } expect ? Registry.Expectations.GetValueOrDefault(expect)?.Make : null;
        Limits =
        [
            .. definition
                .Limits.Select(l =>
                    l.StartsWith("set:", StringComparison.Ordinal)
                        ? (catalogue.Limit(l[4..]), null)
                        : ((Limit?)null, (Action<RowContext, List<Limit>>?)Registry.Limits[l[3..]].Make)
                )
                .Where(l => l is not (null, null)),
        ];
        if (Limits.All(l => l.Fixed is not null))
            Window = LimitWindow.Intersect(Limits.Select(l => l.Fixed!));
        AsRead = definition.ReadTo is { } half ? new Accuracy(Absolute: half) : null;
        var leans = Registry.LeansOn(definition, catalogue.CausesByCheck.GetValueOrDefault(definition.Id, []));
        if (definition.Wait?.After is { } after)
            leans = leans.Append(after);
        var direct = leans.Concat(definition.DueWhen.Select(o => o.Check).OfType<CheckId>()).Append(definition.Id).ToHashSet();
        // What it leans on counts only while no later reading has made it void.
        LeansOn = direct
            .SelectMany(id => catalogue.CheckById.GetValueOrDefault(id)?.VoidedWhere.Select(v => v.Check).OfType<CheckId>() ?? [])
            .Concat(direct.Where(id => id != definition.Id || leans.Contains(id)))
            .ToFrozenSet();
    }

    public CheckDefinition Definition { get; }

    /// <summary>Its accuracy where it is read without an instrument; null: nobody knows.</summary>
    public Accuracy? AsRead { get; }

    /// <summary>Null where the catalogue names none that there is; such a catalogue is refused when it is read.</summary>
    public Judge? Judge { get; }
    public Func<RowContext, Expectation>? Expect { get; }

    /// <summary>Its limits in order: one that is the same on every Card, or one that is made for the row.</summary>
    public ImmutableArray<(Limit? Fixed, Action<RowContext, List<Limit>>? Made)> Limits { get; }

    /// <summary>Of its limits, where all of them are the same on every Card; else null.</summary>
    public LimitWindow? Window { get; }

    /// <summary>Other checks whose readings enter into this one's limits, expectation, judgement or causes.</summary>
    public FrozenSet<CheckId> LeansOn { get; }
}
