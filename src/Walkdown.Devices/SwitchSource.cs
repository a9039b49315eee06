using System.Text.Json;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Devices;

/// <summary>A switch or injector over HTTP (docs/formats.md, "Switch"), asked by port.</summary>
public sealed class SwitchSource(HttpClient http) : IMeasureSource
{
    /// <inheritdoc/>
    public string Id => "switch";

    /// <inheritdoc/>
    public ReadingSource Marks => ReadingSource.Switch;

    /// <summary>A switch is asked by few at a time: its processor does the power as well.</summary>
    public int MostAtOnce => 4;

    /// <inheritdoc/>
    public string Silent => "tester.silent-switch";

    /// <inheritdoc/>
    public bool CanRead(CheckDefinition check) => check.Tester is not null;

    /// <inheritdoc/>
    public string? HostOf(SourceQuestion question) => question.Port?.Cabinet;

    /// <inheritdoc/>
    public Task<SourceAnswer> Ask(SourceQuestion question, CancellationToken cancel)
    {
        var port = question.Port!;
        return JsonQuestion.Put(
            http,
            "switch/measure",
            new
            {
                function = question.Check.Tester,
                cabinet = port.Cabinet,
                port = port.Number,
                condition = Codes.Of(question.Under),
            },
            SourceAnswer.Failed(
                "tester.unknown-port",
                port.Cabinet,
                port.Number.ToString(System.Globalization.CultureInfo.InvariantCulture)
            ),
            answer => Read(answer, question.Check, port),
            cancel
        );
    }

    private static SourceAnswer Read(JsonElement answer, CheckDefinition check, PortName port) =>
        string.Equals(answer.GetProperty("cabinet").GetString(), port.Cabinet, StringComparison.OrdinalIgnoreCase)
        && answer.GetProperty("port").GetInt32() == port.Number
            ? JsonValues.Of(answer, check)
            : SourceAnswer.Failed("tester.nonsense");
}
