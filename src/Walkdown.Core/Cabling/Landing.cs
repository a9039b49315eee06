namespace Walkdown.Core.Cabling;

/// <summary>A conductor that is whole and lands on another number.</summary>
public readonly record struct Landing(int Near, int Far);
