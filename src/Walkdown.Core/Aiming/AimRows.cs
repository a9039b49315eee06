using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Aiming;

/// <summary>What a picture of a head tells the rows of its Card. What is too close to tell is left to whoever looks.</summary>
public static class AimRows
{
    internal static readonly CheckId Off = new("aim.off"),
        Roll = new("fixing.roll"),
        Sway = new("fixing.sway");

    private static readonly CheckId OffAfter = new("aim.off-after"),
        View = new("aim.view"),
        After = new("aim.after"),
        Upright = new("aim.upright"),
        Stable = new("fixing.stable"),
        Hazards = new("aim.hazards");

    /// <summary>Values by the row that each is for.</summary>
    /// <param name="card">Of the camera.</param>
    /// <param name="headId">The head.</param>
    /// <param name="look">What the picture says.</param>
    /// <param name="isLocked">Its screws are tight.</param>
    public static IEnumerable<(PlannedRow Row, ReadingValue Value)> Of(JudgedCard card, Guid headId, AimLook look, bool isLocked)
    {
        foreach (var (check, value) in Told(look, isLocked))
            if (RowOf(card, check, headId) is { } row)
                yield return (row, value);
    }

    /// <summary>What pictures one after another tell of how still it stands.</summary>
    /// <param name="card">Of the camera.</param>
    /// <param name="headId">The head.</param>
    /// <param name="sway">What they say.</param>
    public static IEnumerable<(PlannedRow Row, ReadingValue Value)> Of(JudgedCard card, Guid headId, SwayMeasure sway)
    {
        if (RowOf(card, Sway, headId) is { } figure)
            yield return (figure, new NumberValue(Math.Round(sway.SwayPercent, 2), Unit.Percent));
        if (sway.Says is { } word && RowOf(card, Stable, headId) is { } row)
            yield return (row, new ChoiceValue(word));
    }

    /// <summary>What a lamp or a mirror tells of what harms the view, beside what was said of the rest; empty: nothing.</summary>
    /// <param name="card">Of the camera.</param>
    /// <param name="headId">The head.</param>
    /// <param name="light">What was touched.</param>
    public static IEnumerable<(PlannedRow Row, ReadingValue Value)> Of(JudgedCard card, Guid headId, TouchedLight light)
    {
        if (
            RowOf(card, Hazards, headId) is { } row
            && light.Value(card.Card.Rows.First(r => r.Key == row.Key).Counting?.Value as ItemsValue) is { } value
        )
            yield return (row, value);
    }

    /// <summary>The row of a head, or of its place; null: the Card asks for none.</summary>
    public static PlannedRow? RowOf(JudgedCard card, CheckId check, Guid headId)
    {
        foreach (var row in card.Plan)
            if (row.Check.Id == check && (row.Key.On.Kind == SubjectKind.Place || row.Key.On.Id == headId))
                return row;
        return null;
    }

    private static IEnumerable<(CheckId Check, ReadingValue Value)> Told(AimLook look, bool isLocked)
    {
        if (look.Measured is { } measured)
        {
            yield return (isLocked ? OffAfter : Off, Degrees(measured.OffDeg));
            if (measured.Off != Outcome.TooClose)
                yield return (isLocked ? After : View, new YesNoValue(measured.Off == Outcome.In));
            // What has to be turned clockwise hangs against the clock.
            yield return (Roll, Degrees(-measured.RollDeg));
        }
        if (look.Stands != Orientation.Undecided)
            yield return (
                Upright,
                new ChoiceValue(
                    look.Stands switch
                    {
                        Orientation.AsReference => "upright",
                        Orientation.UpsideDown => "upside-down",
                        _ => "mirrored",
                    }
                )
            );
    }

    private static NumberValue Degrees(double value) => new(Math.Round(value, 2), Unit.Degree);
}
