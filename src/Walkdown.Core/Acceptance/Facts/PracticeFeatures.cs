namespace Walkdown.Core.Acceptance;

/// <summary>What sides of schools give that Core itself asks for.</summary>
public static class PracticeFeatures
{
    /// <summary>New plugs follow what is found at the far end; a run that says its own scheme keeps it.</summary>
    public const string MatchFarEnd = "match-far-end";

    /// <summary>Power comes up at the switch, the recorder, the monitor; else at the recorder, then the cameras.</summary>
    public const string SwitchFirst = "switch-first";

    /// <summary>A required reading that is in, and further from what was expected than both uncertainties, refuses until somebody explains
    /// it.</summary>
    public const string UnexpectedRefuses = "unexpected-refuses";
}
