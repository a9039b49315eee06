namespace Walkdown.Core.Acceptance;

/// <summary>A row of the register that cannot be read as it stands on record.</summary>
/// <param name="On">What it is of. Of the place: everything on the Card leans on it.</param>
/// <param name="Cells">Table and column, separated by commas.</param>
/// <param name="Id">Its id.</param>
public sealed record DamagedRow(SubjectKind On, Guid Id, string Cells)
{
    /// <summary>A run carries the data and the power of all but the picture; a head's number belongs to its channel.</summary>
    internal bool Reaches(Subject on) =>
        On switch
        {
            SubjectKind.Run or SubjectKind.Port => on.Kind is not (SubjectKind.Head or SubjectKind.Channel),
            SubjectKind.Head => on.Kind == SubjectKind.Channel || on.Kind == SubjectKind.Head && on.Id == Id,
            _ => on.Kind == On && on.Id == Id,
        };
}
