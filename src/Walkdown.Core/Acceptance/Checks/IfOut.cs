namespace Walkdown.Core.Acceptance;

/// <summary>What an optional row that is out does to the Verdict: it refuses, or it is a remark.</summary>
public enum IfOut
{
    /// <summary>The Card is refused.</summary>
    Refuse,

    /// <summary>The Card is accepted with a note.</summary>
    Remark,
}
