using System.Diagnostics;

namespace Walkdown.Bench;

/// <summary>How long something takes, of many times.</summary>
/// <param name="MedianMs">Half of them took no longer.</param>
/// <param name="NinetyFifthMs">95 of 100 took no longer.</param>
/// <param name="Kilobytes">That each left behind.</param>
internal sealed record Timed(double MedianMs, double NinetyFifthMs, double Kilobytes)
{
    public static Timed Of(int times, Action act)
    {
        for (var i = 0; i < 5; i++)
            act();
        var took = new double[times];
        var before = GC.GetAllocatedBytesForCurrentThread();
        for (var i = 0; i < times; i++)
        {
            var began = Stopwatch.GetTimestamp();
            act();
            took[i] = Stopwatch.GetElapsedTime(began).TotalMilliseconds;
        }
        var bytes = GC.GetAllocatedBytesForCurrentThread() - before;
        Array.Sort(took);
        return new(took[times / 2], took[(int)(0.95 * times)], bytes / 1024.0 / times);
    }
}
