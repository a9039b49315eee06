using Walkdown.Core.Topics;

namespace Walkdown.Core.Acceptance;

/// <summary>What every topic may use.</summary>
internal static class GeneralTopic
{
    private static readonly Expectation Yes = new(null, null, "yes", "expect.yes", []);

    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Judges =
        [
            new("window", GeneralJudges.Window, EntryKind.Number),
            new("yes-no", GeneralJudges.YesNo, EntryKind.YesNo),
            new("list", ListJudges.List, EntryKind.List),
            new("choice", ChoiceJudges.Choice, EntryKind.Choice),
            new("items", ChoiceJudges.Items, EntryKind.Items),
            new("form", FormJudges.Form, EntryKind.Form),
            new("tally", FormJudges.Tally, EntryKind.Form),
            new("trials", FormJudges.Trials, EntryKind.Form),
            new("version", ListJudges.Version, EntryKind.Text),
        ],
        Expectations = [new("yes", null, _ => Yes)],
    };
}
