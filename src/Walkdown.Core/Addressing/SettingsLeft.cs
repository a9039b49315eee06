using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>Settings as they were left, against what the device came with, and why (C46).</summary>
internal static class SettingsLeft
{
    /// <summary>
    /// Out where a setting is said to be made where the model's sheet has no such place for it; not judged while one that differs from what
    /// the device came with has no reason; else in. Where only one place has it, that is told.
    /// </summary>
    public static Judged Judge(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var because = ImmutableArray.CreateBuilder<Message>();
        var (elsewhere, unexplained) = (false, false);
        foreach (var line in ((FormValue)value).Lines)
        {
            if (line.Of("setting")?.Word is not { } setting)
            {
                unexplained = true;
                because.Add(new("form.not-said", FormJudges.Name(c, "setting")));
                continue;
            }
            var name = $"{FormJudges.Name(c, "setting")}.{setting}";
            var places = c.Model?.Surfaces.FirstOrDefault(s => s.Setting == setting)?.At ?? [];
            var surface = line.Of("surface")?.Word;
            if (places.IsEmpty)
                because.Add(new("left.no-sheet", name));
            else if (surface is not null && !places.Contains(surface))
            {
                elsewhere = true;
                because.Insert(
                    0,
                    new("left.elsewhere", name, "@surface." + surface, string.Join(", ", places.Select(p => "@surface." + p)))
                );
            }
            else if (places is [var only])
                because.Add(new("left.only-there", name, "@surface." + only));
            if (line.Of("left")?.Word?.Trim() is not { Length: > 0 } left || line.Of("was")?.Word?.Trim() is not { Length: > 0 } was)
            {
                unexplained = true;
                because.Add(new("left.not-said", name));
            }
            else if (!left.Equals(was, StringComparison.OrdinalIgnoreCase) && string.IsNullOrWhiteSpace(line.Of("why")?.Word))
            {
                unexplained = true;
                because.Add(new("left.no-why", name, Message.Said(left), Message.Said(was)));
            }
        }
        return new(
            elsewhere ? State.Out
                : unexplained ? State.NotJudged
                : State.In,
            null,
            null,
            because.ToImmutable()
        );
    }
}
