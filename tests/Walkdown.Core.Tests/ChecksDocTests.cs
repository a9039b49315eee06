using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Tests;

/// <summary>docs/checks.md is what the catalogue says: written with WALKDOWN_WRITE=1, else compared.</summary>
public sealed class ChecksDocTests
{
    private static readonly ImmutableDictionary<string, string> Words = Directory
        .GetFiles(Path.Combine(Facts.Root, "texts"), "en*.json")
        .SelectMany(f => JsonSerializer.Deserialize<Dictionary<string, string>>(File.ReadAllText(f))!)
        .ToImmutableDictionary();

    private static string Say(string code) => Words.GetValueOrDefault(code, code);

    [Fact]
    public void TheTableOfChecksIsTheCatalogues()
    {
        var text = Table(Facts.Shipped);
        var file = Path.Combine(Facts.Root, "docs", "checks.md");
        if (Environment.GetEnvironmentVariable("WALKDOWN_WRITE") == "1")
            File.WriteAllText(file, text);
        Assert.Equal(File.ReadAllText(file), text);
    }

    private static string Table(Catalogue catalogue)
    {
        var text = new StringBuilder(
            """
            # What the Card asks

            Written from the catalogue by `ChecksDocTests`; change the catalogue, not this page. *Due* is what a job that covers all of the work asks for before it accepts.


            """
        );
        var sections = Enum.GetValues<Section>().Where(s => catalogue.Checks.Any(c => c.Section == s)).ToImmutableArray();
        text.AppendLine("## By kind")
            .AppendLine()
            .AppendLine("Checks that are due, of those that are there. A Check may have several rows: one a head, a pair, a condition.")
            .AppendLine();
        text.AppendLine($"| Kind | {string.Join(" | ", sections.Select(s => Say("section." + Codes.Of(s))))} |");
        text.AppendLine($"|---|{string.Concat(sections.Select(_ => "---|"))}");
        var practice = new Practice(DecisionRule.Guarded, Cabling.WiringScheme.T568B) { Scope = WorkScope.Whole };
        foreach (var kind in catalogue.Kinds)
        {
            var features = catalogue.FeaturesOf(kind.Id, [.. catalogue.FeaturesOf(practice, kind.Id)]);
            var cells = sections.Select(section =>
            {
                var here = catalogue.Checks.Where(c => c.Section == section && c.Applies.Holds(kind.Id, features)).ToList();
                return here.Count == 0 ? "" : $"{here.Count(c => c.Required.Holds(kind.Id, features))} of {here.Count}";
            });
            text.AppendLine($"| {Say(kind.TextKey)} | {string.Join(" | ", cells)} |");
        }
        foreach (var section in sections)
        {
            text.AppendLine().AppendLine("## " + Say("section." + Codes.Of(section))).AppendLine();
            text.AppendLine("| Check | Asked of | Due | Judged by | And |").AppendLine("|---|---|---|---|---|");
            foreach (var check in catalogue.Checks.Where(c => c.Section == section))
                text.AppendLine(
                    $"| {Say(check.TextKey)} `{check.Id.Value}` | {InWords(check.Applies)} | {InWords(check.Required)} | {Judged(check, catalogue)} | {Besides(check, catalogue)} |"
                );
        }
        text.AppendLine().AppendLine("## Where practitioners differ").AppendLine();
        text.AppendLine("| Question | Sides, the default first | Grounds |").AppendLine("|---|---|---|");
        foreach (var school in catalogue.Schools)
            text.AppendLine(
                $"| {Say(school.TextKey)} | {string.Join("; ", school.Sides.OrderBy(s => s.Id != school.SideOf(null).Id).Select(s => Say($"{school.TextKey}.{s.Id}")))} | {Say(school.TextKey + ".why")} |"
            );
        return text.ToString();
    }

    private static string InWords(Rule rule)
    {
        var parts = new List<string>();
        if (rule.Always == false)
            return "never";
        if (rule.Feature is { } feature)
            parts.Add(
                feature.StartsWith("part-", StringComparison.Ordinal) ? "covered"
                : feature == "scope-said" ? "said so"
                : Words.ContainsKey("feature." + feature) ? Say("feature." + feature)
                : feature
            );
        if (rule.Kind is { } kind)
            parts.Add(Say("kind." + kind));
        if (rule.Not is { } not)
            parts.Add($"not {InWords(not)}");
        if (rule.All is { } all)
            parts.Add(string.Join(" and ", all.Select(InWords)));
        if (rule.Any is { } any)
            parts.Add($"({string.Join(" or ", any.Select(InWords))})");
        return parts.Count == 0 ? "always" : string.Join(" and ", parts);
    }

