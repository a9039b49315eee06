namespace Walkdown.Core.Measures;

/// <summary>Thrown where a calculation is asked for with inputs it must not guess about (docs/calculations.md, "Bad input").</summary>
/// <param name="reason">What is wrong with the value.</param>
/// <param name="field">The input's name, with its unit, as in docs/calculations.md.</param>
public sealed class BadInputException(BadInputReason reason, string field) : ArgumentException($"{field}: {reason}", field)
{
    /// <summary>What is wrong with it.</summary>
    public BadInputReason Reason { get; } = reason;

    /// <summary>The member that it is about.</summary>
    public string Field { get; } = field;
}
