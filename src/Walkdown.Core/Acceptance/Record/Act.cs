using Walkdown.Core.Cabling;

namespace Walkdown.Core.Acceptance;

/// <summary>A repair, a swap, a re-crimp: work after which some readings no longer count.</summary>
public sealed record Act : CardEvent
{
    /// <summary>Id in the catalogue, such as <c>re-crimp</c>.</summary>
    public required string ActKind { get; init; }

    /// <summary>What was worked on.</summary>
    public required Subject On { get; init; }

    /// <summary>Which end of the run; null: not asked.</summary>
    public CableEnd? End { get; init; }

    /// <summary>In own words; null: none.</summary>
    public string? Text { get; init; }

    /// <summary>Serial number of the new unit, where one was fitted.</summary>
    public string? NewSerial { get; init; }

    /// <summary>The Fault that it is a repair of.</summary>
    public Guid? FaultId { get; init; }
}
