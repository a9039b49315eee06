using System.Collections.Concurrent;
using SkiaSharp;

namespace Walkdown.StandIns.Recorders;

/// <summary>Pictures of a made-up camera: a floor, somebody who walks through, and what recorders write into the picture.</summary>
public static class ClipPicture
{
    private const int Wide = 480,
        High = 270;

    private static readonly SKTypeface Face = SKTypeface.FromStream(typeof(ClipPicture).Assembly.GetManifestResourceStream("clip.ttf"));

    private static readonly ConcurrentDictionary<(string, long), byte[]> Drawn = new();

    /// <summary>As JPEG; one a second is drawn, the others are the same.</summary>
    public static byte[] Of(string label, int head, string name, DateTimeOffset at)
    {
        if (Drawn.Count > 2000)
            Drawn.Clear();
        return Drawn.GetOrAdd(($"{label} {head} {name}", at.ToUnixTimeSeconds()), _ => Draw(label, head, name, at));
    }

    private static byte[] Draw(string label, int head, string name, DateTimeOffset at)
    {
        using var bitmap = new SKBitmap(Wide, High);
        using var canvas = new SKCanvas(bitmap);
        var tone = (byte)(90 + Math.Abs((label + head).Sum(c => c * 7)) % 60);
        canvas.Clear(new SKColor(tone, (byte)(tone + 6), (byte)(tone + 12)));
        using var paint = new SKPaint { IsAntialias = true, Color = new SKColor((byte)(tone - 40), (byte)(tone - 34), (byte)(tone - 28)) };
        var horizon = 90 + (label.Sum(c => c) + head * 13) % 50;
        canvas.DrawRect(0, horizon, Wide, High - horizon, paint);
        paint.Color = new SKColor((byte)(tone - 24), (byte)(tone - 18), (byte)(tone - 12));
        for (var lane = 1; lane < 4; lane++)
            canvas.DrawRect(lane * Wide / 4f + head * 11, horizon, 4, High - horizon, paint);
        // Crosses the picture in twenty seconds.
        var x = (at.ToUnixTimeSeconds() + head * 5) % 20 / 20f * Wide;
        paint.Color = new SKColor(30, 34, 40);
        canvas.DrawOval(x, 150, 9, 11, paint);
        canvas.DrawRoundRect(x - 11, 160, 22, 60, 8, 8, paint);
        using var font = new SKFont(Face, 18);
        paint.Color = SKColors.White;
        canvas.DrawText(name, 12, 26, SKTextAlign.Left, font, paint);
        canvas.DrawText(
            at.ToString("yyyy-MM-dd HH:mm:ss", System.Globalization.CultureInfo.InvariantCulture),
            12,
            High - 12,
            SKTextAlign.Left,
            font,
            paint
        );
        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 70);
        return data.ToArray();
    }
}
