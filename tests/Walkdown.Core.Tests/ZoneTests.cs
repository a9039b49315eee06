using System.Collections.Immutable;
using System.Globalization;
using CsCheck;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Recording;
using Walkdown.Core.Zones;

namespace Walkdown.Core.Tests;

/// <summary>Zones on a picture: areas and overlaps by properties, what is refused, and how they and walks through them are
/// judged.</summary>
public sealed class ZoneTests
{
    private static PicturePoint P(double x, double y) => new(x, y);

    private static ImmutableArray<PicturePoint> Box(double left, double top, double right, double bottom) =>
        [P(left, top), P(right, top), P(right, bottom), P(left, bottom)];

    /// <summary>A star of any corners around a middle: never crosses itself, and seldom convex.</summary>
    private static readonly Gen<ImmutableArray<PicturePoint>> Stars =
        from x in Gen.Double[0.3, 0.7]
        from y in Gen.Double[0.3, 0.7]
        from far in Gen.Double[0.03, 0.3].Array[3, 14]
        select (ImmutableArray<PicturePoint>)
            [.. far.Select((r, i) => P(x + r * Math.Cos(i * Math.Tau / far.Length), y + r * Math.Sin(i * Math.Tau / far.Length)))];

    private static bool Inside(ImmutableArray<PicturePoint> polygon, double x, double y)
    {
        var inside = false;
        for (int i = 0, j = polygon.Length - 1; i < polygon.Length; j = i++)
            if (
                polygon[i].Y > y != polygon[j].Y > y
                && x < (polygon[j].X - polygon[i].X) * (y - polygon[i].Y) / (polygon[j].Y - polygon[i].Y) + polygon[i].X
            )
                inside = !inside;
        return inside;
    }

    private static double Area(Func<IReadOnlyList<bool>, bool> counts, params ImmutableArray<PicturePoint>[] polygons) =>
        Polygons.Area([.. polygons.Select(p => (IReadOnlyList<PicturePoint>)p)], counts);

    [Fact]
    public void AreasOfSimpleShapesAreTheirFormulas()
    {
        Assert.Equal(0.06, Polygons.Area(Box(0.1, 0.2, 0.3, 0.5)), 12);
        Assert.Equal(0.5, Polygons.Area([P(0, 0), P(1, 0), P(0, 1)]), 12);
        Assert.Equal(0.06, Area(i => i[0], Box(0.1, 0.2, 0.3, 0.5)), 12);
        // A quarter of one lies in the other.
        Assert.Equal(0.01, Area(i => i[0] && i[1], Box(0, 0, 0.2, 0.2), Box(0.1, 0.1, 0.3, 0.3)), 12);
        Assert.Equal(0.07, Area(i => i[0] || i[1], Box(0, 0, 0.2, 0.2), Box(0.1, 0.1, 0.3, 0.3)), 12);
        // Side by side, sharing a side: together, and nothing in common.
        Assert.Equal(0.08, Area(i => i[0] || i[1], Box(0, 0, 0.2, 0.2), Box(0.2, 0, 0.4, 0.2)), 12);
        Assert.Equal(0, Area(i => i[0] && i[1], Box(0, 0, 0.2, 0.2), Box(0.2, 0, 0.4, 0.2)), 12);
        // The same twice is once.
        Assert.Equal(0.04, Area(i => i[0] && i[1], Box(0, 0, 0.2, 0.2), Box(0, 0, 0.2, 0.2)), 12);
        Assert.Equal(0, Area(_ => true), 12);
    }

