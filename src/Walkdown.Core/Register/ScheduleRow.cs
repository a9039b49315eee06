namespace Walkdown.Core.Register;

/// <summary>One row of a schedule in the register's notation.</summary>
/// <param name="Row">As counted in the file; 0 for one that is only named by others.</param>
/// <param name="Values">By column id; only what is given.</param>
/// <param name="Notes">What stood in columns that the register does not know, by heading.</param>
public sealed record ScheduleRow(int Row, ImmutableDictionary<string, string> Values, ImmutableDictionary<string, string> Notes)
{
    /// <summary>The device's label.</summary>
    public string Label => Values.GetValueOrDefault("label", "");

    /// <summary>Its kind.</summary>
    public string Kind => Values.GetValueOrDefault("kind", "");

    /// <summary>It is a cabinet's row.</summary>
    public bool IsCabinet => Kind == SchedulePlan.CabinetKind;

    /// <summary>A column's value; null: there is none.</summary>
    public string? this[string field] => Values.GetValueOrDefault(field);

    /// <summary>Channels in order of the heads.</summary>
    public IEnumerable<int> Channels =>
        (this["channels"] ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(c => int.Parse(c, CultureInfo.InvariantCulture));

    /// <summary>A column as a number; null: empty.</summary>
    public double? Number(string field) => this[field] is { } text ? double.Parse(text, CultureInfo.InvariantCulture) : null;

    /// <summary>A column as a whole number; null: empty.</summary>
    public int? Whole(string field) => (int?)Number(field);
}
