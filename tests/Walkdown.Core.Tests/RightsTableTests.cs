using Walkdown.Core.People;

namespace Walkdown.Core.Tests;

/// <summary>The table of who may do what, looked at by itself.</summary>
public sealed class RightsTableTests
{
    private static readonly Right[] ChangesNothing = [Right.Look, Right.Draft, Right.Verify, Right.Export];

    [Fact]
    public void WhoReadsOnlyChangesNothing()
    {
        foreach (var role in new[] { Role.Client, Role.Auditor })
            Assert.Subset(ChangesNothing.ToHashSet(), Rights.Of([role]).ToHashSet());
    }

    [Fact]
    public void LettingPeopleInIsNobodysByTheWay()
    {
        Assert.Equal([Role.Administrator], Rights.Who(Right.Admit));
        // And who lets people in does none of the work by that.
        Assert.DoesNotContain(Right.Work, Rights.Of([Role.Administrator]));
        Assert.DoesNotContain(Right.HandOver, Rights.Of([Role.Administrator]));
        Assert.True(Rights.SeesAllJobs([Role.Client, Role.Administrator]));
        Assert.False(Rights.SeesAllJobs([Role.Lead, Role.Technician, Role.Client, Role.Auditor]));
    }

    [Fact]
    public void EveryRightIsSomebodysAndSeveralRolesAddUp()
    {
        foreach (var right in Enum.GetValues<Right>())
        {
            Assert.NotEmpty(Rights.Who(right));
            Assert.False(Rights.May([], right));
            foreach (var a in Enum.GetValues<Role>())
            foreach (var b in Enum.GetValues<Role>())
                Assert.Equal(Rights.May([a], right) || Rights.May([b], right), Rights.May([a, b], right));
        }
        Assert.Equal(Enum.GetValues<Right>().Except([Right.Admit]), Rights.Of([Role.Lead]));
    }

    [Fact]
    public void ATechnicianRecordsAndCorrectsButDoesNotWaive()
    {
        foreach (var right in new[] { Right.Work, Right.Register })
            Assert.True(Rights.May([Role.Technician], right));
        foreach (var right in new[] { Right.Decide, Right.HandOver, Right.Erase, Right.Practise, Right.Plan, Right.TakeIn, Right.Export })
            Assert.False(Rights.May([Role.Technician], right));
    }
}
