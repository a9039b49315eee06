namespace Walkdown.Core.Register;

/// <summary>A port as it is written in one cell, taken apart.</summary>
/// <param name="Cabinet">The cabinet it names, or null.</param>
/// <param name="Switch">The switch, stack member or module it names, as written; or null.</param>
/// <param name="Port">Digits of the port.</param>
public readonly record struct PortParts(string? Cabinet, string? Switch, string Port);
