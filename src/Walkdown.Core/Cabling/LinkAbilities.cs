namespace Walkdown.Core.Cabling;

/// <summary>Link speeds that the conductors allow.</summary>
public sealed record LinkAbilities(Ability Base10, Ability Base100, Ability Base1000);
