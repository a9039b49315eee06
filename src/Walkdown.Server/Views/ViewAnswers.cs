using System.Collections.Immutable;
using Walkdown.Core.Aiming;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;

namespace Walkdown.Server.Views;

/// <summary>A view that was kept, with what it gives.</summary>
/// <param name="Design">The view.</param>
/// <param name="AgreedBy">Who agreed to it; null: nobody yet.</param>
/// <param name="At">When it was kept.</param>
/// <param name="By">Who kept it.</param>
/// <param name="PictureId">The picture of it that was agreed; null: the view alone was.</param>
public sealed record KeptView(ViewDesign Design, string? AgreedBy, DateTimeOffset At, Guid By, Guid? PictureId);

/// <summary>A head and its view.</summary>
/// <param name="Id">Of the head.</param>
/// <param name="Number">From 1.</param>
/// <param name="Last">The last one that was kept; one at most.</param>
/// <param name="Agreed">The last one that was agreed: what the Card expects; one at most.</param>
/// <param name="Begin">Where to begin: the last one, else what schedule and model say.</param>
/// <param name="Figures">What that gives.</param>
/// <param name="Kept">How many were kept.</param>
public sealed record HeadView(
    Guid Id,
    int Number,
    ImmutableArray<KeptView> Last,
    ImmutableArray<KeptView> Agreed,
    ViewDesign Begin,
    ViewFigures Figures,
    int Kept
);

/// <summary>What the model can do; null where its sheet does not say.</summary>
public sealed record ViewModel(
    string Name,
    int? PixelsWide,
    int? PixelsHigh,
    double? WidestDeg,
    double? NarrowestDeg,
    double? TiltLeast,
    double? TiltMost,
    bool HasInfrared
);

/// <summary>Planned views of a device.</summary>
/// <param name="Label">Of the place.</param>
/// <param name="Name">Of the place.</param>
/// <param name="Heads">In order.</param>
/// <param name="Model">What it is.</param>
/// <param name="Edition">Whose levels the figures are by.</param>
/// <param name="Uses">That mounting rules are known for.</param>
/// <param name="Joins">Where views of neighbouring heads meet.</param>
public sealed record ViewsAnswer(
    string Label,
    string Name,
    ImmutableArray<HeadView> Heads,
    ViewModel Model,
    DetailEdition Edition,
    ImmutableArray<string> Uses,
    HeadJoins Joins
);

/// <summary>A view to be tried; nothing is kept.</summary>
/// <param name="Design">The view.</param>
/// <param name="Edition">Whose levels.</param>
public sealed record TryViewRequest(ViewDesign Design, DetailEdition Edition = DetailEdition.Edition2014);

/// <summary>Sun in a view, of a year.</summary>
/// <param name="Year">By the site's standard time.</param>
/// <param name="Place">Where the zone puts the site, where nobody has said where it is; null: somebody has.</param>
/// <param name="InView">Periods with the sun in the picture.</param>
/// <param name="InGuard">Periods with the sun in the picture or so near that it dazzles.</param>
/// <param name="Days">Of the year with the sun in the picture or near it.</param>
/// <param name="DaysInView">How many have it in the picture.</param>
/// <param name="Next">The next day with the sun in the picture, from today on; one at most.</param>
public sealed record GlareAnswer(
    int Year,
    string? Place,
    ImmutableArray<GlarePeriod> InView,
    ImmutableArray<GlarePeriod> InGuard,
    ImmutableArray<GlareDay> Days,
    int DaysInView,
    ImmutableArray<GlareDay> Next
);
