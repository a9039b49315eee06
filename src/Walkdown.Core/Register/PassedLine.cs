using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>A line of the sheet that is no device: a title, a heading printed again, a page line, a total, or a row that was left
/// out.</summary>
public sealed record PassedLine(int Row, string Text, Message Why);
