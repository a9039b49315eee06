using Walkdown.Core.Acceptance;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Tests;

/// <summary>Rows of one Check are told apart by what they are of, on pages and in the report alike.</summary>
public sealed class WhichOfTests
{
    private static readonly Facts Two = Many();

    private static Facts Many()
    {
        var facts = new Facts();
        return facts.With(f =>
            f with
            {
                Heads = [new(Guid.NewGuid(), 1), new(Guid.NewGuid(), 2)],
                Channels = [new(Guid.NewGuid(), "R-1", 20), new(Guid.NewGuid(), "@R-2", 3)],
                Runs =
                [
                    f.Runs[0],
                    f.Runs[0] with
                    {
                        Id = Guid.NewGuid(),
                        Label = "CC-07 b",
                        Port = f.Runs[0].Port! with { Id = Guid.NewGuid(), Number = 9 },
                    },
                ],
            }
        );
    }

    private static string? Said(CardFacts facts, SubjectKind kind, Guid id) =>
        facts.WhichOf(new(kind, id)) is { } of ? $"{of.Code} {string.Join(' ', of.Args)}" : null;

    [Fact]
    public void OfSeveralEachIsNamed()
    {
        var f = Two.Now;
        Assert.Equal("subject.head 2", Said(f, SubjectKind.Head, f.Heads[1].Id));
        Assert.Equal("subject.channel R-1 20", Said(f, SubjectKind.Channel, f.Channels[0].Id));
        // What somebody called a recorder is never taken for a code of ours.
        Assert.Equal("subject.channel @@R-2 3", Said(f, SubjectKind.Channel, f.Channels[1].Id));
        Assert.Equal("subject.run CC-07 b", Said(f, SubjectKind.Run, f.Runs[1].Id));
        Assert.Equal("subject.port K2 9", Said(f, SubjectKind.Port, f.Runs[1].Port!.Id));
        Assert.Null(Said(f, SubjectKind.Place, f.Place.Id));
        Assert.Null(Said(f, SubjectKind.Head, Guid.NewGuid()));
    }

    [Fact]
    public void OfOneNobodyAsks()
    {
        var f = new Facts().Now with { Heads = [Two.Now.Heads[0]], Channels = [Two.Now.Channels[0]] };
        Assert.Null(Said(f, SubjectKind.Head, f.Heads[0].Id));
        Assert.Null(Said(f, SubjectKind.Channel, f.Channels[0].Id));
        Assert.Null(Said(f, SubjectKind.Run, f.Runs[0].Id));
        Assert.Null(Said(f, SubjectKind.Port, f.Runs[0].Port!.Id));
    }

    /// <summary>No two rows of a Card are called alike: a name, which of several, a part and a condition tell each from all
    /// others.</summary>
    [Fact]
    public void NoTwoRowsOfACardAreCalledAlike()
    {
        var rows = Two.Card.Rows.Select(r => (r.Check.Id, r.Of, r.Key.On.Part, r.Key.Under)).ToList();
        Assert.Equal(rows.Count, rows.Distinct().Count());
        Assert.Contains(Two.Card.Rows, r => r.Of is { Code: "subject.run" });
        // An exception of one row says which; of several that were not taken it counts them.
        var exceptions = CardExceptions.Of(Two.Card).Where(e => e.Kind == ExceptionKind.NotTaken).ToList();
        Assert.All(exceptions.Where(e => e.Count > 1), e => Assert.Null(e.Of));
        Assert.Contains(exceptions, e => e.Count > 1);
    }
}
