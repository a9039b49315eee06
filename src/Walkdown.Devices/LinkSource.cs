using System.Globalization;
using System.Text.Json;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Devices;

/// <summary>
/// Both sides of a plate camera's event link over HTTP (docs/formats.md, "Event link"): what the camera has set is asked at its address,
/// what the recorder has at its channel. One side alone is no reading: which one is incomplete shows only beside the other.
/// </summary>
public sealed class LinkSource(HttpClient http) : IMeasureSource
{
    private const string Function = "event-link";

    private sealed record Side(
        string? Serial = null,
        string? Role = null,
        string? Server = null,
        int? Port = null,
        string? Login = null,
        string? Id = null,
        string? Light = null
    );

    /// <inheritdoc/>
    public string Id => "link";

    /// <inheritdoc/>
    public ReadingSource Marks => ReadingSource.Network;

    /// <summary>A recorder is asked by few at a time: it records meanwhile.</summary>
    public int MostAtOnce => 4;

    /// <inheritdoc/>
    public string Silent => "tester.silent-link";

    /// <inheritdoc/>
    public bool CanRead(CheckDefinition check) => check.Tester == Function;

    /// <summary>The recorder: each camera is asked once.</summary>
    public string? HostOf(SourceQuestion question) => question.Channel?.Recorder ?? "";

    /// <inheritdoc/>
    public async Task<SourceAnswer> Ask(SourceQuestion question, CancellationToken cancel)
    {
        if (question.Channel is not { } channel)
            return SourceAnswer.Failed("tester.link-no-channel");
        if (string.IsNullOrWhiteSpace(question.Address))
            return SourceAnswer.Failed("tester.link-no-address");
        var (camera, atCamera) = await Get($"camera/{Uri.EscapeDataString(question.Address)}/link", cancel);
        if (camera is { Role: null })
            (camera, atCamera) = (null, TableTrouble.Nonsense);
        if (camera is null)
            return SourceAnswer.Failed("tester.link-camera-" + Codes.Of(atCamera), Message.Said(question.Address));
        var (recorder, atRecorder) = await Get(
            string.Create(CultureInfo.InvariantCulture, $"recorder/{Uri.EscapeDataString(channel.Recorder)}/link?channel={channel.Number}"),
            cancel
        );
        if (recorder is null)
            return SourceAnswer.Failed(
                "tester.link-recorder-" + Codes.Of(atRecorder),
                Message.Said(channel.Recorder),
                Message.Number(channel.Number)
            );
        // The form of the row, as any tester would give it; what a side does not have is left out.
        var fields = new Dictionary<string, object?>
        {
            ["role"] = camera.Role,
            ["server"] = Said(camera.Server),
            ["port-camera"] = camera.Port,
            ["port-recorder"] = recorder.Port,
            ["login-camera"] = camera.Login,
            ["login-recorder"] = recorder.Login,
            ["id-camera"] = Said(camera.Id),
            ["id-recorder"] = Said(recorder.Id),
            ["light-camera"] = camera.Light,
            ["light-recorder"] = recorder.Light,
        };
        var answer = JsonSerializer.SerializeToElement(
            new
            {
                function = Function,
                serial = camera.Serial,
                fields = fields.Where(f => f.Value is not null).ToDictionary(),
            }
        );
        try
        {
            return JsonValues.Of(answer, question.Check);
        }
        catch (Exception problem) when (problem is InvalidOperationException or FormatException or KeyNotFoundException)
        {
            return SourceAnswer.Failed("tester.nonsense");
        }
    }

    /// <summary>A side that does not say whether it has a login and what it shows says nothing.</summary>
    private async Task<(Side? Said, TableTrouble Trouble)> Get(string path, CancellationToken cancel)
    {
        var (side, trouble) = await JsonTable.Object<Side>(http, path, Timeout.InfiniteTimeSpan, cancel);
        return side is not null and not { Login: not null, Light: not null } ? (null, TableTrouble.Nonsense) : (side, trouble);
    }

    /// <summary>What is empty is not set.</summary>
    private static string? Said(string? text) => string.IsNullOrWhiteSpace(text) ? null : text;
}
