using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Server.Cards;

/// <summary>A run as the Card's head shows it.</summary>
public sealed record CardRun(Guid Id, string Label, string? Port, string Scheme, double PlannedMetres);

public sealed record CardPlace(
    Guid Id, Guid JobId, string Label, string Name, string Area, string Kind, string Model, string? Serial, string? Address, int? PowerClass,
    ImmutableArray<CardRun> Runs, ImmutableArray<string> Channels, bool Infrared);

/// <summary>A word added to a Fault.</summary>
public sealed record FaultWord(Guid FaultId, string Text, Guid By, DateTimeOffset At);

/// <summary>The judged Card with its place.</summary>
public sealed record CardAnswer(CardPlace Place, Card Card, ImmutableArray<FaultWord> FaultWords, long Sequence);

/// <summary>A row as it would be judged; nothing was kept.</summary>
public sealed record PreviewAnswer(ReadingValue? Value, State? State, Spare? Spare, double? HalfWidth, ImmutableArray<Message> Because, Core.Cabling.WireMapAnalysis? Map, Message? Refused);

/// <summary>What the tester reads now, row by row; nothing was kept.</summary>
public sealed record TesterAnswer(string? Serial, ImmutableArray<TesterRow> Rows);

public sealed record TesterRow(string Row, ReadingValue Value);
