using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>What it means that a place's serial number is written.</summary>
public enum UnitChange
{
    /// <summary>Nothing: it is the one that hangs there.</summary>
    None,

    /// <summary>A unit hangs there for the first time.</summary>
    Fit,

    /// <summary>The number was written wrongly: the unit is the same.</summary>
    Correct,

    /// <summary>Another unit that is on record was meant.</summary>
    Exchange,
}

/// <summary>The rules of which unit hangs at a place.</summary>
public static class UnitOfPlace
{
    /// <summary>
    /// What a written serial number comes to. A unit that was read is a fact: another number is then another unit, and that is a swap,
    /// which is recorded as work and not written over. A unit hangs in one place.
    /// </summary>
    /// <param name="written">The number; null: it was taken out.</param>
    /// <param name="hangs">Number of the unit that hangs there; null: none does; empty: one whose number nobody wrote.</param>
    /// <param name="wasRead">Readings of that unit are on record.</param>
    /// <param name="isKnown">A unit of the written number is on record.</param>
    /// <param name="hangsElsewhere">That unit hangs at a place.</param>
    public static (UnitChange Change, Message? Refused) Of(string? written, string? hangs, bool wasRead, bool isKnown, bool hangsElsewhere)
    {
        if (hangs is null)
            return written is not null && isKnown && hangsElsewhere
                ? (UnitChange.None, new Message("problem.unit-hangs-elsewhere", written))
                : (UnitChange.Fit, null);
        if (written is null || Labels.Same(written, hangs))
            return (UnitChange.None, null);
        if (hangs.Length > 0 && wasRead)
            return (UnitChange.None, new Message("register.record-swap", hangs));
        if (!isKnown)
            return (UnitChange.Correct, null);
        return hangsElsewhere ? (UnitChange.None, new Message("problem.unit-hangs-elsewhere", written)) : (UnitChange.Exchange, null);
    }

    /// <summary>Whether a run that is moved to another port is work, after which its readings at the port no longer count: only where
    /// something was read of it.</summary>
    /// <param name="before">The port before; null: it ended at none.</param>
    /// <param name="after">The port after.</param>
    /// <param name="wasRead">Readings of the run are on record.</param>
    public static bool IsPortMove(Guid? before, Guid? after, bool wasRead) => before is not null && before != after && wasRead;
}
