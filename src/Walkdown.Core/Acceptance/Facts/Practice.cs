using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>How this job works where practitioners differ, and what of the work it covers.</summary>
/// <param name="Rule">How a value is held against its limits.</param>
/// <param name="Scheme">Wiring scheme of new plugs.</param>
public sealed record Practice(DecisionRule Rule, WiringScheme Scheme)
{
    /// <summary>The side taken, by school (<see cref="Catalogues.School"/>); a school that is not named follows its default.</summary>
    public ImmutableSortedDictionary<string, string> Sides { get; init; } = ImmutableSortedDictionary<string, string>.Empty;

    /// <summary>What of the work is covered.</summary>
    public WorkScope Scope { get; init; } = WorkScope.Former;

    /// <summary>With another side of one school.</summary>
    public Practice Taking(string school, string side) => this with { Sides = Sides.SetItem(school, side) };

    /// <summary>One text for each practice: what was judged under another says nothing.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string Signature => $"{Rule} {Scheme} {string.Join(",", Sides.Select(s => s.Key + "=" + s.Value))} {Scope.Signature}";

    /// <summary>By what it says.</summary>
    public bool Equals(Practice? other) => ReferenceEquals(this, other) || other is not null && Signature == other.Signature;

    /// <summary>By what it says.</summary>
    public override int GetHashCode() => Signature.GetHashCode(StringComparison.Ordinal);
}
