namespace Walkdown.StandIns.Scenes;

/// <summary>A view by day, and the same in the dark with what is wrong there; the same each time.</summary>
/// <param name="Day">Its picture by day, in colours.</param>
/// <param name="Nights">Two in the dark, some seconds apart.</param>
/// <param name="Fault">What is wrong.</param>
/// <param name="Tilt">It looks down by so much, degrees.</param>
public sealed record MadeNight(byte[] Day, byte[][] Nights, NightFault Fault, double Tilt)
{
    /// <param name="number">Each has its own view.</param>
    /// <param name="kind">Of what is wrong; null: nothing is.</param>
    /// <param name="wide">Pixels across.</param>
    /// <param name="high">Pixels down.</param>
    public static MadeNight Of(int number, string? kind, int wide, int high)
    {
        var random = new Random(number * 77 + 3);
        var fault = NightFault.Drawn(kind, random);
        var pose = new ScenePose
        {
            Azimuth = random.NextDouble() * 360,
            Tilt = kind == "tilt" ? 2 + random.NextDouble() * 12 : 12 + random.NextDouble() * 30,
            Height = 3 + random.NextDouble() * 3,
            Field = 55 + random.NextDouble() * 45,
        };
        var scene = new Scene(3000 + number);
        var day = scene.DrawColours(pose, new() { SunAzimuth = 120 + random.NextDouble() * 140 }, wide, high);
        SceneNight.ByDay(day, wide, high, fault);
        new SceneLens(0, null, 1.5, number).Through(day, wide, high);
        // Two pictures some seconds apart: what moves stands elsewhere.
        return new(day, [Night(number), Night(number + 50_000)], fault, pose.Tilt);

        byte[] Night(int seed)
        {
            var night = scene.DrawColours(
                pose,
                new()
                {
                    Daylight = 0.03,
                    Moving = 2,
                    Seed = seed,
                },
                wide,
                high
            );
            var grain = SceneNight.Through(night, wide, high, fault);
            new SceneLens(0, null, 3 * grain, seed).Through(night, wide, high);
            return night;
        }
    }
}
