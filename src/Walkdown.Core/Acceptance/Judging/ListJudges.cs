using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Lists to be gone through, and versions to be compared.</summary>
internal static class ListJudges
{
    /// <summary>Out where an item that must not be missing is marked; else in, with what the marked ones call for.</summary>
    public static Judged List(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var marked = ((ListValue)value).Marked;
        var because = c
            .Items.Where(i => marked.Contains(i.Id))
            .OrderByDescending(i => i.Out)
            .Select(i => new Message(
                !i.Out ? "list.care"
                    : c.Check.ConfirmEach ? "list.not-confirmed"
                    : c.Check.Id == KnownChecks.Pack ? "list.missing"
                    : "list.hinders",
                "@item." + i.Id,
                $"@item.{i.Id}.for"
            ))
            .ToImmutableArray();
        return new(c.Items.Any(i => i.Out && marked.Contains(i.Id)) ? State.Out : State.In, null, null, because);
    }

    /// <summary>The version found against the model's baseline, and the recorder's against what the model needs of it.</summary>
    public static Judged Version(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var found = ((TextValue)value).Text.Trim();
        var because = ImmutableArray.CreateBuilder<Message>();
        var state = State.In;
        if (c.Model?.Firmware is not { } baseline)
        {
            state = State.NotJudged;
            because.Add(new("version.no-baseline"));
        }
        else if (FirmwareVersion.Compare(found, baseline) is not { } order)
        {
            state = State.TooClose;
            because.Add(new("version.unreadable", found, baseline));
        }
        else if (order < 0)
        {
            state = State.Out;
            because.Add(new("version.older", found, baseline));
        }
        else if (order > 0)
            because.Add(new("version.newer", found, baseline));
        if (c.Model?.NeedsRecorder is { } needed)
            foreach (var channel in c.Facts.Channels.DistinctBy(ch => ch.Recorder))
            {
                if (channel.FirmwareThatCounts(c.Catalogue) is not { } has)
                    because.Add(new("version.recorder-unknown", channel.Recorder, needed));
                else if (FirmwareVersion.Compare(has, needed) is not { } recorder || recorder >= 0)
                    continue;
                else
                {
                    state = State.Out;
                    because.Add(new("version.recorder-older", channel.Recorder, has, needed));
                    continue;
                }
                if (state is State.In)
                    state = State.NotJudged;
            }
        return new(state, null, null, because.ToImmutable());
    }
}

/// <summary>Versions as makers write them: numbers between points, with words around them.</summary>
public static class FirmwareVersion
{
    /// <summary>Below, at or above zero, number by number; null where either holds no number.</summary>
    public static int? Compare(string a, string b)
    {
        if (Numbers(a) is not { Count: > 0 } left || Numbers(b) is not { Count: > 0 } right)
            return null;
        for (var i = 0; i < Math.Max(left.Count, right.Count); i++)
        {
            var order = (i < left.Count ? left[i] : 0).CompareTo(i < right.Count ? right[i] : 0);
            if (order != 0)
                return order;
        }
        return 0;
    }

    private static List<long> Numbers(string text)
    {
        var numbers = new List<long>();
        long? at = null;
        foreach (var c in text.Append(' '))
        {
            if (char.IsAsciiDigit(c))
                at = Math.Min(long.MaxValue / 20, (at ?? 0) * 10 + (c - '0'));
            else if (at is { } number)
            {
                numbers.Add(number);
                at = null;
            }
        }
        return numbers;
    }
}
