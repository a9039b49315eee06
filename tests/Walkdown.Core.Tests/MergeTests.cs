using System.Collections.Immutable;
using CsCheck;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Merging;
using Walkdown.Core.Register;

namespace Walkdown.Core.Tests;

/// <summary>What holds where two installations worked on one job, and what a written serial number means.</summary>
public sealed class MergeTests
{
    private static readonly DateTimeOffset At = new(2026, 10, 14, 9, 0, 0, TimeSpan.Zero);

    [Fact]
    public void OfTwoUnitsTheOneFittedLastHangsAndTheOthersLeftWhenItCame() =>
        Gen.Select(Gen.Guid, Gen.String[Gen.Char.AlphaNumeric, 1, 8], Gen.Int[0, 5])
            .Array[0, 5]
            .Sample(all =>
            {
                HangingUnit[] units =
                [
                    .. all.DistinctBy(a => a.Item1).Select(a => new HangingUnit(a.Item1, a.Item2, At.AddHours(a.Item3))),
                ];
                var (left, told) = MergeRules.TwoUnits("CC-07", units);
                // Whoever takes the other's comes to the same.
                var (again, words) = MergeRules.TwoUnits("CC-07", units.Reverse());
                Assert.Equal(left, again);
                Assert.Equal(told, words);
                Assert.Equal(Math.Max(0, units.Length - 1), left.Length);
                Assert.Equal(units.Length > 1, told is not null);
                var last = units.Length > 0 ? units.Max(u => u.From) : At;
                Assert.All(left, l => Assert.Equal(last, l.At));
            });

    private static Concession Allowed(string by, string reason, int minute, string check = "cable.length") =>
        new()
        {
            Id = Guid.NewGuid(),
            By = Facts.Ina,
            At = At.AddMinutes(minute),
            Key = Facts.Key(check),
            AllowedBy = by,
            Reason = reason,
        };

    [Fact]
    public void TwoConcessionsOfOneRowAreToldAndTheSameOneTwiceIsNot()
    {
        var (first, second) = (Allowed("M. Thole", "short of time", 1), Allowed("O. Farrow", "agreed", 5));
        var conflict = Assert.Single(MergeRules.TwoConcessions("CC-07", [second, first]));
        Assert.Equal(["@check.cable.length", "M. Thole", "O. Farrow"], conflict.What.Args);
        Assert.Empty(MergeRules.TwoConcessions("CC-07", [first, first with { Id = Guid.NewGuid() }]));
        Assert.Empty(MergeRules.TwoConcessions("CC-07", [first, Allowed("O. Farrow", "agreed", 5, "cable.delay")]));
        var back = new Withdrawal
        {
            Id = Guid.NewGuid(),
            By = Facts.Ina,
            At = At,
            Of = second.Id,
            Reason = "a slip",
        };
        Assert.Empty(MergeRules.TwoConcessions("CC-07", [first, second, back]));
    }

    [Fact]
    public void TwoRevisionsOfOneNumberAreToldByWhatTheyAreOf()
    {
        Assert.Empty(MergeRules.Forks([("", 1), ("", 2), ("CC-07", 1)]));
        Assert.Equal(
            [("", "2"), ("CC-07", "1")],
            MergeRules.Forks([("", 2), ("", 2), ("CC-07", 1), ("CC-07", 1)]).Select(c => (c.About, c.What.Args[0]))
        );
    }

    [Fact]
    public void OnlyColumnsThatDifferAreToldInWordsThatDoNotRunOn()
    {
        var told = MergeRules
            .Differences("CC-07", [("Name", "Roof", "Roof"), ("HeightMetres", 3.2, null), ("Notes", new string('x', 200), "y")])
            .ToList();
        Assert.Equal(["HeightMetres", "3.2", "\u2013"], told[0].What.Args);
        Assert.Equal(["Notes", "...", "y"], told[1].What.Args);
        Assert.Equal(2, told.Count);
    }

    [Theory]
    [InlineData(null, null, false, false, false, UnitChange.Fit, null)]
    [InlineData("TH1", null, false, false, false, UnitChange.Fit, null)]
    [InlineData("TH1", null, false, true, false, UnitChange.Fit, null)]
    [InlineData("TH1", null, false, true, true, UnitChange.None, "problem.unit-hangs-elsewhere")]
    [InlineData(null, "TH1", true, false, false, UnitChange.None, null)]
    [InlineData("th1", "TH1", true, true, true, UnitChange.None, null)]
    [InlineData("TH2", "TH1", false, false, false, UnitChange.Correct, null)]
    [InlineData("TH2", "TH1", true, false, false, UnitChange.None, "register.record-swap")]
    [InlineData("TH2", "", true, false, false, UnitChange.Correct, null)]
    [InlineData("TH2", "TH1", false, true, false, UnitChange.Exchange, null)]
    [InlineData("TH2", "TH1", false, true, true, UnitChange.None, "problem.unit-hangs-elsewhere")]
    public void AWrittenSerialNumberIsAFirstUnitASlipAnotherUnitOrASwap(
        string? written,
        string? hangs,
        bool wasRead,
        bool isKnown,
        bool elsewhere,
        UnitChange change,
        string? refused
    )
    {
        var (came, why) = UnitOfPlace.Of(written, hangs, wasRead, isKnown, elsewhere);
        Assert.Equal((change, refused), (came, why?.Code));
    }

    [Fact]
    public void ARunMovedToAnotherPortIsWorkOnlyWhereSomethingWasReadOfIt()
    {
        var (a, b) = (Guid.NewGuid(), Guid.NewGuid());
        Assert.True(UnitOfPlace.IsPortMove(a, b, true));
        Assert.True(UnitOfPlace.IsPortMove(a, null, true));
        Assert.False(UnitOfPlace.IsPortMove(a, b, false));
        Assert.False(UnitOfPlace.IsPortMove(a, a, true));
        Assert.False(UnitOfPlace.IsPortMove(null, b, true));
    }
}
