using System.Diagnostics;
using Walkdown.Core.Pictures;
using Walkdown.Core.Recording;
using Walkdown.StandIns.Scenes;

namespace Walkdown.Bench;

/// <summary>A recorder whose channels are all exchanged, with strangers among them: which are found, what is taken for something
/// that it is not, and how long it takes.</summary>
internal static class IdentityBenchmark
{
    private const int Wide = 640,
        High = 360;

    public static void Run(int count)
    {
        var agreed = new AgreedPrint[count];
        var seen = new SeenChannel[count];
        var planned = Enumerable
            .Range(1, count)
            .Select(n => new PlannedChannel(Guid.NewGuid(), n, Guid.NewGuid(), $"C-{n}", "", ""))
            .ToArray();
        var mixed = MixedRecorder.Of(count, Wide, High);
        // A server that has just been started, and one that has looked before.
        Measure(" (cold)");
        var (views, took, prints) = Measure("");
        (ChannelViews Views, double Took, double Prints) Measure(string said)
        {
            var clock = Stopwatch.StartNew();
            Parallel.For(
                0,
                count,
                i =>
                {
                    agreed[i] = new(planned[i], new(new GreyRaster(Wide, High, mixed[i].Agreed)));
                    // It comes in on the next channel but one.
                    seen[i] = new(1 + (i + 2) % count, planned[(i + 2) % count], new(new GreyRaster(Wide, High, mixed[i].Now)));
                }
            );
            var prints = clock.Elapsed.TotalMilliseconds;
            var views = ChannelViews.Of(seen, agreed, count);
            var took = clock.Elapsed.TotalMilliseconds;
            if (said.Length > 0)
                Console.WriteLine($"{count} channels{said}: {took:0} ms ({prints:0} for the prints)");
            return (views, took, prints);
        }
        var (right, wrong, silent) = (0, 0, 0);
        var byNumber = views.Channels.ToDictionary(c => c.Number);
        var alike = new List<double>();
        var unlike = new List<double>();
        for (var i = 0; i < count; i++)
        {
            var found = byNumber[1 + (i + 2) % count];
            var isRight = mixed[i].IsStranger ? found.Finding == ShownView.Stranger : found.Shows?.Id == planned[i].Id;
            if (isRight)
                right++;
            else if (found.Shows is null)
                silent++;
            else
                wrong++;
            if (!isRight)
                Console.WriteLine(
                    $"{i} {(mixed[i].IsStranger ? "stranger" : "swapped")}: {found.Finding} {found.Shows?.Label} {found.Sure}"
                );
            for (var j = 0; j < count; j++)
                (j == i && !mixed[i].IsStranger ? alike : unlike).Add(seen[i].Print!.Likeness(agreed[j].Print));
        }
        alike.Sort();
        unlike.Sort();
        Console.WriteLine(
            $"{count} channels: {right} right, {wrong} taken for another, {silent} not told; {views.Exchanges.Length} exchanges; {took:0} ms ({prints:0} for the prints)"
        );
        Console.WriteLine(
            $"likeness: same least {alike[0]:0.00}, tenth {alike[alike.Count / 10]:0.00}, median {alike[alike.Count / 2]:0.00}; others median {unlike[unlike.Count / 2]:0.00}, 99th {unlike[unlike.Count * 99 / 100]:0.00}, most {unlike[^1]:0.00}"
        );
    }
}
