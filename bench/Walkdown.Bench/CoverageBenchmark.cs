using System.Diagnostics;
using Walkdown.Core.Optics;

namespace Walkdown.Bench;

/// <summary>What thousands of views of one site cover: how long it takes on all processors.</summary>
internal static class CoverageBenchmark
{
    public static void Run(int views)
    {
        var random = new Random(7);
        // As close as on a real site: one camera to some forty square metres.
        var side = Math.Sqrt(views * 40.0);
        PlanPoint Somewhere() => new(random.NextDouble() * side, random.NextDouble() * side);
        PlacedView[] placed =
        [
            .. Enumerable
                .Range(0, views)
                .Select(n => new PlacedView(
                    Guid.CreateVersion7(),
                    $"C-{n}",
                    1,
                    Somewhere(),
                    new(
                        3 + random.NextDouble() * 3,
                        10 + random.NextDouble() * 40,
                        50 + random.NextDouble() * 50,
                        2560,
                        1440,
                        random.NextDouble() * 360,
                        []
                    ),
                    true
                )),
        ];
        PlanGround[] grounds =
        [
            .. Enumerable
                .Range(0, 25)
                .Select(n =>
                {
                    var (x, y, w) = (n % 5 * side / 5, n / 5 * side / 5, side / 5);
                    return new PlanGround($"G-{n}", [new(x, y), new(x + w, y), new(x + w, y + w), new(x, y + w)], DetailLevel.Observe);
                }),
        ];
        PlanWall[] walls =
        [
            .. Enumerable
                .Range(0, 200)
                .Select(_ =>
                {
                    var from = Somewhere();
                    return new PlanWall([from, new(from.X + 20, from.Y), new(from.X + 20, from.Y + 12)], random.Next(2) == 0 ? null : 3.0);
                }),
        ];
        var ground = new SiteGround([.. grounds], [.. walls], 0);
        for (var i = 0; i < 3; i++)
        {
            var began = Stopwatch.GetTimestamp();
            var told = SiteCoverage.Of(ground, placed, DetailEdition.Edition2014);
            Console.WriteLine(
                $"{views} views, 25 grounds, 400 pieces of wall, cells of {told.Grounds[0].CellMetres:0.00} m: {Stopwatch.GetElapsedTime(began).TotalMilliseconds:0} ms"
            );
        }
    }
}
