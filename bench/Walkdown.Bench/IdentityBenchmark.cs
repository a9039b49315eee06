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
        var truth = new string[count];
        var planned = Enumerable
            .Range(1, count)
            .Select(n => new PlannedChannel(Guid.NewGuid(), n, Guid.NewGuid(), $"C-{n}", "", ""))
            .ToArray();
        var pictures = new GreyRaster[2 * count];
        Parallel.For(
            0,
            count,
            i =>
            {
                var random = new Random(i * 31 + 5);
                var pose = new ScenePose
                {
                    Azimuth = random.NextDouble() * 360,
                    Tilt = 12 + random.NextDouble() * 20,
                    Height = 3 + random.NextDouble() * 3,
                    Field = 55 + random.NextDouble() * 40,
                };
                var scene = new Scene(100 + i);
                pictures[i] = new(Wide, High, scene.Draw(pose, new() { SunAzimuth = 150, Noise = 1 }, Wide, High));
                // The camera of the next channel but one, a little off its view, another day; each tenth upside down, some strangers.
                var (off, roll) = ((random.NextDouble() - 0.5) * 6, (random.NextDouble() - 0.5) * 3 + (i % 10 == 3 ? 180 : 0));
                var isStranger = i % 11 == 7;
                truth[i] =
                    isStranger ? "stranger"
                    : i % 10 == 3 ? "turned"
                    : "swapped";
                var other = isStranger ? new Scene(9000 + i) : scene;
                var mood = new SceneMood
                {
                    Noise = 3,
                    Moving = 2,
                    Seed = i,
                    SunAzimuth = 200,
                    Daylight = i % 4 == 0 ? 0.05 : 1,
                    Exposure = i % 4 == 0 ? 1.3 : 1,
                };
                pictures[count + i] = new(
                    Wide,
                    High,
                    other.Draw(pose with { Azimuth = pose.Azimuth + off, Tilt = pose.Tilt + off / 3, Roll = roll }, mood, Wide, High)
                );
            }
        );
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
                    agreed[i] = new(planned[i], new(pictures[i]));
                    seen[i] = new(1 + (i + 2) % count, planned[(i + 2) % count], new(pictures[count + i]));
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
            var isRight = truth[i] == "stranger" ? found.Finding == ShownView.Stranger : found.Shows?.Id == planned[i].Id;
            if (isRight)
                right++;
            else if (found.Shows is null)
                silent++;
            else
                wrong++;
            if (!isRight)
                Console.WriteLine($"{i} {truth[i]}: {found.Finding} {found.Shows?.Label} {found.Sure}");
            for (var j = 0; j < count; j++)
                (j == i && truth[i] != "stranger" ? alike : unlike).Add(seen[i].Print!.Likeness(agreed[j].Print));
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
