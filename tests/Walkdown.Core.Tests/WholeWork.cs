using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;
using Walkdown.Crew;

namespace Walkdown.Core.Tests;

/// <summary>Does a whole job as a good technician would: each row that is due gets the first answer that is in.</summary>
internal static class WholeWork
{
    /// <summary>Ternhaven in October: dark at 22:00, light at noon.</summary>
    public static readonly DateTimeOffset Evening = new(2026, 10, 14, 22, 0, 0, TimeSpan.FromHours(1));

    /// <summary>A job that covers everything, whose recorder is up, with a second person and the permanent feed there.</summary>
    public static Facts Job(string kind, params string[] features) =>
        new Facts().With(f =>
            f with
            {
                Place = f.Place with { Kind = kind, Model = "", Features = [.. features], Mount = "wall-arm", HeightMetres = 3.5 },
                Practice = f.Practice with { Scope = WorkScope.Whole },
                Instruments = [Facts.Meter with { Functions = [.. Facts.Meter.Functions, new(Unit.Degree, new(Absolute: 0.1))] }],
                TimeZone = "Europe/London",
                Site = new SiteFacts(
                    51.5,
                    -0.1,
                    SiteFacts.Unsaid.Presences.Add("permanent-power", new(Facts.Start, null)).Add("second-person", new(Facts.Start, null))
                ),
                Heads = [new HeadFacts(Guid.Parse("00000000-0000-0000-0000-0000000000f1"), 1)],
                Channels =
                [
                    new ChannelFacts(Guid.Parse("00000000-0000-0000-0000-0000000000f2"), "NVR-1", 1) { RecorderFacts = Recorder(true) },
                ],
                Runs = [.. f.Runs.Select(r => r with { Port = r.Port! with { Source = Source(f.Place.Id, 370) } })],
            }
        );

    /// <summary>The recorder's own facts, started or not.</summary>
    public static CardFacts Recorder(bool isUp)
    {
        var id = Guid.Parse("00000000-0000-0000-0000-0000000000f3");
        var key = new CheckKey(KnownChecks.Boot, new Subject(SubjectKind.Place, id), Condition.Any);
        return new CardFacts
        {
            Place = new PlaceFacts(id, "NVR-1", "Recorder", "", "recorder", "", [], null, null, null, null, null, null),
            Practice = new Practice(DecisionRule.Guarded, Cabling.WiringScheme.T568B),
            Readings = isUp
                ?
                [
                    new Reading(
                        Guid.NewGuid(),
                        key,
                        null,
                        new NumberValue(90, Unit.Second),
                        Condition.Any,
                        null,
                        ReadingSource.Typed,
                        Facts.Ina,
                        Facts.Start,
                        Facts.Start,
                        1
                    ),
                ]
                : [],
            Now = Facts.Start,
        };
    }

    /// <summary>A switch with this device alone on port 7.</summary>
    public static SourceFacts Source(Guid device, double? watts) =>
        new(
            "K2 A",
            watts,
            0,
            30,
            [
                new SourcePortFacts(
                    Guid.NewGuid(),
                    7,
                    PortPriority.Low,
                    false,
                    new CardFacts
                    {
                        Place = new PlaceFacts(device, "CC-07", "", "", "bullet", "", [], null, null, null, null, null, null),
                        Practice = new Practice(DecisionRule.Guarded, Cabling.WiringScheme.T568B),
                        Now = Facts.Start,
                    },
                    false,
                    false
                ),
            ]
        );

    /// <summary>Takes every row that is due until none is left that can be taken.</summary>
    /// <param name="facts">The job.</param>
    /// <param name="passes">A row for which no answer is in is said not to be applicable, where else that is a fault.</param>
    public static Facts Do(Facts facts, bool passes = false)
    {
        facts.Healthy().With(f => f with { Now = Evening.AddDays(2) });
        for (var round = 0; round < 400; round++)
        {
            var card = facts.Card;
            if (card.Rows.FirstOrDefault(r => r.Id == card.NextRow) is not { } next)
                return facts;
            if (passes && Answers.For(facts.Now, next, Facts.Meter.Id) is null)
                facts.Add(
                    (id, at, sequence) =>
                        new Exemption
                        {
                            Id = id,
                            By = Facts.Ina,
                            At = at,
                            Sequence = sequence,
                            Key = next.Key,
                            Reason = "not here",
                        }
                );
            else
                Take(facts, next, Answer(facts, next));
        }
        throw new InvalidOperationException("it does not come to an end at " + facts.Card.NextRow);
    }

    public static Guid Take(Facts facts, CardRow row, ReadingValue value, DateTimeOffset? at = null)
    {
        var id = Guid.NewGuid();
        facts.With(f =>
            f with
            {
                Readings = f.Readings.Add(
                    new Reading(
                        id,
                        row.Key,
                        f.Unit?.Id,
                        value,
                        row.Key.Under,
                        Facts.Meter.Id,
                        ReadingSource.Typed,
                        Facts.Ina,
                        at ?? f.Now,
                        at ?? f.Now,
                        10_000 + f.Readings.Length
                    )
                    {
                        Evidence = [new ReadingEvidence(Guid.NewGuid(), new string('0', 64))],
                    }
                ),
                // Sealant cures meanwhile, and it stays evening.
                Now = row.Check.Id.Value == "fixing.seals" ? f.Now.AddDays(2) : f.Now.AddSeconds(1),
            }
        );
        return id;
    }

    /// <summary>The first answer that is in; the row's name where there is none.</summary>
    public static ReadingValue Answer(Facts facts, CardRow row) =>
        Answers.For(facts.Now, row, Facts.Meter.Id)
        ?? throw new InvalidOperationException($"nothing is in for {row.Check.Id}: {string.Join("; ", row.Because.Select(b => b.Code))}");

    private static readonly GoodAnswers Answers = new(Facts.Shipped);
}
