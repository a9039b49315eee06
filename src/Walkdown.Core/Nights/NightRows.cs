using Walkdown.Core.Acceptance;
using Walkdown.Core.Aiming;

namespace Walkdown.Core.Nights;

/// <summary>What a picture in the dark tells the row of the night. Whether a purpose is met at its distance is for whoever sees a person
/// stand there.</summary>
public static class NightRows
{
    private static readonly CheckId Picture = new("night.picture"),
        Switch = new("night.switch");

    /// <summary>The row of a head and its value; none where nothing tells.</summary>
    public static IEnumerable<(PlannedRow Row, ReadingValue Value)> Of(JudgedCard card, Guid headId, NightLook look)
    {
        if (AimRows.RowOf(card, Picture, headId) is { } row && Says(look) is { } word)
            yield return (row, new ChoiceValue(word));
        if (look.Switch?.Says is { } switched && AimRows.RowOf(card, Switch, headId) is { } over)
            yield return (over, new ChoiceValue(switched));
    }

    /// <summary>The word of the row; null: nothing tells.</summary>
    public static string? Says(NightLook look) =>
        look.State switch
        {
            NightState.Black => "black",
            NightState.Soft => "soft",
            NightState.Noise => "noise",
            NightState.Clear => "clear",
            NightState.Veiled => look.Reasons.IsEmpty
                ? "fog"
                : look.Reasons[0].Reason switch
                {
                    VeilReason.Foam or VeilReason.Rim => "ring",
                    VeilReason.Wall or VeilReason.Finger => "spot",
                    _ => "fog",
                },
            _ => null,
        };
}
