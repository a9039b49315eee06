namespace Walkdown.Core.People;

/// <summary>What somebody is in this installation; one may be several.</summary>
public enum Role
{
    /// <summary>Tests, repairs, records.</summary>
    Technician,

    /// <summary>Answers for a job: plans it, decides what is conceded, hands it over.</summary>
    Lead,

    /// <summary>Whom it is handed over to: reads his jobs and the draft, and changes nothing.</summary>
    Client,

    /// <summary>Reads, checks and takes copies; changes nothing.</summary>
    Auditor,

    /// <summary>Lets people in, keeps backups and keys. Does none of a job's work by that.</summary>
    Administrator,
}
