namespace Walkdown.Core.Acceptance;

/// <summary>
/// What of the work a job covers, by parts of the work, and where a kind of device differs, for that kind. What is not covered may be taken
/// and is never due; a Verdict says that it speaks of the rest alone.
/// </summary>
/// <param name="Parts">Parts of the work that are covered.</param>
/// <param name="ByKind">Kinds that differ, with theirs.</param>
public sealed record WorkScope(ImmutableArray<Section> Parts, ImmutableSortedDictionary<string, ImmutableArray<Section>> ByKind)
{
    /// <summary>All of the work, from the pack to the last wiped cover.</summary>
    public static readonly WorkScope Whole = new(
        [.. Enum.GetValues<Section>()],
        ImmutableSortedDictionary<string, ImmutableArray<Section>>.Empty
    );

    /// <summary>Of jobs that were begun before a job said what it covers: cable, power and link, and whatever a company's own checks
    /// require.</summary>
    public static readonly WorkScope Former = Whole with { Parts = [Section.Cable, Section.Power, Section.Link], IsFormer = true };

    /// <summary>Nobody has said what is covered: what was due before stays due.</summary>
    public bool IsFormer { get; init; }

    /// <summary>Nothing of the work is left out, of any kind.</summary>
    public bool IsWhole => ByKind.IsEmpty && Handover.AcceptanceScope.NotAsked(Parts).IsEmpty;

    /// <summary>Parts that are covered of a kind.</summary>
    public ImmutableArray<Section> Of(string kind) => ByKind.GetValueOrDefault(kind, Parts);

    /// <summary>What the rules of checks may ask for: <c>part-SECTION</c> where it is covered, and <c>outside-SECTION</c> where the job
    /// says that it is not.</summary>
    internal IEnumerable<string> FeaturesOf(string kind)
    {
        var parts = Of(kind);
        foreach (var section in Enum.GetValues<Section>())
            if (parts.Contains(section))
                yield return Covered[(int)section];
            else if (!IsFormer)
                yield return Outside[(int)section];
        // What was not due in jobs from before anybody could say so is not due in them now.
        if (!IsFormer)
            yield return Said;
    }

    /// <summary>One text for each scope.</summary>
    internal string Signature =>
        IsFormer
            ? "former"
            : string.Join("", Parts.Order().Select(p => (char)('a' + (int)p)))
                + string.Concat(ByKind.Select(k => $" {k.Key}:{string.Join("", k.Value.Order().Select(p => (char)('a' + (int)p)))}"));

    /// <summary>Somebody has said what the job covers.</summary>
    internal const string Said = "scope-said";

    internal static string PartOf(Section section) => Covered[(int)section];

    internal static string OutsideOf(Section section) => Outside[(int)section];

    private static readonly string[] Covered = [.. Enum.GetValues<Section>().Select(s => "part-" + Measures.Codes.Of(s))],
        Outside = [.. Enum.GetValues<Section>().Select(s => "outside-" + Measures.Codes.Of(s))];
}
