using System.Collections.Immutable;
using CsCheck;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;

namespace Walkdown.Core.Tests;

/// <summary>Views that are planned: what they give, what they refuse, and what an agreed one makes a Card expect.</summary>
public sealed class ViewDesignTests
{
    private static readonly ViewTarget Gate = new("Person at the gate", 10, 0, 1.6, DetailLevel.Observe);

    private static ViewDesign View(double tilt = 25, params ImmutableArray<ViewTarget> targets) =>
        new(3.5, tilt, 90, 1920, 1080, null, targets);

    private static ViewRules Rules(double? infrared = null) =>
        new(null, infrared, true, p => Aiming.MountingRule.Of(p, Facts.Shipped.Figure));

    [Fact]
    public void ADetailIsTheWorkedCaseWhereTheCameraAimsAtIt()
    {
        // K2: 1920 px, 90 deg, camera 3.5 m, face 1.6 m, 10 m: 94.3 px/m.
        var aimed = Math.Atan2(3.5 - 1.6, 10) * 180 / Math.PI;
        var told = ViewFigures.Of(View(aimed, Gate), DetailEdition.Edition2014).Targets[0];
        Assert.Equal(94.3, told.PixelsPerMetre!.Value, 0.05);
        Assert.Equal(DetailLevel.Observe, told.Level);
        Assert.True(told.Holds);
        Assert.Equal(94.3 - 62.5, told.SparePerMetre!.Value, 0.05);
    }

    [Fact]
    public void OneTiltForAllIsWhatEachTiltSays()
    {
        Gen.Select(Gen.Double[2, 9], Gen.Double[0, 80], Gen.Double[15, 110], Gen.Double[1, 40], Gen.Double[0.2, 1.9], Gen.Double[0.5, 8])
            .Sample(
                (height, tilt, field, ground, top, near) =>
                {
                    var view = new ViewDesign(
                        height,
                        tilt,
                        field,
                        2560,
                        1440,
                        null,
                        [new("board", ground, 0, top, DetailLevel.Monitor)],
                        NearMetres: near,
                        Use: "analytics"
                    );
                    var told = ViewFigures.Of(view, DetailEdition.Edition2014, Rules());
                    var all = told.Tilts.All(t => t.Holds);
                    var inside = tilt >= told.TiltLeast - 1e-9 && tilt <= told.TiltMost + 1e-9;
                    Assert.Equal(inside, all);
                    // The window of the target is where its top and foot are in the picture.
                    var whole = told.Tilts.Single(t => t.What.Code == "view.tilt.target");
                    Assert.Equal(whole.Holds, told.Targets[0].IsTopIn && told.Targets[0].IsFootIn);
                    // The window of the ground is where its edge is as near.
                    var edge = told.Tilts.Single(t => t.What.Code == "view.tilt.near");
                    Assert.Equal(edge.Holds, told.Ground.NearMetres is { } from && (from <= near + 1e-6 || told.Ground.SeesStraightDown));
                },
                iter: 400
            );
    }

    [Fact]
    public void BandsLieEndToEndAndGetCoarser()
    {
        Gen.Select(Gen.Double[2, 12], Gen.Double[5, 85], Gen.Double[10, 120])
            .Sample(
                (height, tilt, field) =>
                {
                    var told = ViewFigures.Of(new(height, tilt, field, 3840, 2160, null, []), DetailEdition.Edition2025);
                    for (var i = 1; i < told.Bands.Length; i++)
                    {
                        Assert.Equal(told.Bands[i - 1].ToMetres, told.Bands[i].FromMetres);
                        Assert.True(told.Bands[i].PerMetre < told.Bands[i - 1].PerMetre);
                    }
                    if (told.Ground.FarMetres is { } far)
                        Assert.Equal(far, told.Bands[^1].ToMetres, 1e-6);
                },
                iter: 200
            );
    }

    [Theory]
    [InlineData(-40, "view.note.sky")]
    [InlineData(5, "view.note.horizon")]
    [InlineData(85, "view.note.out")]
    public void SaysWhatIsWrongWithATilt(double tilt, string note) =>
        Assert.Contains(ViewFigures.Of(View(tilt, Gate with { GroundMetres = 30 }), DetailEdition.Edition2014).Notes, n => n.Code == note);

    [Fact]
    public void WhatIsMissingOfDetailIsSaidWithTheFieldThatWouldDo()
    {
        var far = Gate with { GroundMetres = 40 };
        var view = View(15, far);
        var note = ViewFigures.Of(view, DetailEdition.Edition2014).Notes.Single(n => n.Code == "view.note.detail");
        var field = double.Parse(note.Args[3], System.Globalization.CultureInfo.InvariantCulture);
        var again = ViewFigures.Of(view with { HorizontalDeg = field - 0.1 }, DetailEdition.Edition2014);
        Assert.True(again.Targets[0].SparePerMetre >= 0);
    }