    [Fact]
    public void AreasKeepTheRulesOfSets() =>
        Gen.Select(Stars, Stars, Stars)
            .Sample(
                (a, b, c) =>
                {
                    double Of(Func<IReadOnlyList<bool>, bool> counts) => Area(counts, a, b, c);
                    var (areaA, areaB) = (Polygons.Area(a), Polygons.Area(b));
                    Assert.Equal(areaA, Of(i => i[0]), 9);
                    // Both together and what they share are as much as each by itself.
                    Assert.Equal(areaA + areaB, Of(i => i[0] || i[1]) + Of(i => i[0] && i[1]), 9);
                    Assert.Equal(areaA, Of(i => i[0] && i[1]) + Of(i => i[0] && !i[1]), 9);
                    Assert.Equal(Of(i => i[0] && i[1]), Area(i => i[0] && i[1], b, a), 9);
                    Assert.Equal(Of(i => i[0] || i[1] || i[2]), Area(i => i[0] || i[1] || i[2], c, b, a), 9);
                    // The turn of the corners means nothing.
                    Assert.Equal(Of(i => i[0] && i[1] && !i[2]), Area(i => i[0] && i[1] && !i[2], [.. a.Reverse()], b, c), 9);
                },
                iter: 400
            );

    /// <summary>Combs across each other, as many corners as are taken: every tooth crosses every other, and it is reckoned all the
    /// same.</summary>
    [Fact]
    public void ManyCrossingsAreReckoned()
    {
        // 24 teeth each a hundredth wide, standing; and the same lying.
        static ImmutableArray<PicturePoint> Comb(bool lies) =>
            [
                .. Enumerable
                    .Range(0, 24)
                    .SelectMany(i => new[] { (i * 0.04, 0.9), (i * 0.04, 0.1), (i * 0.04 + 0.01, 0.1), (i * 0.04 + 0.01, 0.9) })
                    .Concat([(0.94, 0.95), (0, 0.95)])
                    .Select(p => lies ? P(p.Item2, p.Item1) : P(p.Item1, p.Item2)),
            ];
        var (standing, lying) = (Comb(false), Comb(true));
        Assert.True(Polygons.IsSimple(standing));
        var areas = Polygons.Areas([standing, lying], [i => i[0] && i[1], i => i[0] || i[1], i => i[0], i => i[1]]);
        Assert.Equal(Polygons.Area(standing), areas[2], 9);
        Assert.Equal(areas[2], areas[3], 9);
        Assert.Equal(areas[2] + areas[3], areas[0] + areas[1], 9);
        Assert.True(areas[0] > 0.02);
    }

    [Fact]
    public void AreasAreWhatASieveCounts() =>
        Gen.Select(Stars, Stars)
            .Sample(
                (a, b) =>
                {
                    const int n = 400;
                    var count = 0;
                    for (var row = 0; row < n; row++)
                    for (var column = 0; column < n; column++)
                    {
                        var (x, y) = ((column + 0.5) / n, (row + 0.5) / n);
                        if (Inside(a, x, y) && !Inside(b, x, y))
                            count++;
                    }
                    Assert.Equal((double)count / (n * n), Area(i => i[0] && !i[1], a, b), 2.5e-3);
                },
                iter: 25
            );

    [Fact]
    public void WhatCrossesItselfIsKnown()
    {
        Assert.True(Polygons.IsSimple(Box(0, 0, 1, 1)));
        Assert.True(Polygons.IsSimple([P(0, 0), P(0.5, 0), P(1, 0), P(1, 1)]));
        Assert.False(Polygons.IsSimple([P(0, 0), P(1, 1), P(1, 0), P(0, 1)]));
        // A corner upon a side, two corners in one place, a side that runs back, all on one line.
        Assert.False(Polygons.IsSimple([P(0, 0), P(1, 0), P(1, 1), P(0.5, 0), P(0, 1)]));
        Assert.False(Polygons.IsSimple([P(0, 0), P(0, 0), P(1, 0), P(1, 1)]));
        Assert.False(Polygons.IsSimple([P(0, 0), P(1, 0), P(0.5, 0), P(0.5, 1)]));
        Assert.False(Polygons.IsSimple([P(0, 0), P(0.5, 0.5), P(1, 1)]));
        Stars.Sample(star => Assert.True(Polygons.IsSimple(star)), iter: 200);
        // Two corners exchanged across cross: of a star of equal rays always.
        Gen.Int[5, 14]
            .Sample(
                n =>
                {
                    var points = Enumerable
                        .Range(0, n)
                        .Select(i => P(0.5 + 0.3 * Math.Cos(i * Math.Tau / n), 0.5 + 0.3 * Math.Sin(i * Math.Tau / n)))
                        .ToArray();
                    (points[0], points[n / 2]) = (points[n / 2], points[0]);
                    Assert.False(Polygons.IsSimple(points));
                },
                iter: 50
            );
    }

