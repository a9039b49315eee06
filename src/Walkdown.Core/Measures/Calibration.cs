namespace Walkdown.Core.Measures;

/// <summary>Whether a reading taken on a day counts (docs/calculations.md, P): the due day is included.</summary>
public static class Calibration
{
    /// <param name="DaysLeft">Whole days from the test to the due day; null without a record.</param>
    /// <param name="Status">Whether it holds.</param>
    public readonly record struct State(CalibrationStatus Status, int? DaysLeft)
    {
        /// <summary>Readings of it count.</summary>
        public bool Counts => Status is CalibrationStatus.Valid or CalibrationStatus.DueSoon;
    }

    /// <exception cref="BadInputException">A from-date without a due date, or dates the wrong way round.</exception>
    public static State On(DateOnly testDate, DateOnly? calibratedOn, DateOnly? due, int warnDays = 30)
    {
        Require.Number(warnDays, "warn_days", 0);
        if (due is not { } until)
            return calibratedOn is null
                ? new State(CalibrationStatus.NoRecord, null)
                : throw new BadInputException(BadInputReason.Missing, "calibration_due");
        if (calibratedOn is { } start)
            Require.Consistent(start <= until, "calibration_due");
        var left = until.DayNumber - testDate.DayNumber;
        var status =
            calibratedOn is { } from && testDate < from ? CalibrationStatus.TestBeforeCalibration
            : left < 0 ? CalibrationStatus.Expired
            : left <= warnDays ? CalibrationStatus.DueSoon
            : CalibrationStatus.Valid;
        return new State(status, left);
    }
}
