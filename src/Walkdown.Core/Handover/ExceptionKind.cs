namespace Walkdown.Core.Handover;

/// <summary>Why a Card needs a second look, worst first.</summary>
public enum ExceptionKind
{
    /// <summary>Out.</summary>
    Out,

    /// <summary>An open Fault.</summary>
    OpenFault,

    /// <summary>Too close to tell.</summary>
    TooClose,

    /// <summary>Nothing judges it.</summary>
    NotJudged,

    /// <summary>Conceded.</summary>
    Conceded,

    /// <summary>Judged by eye.</summary>
    ByEye,

    /// <summary>Not taken.</summary>
    NotTaken,

    /// <summary>Unexpected, and unexplained.</summary>
    Unexpected,

    /// <summary>Held up.</summary>
    Blocked,

    /// <summary>Does not apply.</summary>
    Exempt,

    /// <summary>A remark.</summary>
    Remark,
}
