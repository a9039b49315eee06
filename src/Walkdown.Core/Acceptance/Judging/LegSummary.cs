namespace Walkdown.Core.Acceptance;

/// <summary>A leg of the signal path: the worst of its checks.</summary>
/// <param name="TightestRow">The row of that state with the smallest spare as a share of its span.</param>
/// <param name="Leg">The leg.</param>
/// <param name="State">The state.</param>
/// <param name="Taken">Rows that are taken.</param>
/// <param name="Total">Rows in all.</param>
/// <param name="IsAsked">Something of it is required, be it exempted by name; else the acceptance says nothing of it.</param>
public sealed record LegSummary(Leg Leg, State State, int Taken, int Total, string? TightestRow, bool IsAsked)
{
    /// <summary>Rows that are due and cannot be taken yet.</summary>
    public int Waiting { get; init; }
}
