using System.Collections.Immutable;
using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using Microsoft.AspNetCore.WebUtilities;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;

namespace Walkdown.Devices.Recorders;

/// <summary>A recorder that answers over HTTP in JSON (docs/formats.md, "Recorder"). What it says may be anything: it is bounded, and what
/// cannot be read means nothing.</summary>
/// <param name="http">That follows nobody elsewhere.</param>
/// <param name="label">As the register names it.</param>
/// <param name="patience">For each answer, from the question to its last byte.</param>
/// <param name="time">Our clock.</param>
public sealed class HttpRecorder(HttpClient http, string label, TimeSpan patience, TimeProvider time) : ILiveRecorder
{
    /// <summary>So often its clock is asked; the answer that came soonest counts.</summary>
    private const int ClockAsked = 4;
    private const int MostChannels = 10_000;
    private const int MostRings = 10_000;
    private const int MostFrames = 4_000;
    private const int MostPictureBytes = 2 * 1024 * 1024;
    private const long MostClipBytes = 48L * 1024 * 1024;

    private sealed record DiskSaid(int Bay, double? Tb = null, string? State = null);

    private sealed record ChannelSaid(
        int Number,
        string? Name = null,
        string? Serial = null,
        string? Mac = null,
        string? Address = null,
        int? Input = null,
        string? State = null,
        string? Mode = null,
        string? Codec = null,
        int? Wide = null,
        int? High = null,
        double? FramesPerSecond = null,
        double? PeakMbps = null,
        double? MeanMbps = null,
        double? RecordedPercent = null,
        string? Oldest = null,
        string? Newest = null,
        List<WeekSpan?>? Week = null,
        List<string?>? Rang = null
    );

    private sealed record Said(
        string? Serial = null,
        string? Firmware = null,
        string? TimeSource = null,
        string? Zone = null,
        string? StartedAt = null,
        double? IntakeMbps = null,
        List<DiskSaid?>? Disks = null,
        List<ChannelSaid?>? Channels = null,
        List<string?>? Users = null,
        List<string?>? Notifies = null
    );

    private sealed record PlateSaid(string? At = null, string? Text = null);

    private sealed record PlatesSaid(List<PlateSaid?>? Plates = null);

    private sealed record ClockSaid(string? Heard = null, string? Answered = null);

    private readonly string _path = $"recorder/{Uri.EscapeDataString(label)}";

    /// <inheritdoc/>
    public string Label => label;

    /// <inheritdoc/>
    public async Task<(RecorderReading? Reading, Message? Trouble)> Read(CancellationToken cancel)
    {
        var (said, trouble) = await JsonTable.Object<Said>(http, _path, patience, cancel);
        if (said is null)
            return (null, Why(trouble, label));
        if (said.Channels is null || said.Channels.Count > MostChannels || said.Channels.Any(c => c is not { Number: > 0 and < 100_000 }))
            return (null, Why(TableTrouble.Nonsense, label));
        if (said.Channels.GroupBy(c => c!.Number).FirstOrDefault(g => g.Count() > 1) is { } twice)
            return (null, new("list.channel-twice", Message.Said(label), Message.Number(twice.Key)));
        var offset = await Clock(cancel);
        return (
            new(
                Text(said.Serial, 60),
                Text(said.Firmware, 60),
                offset is { UncertaintySeconds: { } u }
                    ? new(offset.OffsetSeconds, u, Text(said.TimeSource, 30), Text(said.Zone, 60))
                    : null,
                // Only with its clock known does its start have a time of ours.
                offset is null
                    ? null
                    : Moment(said.StartedAt)?.AddSeconds(-offset.OffsetSeconds),
                Number(said.IntakeMbps, 1e6),
                [
                    .. (said.Disks ?? [])
                        .OfType<DiskSaid>()
                        .Take(500)
                        .Select(d => new RecorderDisk(d.Bay, Number(d.Tb, 1e4), Word<DiskState>(d.State))),
                ],
                [
                    .. said
                        .Channels.OfType<ChannelSaid>()
                        .OrderBy(c => c.Number)
                        .Select(c => new RecorderChannel(
                            c.Number,
                            Text(c.Name, 60),
                            Text(c.Serial, 60),
                            Text(c.Mac, 40),
                            Text(c.Address, 40),
                            c.Input is > 0 and < 1000 ? c.Input : null,
                            Word<ChannelState>(c.State),
                            Word<RecordedWhen>(c.Mode),
                            Text(c.Codec, 20),
                            c.Wide is > 0 and <= 100_000 ? c.Wide : null,
                            c.High is > 0 and <= 100_000 ? c.High : null,
                            Number(c.FramesPerSecond, 1000),
                            Number(c.PeakMbps, 1e5),
                            Number(c.MeanMbps, 1e5),
                            Number(c.RecordedPercent, 100),
                            Moment(c.Oldest),
                            Moment(c.Newest),
                            Hours(c.Week),
                            offset is null ? null : Rang(c.Rang, offset.OffsetSeconds)
                        )),
                ],
                Names(said.Users),
                Names(said.Notifies)
            ),
            null
        );
    }