    private static readonly CheckDefinition Check = Facts.Shipped.Checks.Single(c => c.Id.Value == "recorder.zones");

    private static string? Refused(params PictureZone[] zones) => new ZonesValue([.. zones]).Refuse(Check)?.Code;

    [Fact]
    public void WhatCannotBeAZoneIsRefusedByName()
    {
        static PictureZone Zone(ImmutableArray<PicturePoint> points, string name = "Quay") => new(name, ZoneUse.Watch, points);
        var good = Zone(Box(0, 0, 1, 1));
        Assert.Null(Refused(good));
        Assert.Equal("reading.zones-count", Refused());
        Assert.Equal("reading.zones-count", Refused([.. Enumerable.Range(0, 21).Select(i => good with { Name = $"z{i}" })]));
        Assert.Equal("reading.zone-name", Refused(good with { Name = " " }));
        Assert.Equal("reading.zone-name", Refused(good with { Name = new('x', 41) }));
        Assert.Equal("reading.zone-name", Refused(good, null!));
        Assert.Equal("reading.zone-points", Refused(Zone([P(0, 0), P(1, 1)])));
        Assert.Equal("reading.zone-points", Refused(Zone(default)));
        Assert.Equal("reading.zone-points", Refused(good with { Use = (ZoneUse)9 }));
        Assert.Equal("reading.zone-points", Refused(Zone([.. Enumerable.Range(0, 41).Select(i => P(i / 41.0, i * i / 1681.0))])));
        foreach (var wrong in (double[])[-0.01, 1.01, double.NaN, double.PositiveInfinity])
            Assert.Equal("reading.zone-outside", Refused(Zone([P(0, 0), P(1, 0), P(wrong, 1)])));
        // Each might be; together they would be hours of work.
        Assert.Equal(
            "reading.zones-corners",
            Refused([
                .. Enumerable.Range(0, 6).Select(n => Zone([.. Enumerable.Range(0, 35).Select(i => P(i / 35.0, i * i / 1225.0))], $"z{n}")),
            ])
        );
        Assert.Equal("reading.zone-crosses", Refused(Zone([P(0, 0), P(1, 1), P(1, 0), P(0, 1)])));
        Assert.Equal("reading.zone-small", Refused(Zone(Box(0.5, 0.5, 0.51, 0.51))));
        Assert.Equal("reading.zone-twice", Refused(good, good with { Name = " QUAY " }));
    }

    private static Facts Thermal(int heads = 1)
    {
        var facts = new Facts();
        return facts.With(f =>
            f with
            {
                Place = f.Place with { Kind = "thermal" },
                Heads = [.. Enumerable.Range(1, heads).Select(n => new HeadFacts(new Guid(n, 0, 0, new byte[8]), n))],
            }
        );
    }

