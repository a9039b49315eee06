using Walkdown.Core.Acceptance;

namespace Walkdown.Devices;

/// <summary>A port as its switch or injector knows it.</summary>
/// <param name="Cabinet">The label of where it is.</param>
/// <param name="Number">From 1.</param>
public sealed record PortName(string Cabinet, int Number);

/// <summary>A channel as its recorder knows it.</summary>
/// <param name="Recorder">The label of the recorder.</param>
/// <param name="Number">From 1.</param>
public sealed record ChannelName(string Recorder, int Number);

/// <summary>One check of one place, asked of a source of measurements.</summary>
/// <param name="Check">What is to be read.</param>
/// <param name="Label">Of the run, where the check is of a run; else of the place.</param>
/// <param name="Port">Where the run ends at the other side; null where it ends at no port.</param>
/// <param name="Address">The device's address by the register; null where none is known.</param>
/// <param name="Under">Condition that the row is of.</param>
public sealed record SourceQuestion(CheckDefinition Check, string Label, PortName? Port, string? Address, Condition Under)
{
    /// <summary>The first channel that the place has; null where it has none.</summary>
    public ChannelName? Channel { get; init; }

    /// <summary>The question for a row of a Card.</summary>
    public static SourceQuestion Of(CardFacts facts, PlannedRow row)
    {
        var run = facts.Runs.FirstOrDefault(r => r.Id == row.Key.On.Id) ?? facts.Runs.FirstOrDefault();
        return new SourceQuestion(
            row.Check,
            row.Key.On.Kind == SubjectKind.Run && run is not null ? run.Label : facts.Place.Label,
            run?.Port is { } port ? new PortName(port.Cabinet, port.Number) : null,
            facts.Place.Address,
            row.Key.Under
        )
        {
            Channel = facts.Channels.FirstOrDefault() is { } channel ? new(channel.Recorder, channel.Number) : null,
        };
    }
}
