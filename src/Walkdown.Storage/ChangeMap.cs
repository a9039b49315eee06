namespace Walkdown.Storage;

/// <summary>What a change may make another. What it does not name stays as it is in memory.</summary>
[Flags]
public enum Alters
{
    /// <summary>No Card is judged otherwise, and the Walk is the same.</summary>
    Nothing = 0,

    /// <summary>The job's own words, and who may write.</summary>
    People = 1,

    /// <summary>Instruments: their accuracy, their calibration, their reference checks.</summary>
    Instruments = 2,

    /// <summary>What Cards are judged from: places, runs, ports, supplies, units, practice.</summary>
    Cards = 4,

    /// <summary>The Walk: its order, names, places on the plan, the drawing.</summary>
    Walk = 8,
    Everything = People | Instruments | Cards | Walk,
}

/// <summary>
/// The map of what depends on which change, by the journal's kind. Everything that is kept in memory and is not an entry of one Card
/// forgets by this map and by nothing else; a kind that is not in it makes everything another.
/// </summary>
public static class ChangeMap
{
    private static readonly Dictionary<string, Alters> ByKind = new()
    {
        ["picture"] = Alters.Nothing,
        ["erasure"] = Alters.Nothing,
        ["revision"] = Alters.Nothing,
        ["cover"] = Alters.People,
        ["person-added"] = Alters.People,
        ["kit"] = Alters.Instruments,
        // Every Card's new summary is told with it.
        ["summaries-rebuilt"] = Alters.Nothing,
        ["catalogue"] = Alters.Walk,
        ["plan"] = Alters.Cards | Alters.Walk,
        ["source"] = Alters.Cards,
        // A plan of addresses and what answers on a network judge no Card: readings of it do, once somebody takes them.
        ["network"] = Alters.Nothing,
    };

    public static Alters Of(string kind) => ByKind.GetValueOrDefault(kind, Alters.Everything);
}
