using System.Collections.Frozen;

namespace Walkdown.Core.People;

/// <summary>Who may do what: the one table. What a role does not name here it may not do.</summary>
public static class Rights
{
    private static readonly FrozenDictionary<Role, ImmutableArray<Right>> Table = new Dictionary<Role, ImmutableArray<Right>>
    {
        [Role.Technician] = [Right.Look, Right.Work, Right.Register, Right.Draft, Right.Verify],
        [Role.Lead] =
        [
            Right.Look,
            Right.Work,
            Right.Register,
            Right.Plan,
            Right.Decide,
            Right.Practise,
            Right.Equip,
            Right.Draft,
            Right.HandOver,
            Right.Erase,
            Right.Verify,
            Right.Export,
            Right.TakeIn,
        ],
        [Role.Client] = [Right.Look, Right.Draft, Right.Verify],
        [Role.Auditor] = [Right.Look, Right.Draft, Right.Verify, Right.Export],
        [Role.Administrator] = [Right.Look, Right.Verify, Right.Export, Right.TakeIn, Right.Admit],
    }.ToFrozenDictionary();

    /// <summary>Whether somebody who is all of these may do this.</summary>
    /// <param name="roles">What they are; none at all may nothing.</param>
    /// <param name="right">What they want to do.</param>
    public static bool May(ImmutableArray<Role> roles, Right right) => roles.Any(role => Table[role].Contains(right));

    /// <summary>All that somebody who is all of these may do, each once, in the order of <see cref="Right"/>.</summary>
    /// <param name="roles">What they are.</param>
    public static ImmutableArray<Right> Of(ImmutableArray<Role> roles) => [.. Enum.GetValues<Right>().Where(right => May(roles, right))];

    /// <summary>Who may do this.</summary>
    /// <param name="right">What is to be done.</param>
    public static ImmutableArray<Role> Who(Right right) => [.. Enum.GetValues<Role>().Where(role => Table[role].Contains(right))];

    /// <summary>Whether somebody sees jobs that they are not people of: only who lets people in, since he has to say into which.</summary>
    /// <param name="roles">What they are.</param>
    public static bool SeesAllJobs(ImmutableArray<Role> roles) => roles.Contains(Role.Administrator);
}
