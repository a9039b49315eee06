using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>An instrument with the accuracy of each of its functions by range, its calibration and its reference checks on site.</summary>
public sealed record Instrument(
    Guid Id,
    string Name,
    string Serial,
    ImmutableArray<InstrumentFunction> Functions,
    DateOnly? CalibratedOn,
    DateOnly? CalibrationDue,
    ImmutableArray<FieldCheck> Checks,
    ImmutableArray<CalibrationPeriod> Earlier
)
{
    /// <summary>Id of its kind; empty: not known.</summary>
    public string Kind { get; init; } = "";

    /// <summary>What is on record of it cannot be read: nothing that it reads can be leaned on.</summary>
    public bool Unreadable { get; init; }

    /// <summary>Taken out of use; what it read before stands.</summary>
    public DateTimeOffset? RetiredAt { get; init; }

    /// <summary>Whether a reading of this day counts: some calibration held on it.</summary>
    public bool CalibratedAt(DateOnly day)
    {
        if (Calibration.On(day, CalibratedOn, CalibrationDue).Counts)
            return true;
        foreach (var period in Earlier)
            if (Calibration.On(day, period.From, period.Until).Counts)
                return true;
        return false;
    }

    /// <summary>Accuracy at a reading; null where the data sheet gives none for the unit or beyond its ranges.</summary>
    public Accuracy? AccuracyAt(Unit unit, double reading)
    {
        InstrumentFunction? best = null;
        foreach (var function in Functions)
            if (
                function.Unit == unit
                && (function.UpTo is not { } most || Math.Abs(reading) <= most)
                && (best is null || (function.UpTo ?? double.MaxValue) < (best.UpTo ?? double.MaxValue))
            )
                best = function;
        return best?.Accuracy;
    }

    /// <summary>What is wrong with its functions, by the position of the first that cannot be; null where all can.</summary>
    public static int? BadFunction(ImmutableArray<InstrumentFunction> functions)
    {
        for (var i = 0; i < functions.Length; i++)
            if (
                functions[i] is not { Accuracy: { } accuracy } f
                || !accuracy.IsSound
                || f.Unit == Unit.None
                || !Enum.IsDefined(f.Unit)
                || f.UpTo is { } most && !(double.IsFinite(most) && most > 0)
            )
                return i;
        return null;
    }

    /// <summary>Whether a reference check was in: reference and reading agree within the accuracy. Null where no accuracy is
    /// known.</summary>
    public bool? IsIn(FieldCheck check) =>
        AccuracyAt(check.Unit, check.Reading) is { IsSound: true } accuracy
            ? Math.Abs(check.Reading - check.Reference) <= accuracy.HalfWidthAt(check.Reading) + 1e-12
            : null;

    /// <summary>
    /// True where a reading at this moment cannot be leaned on: the nearest reference check of its unit before it, or the nearest after it,
    /// was out. Between
    /// the last check that was in and the first that was out nobody knows when the instrument went.
    /// </summary>
    public bool InDoubt(Unit unit, DateTimeOffset at)
    {
        FieldCheck? before = null,
            after = null;
        foreach (var check in Checks)
        {
            if (check.Unit != unit)
                continue;
            if (check.At <= at && (before is null || check.At > before.At))
                before = check;
            if (check.At > at && (after is null || check.At < after.At))
                after = check;
        }
        return before is not null && IsIn(before) == false || after is not null && IsIn(after) == false;
    }
}
