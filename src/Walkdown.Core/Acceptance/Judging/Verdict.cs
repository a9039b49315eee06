namespace Walkdown.Core.Acceptance;

/// <summary>What a Card comes to.</summary>
public enum Verdict
{
    /// <summary>Something is missing.</summary>
    Open,

    /// <summary>Something required is out.</summary>
    Refused,

    /// <summary>Accepted, with what was conceded or remarked.</summary>
    AcceptedWithNote,

    /// <summary>Accepted.</summary>
    Accepted,
}
