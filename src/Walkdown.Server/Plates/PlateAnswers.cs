using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Plates;

namespace Walkdown.Server.Plates;

/// <summary>A row that a drive answers.</summary>
/// <param name="Row">Of the Card.</param>
/// <param name="Check">Of the row.</param>
/// <param name="Lines">What it would be told.</param>
/// <param name="State">How it would be judged.</param>
/// <param name="IsKept">The Card has just that.</param>
public sealed record DriveRow(string Row, CheckId Check, ImmutableArray<FormLine> Lines, State State, bool IsKept);

/// <summary>A test drive before a plate reader.</summary>
/// <param name="Label">Of the place.</param>
/// <param name="Name">Of the place.</param>
/// <param name="IsReader">It reads plates at all.</param>
/// <param name="Recorder">That has its list; empty: none is known.</param>
/// <param name="CanAsk">Recorders answer here.</param>
/// <param name="Trial">What was driven, and what came of it.</param>
/// <param name="Begin">Where to begin with a drive: the last one, or what is usual.</param>
/// <param name="Setting">How camera and lane lie and the reader is set: by its row, else where to begin.</param>
/// <param name="Geometry">What a plate is in the picture, by its row; one at most.</param>
/// <param name="GeometryRow">The row; null: the Card has none.</param>
/// <param name="Rows">That it answers.</param>
/// <param name="View">The zone in the agreed view; null: none is agreed.</param>
/// <param name="Picture">The agreed picture, by its id; null: the view alone was agreed.</param>
/// <param name="Now">By the server's clock.</param>
public sealed record PlatesAnswer(
    string Label,
    string Name,
    bool IsReader,
    string Recorder,
    bool CanAsk,
    PlateTrial Trial,
    DriveDesign Begin,
    PlateSetting Setting,
    ImmutableArray<PlateSeen> Geometry,
    string? GeometryRow,
    ImmutableArray<DriveRow> Rows,
    PlateView? View,
    Guid? Picture,
    DateTimeOffset Now
);

/// <summary>What would a plate be in the picture? Nothing is kept.</summary>
/// <param name="Setting">As it is tried.</param>
public sealed record TryGeometryRequest(PlateSetting Setting);

/// <summary>What a plate would be in the picture.</summary>
/// <param name="Seen">What it is.</param>
/// <param name="Lines">As its row would be told.</param>
public sealed record GeometryTried(PlateSeen Seen, ImmutableArray<FormLine> Lines);

/// <summary>Has the list from the recorder's disk.</summary>
/// <param name="By">Who asks.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
public sealed record AskPlatesRequest(Guid By, DateTimeOffset TakenAt, double ClockOffsetMs) : IAsked;

/// <summary>A list from a file.</summary>
/// <param name="By">Who has it.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
/// <param name="Name">Of the file.</param>
/// <param name="From">Where it was exported.</param>
/// <param name="File">Its bytes; nothing of them is kept but own plates and times.</param>
public sealed record PlateFileRequest(Guid By, DateTimeOffset TakenAt, double ClockOffsetMs, string Name, PlateListFrom From, byte[] File)
    : IAsked;
