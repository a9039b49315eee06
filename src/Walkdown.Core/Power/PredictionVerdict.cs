namespace Walkdown.Core.Power;

/// <summary>Prediction against measurement.</summary>
public enum PredictionVerdict
{
    /// <summary>As predicted.</summary>
    AsPredicted,

    /// <summary>More than the source gives: measure again.</summary>
    MeasuredAboveSource,

    /// <summary>Beneath what the device needs.</summary>
    VoltageBelowMinimum,

    /// <summary>Resistance that no plan explains.</summary>
    ExcessResistance,

    /// <summary>Too close to tell.</summary>
    TooCloseToCall,
}
