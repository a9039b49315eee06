using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Aiming;
using Walkdown.Core.Cabling;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;

namespace Walkdown.Core.Tests;

/// <summary>Joins of a camera with several heads: what was agreed, how both hang by their pictures, and the strip that nobody
/// sees.</summary>
public sealed class HeadJoinTests
{
    private static readonly DateTimeOffset Then = new(2026, 10, 14, 9, 0, 0, TimeSpan.Zero);

    /// <summary>Heads that look so, each level with a field of 94 degrees.</summary>
    private static CardFacts With(double tilt, params double?[] bearings)
    {
        var facts = new Facts().Now with
        {
            Heads = [.. bearings.Select((_, i) => new HeadFacts(Guid.CreateVersion7(), i + 1))],
            Practice = new Practice(DecisionRule.Guarded, WiringScheme.T568B) { Scope = WorkScope.Whole },
        };
        facts = facts with { Place = facts.Place with { Kind = "multi-head" } };
        return facts with
        {
            Events =
            [
                .. facts.Heads.Select(
                    (h, i) =>
                        new PlannedView
                        {
                            Id = Guid.CreateVersion7(),
                            By = Facts.Ina,
                            At = Then,
                            Sequence = i + 1,
                            HeadId = h.Id,
                            Design = new ViewDesign(4, tilt, 94, 2560, 1440, bearings[i], []),
                            AgreedBy = "Odile Farrow",
                        }
                ),
            ],
        };
    }

    /// <summary>A head has to be turned right by so much, as its picture says.</summary>
    private static CardFacts Turned(CardFacts facts, int head, double right, bool byEye = false)
    {
        var row = CheckPlan
            .For(facts, Facts.Shipped)
            .Rows.Single(r => r.Check.Id.Value == "aim.off-after" && r.Key.On.Id == facts.Heads[head - 1].Id);
        return facts with
        {
            Readings = facts.Readings.Add(
                new Reading(
                    Guid.CreateVersion7(),
                    row.Key,
                    facts.Unit?.Id ?? Guid.Empty,
                    new NumberValue(Math.Abs(right), Unit.Degree),
                    row.Key.Under,
                    null,
                    ReadingSource.Picture,
                    Facts.Ina,
                    Then.AddMinutes(30 + facts.Readings.Length),
                    Then.AddMinutes(30 + facts.Readings.Length),
                    100 + facts.Readings.Length
                )
                {
                    Evidence = byEye
                        ? []
                        :
                        [
                            new ReadingEvidence(Guid.CreateVersion7(), new string('0', 64))
                            {
                                Inputs = new Dictionary<string, double>
                                {
                                    ["pan_deg"] = right,
                                    ["uncertainty_deg"] = 0.3,
                                }.ToImmutableSortedDictionary(),
                                Algorithm = AimLook.Algorithm,
                                AlgorithmVersion = AimLook.AlgorithmVersion,
                            },
                        ],
                }
            ),
        };
    }

    private static HeadJoins Joins(CardFacts facts) => HeadJoins.Of(facts, JudgedCard.Of(facts, Facts.Shipped));

    [Fact]
    public void AsAgreedTheyOverlapAndNobodyKnowsHowTheyHang()
    {
        // Given in any order, over north too: 4 degrees each, and of four all four.
        var joins = Joins(With(0, 350, 80, 260, 170));
        Assert.Null(joins.Why);
        Assert.Equal([(2, 4), (4, 3), (3, 1), (1, 2)], joins.Joins.Select(j => (j.Left, j.Right)));
        Assert.All(joins.Joins, j => Assert.Equal(4, j.AgreedDeg, 9));
        Assert.All(joins.Joins, j => Assert.Equal((null, null, "join.not-aimed"), (j.NowDeg, j.Outcome, j.Why?.Code)));
        // Tilted down a picture spans more of the compass than its field: 2 atan(tan 47 / cos 40) is 108.9 degrees.
        Assert.All(Joins(With(40, 0, 90, 180, 270)).Joins, j => Assert.Equal(18.92, j.AgreedDeg, 0.01));
    }

    [Fact]
    public void AStripBetweenTwoIsFound()
    {
        var facts = Turned(Turned(Turned(With(0, 0, 90, 180, 270), 1, 2.5), 2, -2.5), 3, 1);
        var joins = Joins(facts).Joins;
        // The first looks left of it, the second right: 4 degrees are 1 too few.
        var first = joins.Single(j => (j.Left, j.Right) == (1, 2));
        Assert.Equal((-1, Outcome.Out), (Math.Round(first.NowDeg!.Value, 9), first.Outcome!.Value));
        Assert.Equal(Math.Sqrt(0.18), first.UncertaintyDeg, 9);
        // Towards each other they overlap the more; the fourth is not known.
        var second = joins.Single(j => (j.Left, j.Right) == (2, 3));
        Assert.Equal((7.5, Outcome.In), (Math.Round(second.NowDeg!.Value, 9), second.Outcome!.Value));
        Assert.Equal("4", joins.Single(j => j.Left == 3).Why!.Args[0]);
        // Within the uncertainty nothing is claimed.
        Assert.Equal(Outcome.TooClose, Joins(Turned(Turned(With(0, 0, 90), 1, 2), 2, -2.1)).Joins[0].Outcome);
        // Seen by eye alone it says that it is near, and not where.
        Assert.Equal("join.by-eye", Joins(Turned(Turned(With(0, 0, 90), 1, 0), 2, 0, byEye: true)).Joins[0].Why!.Code);
    }

    [Fact]
    public void WhatWasNeverToMeetIsNoJoin()
    {
        Assert.Equal("join.apart", Joins(With(0, 0, 180)).Why!.Code);
        Assert.Equal("join.one-head", Joins(With(0, 0.0)).Why!.Code);
        Assert.Equal(("join.no-bearing", "2"), (Joins(With(0, 0, null)).Why!.Code, Joins(With(0, 0, null)).Why!.Args[0]));
        var facts = With(0, 0, 90);
        Assert.Equal("join.no-view", Joins(facts with { Events = [facts.Events[0]] }).Why!.Code);
        Assert.Single(Joins(With(0, 0, 90)).Joins);
    }
}
