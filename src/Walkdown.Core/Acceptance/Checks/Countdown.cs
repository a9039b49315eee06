namespace Walkdown.Core.Acceptance;

/// <summary>A window of time that something has to be done in, such as the joining of two radios, and that is begun again where it
/// was not.</summary>
public sealed record Countdown
{
    /// <summary>The figure of the catalogue that says how long it is open, seconds.</summary>
    public required string Figure { get; init; }

    /// <summary>The field of the form that counts how often it was begun; null: nobody counts.</summary>
    public string? Field { get; init; }
}