    private static string Judged(CheckDefinition check, Catalogue catalogue)
    {
        var parts = new List<string>();
        if (!check.Good.IsEmpty)
            parts.Add(
                "right: "
                    + string.Join(
                        ", ",
                        check.Good.Select(g =>
                            Say($"choice.{check.Id.Value}.{g.Word}") + (InWords(g.Applies) is "always" ? "" : $" ({InWords(g.Applies)})")
                        )
                    )
            );
        foreach (var limit in check.Limits)
            parts.Add(
                limit.StartsWith("set:", StringComparison.Ordinal)
                    ? Window(catalogue.Limit(limit[4..])!)
                    : $"a limit worked out for the row ({limit[3..]})"
            );
        if (!check.Fields.IsEmpty)
            parts.Add("fields: " + string.Join(", ", check.Fields.Select(f => Say($"field.{check.Id.Value}.{f.Id}"))));
        if (!check.Items.IsEmpty)
            parts.Add($"{check.Items.Count(i => i.Out)} of {check.Items.Length} items must be right");
        if (check.Expect is { } expect && check.Good.IsEmpty && check.Limits.IsEmpty && check.Items.IsEmpty)
            parts.Add("as expected: " + expect);
        return parts.Count == 0 ? check.Judge : string.Join("; ", parts);

        static string Window(Limit limit) =>
            $"{(limit.Min is { } min ? $"at least {Message.Number(min)} " : "")}{(limit.Max is { } max ? $"at most {Message.Number(max)} " : "")}"
            + $"{Say("unit." + Codes.Of(limit.Unit))}, {limit.Source}: {limit.Purpose}";
    }

    private static string Besides(CheckDefinition check, Catalogue catalogue)
    {
        var parts = new List<string>();
        if (check.Wait is { } wait)
            parts.Add(
                wait.Dark ? "waits for " + Say("wait.dark")
                : wait.Recorder is not null ? "waits for " + Say("wait.recorder")
                : wait.Presence is { } presence ? "waits for " + Say("presence." + presence)
                : $"waits {Message.Number(catalogue.Figure(wait.Minutes!))} min after {Say(wait.After is { } after ? "check." + after.Value : "act." + wait.AfterAct)}"
            );
        foreach (var occasion in check.DueWhen)
            parts.Add(
                "due "
                    + (
                        occasion.Act is { } act ? "after " + Say("act." + act)
                        : occasion.Check is { } by
                            ? $"by {Say("check." + by.Value)}{(occasion.Says.IsEmpty ? "" : " (" + string.Join(", ", occasion.Says) + ")")}"
                        : "from " + occasion.From
                    )
            );
        if (!check.Parts.IsEmpty)
            parts.Add("a row each: " + string.Join(", ", check.Parts.Select(p => Say("part." + p.Id))));
        if (!check.HoldUntil.IsEmpty)
            parts.Add("held until " + string.Join(", ", check.HoldUntil.Select(h => Say("check." + h.Value))));
        if (!check.Tools.IsEmpty)
            parts.Add("with " + string.Join(", ", check.Tools.Select(t => Say("tool." + t))));
        if (check.Picture)
            parts.Add("with a picture");
        if (!check.VoidedBy.IsEmpty || !check.VoidedWhere.IsEmpty)
            parts.Add(
                "void after: "
                    + string.Join(
                        ", ",
                        check
                            .VoidedBy.Select(a => Say("act." + a))
                            .Concat(
                                check.VoidedWhere.Select(v =>
                                    v.Check is { } later
                                        ? $"a later \"{Say("check." + later.Value)}\""
                                        : $"{Say("act." + v.Act)} at the {(v.End is { } end ? Say("end." + Codes.Of(end)) : "recorder")}"
                                )
                            )
                    )
            );
        return string.Join("; ", parts);
    }
}
