using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>One plate camera's link among all of the site.</summary>
/// <param name="Device">Label of the place.</param>
/// <param name="Link">As both sides were read; null: nobody has.</param>
/// <param name="Notes">What is wrong among all of them: no identifier, one that another has too.</param>
/// <param name="Proposed">An identifier that nobody has, where it has none; empty: it has one, or nobody said what it is for.</param>
public sealed record LinkAmongAll(string Device, EventLink? Link, ImmutableArray<Message> Notes, string Proposed);

/// <summary>The event link of one plate camera, as its Card has it and among all.</summary>
/// <param name="DeviceId">The place.</param>
/// <param name="Label">Of it.</param>
/// <param name="RowId">Of its Card, to be opened there.</param>
/// <param name="Recorder">Label of the recorder that it has a channel of; empty: none.</param>
/// <param name="State">As its Card judges it; null: nobody has read it.</param>
/// <param name="Role">Of entry, exit and other; empty likewise.</param>
/// <param name="IdAtCamera">That the camera has for itself; empty: none.</param>
/// <param name="IdAtRecorder">That the recorder knows it by; empty: none.</param>
/// <param name="Because">In words.</param>
/// <param name="Proposed">An identifier that nobody has; empty: none is needed, none is left, or nobody said what it is for.</param>
public sealed record EventLinkLine(
    Guid DeviceId,
    string Label,
    string RowId,
    string Recorder,
    State? State,
    string Role,
    string IdAtCamera,
    string IdAtRecorder,
    ImmutableArray<Message> Because,
    string Proposed
);

/// <summary>Identifiers of all plate cameras of a site together: each is nobody else's, at the camera and at its recorder.</summary>
public static class EventLinks
{
    /// <summary>Of every Card that asks for a link, in the order in which they come.</summary>
    /// <param name="cards">Of one site.</param>
    /// <param name="catalogue">In force.</param>
    public static ImmutableArray<EventLinkLine> OfSite(IEnumerable<CardFacts> cards, Catalogue catalogue)
    {
        var rows = cards
            .Select(f => (Facts: f, Row: Card.Judge(f, catalogue).Rows.FirstOrDefault(r => r.Key.Check == EventLink.Row)))
            .Where(c => c.Row is not null)
            .Select(c => (c.Facts, Row: c.Row!, Reading: c.Facts.Readings.FirstOrDefault(r => r.Id == c.Row!.Counts)))
            .ToList();
        var links = rows.ConvertAll(c =>
            (c.Facts.Place.Label, Link: c.Reading?.Value is FormValue { Lines: [{ } l] } ? EventLink.Of(l) : null)
        );
        ImmutableArray<LinkAmongAll> all = EventLink.RuleOf(catalogue) is { } rule
            ? Of(links, rule)
            : [.. links.Select(l => new LinkAmongAll(l.Label, l.Link, [], ""))];
        return
        [
            .. rows.Zip(
                all,
                (c, one) =>
                    new EventLinkLine(
                        c.Facts.Place.Id,
                        c.Facts.Place.Label,
                        c.Row.Id,
                        c.Facts.Channels.Select(ch => ch.Recorder).FirstOrDefault() ?? "",
                        one.Link is null ? null : c.Row.State,
                        one.Link?.Role ?? "",
                        one.Link?.IdAtCamera ?? "",
                        one.Link?.IdAtRecorder ?? "",
                        // What the Card says of it alone, and what only all together show.
                        one.Link
                            is null
                            ? []
                            : [.. c.Row.Because.Concat(one.Notes).Distinct()],
                        one.Proposed
                    )
            ),
        ];
    }

    /// <summary>Looks through all of them.</summary>
    /// <param name="links">By place, in the order of their labels.</param>
    /// <param name="rule">How identifiers are made here.</param>
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
        foreach (var ((device, _), id) in role.Zip(rule.Free(prefix, role.Key, taken)))
            made[device] = id;
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
