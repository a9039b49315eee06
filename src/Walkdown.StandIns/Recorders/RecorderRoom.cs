using System.Globalization;

namespace Walkdown.StandIns.Recorders;

/// <summary>All simulated recorders, as they answer over HTTP (docs/formats.md, "Recorder").</summary>
public sealed class RecorderRoom
{
    private readonly Dictionary<string, RecorderBox> _boxes;

    private readonly Func<string, int, byte[]>? _pictures;
    private readonly Func<RecorderBox, int, DateTimeOffset, object?>? _plates;

    /// <param name="pictures">What a head of a camera sees now, as JPEG; null: nothing is drawn.</param>
    /// <param name="plates">What a channel's reader wrote down since a time of the recorder's; null: there is no reader.</param>
    public RecorderRoom(
        RecorderFile file,
        IReadOnlyList<IReadOnlyDictionary<string, string>> schedule,
        SimClock clock,
        Func<string, int, byte[]>? pictures = null,
        Func<RecorderBox, int, DateTimeOffset, object?>? plates = null
    )
    {
        (_pictures, _plates) = (pictures, plates);
        _boxes = file.Recorders.ToDictionary(
            r => r.Label,
            r =>
            {
                var row = schedule.FirstOrDefault(s => s["label"] == r.Label);
                return new RecorderBox(
                    r,
                    row?.GetValueOrDefault("serial", "") ?? "",
                    [.. schedule.Where(s => s.GetValueOrDefault("recorder") == r.Label).SelectMany(Views)],
                    clock,
                    row?.GetValueOrDefault("address", "") ?? "",
                    file.Links
                );
            },
            StringComparer.OrdinalIgnoreCase
        );
    }

    /// <summary>Kinds that tell what moves by themselves.</summary>
    private static readonly string[] Zoned = ["thermal"];

    private static IEnumerable<PlannedView> Views(IReadOnlyDictionary<string, string> row)
    {
        var channels = row.GetValueOrDefault("channels", "").Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return channels.Select(
            (c, i) =>
                new PlannedView(
                    int.Parse(c, CultureInfo.InvariantCulture),
                    row["label"],
                    i + 1,
                    channels.Length,
                    row.GetValueOrDefault("serial", ""),
                    row.GetValueOrDefault("hardware_address", ""),
                    row.GetValueOrDefault("address", ""),
                    RecorderBox.PeakOf(row["label"] + i),
                    Zoned.Contains(row.GetValueOrDefault("kind", ""))
                )
        );
    }

    public void Map(WebApplication app)
    {
        app.MapGet("/recorder/{label}", (string label) => With(label, box => Results.Json(box.Told())));
        app.MapGet("/recorder/{label}/clock", (string label) => With(label, box => Results.Json(box.Clock())));
        app.MapPut(
            "/recorder/{label}/channels",
            (string label, SetChannel[] settings) => With(label, box => box.Set(settings) ? Results.NoContent() : Results.Conflict())
        );
        app.MapGet(
            "/recorder/{label}/clip",
            (string label, int channel, DateTimeOffset from, DateTimeOffset to) =>
                With(
                    label,
                    box =>
                        box.Clip(channel, from, to) is not var (frames, breaks, view) ? Results.NotFound()
                        : frames.Count == 0 || view is null ? Results.NoContent()
                        : new SentClip(channel, view, frames, breaks)
                )
        );
        app.MapGet(
            "/recorder/{label}/picture",
            (string label, int channel) =>
                With(
                    label,
                    box =>
                        box.Shown(channel, out var isChannel) is { } view && _pictures is not null
                            ? Results.File(_pictures(view.Label, view.Head), "image/jpeg")
                        : isChannel ? Results.NoContent()
                        : Results.NotFound()
                )
        );

        app.MapGet(
            "/recorder/{label}/link",
            (string label, int channel) => With(label, box => box.LinkHere(channel) is { } side ? Results.Json(side) : Results.NotFound())
        );
        app.MapGet(
            "/camera/{address}/link",
            (string address) =>
                _boxes.Values.Select(b => b.LinkAt(address)).FirstOrDefault(side => side is not null) is { } side
                    ? Results.Json(side)
                    : Results.NotFound()
        );

        if (_plates is not null)
            app.MapGet(
                "/recorder/{label}/plates",
                (string label, int channel, DateTimeOffset from) =>
                    With(label, box => _plates(box, channel, from) is { } list ? Results.Json(list) : Results.NotFound())
            );

        // The hand in the made-up world: somebody walks by, pulls the plug, or puts something right.
        app.MapGet("/panel/recorders", () => _boxes.Values.SelectMany(b => b.Planted()));
        app.MapPost(
            "/panel/recorders/{label}/events",
            (string label, PanelEvent happened) =>
            {
                if (!_boxes.TryGetValue(label, out var box))
                    return Results.NotFound();
                box.Happens(happened.Channels, happened.SecondsAgo);
                return Results.Json(box.Planted());
            }
        );
        app.MapPost(
            "/panel/recorders/{label}/restart",
            (string label, double? secondsAgo) =>
            {
                if (!_boxes.TryGetValue(label, out var box))
                    return Results.NotFound();
                box.Restart(secondsAgo ?? 0);
                return Results.Json(_boxes.Values.SelectMany(b => b.Planted()));
            }
        );
        app.MapPost(
            "/panel/recorders/{label}/mend",
            (string label, PanelMend mend) =>
            {
                if (!_boxes.TryGetValue(label, out var box))
                    return Results.NotFound();
                box.Mend(mend.Channel);
                return Results.Json(_boxes.Values.SelectMany(b => b.Planted()));
            }
        );
    }

    private IResult With(string label, Func<RecorderBox, IResult> answer) =>
        !_boxes.TryGetValue(label, out var box) ? Results.NotFound()
        : box.IsStarting ? Results.StatusCode(503)
        : answer(box);

    /// <summary>Pictures one after another, each with its time.</summary>
    private sealed class SentClip(int channel, PlannedView view, IReadOnlyList<DateTimeOffset> frames, int? breaksAfter) : IResult
    {
        public async Task ExecuteAsync(HttpContext context)
        {
            var response = context.Response;
            response.Headers["Channel"] = channel.ToString(CultureInfo.InvariantCulture);
            response.ContentType = "multipart/x-mixed-replace; boundary=picture";
            for (var i = 0; i < frames.Count; i++)
            {
                if (i == breaksAfter)
                {
                    await response.Body.FlushAsync();
                    context.Abort();
                    return;
                }
                var picture = ClipPicture.Of(view.Label, view.Head, view.Heads > 1 ? $"{view.Label} {view.Head}" : view.Label, frames[i]);
                await response.WriteAsync(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"{(i == 0 ? "" : "\r\n")}--picture\r\nContent-Type: image/jpeg\r\nTimestamp: {frames[i]:O}\r\n\r\n"
                    )
                );
                await response.Body.WriteAsync(picture);
            }
            await response.WriteAsync("\r\n--picture--\r\n");
        }
    }
}

/// <param name="Channels">Planned channels of the places that it happens at.</param>
public sealed record PanelEvent(int[] Channels, double SecondsAgo = 0);

/// <param name="Channel">Null: the recorder itself.</param>
public sealed record PanelMend(int? Channel);
