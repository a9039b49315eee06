using System.Text.Json;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;

namespace Walkdown.Devices;

/// <summary>
/// A cable tester over HTTP (docs/formats.md, "Tester"). An answer is taken only when it is of the run and the function that were asked for
/// and every part of it can be read.
/// </summary>
public sealed class TesterSource(HttpClient http) : IMeasureSource
{
    /// <inheritdoc/>
    public string Id => "tester";

    /// <inheritdoc/>
    public ReadingSource Marks => ReadingSource.Tester;

    /// <inheritdoc/>
    public int MostAtOnce => 16;

    /// <inheritdoc/>
    public bool CanRead(CheckDefinition check) => check.Tester is not null;

    /// <inheritdoc/>
    public string? HostOf(SourceQuestion question) => http.BaseAddress?.Authority ?? "";

    /// <inheritdoc/>
    public Task<SourceAnswer> Ask(SourceQuestion question, CancellationToken cancel) =>
        JsonQuestion.Put(
            http,
            "tester/measure",
            new
            {
                function = question.Check.Tester,
                run = question.Label,
                condition = Codes.Of(question.Under),
            },
            SourceAnswer.Failed("tester.unknown-run", question.Label),
            answer => Read(answer, question),
            cancel
        );

    private static SourceAnswer Read(JsonElement answer, SourceQuestion question)
    {
        var run = answer.GetProperty("run").GetString() ?? "";
        if (string.Equals(run, question.Label, StringComparison.OrdinalIgnoreCase))
            return JsonValues.Of(answer, question.Check);
        // It hangs on another run: that is no reading of this one, but it is one.
        var other = JsonValues.Of(answer, question.Check);
        var named = run.Length > 40 ? run[..40] : run;
        return SourceAnswer.Failed("tester.other-run", named, question.Label) with
        {
            Serial = other.Serial,
            Raw = other.Raw,
            Found = other.Trouble is null && run.Length is > 0 and <= 60 ? new FoundIdentity { Label = run } : null,
        };
    }
}
