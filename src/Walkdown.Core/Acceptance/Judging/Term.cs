using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>A figure an expectation rests on, with its origin.</summary>
/// <param name="PlusMinus">How far it may be off, with its unit; null where that is not known or does not enter.</param>
/// <param name="HalfFrom">Where that half width comes from.</param>
/// <param name="Name">Its name.</param>
/// <param name="Origin">Where the figure comes from.</param>
/// <param name="Value">The value.</param>
public readonly record struct Term(string Name, string Value, Origin Origin, string? PlusMinus = null, Message? HalfFrom = null);
