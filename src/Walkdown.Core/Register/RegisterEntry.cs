namespace Walkdown.Core.Register;

/// <summary>One device of the register as it is now.</summary>
/// <param name="Features">Of its kind and its own.</param>
/// <param name="Values">By column id.</param>
/// <param name="Id">Its id.</param>
/// <param name="Label">Its label.</param>
/// <param name="Kind">Its kind.</param>
public sealed record RegisterEntry(
    Guid Id,
    string Label,
    string Kind,
    IReadOnlySet<string> Features,
    IReadOnlyDictionary<string, string> Values
)
{
    /// <summary>A column's value; null: there is none.</summary>
    public string? this[string field] => Values.GetValueOrDefault(field);
}
