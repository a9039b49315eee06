using Walkdown.Core.Measures;

namespace Walkdown.Core.Clocks;

/// <summary>The four stamps of one question to a clock, seconds of the clock that read them (RFC 5905).</summary>
/// <param name="Asked">Question sent, by ours.</param>
/// <param name="Heard">Question received, by the asked one.</param>
/// <param name="Answered">Answer sent, by the asked one.</param>
/// <param name="Back">Answer received, by ours.</param>
/// <param name="TheirPrecision">How finely the asked one reads its own clock, seconds.</param>
/// <param name="OurPrecision">Likewise ours.</param>
public readonly record struct ClockStamps(
    double Asked,
    double Heard,
    double Answered,
    double Back,
    double TheirPrecision = 0,
    double OurPrecision = 0
);

/// <summary>How far a clock is from another.</summary>
/// <param name="OffsetSeconds">Positive: the asked clock is ahead.</param>
/// <param name="DelaySeconds">There and back, without the time that the other took; negative where the stamps contradict
/// themselves.</param>
/// <param name="UncertaintySeconds">No path, however uneven, hides more; null: the reading is to be thrown away.</param>
public sealed record ClockOffset(double OffsetSeconds, double DelaySeconds, double? UncertaintySeconds)
{
    /// <summary>The stamps do not contradict themselves by more than both clocks read finely.</summary>
    public bool IsUsable => UncertaintySeconds is not null;

    /// <summary>From one question (RFC 5905, section 8).</summary>
    /// <exception cref="BadInputException">An answer before its question, or no number.</exception>
    public static ClockOffset Of(ClockStamps s)
    {
        Require.Number(s.Asked, "t1_s");
        Require.Number(s.Heard, "t2_s");
        Require.Number(s.Answered, "t3_s");
        Require.Number(s.Back, "t4_s");
        Require.Number(s.TheirPrecision, "server_precision_s", 0);
        Require.Number(s.OurPrecision, "client_precision_s", 0);
        Require.Consistent(s.Back >= s.Asked, "t4_s");
        Require.Consistent(s.Answered >= s.Heard, "t3_s");
        var offset = ((s.Heard - s.Asked) + (s.Answered - s.Back)) / 2;
        var delay = (s.Back - s.Asked) - (s.Answered - s.Heard);
        var precision = s.TheirPrecision + s.OurPrecision;
        if (delay < 0)
        {
            if (-delay > precision + 1e-9)
                return new(offset, delay, null);
            delay = 0;
        }
        return new(offset, delay, delay / 2 + precision);
    }

    /// <summary>The one of several that came back soonest: the path hid least in it. Null: none is usable.</summary>
    /// <exception cref="BadInputException">None was given, or one is no reading.</exception>
    public static ClockOffset? BestOf(IReadOnlyCollection<ClockStamps> samples)
    {
        if (samples.Count == 0)
            throw new BadInputException(BadInputReason.Empty, "samples");
        return samples.Select(Of).Where(o => o.IsUsable).MinBy(o => o.DelaySeconds);
    }

    /// <summary>A clock that is read off a screen, which shows steps and no stamps.</summary>
    /// <param name="displaySeconds">What it shows.</param>
    /// <param name="referenceSeconds">The reference when the picture was there.</param>
    /// <param name="requestSeconds">How long the picture took to come.</param>
    /// <param name="resolutionSeconds">The step that the screen shows: 1 for whole seconds.</param>
    public static ClockOffset OfDisplay(double displaySeconds, double referenceSeconds, double requestSeconds, double resolutionSeconds)
    {
        Require.Number(displaySeconds, "display_time_s");
        Require.Number(referenceSeconds, "reference_time_s");
        Require.Number(requestSeconds, "request_s", 0);
        Require.Number(resolutionSeconds, "display_resolution_s", 0);
        return new(
            displaySeconds + resolutionSeconds / 2 - (referenceSeconds - requestSeconds / 2),
            requestSeconds,
            requestSeconds / 2 + resolutionSeconds / 2
        );
    }
}

/// <summary>A camera's clock against its recorder's.</summary>
/// <param name="DifferenceSeconds">Positive: the camera is ahead.</param>
/// <param name="UncertaintySeconds">Of both, added: the worst case.</param>
/// <param name="RootSumSquareSeconds">Of both, where they are independent; told, and judged by nobody.</param>
/// <param name="Outcome">Against the limit.</param>
public sealed record ClockDifference(double DifferenceSeconds, double UncertaintySeconds, double RootSumSquareSeconds, Outcome Outcome)
{
    /// <summary>From both offsets to one reference. Two clocks may agree and both be wrong: each is held against the reference,
    /// too.</summary>
    public static ClockDifference Of(
        double cameraOffsetSeconds,
        double cameraUncertaintySeconds,
        double recorderOffsetSeconds,
        double recorderUncertaintySeconds,
        double limitSeconds
    )
    {
        Require.Number(cameraOffsetSeconds, "camera_offset_s");
        Require.Number(cameraUncertaintySeconds, "camera_uncertainty_s", 0);
        Require.Number(recorderOffsetSeconds, "recorder_offset_s");
        Require.Number(recorderUncertaintySeconds, "recorder_uncertainty_s", 0);
        Require.Positive(limitSeconds, "limit_s");
        var difference = cameraOffsetSeconds - recorderOffsetSeconds;
        var uncertainty = cameraUncertaintySeconds + recorderUncertaintySeconds;
        return new(
            difference,
            uncertainty,
            Math.Sqrt(cameraUncertaintySeconds * cameraUncertaintySeconds + recorderUncertaintySeconds * recorderUncertaintySeconds),
            Decision.Within(Math.Abs(difference), uncertainty, limitSeconds)
        );
    }
}
