using System.Collections.Immutable;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Devices;

/// <summary>A value for one part of a check, as the tester gave it.</summary>
public sealed record TesterReading(string Part, ReadingValue Value);

/// <summary>What came of asking the tester: readings, or why there are none.</summary>
/// <param name="Raw">The answer as it came, for the record.</param>
public sealed record TesterOutcome(ImmutableArray<TesterReading> Readings, string? Serial, Message? Trouble, string Raw = "")
{
    public static TesterOutcome Failed(string code, params ImmutableArray<string> args) => new([], null, new Message(code, args));
}

/// <summary>
/// Asks a tester over HTTP (docs/formats.md, "Tester"). An answer is taken only when it is of the run and the function that were asked for
/// and
/// every part of it can be read; anything else is trouble in a technician's words.
/// </summary>
public sealed class TesterClient(HttpClient http, TesterClient.Settings settings)
{
    /// <param name="Patience">A reading takes a moment; a technician on a ladder does not wait longer than this.</param>
    public sealed record Settings(TimeSpan Patience);

    private const int MostBytes = 64 * 1024;

    /// <summary>A port as the switch knows it.</summary>
    public sealed record PortName(string Cabinet, int Number);

    /// <summary>Reads one check of a run from the tester, or from the switch where the check says so.</summary>
    /// <param name="port">The run's port, for what the switch is asked.</param>
    public async Task<TesterOutcome> Measure(CheckDefinition check, string run, PortName? port, Condition under, CancellationToken cancel)
    {
        if (check.Tester is not { } function)
            return TesterOutcome.Failed("tester.no-function");
        var ofSwitch = check.ReadFrom == ReadFrom.Switch;
        if (ofSwitch && port is null)
            return TesterOutcome.Failed("expect.none.no-port");
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patience.CancelAfter(settings.Patience);
        JsonDocument document;
        try
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, ofSwitch ? "switch/measure" : "tester/measure")
            {
                Content = ofSwitch
                    ? JsonContent.Create(
                        new
                        {
                            function,
                            cabinet = port!.Cabinet,
                            port = port.Number,
                            condition = Codes.Of(under),
                        }
                    )
                    : JsonContent.Create(
                        new
                        {
                            function,
                            run,
                            condition = Codes.Of(under),
                        }
                    ),
            };
            using var response = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, patience.Token);
            if (response.StatusCode == HttpStatusCode.NotFound)
                return ofSwitch
                    ? TesterOutcome.Failed(
                        "tester.unknown-port",
                        port!.Cabinet,
                        port.Number.ToString(System.Globalization.CultureInfo.InvariantCulture)
                    )
                    : TesterOutcome.Failed("tester.unknown-run", run);
            if (!response.IsSuccessStatusCode)
                return TesterOutcome.Failed(
                    "tester.refused",
                    ((int)response.StatusCode).ToString(System.Globalization.CultureInfo.InvariantCulture)
                );
            document = JsonDocument.Parse(await ReadBounded(response, patience.Token));
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return TesterOutcome.Failed("tester.silent", Message.Number(settings.Patience.TotalSeconds, 1));
        }
        catch (HttpRequestException)
        {
            return TesterOutcome.Failed("tester.unreachable");
        }
        catch (Exception problem) when (problem is JsonException or InvalidDataException or IOException)
        {
            return TesterOutcome.Failed("tester.nonsense");
        }
        using (document)
        {
            try
            {
                return Read(document.RootElement, check, function, run, ofSwitch ? port : null);
            }
            catch (Exception problem)
                when (problem is InvalidOperationException or FormatException or KeyNotFoundException or OverflowException)
            {
                return TesterOutcome.Failed("tester.nonsense");
            }
        }
    }

    private static async Task<byte[]> ReadBounded(HttpResponseMessage response, CancellationToken cancel)
    {
        await using var stream = await response.Content.ReadAsStreamAsync(cancel);
        var buffer = new byte[MostBytes + 1];
        var length = await stream.ReadAtLeastAsync(buffer, buffer.Length, throwOnEndOfStream: false, cancel);
        return length <= MostBytes ? buffer[..length] : throw new InvalidDataException("too long");
    }

    private static TesterOutcome Read(JsonElement answer, CheckDefinition check, string function, string run, PortName? port)
    {
        if (port is not null)
        {
            if (
                !string.Equals(answer.GetProperty("cabinet").GetString(), port.Cabinet, StringComparison.OrdinalIgnoreCase)
                || answer.GetProperty("port").GetInt32() != port.Number
            )
                return TesterOutcome.Failed("tester.nonsense");
        }
        else if (
            answer.GetProperty("run").GetString() is var answered
            && !string.Equals(answered ??= "", run, StringComparison.OrdinalIgnoreCase)
        )
            return TesterOutcome.Failed("tester.other-run", answered.Length > 40 ? answered[..40] : answered, run);
        if (answer.GetProperty("function").GetString() != function)
            return TesterOutcome.Failed("tester.nonsense");
        ImmutableArray<TesterReading> readings = check.Entry switch
        {
            EntryKind.WireMap => [new("", Map(answer))],
            EntryKind.Choice => [new("", new ChoiceValue(answer.GetProperty("choice").GetString() ?? ""))],
            EntryKind.Probes => [new("", Probes(answer))],
            EntryKind.Counters =>
            [
                new(
                    "",
                    new CountersValue(
                        Look(answer.GetProperty("first")),
                        Look(answer.GetProperty("second")),
                        answer.GetProperty("intervalS").GetDouble(),
                        answer.TryGetProperty("bits", out var bits) ? bits.GetInt32() : 32
                    )
                ),
            ],
            EntryKind.Number when check.PartsFrom is not null =>
            [
                .. answer
                    .GetProperty("pairs")
                    .EnumerateObject()
                    .Select(p => new TesterReading(p.Name, Number(p.Value.GetDouble(), answer, check))),
            ],
            EntryKind.Number => [new("", Number(answer.GetProperty("value").GetDouble(), answer, check))],
            _ => [],
        };
        if (readings.IsEmpty)
            return TesterOutcome.Failed("tester.no-function");
        if (readings.Any(r => ReadingRules.Refuse(check, r.Value) is not null))
            return TesterOutcome.Failed("tester.nonsense");
        var named =
            answer.TryGetProperty("serial", out var serial) && serial.ValueKind == JsonValueKind.String ? serial.GetString()!.Trim() : "";
        return named.Length > 60
            ? TesterOutcome.Failed("tester.nonsense")
            : new TesterOutcome(readings, named.Length > 0 ? named : null, null, answer.GetRawText());
    }

    private static ProbesValue Probes(JsonElement answer)
    {
        var trips =
            answer.TryGetProperty("roundTripsMs", out var list) && list.ValueKind == JsonValueKind.Array
                ? list.EnumerateArray().Select(t => t.ValueKind == JsonValueKind.Null ? (double?)null : t.GetDouble()).ToImmutableArray()
                : (ImmutableArray<double?>?)null;
        return new ProbesValue(answer.GetProperty("sent").GetInt32(), answer.GetProperty("received").GetInt32(), trips);
    }

    private static CounterLook Look(JsonElement look) => new(look.GetProperty("packets").GetInt64(), look.GetProperty("errors").GetInt64());

    /// <summary>Units in, units out: what the tester calls its unit is read like a typed one.</summary>
    private static NumberValue Number(double value, JsonElement answer, CheckDefinition check)
    {
        var unit = answer.GetProperty("unit").GetString() ?? "";
        var one = QuantityText.Parse("1 " + unit, check.Unit);
        return one.Value is { } factor ? new NumberValue(value * factor.Value, check.Unit) : throw new FormatException(unit);
    }

    private static WireMapValue Map(JsonElement answer) =>
        new(
            [
                .. answer
                    .GetProperty("map")
                    .EnumerateArray()
                    .Select(far => far.EnumerateArray().Select(pin => pin.GetInt32()).ToImmutableArray()),
            ],
            answer.GetProperty("readAt").GetString() == "far-unit" ? MapReadAt.FarUnit : MapReadAt.MainUnit,
            answer.TryGetProperty("openDistanceM", out var open)
                ? open.EnumerateObject().ToImmutableDictionary(d => d.Name, d => d.Value.GetDouble())
                : null,
            answer.TryGetProperty("remoteLabel", out var label) ? label.GetString() : null,
            answer.TryGetProperty("shieldArrives", out var shield) && shield.ValueKind is JsonValueKind.True or JsonValueKind.False
                ? shield.GetBoolean()
                : null,
            answer.TryGetProperty("twistedPairs", out var twists) && twists.ValueKind == JsonValueKind.Array
                ? [.. twists.EnumerateArray().Select(pair => pair.EnumerateArray().Select(pin => pin.GetInt32()).ToImmutableArray())]
                : null
        );
}
