namespace Walkdown.Core.Acceptance;

/// <summary>
/// What has to pass or to be there before a row can be taken; one of: time after a reading or work (sealant that cures, a housing that
/// cools), the dark, a recorder that is up, or something that a person says is there (a second person, the permanent feed).
/// </summary>
public sealed record Wait
{
    /// <summary>The check whose reading begins it.</summary>
    public CheckId? After { get; init; }

    /// <summary>The kind of work that begins it.</summary>
    public string? AfterAct { get; init; }

    /// <summary>The figure of the limit set that says how many minutes, where time has to pass; of the dark: how long after dusk.</summary>
    public string? Minutes { get; init; }

    /// <summary>It waits for the dark at the site.</summary>
    public bool Dark { get; init; }

    /// <summary>A check that must count on the Card of the recorder that shows the device.</summary>
    public CheckId? Recorder { get; init; }

    /// <summary>Id of what a person has to say is there (<see cref="Catalogues.Presence"/>).</summary>
    public string? Presence { get; init; }

    /// <summary>The first day at the site on which it can be taken.</summary>
    public DateOnly? From { get; init; }

    /// <summary>The last day at the site on which it can be taken.</summary>
    public DateOnly? To { get; init; }

    /// <summary>How many of its sorts it names: a wait names one.</summary>
    internal int Sorts =>
        (After is not null || AfterAct is not null ? 1 : 0)
        + (Dark ? 1 : 0)
        + (Recorder is not null ? 1 : 0)
        + (Presence is not null ? 1 : 0)
        + (From is not null || To is not null ? 1 : 0);
}
