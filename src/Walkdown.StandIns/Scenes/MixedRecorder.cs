namespace Walkdown.StandIns.Scenes;

/// <summary>One channel of a recorder that was wired by somebody who did not look.</summary>
/// <param name="Agreed">The picture of its view as it was agreed.</param>
/// <param name="Now">The picture of its camera another day, wherever it comes in now.</param>
/// <param name="IsStranger">Its camera is another one, of no agreed view.</param>
public sealed record MixedChannel(byte[] Agreed, byte[] Now, bool IsStranger);

/// <summary>A recorder whose cameras all hang a little off their views: a quarter of them by night, each tenth upside down, one of
/// eleven a stranger. The same each time.</summary>
public static class MixedRecorder
{
    /// <param name="count">Channels.</param>
    /// <param name="wide">Of each picture, pixels.</param>
    /// <param name="high">Likewise.</param>
    public static MixedChannel[] Of(int count, int wide, int high)
    {
        var channels = new MixedChannel[count];
        Parallel.For(0, count, i => channels[i] = Channel(i, wide, high));
        return channels;
    }

    private static MixedChannel Channel(int i, int wide, int high)
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
        var agreed = scene.Draw(pose, new() { SunAzimuth = 150, Noise = 1 }, wide, high);
        var (off, roll) = ((random.NextDouble() - 0.5) * 6, (random.NextDouble() - 0.5) * 3 + (i % 10 == 3 ? 180 : 0));
        var isStranger = i % 11 == 7;
        var isNight = i % 4 == 0;
        var mood = new SceneMood
        {
            Noise = 3,
            Moving = 2,
            Seed = i,
            SunAzimuth = 200,
            Daylight = isNight ? 0.05 : 1,
            Exposure = isNight ? 1.3 : 1,
        };
        var hung = pose with { Azimuth = pose.Azimuth + off, Tilt = pose.Tilt + off / 3, Roll = roll };
        return new(agreed, (isStranger ? new Scene(9000 + i) : scene).Draw(hung, mood, wide, high), isStranger);
    }
}
