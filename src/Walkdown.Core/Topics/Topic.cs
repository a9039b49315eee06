namespace Walkdown.Core.Topics;

/// <summary>
/// One topic of the trade: what it judges, limits, expects and takes for evidence, by the names that checks and causes of the catalogue
/// give.
/// Its checks stand beside it as <c>checks.json</c>. A topic is a line in <see cref="Registry.Topics"/>.
/// </summary>
internal sealed record Topic
{
    /// <summary>Judges of its readings.</summary>
    public ImmutableArray<JudgeFunction> Judges { get; init; } = [];

    /// <summary>Limits that must be computed for the row at hand.</summary>
    public ImmutableArray<LimitFunction> Limits { get; init; } = [];

    /// <summary>What a row should read.</summary>
    public ImmutableArray<ExpectationFunction> Expectations { get; init; } = [];

    /// <summary>What on a Card speaks for a cause.</summary>
    public ImmutableArray<EvidenceFunction> Evidence { get; init; } = [];

    /// <summary>Figures of the limit set that its functions need.</summary>
    public ImmutableArray<string> Figures { get; init; } = [];
}
