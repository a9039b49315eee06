using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Plates;

/// <summary>A pass that was driven, and what became of it.</summary>
/// <param name="Id">Of its entry.</param>
/// <param name="Number">From 1, in order of time.</param>
/// <param name="Vehicle">Who drove.</param>
/// <param name="Plate">That it has.</param>
/// <param name="At">When it passed.</param>
/// <param name="IsNight">It was dark; null: nobody can say when it is dark here.</param>
/// <param name="Kmh">How fast; null: not said.</param>
/// <param name="Lane">Where; null: not said.</param>
/// <param name="Way">Which way.</param>
/// <param name="Outcome">What became of it.</param>
/// <param name="Read">What was written down; null: nothing, or what cannot be shown.</param>
/// <param name="OffSeconds">That its record came late.</param>
/// <param name="Slips">Characters that are wrong.</param>
public sealed record TrialPass(
    Guid Id,
    int Number,
    string Vehicle,
    string Plate,
    DateTimeOffset At,
    bool? IsNight,
    double? Kmh,
    string? Lane,
    TravelWay Way,
    PassOutcome Outcome,
    string? Read,
    double? OffSeconds,
    ImmutableArray<PlateSlip> Slips
);

/// <summary>Passes of one sort, counted.</summary>
/// <param name="Of">Code of what they have in common: <c>drive.of.day</c>, or <c>drive.of.vehicle</c> and the like with its name.</param>
/// <param name="Passes">Driven.</param>
/// <param name="Counted">Of them say something of the reader.</param>
/// <param name="Right">Read right.</param>
/// <param name="Misread">Written down wrong.</param>
/// <param name="Missed">Not written down.</param>
/// <param name="Hidden">By the same-plate rule, or too near to its end to tell.</param>
/// <param name="Rate">With its interval; null: nothing counts yet.</param>
/// <param name="More">So many more, all right, would show what is asked; 0: it is shown, null: it is shown that it does not.</param>
public sealed record TrialCount(
    Message Of,
    int Passes,
    int Counted,
    int Right,
    int Misread,
    int Missed,
    int Hidden,
    ReadRate? Rate,
    int? More
);

/// <summary>A list beside the drive.</summary>
/// <param name="Id">Of its entry.</param>
/// <param name="From">Where it comes from.</param>
/// <param name="Name">Of the recorder or the file.</param>
/// <param name="TakenAt">When it was taken.</param>
/// <param name="Records">Lines that it has.</param>
/// <param name="Own">Of them of own vehicles.</param>
/// <param name="Doubles">That write the same pass down again.</param>
/// <param name="Unticked">Of own vehicles when nobody ticked them off.</param>
/// <param name="Others">Of somebody else, or no plate at all.</param>
/// <param name="OthersAgain">Of them one that was written down moments before.</param>
/// <param name="Clock">Of the list against the roadside's; null: they cannot be brought together.</param>
/// <param name="MeasuredAheadSeconds">As the clock was asked; null: it was not.</param>
public sealed record TrialList(
    Guid Id,
    PlateListFrom From,
    string Name,
    DateTimeOffset TakenAt,
    int Records,
    int Own,
    int Doubles,
    int Unticked,
    int Others,
    int OthersAgain,
    ListClock? Clock,
    double? MeasuredAheadSeconds
);

/// <summary>A line of the list as it may be shown: own vehicles with their text, others without.</summary>
/// <param name="At">By our clock, once the clocks are brought together.</param>
/// <param name="Text">Of an own vehicle; null: somebody else's.</param>
/// <param name="Fate">What became of it.</param>
/// <param name="Pass">The number of its pass; null: none.</param>
public sealed record TrialLine(DateTimeOffset At, string? Text, LineFate Fate, int? Pass);
