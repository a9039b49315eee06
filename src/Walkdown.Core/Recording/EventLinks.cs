using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>One plate camera's link among all of the site.</summary>
/// <param name="Device">Label of the place.</param>
/// <param name="Link">As both sides were read; null: nobody has.</param>
/// <param name="Notes">What is wrong among all of them: no identifier, one that another has too.</param>
/// <param name="Proposed">An identifier that nobody has, where it has none; empty: it has one, or nobody said what it is for.</param>
public sealed record LinkAmongAll(string Device, EventLink? Link, ImmutableArray<Message> Notes, string Proposed);

/// <summary>Identifiers of all plate cameras of a site together: each is nobody else's, at the camera and at its recorder.</summary>
public static class EventLinks
{
    /// <summary>Looks through all of them.</summary>
    /// <param name="links">By place, in the order of their labels.</param>
    /// <param name="rule">How identifiers are made here.</param>
    /// <exception cref="BadInputException">A rule that cannot be.</exception>
    public static ImmutableArray<LinkAmongAll> Of(IReadOnlyList<(string Device, EventLink? Link)> links, IdentifierRule rule)
    {
        var rows = links.Select(l => new EventIdentifier(l.Device, l.Link?.IdAtCamera, l.Link?.Role)).ToList();
        var found = rule.Check(rows).Rows;
        // What one side has is taken, whichever side it is.
        var taken = links
            .SelectMany(l => new[] { l.Link?.IdAtCamera, l.Link?.IdAtRecorder })
            .OfType<string>()
            .Where(id => id.Length > 0)
            .ToHashSet();
        var atRecorder = links
            .Where(l => l.Link is { IdAtRecorder.Length: > 0 })
            .GroupBy(l => l.Link!.IdAtRecorder)
            .Where(g => g.Count() > 1)
            .Select(g => g.Key)
            .ToHashSet();
        var prefix = PrefixOf(taken, rule);
        var made = new Dictionary<string, string>();
        foreach (var role in links.Where(Lacks).GroupBy(l => l.Link!.Role))
        {
            var ids = rule.Make(prefix, role.Key, role.Count(), taken);
            foreach (var ((device, _), id) in role.Zip(ids))
                made[device] = id;
        }
        return
        [
            .. links.Select(
                (l, i) =>
                    new LinkAmongAll(
                        l.Device,
                        l.Link,
                        l.Link is not { } link
                            ? []
                            :
                            [
                                .. found[i].Select(f => EventLink.Say(f, link, rule)),
                                .. atRecorder.Contains(link.IdAtRecorder)
                                && !(found[i].Contains(IdentifierFinding.NotUnique) && link.IdAtRecorder == link.IdAtCamera)
                                    ? [new Message("link.id-twice", Message.Said(link.IdAtRecorder))]
                                    : ImmutableArray<Message>.Empty,
                            ],
                        made.GetValueOrDefault(l.Device, "")
                    )
            ),
        ];

        static bool Lacks((string Device, EventLink? Link) l) => l.Link is { IdAtCamera: "" };
    }

    /// <summary>The digits before the role that most have; where none has any, a 1 and noughts.</summary>
    private static string PrefixOf(IEnumerable<string> taken, IdentifierRule rule)
    {
        var length = rule.RoleStart - 1;
        return taken
                .Where(id => id.Length == rule.Length && id.All(char.IsAsciiDigit))
                .GroupBy(id => id[..length])
                .OrderByDescending(g => g.Count())
                .ThenBy(g => g.Key, StringComparer.Ordinal)
                .Select(g => g.Key)
                .FirstOrDefault()
            ?? "1".PadRight(length, '0')[..length];
    }
}
