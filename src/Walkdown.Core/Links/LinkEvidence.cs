using Walkdown.Core.Acceptance;
using Walkdown.Core.Topics;
using static Walkdown.Core.Diagnosis.Telling;

namespace Walkdown.Core.Links;

/// <summary>What on a Card speaks for a cause in the link.</summary>
internal static class LinkEvidence
{
    /// <summary>By the names that causes of the catalogue give.</summary>
    public static readonly ImmutableArray<EvidenceFunction> All =
    [
        new(
            "lossy-link",
            (c, a) =>
                a.State == State.Out && c.MeasuredMap is { IsStraight: false } m ? new("evidence.map-is-out", Pins(m))
                : a.State == State.Out ? new("evidence.loss")
                : null
        )
        {
            LeansOn = Rows.Map,
        },
        new(
            "missing-pairs",
            (c, a) => c.MeasuredMap is { IsStraight: false } m && a.Value is ChoiceValue ? new("evidence.map-is-out", Pins(m)) : null
        )
        {
            LeansOn = Rows.Map,
        },
        new(
            "hidden-pairs",
            (c, a) =>
                a.State == State.Out && c.MeasuredMap is null or { IsStraight: true } && a.Value is ChoiceValue { Choice: "100" }
                    ? new("evidence.suspect-pairs")
                    : null
        )
        {
            LeansOn = Rows.Map,
        },
        new("no-power-or-port", (c, a) => a.Value is ChoiceValue { Choice: "none" } ? new("evidence.no-link") : null),
    ];
}