    /// <summary>What one head watches says nothing of the other's picture; and what was said of the place, before each head was asked, is
    /// the only head's.</summary>
    [Theory]
    [InlineData(1, true, new[] { State.In })]
    [InlineData(2, true, new[] { State.NotTaken, State.NotTaken })]
    [InlineData(2, false, new[] { State.In, State.NotTaken })]
    public void EachHeadHasItsZones(int heads, bool ofPlace, State[] states)
    {
        var facts = Thermal(heads);
        List<CardRow> Rows(string check = "recorder.zones") =>
            [.. Card.Judge(facts.Now, Facts.Shipped).Rows.Where(r => r.Check.Id.Value == check)];
        Assert.Equal(facts.Now.Heads.Select(h => h.Id), Rows().Select(r => r.Key.On.Id));
        var key = Rows()[0].Key;
        facts.Read(
            ofPlace ? key with { On = new(SubjectKind.Place, facts.Now.Place.Id) } : key,
            new ZonesValue([Ground, new("Quay", ZoneUse.Watch, Box(0.2, 0.5, 0.8, 0.9))])
        );
        Assert.Equal(states, Rows().Select(r => r.State));
        // Of several each row says which it is; of one nobody asks.
        Assert.Equal(
            heads == 1 ? [""] : Enumerable.Range(1, heads).Select(n => $"subject.head {n}"),
            Rows().Select(r => r.Of is { } of ? $"{of.Code} {of.Args[0]}" : "")
        );
        Assert.All(
            (string[])["recorder.zone-walk", "recorder.nuisance"],
            check => Assert.Equal(facts.Now.Heads.Select(h => h.Id), Rows(check).Select(r => r.Key.On.Id))
        );
    }

    private static Attempt Of(string check, ReadingValue value)
    {
        var facts = Thermal();
        var row = Card.Judge(facts.Now, Facts.Shipped).Rows.Single(r => r.Check.Id.Value == check);
        return Card.Preview(facts.Now, Facts.Shipped, row.Key, value, row.Key.Under, null).Attempt;
    }

    private static readonly PictureZone Ground = new("Own ground", ZoneUse.OwnGround, Box(0, 0.4, 1, 1));

    [Theory]
    // On the ground; a little beyond it; much; left out by another; blackened in part; ground not drawn; nothing that rings.
    [InlineData(0.5, 0.9, true, 0, State.In, "zones.watching")]
    [InlineData(0.395, 0.9, true, 0, State.In, "zones.watching")]
    [InlineData(0.3, 0.9, true, 0, State.Out, "zones.off-ground")]
    [InlineData(0.5, 0.9, true, 0.9, State.Out, "zones.covered")]
    [InlineData(0.5, 0.9, true, 0.2, State.In, "zones.partly")]
    [InlineData(0.5, 0.9, false, 0, State.NotJudged, "zones.no-ground")]
    [InlineData(0, 0, true, 0, State.Out, "zones.nothing-watched")]
    public void ZonesAreHeldAgainstTheOwnGround(double top, double bottom, bool hasGround, double covered, State state, string code)
    {
        var zones = new List<PictureZone>();
        if (hasGround)
            zones.Add(Ground);
        if (bottom > top)
            zones.Add(new("Quay", ZoneUse.Watch, Box(0.2, top, 0.8, bottom)));
        if (covered > 0)
            zones.Add(new("Road", ZoneUse.Ignore, Box(0.2, top, 0.2 + 0.6 * covered, bottom)));
        var judged = Of("recorder.zones", new ZonesValue([.. zones]));
        Assert.Equal(state, judged.State);
        Assert.Contains(judged.Because, b => b.Code == code);
    }

    [Theory]
    [InlineData(6, 0, 6, 0, State.In)]
    [InlineData(5, 0, 6, 0, State.TooClose)]
    [InlineData(6, 0, 0, 0, State.TooClose)]
    [InlineData(0, 0, 6, 0, State.TooClose)]
    // One miss needs more walks, and does not refuse yet; four in five misses do.
    [InlineData(6, 1, 6, 0, State.TooClose)]
    [InlineData(1, 9, 6, 0, State.Out)]
    [InlineData(6, 0, 2, 18, State.Out)]
    [InlineData(30, 1, 30, 1, State.In)]
    public void WalksAreJudgedByWhatTheyCanShow(int rang, int missed, int silent, int wrong, State state)
    {
        IEnumerable<FormLine> Lines(string word, int count, int from) =>
            Enumerable
                .Range(0, count)
                .Select(i => new FormLine(
                    [new("walk", null, word)],
                    new DateTimeOffset(2026, 10, 14, 14, 0, 0, default).AddMinutes(from + i)
                ));
        var value = new FormValue([
            .. Lines("inside-rang", rang, 0),
            .. Lines("inside-silent", missed, 40),
            .. Lines("outside-silent", silent, 80),
            .. Lines("outside-rang", wrong, 120),
        ]);
        var judged = Of("recorder.zone-walk", value);
        Assert.Equal(state, judged.State);
        if (state == State.TooClose)
        {
            // As many more as it asks for do show it.
            var more = judged.Because.Single(b => b.Code == "walks.more").Args;
            var enough = new FormValue([
                .. value.Lines,
                .. Lines("inside-rang", int.Parse(more[0], CultureInfo.InvariantCulture), 200),
                .. Lines("outside-silent", int.Parse(more[1], CultureInfo.InvariantCulture), 300),
            ]);
            Assert.Equal(State.In, Of("recorder.zone-walk", enough).State);
        }
    }

