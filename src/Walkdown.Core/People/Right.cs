namespace Walkdown.Core.People;

/// <summary>What can be done in an installation; every address of the interface needs one of these, or says that it is open.</summary>
public enum Right
{
    /// <summary>Read one's jobs: Walk, Cards, register, kit, pictures, sealed packs.</summary>
    Look,

    /// <summary>Record: readings, acts, notes, Faults, blocks, pictures, results of testers.</summary>
    Work,

    /// <summary>Correct what is planned or built: register, devices, runs, supplies, reference checks.</summary>
    Register,

    /// <summary>Begin a job, take a schedule, keep a drawing.</summary>
    Plan,

    /// <summary>Concede, exempt, rule on what was read.</summary>
    Decide,

    /// <summary>Limits, own checks, a job's practice.</summary>
    Practise,

    /// <summary>People and instruments of a job.</summary>
    Equip,

    /// <summary>Read the pack before it is sealed.</summary>
    Draft,

    /// <summary>Write the cover and seal.</summary>
    HandOver,

    /// <summary>Erase a picture for good.</summary>
    Erase,

    /// <summary>Whether a file is what was sealed.</summary>
    Verify,

    /// <summary>Carry a job out as a bundle.</summary>
    Export,

    /// <summary>Take a bundle in.</summary>
    TakeIn,

    /// <summary>Who may come in, from where, by which certificate.</summary>
    Admit,
}
