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
    public FieldSaid? Of(string field) => Said.FirstOrDefault(s => s.Field == field);

    /// <summary>By content.</summary>
    public bool Equals(FormLine? other) => other is not null && At == other.At && Said.AsSpan().SequenceEqual(other.Said.AsSpan());

    /// <summary>By its time and how much it says.</summary>
    public override int GetHashCode() => HashCode.Combine(At, Said.Length);
}

/// <summary>Several fields at once, once or line by line: measures of a hole, a named person's word, trials, events before and after.</summary>
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
            if (line.Said.Any(s => s is null) || line.Said.DistinctBy(s => s.Field).Count() != line.Said.Length)
                return new Message("reading.form-twice");
            foreach (var said in line.Said)
                if (RefuseField(check, said) is { } refused)
                    return refused;
        }
        return null;
    }

    private static Message? RefuseField(CheckDefinition check, FieldSaid said)
    {
        if (check.Fields.FirstOrDefault(f => f.Id == said.Field) is not { } field)
            return new Message("reading.unknown-field", Short(said.Field ?? ""));
        var name = $"@field.{check.Id.Value}.{field.Id}";
        switch (field.Entry)
        {
            case FieldEntry.Word:
                return said.Number is null && said.Word is { } word && field.Words.Contains(word)
                    ? null
                    : new Message("reading.field-word", name, Short(said.Word ?? ""));
            case FieldEntry.Text:
                return said.Number is null && !string.IsNullOrWhiteSpace(said.Word) && said.Word.Length <= Longest
                    ? null
                    : new Message("reading.field-text", name, Message.Number(Longest));
            default:
                if (said.Word is not null || said.Number is not { } number || !double.IsFinite(number))
                    return new Message("reading.field-number", name);
                if (field.Entry == FieldEntry.Count && (number < 0 || number != Math.Floor(number) || number > 1e9))
                    return new Message("reading.field-count", name);
                return field.Plausible is { } may && (number < may.Min || number > may.Max)
                    ? new Message("reading.field-range", name, Message.Number(may.Min), Message.Number(may.Max))
                    : null;
        }
    }

    /// <inheritdoc/>
    public override IEnumerable<string> Words() =>
        Lines.SelectMany(l => l.Said).Where(s => s.Word is not null).Select(s => s.Field + ":" + s.Word);

    /// <summary>By content.</summary>
    public bool Equals(FormValue? other) => other is not null && Lines.AsSpan().SequenceEqual(other.Lines.AsSpan());

    /// <summary>By how many lines there are.</summary>
    public override int GetHashCode() => Lines.Length;
}