    private static readonly Gen<WeekSpan[]> Weeks = (
        from day in Gen.Int[1, 7]
        from a in Gen.Int[0, 1439]
        from b in Gen.Int[1, 1440]
        select new WeekSpan(day, Math.Min(a, b - 1), Math.Max(a + 1, b))
    ).Array[0, 12];

    [Fact]
    public void HoursLeftOpenAndHoursThereAreAllHoursWanted() =>
        Gen.Select(Weeks, Weeks)
            .Sample(
                (wanted, there) =>
                {
                    var gaps = WeekHours.Without(wanted, there);
                    static HashSet<int> Minutes(IEnumerable<WeekSpan> spans) =>
                        [.. spans.SelectMany(s => Enumerable.Range(s.From, s.To - s.From).Select(m => s.Day * 10_000 + m))];
                    var expected = Minutes(wanted);
                    expected.ExceptWith(Minutes(there));
                    Assert.True(expected.SetEquals(Minutes(gaps)));
                    Assert.Equal(expected.Count, WeekHours.Minutes(gaps));
                    Assert.Equal(gaps, WeekHours.Together(gaps));
                    Assert.Null(new WeekValue(WeekHours.Together(there), null).Refuse(Check));
                },
                iter: 150
            );

    [Fact]
    public void AWeekIsHeldAgainstTheHoursThatAreWanted()
    {
        var facts = new Facts().With(f => f with { Channels = [new ChannelFacts(Guid.NewGuid(), "R-1", 1)] });
        var row = Card.Judge(facts.Now, Facts.Shipped).Rows.Single(r => r.Check.Id.Value == "recorder.week");
        Attempt Judge(WeekValue value) => Card.Preview(facts.Now, Facts.Shipped, row.Key, value, row.Key.Under, null).Attempt;
        Assert.False(row.Required);
        Assert.Equal(State.In, Judge(new(WeekHours.All)).State);
        var night = Judge(new([.. Enumerable.Range(1, 7).Select(d => new WeekSpan(d, 6 * 60, 22 * 60))]));
        Assert.Equal(State.Out, night.State);
        Assert.Equal(["@day.1", "00:00", "06:00"], night.Because[0].Args);
        Assert.Equal(["10", "56"], night.Because.Single(b => b.Code == "week.gaps").Args);
        // What nobody asked for is told, and refuses nothing.
        var more = Judge(new(WeekHours.All, [new(1, 480, 1080)]));
        Assert.Equal((State.In, true), (more.State, more.Because.Any(b => b.Code == "week.beyond")));
        Assert.Equal(State.Out, Judge(new([])).State);
        string? Refused(WeekValue value) => value.Refuse(row.Check)?.Code;
        Assert.Equal("reading.week", Refused(new([new(0, 0, 10)])));
        Assert.Equal("reading.week", Refused(new([new(1, 10, 10)])));
        Assert.Equal("reading.week", Refused(new([null!])));
        Assert.Equal("reading.week-order", Refused(new([new(2, 0, 10), new(1, 0, 10)])));
        Assert.Equal("reading.week-order", Refused(new([new(1, 0, 10), new(1, 5, 20)])));
        Assert.Equal("reading.week-nothing-wanted", Refused(new([], ImmutableArray<WeekSpan>.Empty)));
    }
}