    [Fact]
    public void PurposesThatExcludeEachOtherAreSaid()
    {
        var told = ViewFigures.Of(View(30, Gate) with { Use = "counting" }, DetailEdition.Edition2014, Rules());
        Assert.True(told.IsTiltImpossible);
        Assert.Contains(told.Notes, n => n.Code == "view.note.no-tilt");
    }

    /// <summary>A company that sets another greatest tilt for analytics finds it at the view as it does on the Card.</summary>
    [Fact]
    public void APurposeAsksWhatTheLimitSetSays()
    {
        var rules = new ViewRules(
            null,
            null,
            true,
            p => Aiming.MountingRule.Of(p, f => f == "tilt.analytics-most" ? 35 : Facts.Shipped.Figure(f))
        );
        var need = ViewFigures.Of(View(40, Gate) with { Use = "analytics" }, DetailEdition.Edition2014, rules).Tilts[0];
        Assert.Equal((10, 35, false), (need.Least, need.Most, need.Holds));
    }

    public static TheoryData<string, ViewDesign> Refused() =>
        new()
        {
            { "heightMetres", View() with { HeightMetres = 0 } },
            { "heightMetres", View() with { HeightMetres = double.NaN } },
            { "tiltDeg", View() with { TiltDeg = 91 } },
            { "horizontalDeg", View() with { HorizontalDeg = 180 } },
            { "pixelsWide", View() with { PixelsWide = 0 } },
            { "azimuthDeg", View() with { AzimuthDeg = -1 } },
            { "nearMetres", View() with { NearMetres = double.PositiveInfinity } },
            { "use", View() with { Use = "@problem.text-missing" } },
            { "targets", View() with { Targets = default } },
            { "targets", View(25, [.. Enumerable.Repeat(Gate, ViewDesign.MostTargets + 1)]) },
            { "targets", View(25, Gate with { Name = " " }) },
            { "targets", View(25, Gate with { GroundMetres = 0, HeightMetres = 3.5 }) },
            { "groundMetres", View(25, Gate with { GroundMetres = -1 }) },
            { "focusMetres", View() with { Focus = new(6, 1.6, 0.001, 3) } },
        };

    [Theory]
    [MemberData(nameof(Refused))]
    public void RefusesWhatNoCameraCanBe(string field, ViewDesign view) => Assert.Equal(field, view.Refuse()?.Field);

    [Fact]
    public void WhatIsNotRefusedIsWorkedOutWhateverItIs()
    {
        Gen.Select(
                Gen.Double[-10, 210],
                Gen.Double[-95, 95],
                Gen.Double[-1, 175],
                Gen.Int[0, 21_000],
                Gen.Double[-1, 2100],
                Gen.Double[-1, 101],
                Gen.Enum<DetailLevel>()
            )
            .Sample(
                (height, tilt, field, pixels, ground, top, level) =>
                {
                    var view = new ViewDesign(height, tilt, field, pixels, pixels, null, [new("it", ground, 3, top, level)], 2, "faces");
                    if (view.Refuse() is null)
                        Assert.NotNull(ViewFigures.Of(view, DetailEdition.Edition2014, Rules(10)));
                },
                iter: 2000
            );
    }

    [Fact]
    public void AnAgreedViewIsWhatTheCardExpects()
    {
        var facts = new Facts().Now with { Heads = [new(Guid.NewGuid(), 1)] };
        var head = facts.Heads[0].Id;
        var view = View(24, Gate with { Level = DetailLevel.Recognise });
        PlannedView Kept(long at, string? by) =>
            new()
            {
                Id = Guid.CreateVersion7(),
                By = Guid.NewGuid(),
                At = facts.Now.AddMinutes(at),
                Sequence = at,
                HeadId = head,
                Design = view with { TiltDeg = 20 + at },
                AgreedBy = by,
            };
        CardRow Row(string check, params CardEvent[] events) =>
            Card.Judge(facts with { Events = [.. facts.Events, .. events] }, Facts.Shipped).Rows.First(r => r.Check.Id.Value == check);

        Assert.Null(Row("fixing.tilt").Expected?.Value);
        // A plan that nobody agreed to expects nothing; after an agreed one, what is talked about changes nothing.
        Assert.Null(Row("fixing.tilt", Kept(3, null)).Expected?.Value);
        Assert.Equal(24, Row("fixing.tilt", Kept(3, null), Kept(4, "Odile Farrow"), Kept(5, null)).Expected?.Value?.Value);
        Assert.Contains(Row("fixing.tilt", Kept(4, "Odile Farrow")).Window!.Parts, p => p.Id == "tilt.agreed");
        var detail = Row("aim.detail", Kept(4, "Odile Farrow"));
        Assert.Equal(125, detail.Window!.Min);
        Assert.InRange(detail.Expected!.Value!.Value.Value, 80, 110);
        Assert.Equal(3.5, Row("fixing.height", Kept(4, "Odile Farrow")).Expected?.Value?.Value);
    }
}