    /// <summary>Hours that cannot be are none; one of many that cannot be makes the rest doubtful, too.</summary>
    private static ImmutableArray<WeekSpan>? Hours(List<WeekSpan?>? said) =>
        said is null || said.Count > WeekHours.Most || said.Any(s => s is not { IsReal: true })
            ? null
            : WeekHours.Together(said.OfType<WeekSpan>());

    /// <summary>Times by our clock; one of many that cannot be makes the count doubtful, and then there is none.</summary>
    private static ImmutableArray<DateTimeOffset>? Rang(List<string?>? said, double ahead)
    {
        if (said is null || said.Count > MostRings)
            return null;
        var rang = said.ConvertAll(Moment);
        return rang.Contains(null) ? null : [.. rang.Select(r => r!.Value.AddSeconds(-ahead)).Order()];
    }

    /// <summary>Its clock against ours, by the best of several questions (RFC 5905, section 8); null: none can be used.</summary>
    private async Task<ClockOffset?> Clock(CancellationToken cancel)
    {
        var samples = new List<ClockStamps>();
        for (var i = 0; i < ClockAsked; i++)
        {
            // Our clock once, and from there what has passed: ours may be set while we ask.
            var (origin, began) = (time.GetUtcNow(), Stopwatch.GetTimestamp());
            var (said, _) = await JsonTable.Object<ClockSaid>(http, $"{_path}/clock", patience, cancel);
            var took = Stopwatch.GetElapsedTime(began).TotalSeconds;
            if (Moment(said?.Heard) is { } heard && Moment(said?.Answered) is { } answered && answered >= heard)
                samples.Add(new(0, (heard - origin).TotalSeconds, (answered - origin).TotalSeconds, took, 0.001, 0.001));
        }
        return samples.Count == 0 ? null : ClockOffset.BestOf(samples);
    }

