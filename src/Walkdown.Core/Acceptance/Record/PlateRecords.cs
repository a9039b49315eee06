using Walkdown.Core.Plates;

namespace Walkdown.Core.Acceptance;

/// <summary>A test drive before a plate reader, as it is agreed. The last one counts.</summary>
public sealed record PlateDrive : CardEvent
{
    /// <summary>The drive.</summary>
    public required DriveDesign Design { get; init; }
}

/// <summary>An own vehicle passed a plate reader, as somebody at the roadside ticked it off.</summary>
public sealed record PlatePassed : CardEvent
{
    /// <summary>The vehicle, as the drive calls it.</summary>
    public required string Vehicle { get; init; }

    /// <summary>Its plate at that time: of who tests, and so kept as text.</summary>
    public required string Plate { get; init; }

    /// <summary>Before it was ticked off, seconds.</summary>
    public double SecondsBefore { get; init; }

    /// <summary>How fast; null: not said.</summary>
    public double? Kmh { get; init; }

    /// <summary>Where; null: one lane, or not said.</summary>
    public string? Lane { get; init; }

    /// <summary>Which way.</summary>
    public TravelWay Way { get; init; }

    /// <summary>When it passed.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public DateTimeOffset PassedAt => At.AddSeconds(-SecondsBefore);
}

/// <summary>Where a list of plates comes from.</summary>
public enum PlateListFrom
{
    /// <summary>The recorder's disk: what will be searched.</summary>
    Recorder,

    /// <summary>A file that was exported from the recorder's disk.</summary>
    File,

    /// <summary>The camera's own page, which forgets: it proves reading, not keeping.</summary>
    CameraPage,
}

/// <summary>A line of a reader's list, as it is kept.</summary>
/// <param name="At">By the list's own clock.</param>
/// <param name="Text">What was written down of an own vehicle, or nearly so; null: of somebody else.</param>
/// <param name="Mark">Of somebody else: the same within this list for the same plate, and nothing outside it; null: an own
/// vehicle's.</param>
public sealed record PlateLine(DateTimeOffset At, string? Text, string? Mark);

/// <summary>The list that a reader made.</summary>
public sealed record PlateList : CardEvent
{
    /// <summary>Most lines that are kept of one list.</summary>
    public const int Most = 5_000;

    /// <summary>Where it comes from.</summary>
    public required PlateListFrom From { get; init; }

    /// <summary>Name of the recorder or the file.</summary>
    public required string Name { get; init; }

    /// <summary>In order of time.</summary>
    public required ImmutableArray<PlateLine> Lines { get; init; }

    /// <summary>That its clock was ahead when it was asked, seconds; null: it was not measured.</summary>
    public double? AheadSeconds { get; init; }

    /// <summary>From here on it has everything, by our clock; null: from the first pass.</summary>
    public DateTimeOffset? Covers { get; init; }
}
