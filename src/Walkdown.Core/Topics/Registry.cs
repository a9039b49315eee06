using System.Collections.Frozen;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Addressing;
using Walkdown.Core.Aiming;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Clocks;
using Walkdown.Core.Coax;
using Walkdown.Core.Finishing;
using Walkdown.Core.Fixing;
using Walkdown.Core.Links;
using Walkdown.Core.Measures;
using Walkdown.Core.Plates;
using Walkdown.Core.Power;
using Walkdown.Core.Preparing;
using Walkdown.Core.Radio;
using Walkdown.Core.Recording;

namespace Walkdown.Core.Topics;

/// <summary>Every topic, and what they register, by name. A name that two topics give is a fault of the program and stops it.</summary>
internal static class Registry
{
    /// <summary>The list of topics; a new one is a line here.</summary>
    public static readonly ImmutableArray<Topic> Topics =
    [
        GeneralTopic.Topic,
        PreparingTopic.Topic,
        CablingTopic.Topic,
        FixingTopic.Topic,
        PowerTopic.Topic,
        LinkTopic.Topic,
        AddressingTopic.Topic,
        AimingTopic.Topic,
        ClockTopic.Topic,
        RecordingTopic.Topic,
        PlatesTopic.Topic,
        FinishingTopic.Topic,
        CoaxTopic.Topic,
        RadioTopic.Topic,
    ];

    public static readonly FrozenDictionary<string, JudgeFunction> Judges = Topics
        .SelectMany(t => t.Judges)
        .ToFrozenDictionary(j => j.Name);

    public static readonly FrozenDictionary<string, LimitFunction> Limits = Topics
        .SelectMany(t => t.Limits)
        .ToFrozenDictionary(l => l.Name);

    public static readonly FrozenDictionary<string, ExpectationFunction> Expectations = Topics
        .SelectMany(t => t.Expectations)
        .ToFrozenDictionary(e => e.Name);

    public static readonly FrozenDictionary<string, EvidenceFunction> Evidence = Topics
        .SelectMany(t => t.Evidence)
        .ToFrozenDictionary(e => e.Name);

    /// <summary>Figures of the limit set that the functions need.</summary>
    public static readonly ImmutableArray<string> Figures = [.. Topics.SelectMany(t => t.Figures)];

    /// <summary>What somebody would have to give so that the check had a limit.</summary>
    public static IEnumerable<Message> MissingFor(CheckDefinition check) =>
        check
            .Limits.Where(l => l.StartsWith("fn:", StringComparison.Ordinal))
            .Select(l => Limits.GetValueOrDefault(l[3..])?.Missing)
            .OfType<string>()
            .Distinct()
            .Select(code => new Message(code));

    /// <summary>Other checks whose readings enter into this one's limits, expectation, judgement or causes: each function says so of
    /// itself.</summary>
    /// <param name="causes">Of this check.</param>
    /// <param name="check">The check.</param>
    public static IEnumerable<CheckId> LeansOn(CheckDefinition check, IEnumerable<CauseDefinition> causes) =>
        OfJudge(check)
            .Concat(
                check
                    .Limits.Where(l => l.StartsWith("fn:", StringComparison.Ordinal))
                    .SelectMany(l => Limits.GetValueOrDefault(l[3..])?.LeansOn ?? [])
            )
            .Concat(check.Expect is { } expect ? Expectations.GetValueOrDefault(expect)?.LeansOn ?? [] : [])
            .Concat(causes.SelectMany(c => Evidence.GetValueOrDefault(c.Evidence)?.LeansOn ?? []))
            .Distinct();

    private static IEnumerable<CheckId> OfJudge(CheckDefinition check) =>
        Judges.GetValueOrDefault(check.Judge) is not { } judge ? []
        : judge.LeansOnItself ? judge.LeansOn.Add(check.Id)
        : judge.LeansOn;
}
