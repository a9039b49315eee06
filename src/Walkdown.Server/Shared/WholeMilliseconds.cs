namespace Walkdown.Server.Shared;

/// <summary>The clock as the record keeps it: whole milliseconds, so that a moment is the same in memory, on disk and on paper.</summary>
public sealed class WholeMilliseconds(TimeProvider clock) : TimeProvider
{
    public override DateTimeOffset GetUtcNow() => Of(clock.GetUtcNow());

    public override long GetTimestamp() => clock.GetTimestamp();

    public override long TimestampFrequency => clock.TimestampFrequency;
    public override TimeZoneInfo LocalTimeZone => clock.LocalTimeZone;

    public override ITimer CreateTimer(TimerCallback callback, object? state, TimeSpan dueTime, TimeSpan period) =>
        clock.CreateTimer(callback, state, dueTime, period);

    /// <summary>A moment without what is smaller than a millisecond.</summary>
    public static DateTimeOffset Of(DateTimeOffset moment) => moment.AddTicks(-(moment.Ticks % TimeSpan.TicksPerMillisecond));
}
