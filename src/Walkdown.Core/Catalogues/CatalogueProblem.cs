namespace Walkdown.Core.Catalogues;

/// <summary>A fault in a catalogue file, in words for whoever edits it.</summary>
public sealed record CatalogueProblem(string File, string What);
