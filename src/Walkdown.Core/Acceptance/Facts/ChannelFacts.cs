using Walkdown.Core.Catalogues;

namespace Walkdown.Core.Acceptance;

/// <param name="RecorderFirmware">Version last read at the recorder, where it was.</param>
/// <param name="Id">Its id.</param>
/// <param name="Number">From 1.</param>
/// <param name="Recorder">The recorder's label.</param>
public sealed record ChannelFacts(Guid Id, string Recorder, int Number, string? RecorderFirmware = null)
{
    /// <summary>What says which version the recorder runs; where it is given, that decides.</summary>
    public CardFacts? RecorderFacts { get; init; }

    /// <summary>Version of the recorder by the reading that counts there; null where none does.</summary>
    internal string? FirmwareThatCounts(Catalogue catalogue) =>
        RecorderFacts is not { } facts ? RecorderFirmware
        : new CountingReadings(facts, catalogue).Value(KnownChecks.Firmware, new Subject(SubjectKind.Place, facts.Place.Id))
            is TextValue text
            ? text.Text
        : null;
}