    /// <inheritdoc/>
    public async Task<(byte[]? Picture, Message? Trouble)> Picture(int channel, CancellationToken cancel)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(patience);
        try
        {
            using var response = await http.GetAsync(
                string.Create(CultureInfo.InvariantCulture, $"{_path}/picture?channel={channel}"),
                HttpCompletionOption.ResponseHeadersRead,
                limit.Token
            );
            if (response.StatusCode == HttpStatusCode.NoContent)
                return (null, new("identity.nobody"));
            if (response.StatusCode == HttpStatusCode.NotFound)
                return (null, new("recorder.no-channel", Message.Said(label), Message.Number(channel)));
            if (response.StatusCode == HttpStatusCode.ServiceUnavailable)
                return (null, Why(TableTrouble.Silent, label));
            return response.IsSuccessStatusCode
                ? (await JsonQuestion.ReadBounded(response, MostPictureBytes, limit.Token), null)
                : (null, Why(TableTrouble.Nonsense, label));
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return (null, Why(TableTrouble.Silent, label));
        }
        catch (InvalidDataException)
        {
            return (null, Why(TableTrouble.Nonsense, label));
        }
        catch (Exception problem) when (problem is HttpRequestException or IOException)
        {
            return (null, Why(TableTrouble.Silent, label));
        }
    }

    /// <inheritdoc/>
    public async Task<(IReadOnlyList<(DateTimeOffset At, string Text)>? Lines, double? AheadSeconds, Message? Trouble)> Plates(
        int channel,
        DateTimeOffset since,
        int most,
        CancellationToken cancel
    )
    {
        var ahead = (await Clock(cancel))?.OffsetSeconds;
        var from = Uri.EscapeDataString($"{since.AddSeconds(ahead ?? 0).UtcDateTime:O}");
        var (said, trouble) = await JsonTable.Object<PlatesSaid>(
            http,
            string.Create(CultureInfo.InvariantCulture, $"{_path}/plates?channel={channel}&from={from}"),
            patience,
            cancel
        );
        if (said is null)
            return (
                null,
                null,
                trouble == TableTrouble.Unknown
                    ? new("plates.no-reader", Message.Said(label), Message.Number(channel))
                    : Why(trouble, label)
            );
        if (said.Plates is null)
            return (null, null, Why(TableTrouble.Nonsense, label));
        if (said.Plates.Count > most)
            return (null, null, new("problem.list-long", Message.Number(most)));
        var lines = said.Plates.ConvertAll(p => (At: Moment(p?.At), Text: Text(p?.Text, 60)));
        return lines.Exists(l => l.At is null)
            ? (null, null, Why(TableTrouble.Nonsense, label))
            : (lines.ConvertAll(l => (l.At!.Value, l.Text ?? "")), ahead, null);
    }

    /// <inheritdoc/>
    public async Task<(ClipHeard? Clip, byte[]? Still, Message? Trouble)> Clip(int channel, ClipAsk ask, CancellationToken cancel)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(patience);
        var frames = ImmutableArray.CreateBuilder<DateTimeOffset>();
        int? said = null;
        byte[]? still = null;
        // A second into the event somebody is in the picture.
        var (wanted, nearest) = (ask.There.AddSeconds(1), TimeSpan.MaxValue);
        var whole = false;
        try
        {
            var clip = string.Create(
                CultureInfo.InvariantCulture,
                $"{_path}/clip?channel={channel}&from={Uri.EscapeDataString($"{ask.From.UtcDateTime:O}")}&to={Uri.EscapeDataString($"{ask.To.UtcDateTime:O}")}"
            );
            using var response = await http.GetAsync(clip, HttpCompletionOption.ResponseHeadersRead, limit.Token);
            if (response.StatusCode == HttpStatusCode.NotFound)
                return (null, null, new("recorder.no-channel", Message.Said(label), Message.Number(channel)));
            if (response.StatusCode == HttpStatusCode.ServiceUnavailable)
                return (null, null, Why(TableTrouble.Silent, label));
            if (!response.IsSuccessStatusCode)
                return (null, null, Why(TableTrouble.Nonsense, label));
            if (response.Headers.TryGetValues("Channel", out var told) && int.TryParse(told.FirstOrDefault(), out var own))
                said = own;
            if (response.StatusCode == HttpStatusCode.NoContent)
                return (new(said, [], true), null, null);
            if (
                response.Content.Headers.ContentType is not { MediaType: "multipart/x-mixed-replace" } type
                || type.Parameters.FirstOrDefault(p => p.Name.Equals("boundary", StringComparison.OrdinalIgnoreCase))?.Value
                    is not { Length: > 0 and <= 100 } boundary
            )
                return (null, null, Why(TableTrouble.Nonsense, label));
            await using var body = await response.Content.ReadAsStreamAsync(limit.Token);
            var reader = new MultipartReader(boundary.Trim('"'), body) { BodyLengthLimit = MostPictureBytes, HeadersCountLimit = 10 };
            long bytes = 0;
            while (await reader.ReadNextSectionAsync(limit.Token) is { } part)
            {
                using var picture = new MemoryStream();
                await part.Body.CopyToAsync(picture, limit.Token);
                bytes += picture.Length;
                if (Moment(part.Headers?.GetValueOrDefault("Timestamp").ToString()) is not { } at || bytes > MostClipBytes)
                    return (null, null, Why(TableTrouble.Nonsense, label));
                if (frames.Count == MostFrames)
                    return (null, null, Why(TableTrouble.Nonsense, label));
                frames.Add(at);
                if ((at - wanted).Duration() is var away && away < nearest)
                    (nearest, still) = (away, picture.ToArray());
            }
            whole = true;
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            if (frames.Count == 0)
                return (null, null, Why(TableTrouble.Silent, label));
        }
        catch (InvalidDataException)
        {
            return (null, null, Why(TableTrouble.Nonsense, label));
        }
        catch (Exception problem) when (problem is HttpRequestException or IOException)
        {
            // What broke off after its first picture still shows those that came.
            if (frames.Count == 0)
                return (null, null, Why(TableTrouble.Silent, label));
        }
        return (new(said, frames.ToImmutable(), whole), still, null);
    }

    /// <inheritdoc/>
    public async Task<Message?> Set(IReadOnlyList<ChannelSetting> settings, CancellationToken cancel)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(patience);
        try
        {
            using var response = await http.PutAsync($"{_path}/channels", JsonContent.Create(settings), limit.Token);
            return response.IsSuccessStatusCode ? null
                : response.StatusCode == HttpStatusCode.ServiceUnavailable ? Why(TableTrouble.Silent, label)
                : new("recorder.refused", Message.Said(label), Message.Number((int)response.StatusCode));
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return Why(TableTrouble.Silent, label);
        }
        catch (Exception problem) when (problem is HttpRequestException or IOException)
        {
            return Why(TableTrouble.Silent, label);
        }
    }

    private static Message Why(TableTrouble trouble, string label) =>
        new(
            trouble switch
            {
                TableTrouble.Unknown => "recorder.unknown",
                TableTrouble.Silent => "recorder.silent",
                _ => "recorder.nonsense",
            },
            Message.Said(label)
        );

    private static string Text(string? said, int most) =>
        said is null ? ""
        : said.Trim() is var own && own.Length > most ? own[..most]
        : own;

    private static double? Number(double? said, double most) => said is { } own && own >= 0 && own <= most ? own : null;

    private static T Word<T>(string? said)
        where T : struct, Enum =>
        said is { Length: > 0 and < 30 } && char.IsLetter(said[0]) && Enum.TryParse<T>(said, true, out var own) ? own : default;

    private static ImmutableArray<string>? Names(List<string?>? said) =>
        said is null ? null : [.. said.Take(200).Select(s => Text(s, 120)).Where(s => s.Length > 0)];

    /// <summary>A time with its zone; without one it may be any.</summary>
    private static DateTimeOffset? Moment(string? said) =>
        said is { Length: > 0 and < 60 }
        && (said.EndsWith('Z') || said.LastIndexOfAny(['+', '-']) > 10)
        && DateTimeOffset.TryParse(said, CultureInfo.InvariantCulture, DateTimeStyles.None, out var at)
        && at.Year is > 1960 and < 2200
            ? at
            : null;
}
