using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Walking;

/// <summary>Something to carry.</summary>
/// <param name="Id">Of the tool or item; its words are <c>tool.ID</c> or <c>item.ID</c>.</param>
/// <param name="Stops">How many Stops want it.</param>
/// <param name="First">Label of the first of them on the Walk.</param>
public sealed record LoadLine(string Id, int Stops, string First);

/// <summary>What has to be carried for a stretch of the Walk.</summary>
/// <param name="Tools">Of the rows that are left and can be taken, the one that most Stops want first.</param>
/// <param name="Parts">Of the packs: where a pack was gone through what was not there, else what no maker puts in.</param>
public sealed record LoadList(ImmutableArray<LoadLine> Tools, ImmutableArray<LoadLine> Parts)
{
    /// <summary>Of Stops in the order of the Walk.</summary>
    public static LoadList Of(IEnumerable<(string Label, Card Card)> stops)
    {
        var (tools, parts) = (new Dictionary<string, LoadLine>(), new Dictionary<string, LoadLine>());
        foreach (var (label, card) in stops)
        {
            foreach (var tool in card.Tools)
                Add(tools, tool, label);
            foreach (var row in card.Rows)
                if (row.Check.Id == KnownChecks.Pack && row is { Required: true, State: not State.NotApplicable })
                    foreach (var item in Wanted(row))
                        Add(parts, item, label);
        }
        return new(Sorted(tools), Sorted(parts));
    }

    private static IEnumerable<string> Wanted(CardRow row) =>
        row.Counted?.Value is ListValue said ? said.Marked : row.Items.Where(i => i.Bring).Select(i => i.Id);

    private static void Add(Dictionary<string, LoadLine> lines, string id, string label) =>
        lines[id] = lines.TryGetValue(id, out var line) ? line with { Stops = line.Stops + 1 } : new LoadLine(id, 1, label);

    private static ImmutableArray<LoadLine> Sorted(Dictionary<string, LoadLine> lines) =>
        [.. lines.Values.OrderByDescending(l => l.Stops).ThenBy(l => l.Id, StringComparer.Ordinal)];
}
