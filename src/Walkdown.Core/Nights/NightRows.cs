using Walkdown.Core.Acceptance;
using Walkdown.Core.Aiming;

namespace Walkdown.Core.Nights;

/// <summary>What a picture in the dark tells the row of the night. Whether a purpose is met at its distance is for whoever sees a person
/// stand there.</summary>
public static class NightRows
{
    private static readonly CheckId Picture = new("night.picture"),
        Switch = new("night.switch"),
        Lamp = new("light.white");

    /// <summary>Its camera has a white light, as far as its Card asks for one.</summary>
    public static bool HasWhiteLight(JudgedCard card, Guid headId) => AimRows.RowOf(card, Lamp, headId) is not null;

    /// <summary>The row of a head and its value; none where nothing tells.</summary>
    public static IEnumerable<(PlannedRow Row, ReadingValue Value)> Of(JudgedCard card, Guid headId, NightLook look)
    {
        if (AimRows.RowOf(card, Picture, headId) is { } row && Says(look) is { } word)
            yield return (row, new ChoiceValue(word));
        if (look.Switch?.Says is { } switched && AimRows.RowOf(card, Switch, headId) is { } over)
            yield return (over, new ChoiceValue(switched));
        if (look.Lamp is { } lamp && AimRows.RowOf(card, Lamp, headId) is { } light && Said(card, light, lamp) is { } form)
            yield return (light, form);
    }

    /// <summary>What pictures say of its white light, beside what was said of it before that no picture shows; null: nothing tells.</summary>
    private static FormValue? Said(JudgedCard card, PlannedRow row, LampTold lamp)
    {
        (string Field, string? Word)[] seen = [("movement", lamp.Movement), ("colour", lamp.Colour), ("still", lamp.Still)];
        if (seen.All(s => s.Word is null))
            return null;
        var before = card.Card.Rows.First(r => r.Key == row.Key).Counting?.Value is FormValue { Lines: [var line] }
            ? line
            : new FormLine([]);
        var told = seen.Select(s => s.Word is null ? before.Of(s.Field) : new FieldSaid(s.Field, Word: s.Word)).OfType<FieldSaid>();
        var others = before.Said.Where(s => seen.All(n => n.Field != s.Field));
        return new([new([.. told, .. others])]);
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
