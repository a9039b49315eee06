using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>What the reading should be, computed from the design. <paramref name="WhyNone"/> says why there is no number.</summary>
public sealed record Expectation(
    Quantity? Value,
    double? PlusMinus,
    string? Word,
    string Method,
    ImmutableArray<Term> From,
    Message? WhyNone = null
)
{
    private ImmutableArray<Term> _from = From;

    /// <summary>What it rests on; put into words when somebody reads it.</summary>
    public ImmutableArray<Term> From
    {
        get => _from.IsDefault ? _from = InWords?.Invoke() ?? [] : _from;
        init => _from = value;
    }

    /// <summary>Gives <see cref="From"/> where it was made without.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    internal Func<ImmutableArray<Term>>? InWords { get; init; }

    /// <summary>The interval that the inputs allow; null where there is no number.</summary>
    public Band? Between { get; init; }

    /// <summary>What would bring it to a reading, in its own terms; asked for only where a reading is not met.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    internal Func<double, ImmutableArray<Message>>? Explain { get; init; }

    /// <summary>By content, its terms included.</summary>
    public bool Equals(Expectation? other) =>
        other is not null
        && Value == other.Value
        && PlusMinus == other.PlusMinus
        && Word == other.Word
        && Method == other.Method
        && Between == other.Between
        && Equals(WhyNone, other.WhyNone)
        && From.AsSpan().SequenceEqual(other.From.AsSpan());

    /// <summary>By its figures.</summary>
    public override int GetHashCode() => HashCode.Combine(Value, PlusMinus, Word, Method);
}
