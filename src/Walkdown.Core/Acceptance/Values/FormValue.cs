using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>What was said in one field: a number, or words.</summary>
/// <param name="Field">Its id within the check.</param>
/// <param name="Number">In the field's unit; null: it takes words.</param>
/// <param name="Word">Its word, or the text; null: it takes a number.</param>
public sealed record FieldSaid(string Field, double? Number = null, string? Word = null);

/// <summary>One line of a form: one trial, one look, or all of it.</summary>
/// <param name="Said">What was said, field by field.</param>
/// <param name="At">When it happened, where lines have a time each.</param>
public sealed record FormLine(ImmutableArray<FieldSaid> Said, DateTimeOffset? At = null)
{
    /// <summary>What a field says; null: nothing.</summary>
    public FieldSaid? Of(string field)
    {
        foreach (var said in Said)
            if (said.Field == field)
                return said;
        return null;
    }

    /// <summary>By content.</summary>
    public bool Equals(FormLine? other) => other is not null && At == other.At && Said.AsSpan().SequenceEqual(other.Said.AsSpan());

    /// <summary>By its time and how much it says.</summary>
    public override int GetHashCode() => HashCode.Combine(At, Said.Length);
}

/// <summary>Several fields at once, once or line by line: measures of a hole, a named person's word, trials, events before and
/// after.</summary>
public sealed record FormValue(ImmutableArray<FormLine> Lines) : ReadingValue
{
    /// <summary>Longest text of a field.</summary>
    public const int Longest = 200;

    /// <inheritdoc/>
    public override bool Suits(EntryKind entry) => entry == EntryKind.Form;

    /// <inheritdoc/>
    public override Message? Refuse(CheckDefinition check)
    {
        var lines = check.Lines ?? new FormLines();
        if (Lines.IsDefaultOrEmpty || Lines.Length < lines.Least || Lines.Length > lines.Most)
            return new Message("reading.form-lines", Message.Number(lines.Least), Message.Number(lines.Most));
        foreach (var line in Lines)
        {
            if (line is null || line.Said.IsDefaultOrEmpty)
                return new Message("reading.form-empty");
            // One after another: what is not known is refused before there can be more of it than the check has fields.
            for (var i = 0; i < line.Said.Length; i++)
            {
                if (line.Said[i] is null)
                    return new Message("reading.form-twice");
                if (RefuseField(check, line.Said[i]) is { } refused)
                    return refused;
                for (var j = 0; j < i; j++)
                    if (line.Said[j].Field == line.Said[i].Field)
                        return new Message("reading.form-twice");
            }
        }
        return null;
    }

    private static Message? RefuseField(CheckDefinition check, FieldSaid said)
    {
        FormField? field = null;
        foreach (var asked in check.Fields)
            if (asked.Id == said.Field)
                field = asked;
        if (field is null)
            return new Message("reading.unknown-field", Short(said.Field ?? ""));
        switch (field.Entry)
        {
            case FieldEntry.Word:
                return said.Number is null && said.Word is { } word && field.Words.Contains(word)
                    ? null
                    : new Message("reading.field-word", Name(), Short(said.Word ?? ""));
            case FieldEntry.Text:
                return said.Number is null && !string.IsNullOrWhiteSpace(said.Word) && said.Word.Length <= Longest
                    ? null
                    : new Message("reading.field-text", Name(), Message.Number(Longest));
            default:
                if (said.Word is not null || said.Number is not { } number || !double.IsFinite(number))
                    return new Message("reading.field-number", Name());
                if (field.Entry == FieldEntry.Count && (number < 0 || number != Math.Floor(number) || number > 1e9))
                    return new Message("reading.field-count", Name());
                return field.Plausible is { } may && (number < may.Min || number > may.Max)
                    ? new Message("reading.field-range", Name(), Message.Number(may.Min), Message.Number(may.Max))
                    : null;
        }

        string Name() => $"@field.{check.Id.Value}.{field.Id}";
    }

    /// <inheritdoc/>
    public override IEnumerable<string> Words() =>
        Lines.SelectMany(l => l.Said).Where(s => s.Word is not null).Select(s => s.Field + ":" + s.Word);

    /// <summary>By content.</summary>
    public bool Equals(FormValue? other) => other is not null && Lines.AsSpan().SequenceEqual(other.Lines.AsSpan());

    /// <summary>By how many lines there are.</summary>
    public override int GetHashCode() => Lines.Length;
}
