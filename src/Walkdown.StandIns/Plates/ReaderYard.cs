using System.Globalization;
using System.Text.Json;
using Walkdown.StandIns.Recorders;

namespace Walkdown.StandIns.Plates;

/// <summary>All simulated plate readers: the recorder has their lists, the panel drives by.</summary>
public sealed class ReaderYard
{
    private readonly Dictionary<string, PlateReader> _readers;
    private readonly SimClock _clock;

    /// <param name="json">What is planted, of demo/plates.json.</param>
    public ReaderYard(string json, IReadOnlyList<IReadOnlyDictionary<string, string>> schedule, SimClock clock)
    {
        _clock = clock;
        var planted = JsonSerializer.Deserialize<ReaderTruth[]>(json, JsonSerializerOptions.Web)!;
        _readers = schedule
            .Where(s => s.GetValueOrDefault("kind") == "number-plate")
            .Select((s, i) => (Label: s["label"], i))
            .ToDictionary(
                s => s.Label,
                s => new PlateReader(planted.FirstOrDefault(p => p.Label == s.Label) ?? new() { Label = s.Label }, 46 + s.i),
                StringComparer.OrdinalIgnoreCase
            );
    }

    /// <summary>What a channel of a recorder has of its reader, by the recorder's clock; null: there is no reader on it.</summary>
    public object? List(RecorderBox box, int channel, DateTimeOffset from) =>
        box.Shown(channel, out _) is { } view && _readers.TryGetValue(view.Label, out var reader)
            ? new
            {
                plates = reader
                    .Written()
                    .Select(w => (At: box.Own(w.At), w.Text))
                    .Where(w => w.At >= from)
                    .Select(w => new { at = w.At.ToString("O", CultureInfo.InvariantCulture), text = w.Text }),
            }
            : null;

    public void Map(WebApplication app)
    {
        app.MapGet("/panel/plates/{label}", (string label) => With(label, Told));
        app.MapPost(
            "/panel/plates/{label}/drive",
            (string label, PanelPass[] passes) =>
                With(
                    label,
                    reader =>
                    {
                        reader.Pass(passes.Take(400), _clock.Time, _clock.Dark);
                        return Told(reader);
                    }
                )
        );
        app.MapPost(
            "/panel/plates/{label}/mend",
            (string label) =>
                With(
                    label,
                    reader =>
                    {
                        reader.Mend();
                        return Told(reader);
                    }
                )
        );
    }

    private static object Told(PlateReader reader) =>
        new
        {
            label = reader.Truth.Label,
            note = reader.Truth.Note,
            written = reader.Written().Count,
        };

    private IResult With(string label, Func<PlateReader, object> answer) =>
        _readers.TryGetValue(label, out var reader) ? Results.Json(answer(reader)) : Results.NotFound();
}
