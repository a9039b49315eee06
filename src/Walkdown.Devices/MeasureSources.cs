using System.Collections.Concurrent;
using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Devices;

/// <summary>
/// All sources of measurements, and the one way to ask one: the source that a check names, so many questions at once to one host, and
/// nobody waits longer than a technician on a ladder does.
/// </summary>
public sealed class MeasureSources(IEnumerable<IMeasureSource> sources, MeasureSources.Settings settings)
{
    /// <param name="Patience">How long one question may take, from the moment that it is put.</param>
    public sealed record Settings(TimeSpan Patience);

    private readonly ImmutableDictionary<string, IMeasureSource> _byId = sources.ToImmutableDictionary(s => s.Id);
    private readonly ConcurrentDictionary<(string Source, string Host), SemaphoreSlim> _hosts = new();

    /// <summary>The source that reads a check; null where none does.</summary>
    public IMeasureSource? For(CheckDefinition check) =>
        _byId.TryGetValue(check.ReadFrom, out var source) && source.CanRead(check) ? source : null;

    /// <summary>Asks the source of the check. Trouble is in the answer; only <paramref name="cancel"/> throws.</summary>
    public async Task<SourceAnswer> Ask(SourceQuestion question, CancellationToken cancel)
    {
        if (For(question.Check) is not { } source)
            return SourceAnswer.Failed("tester.no-function");
        if (source.HostOf(question) is not { } host)
            return SourceAnswer.Failed("expect.none.no-port");
        var gate = _hosts.GetOrAdd((source.Id, host), _ => new SemaphoreSlim(source.MostAtOnce));
        await gate.WaitAsync(cancel);
        try
        {
            using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            patience.CancelAfter(settings.Patience);
            try
            {
                return await source.Ask(question, patience.Token);
            }
            catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
            {
                return SourceAnswer.Failed(source.Silent, Message.Number(settings.Patience.TotalSeconds, 1));
            }
        }
        finally
        {
            gate.Release();
        }
    }
}
