namespace Walkdown.Core.Measures;

/// <summary>How the accuracy of the instrument enters the decision.</summary>
public enum DecisionRule
{
    /// <summary>In or out only when the whole band lies on one side (guarded acceptance and rejection, the idea of JCGM 106).</summary>
    Guarded,

    /// <summary>By the number alone, never too close.</summary>
    Simple,
}
