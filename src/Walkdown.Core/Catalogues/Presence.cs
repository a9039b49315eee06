namespace Walkdown.Core.Catalogues;

/// <summary>
/// Something that has to be on site before some rows can be taken, and that a person says is there, or from when on it will be: the
/// permanent feed, a second person. Its words: <c>presence.ID</c>.
/// </summary>
public sealed record Presence
{
    /// <summary>Id; never renamed.</summary>
    public required string Id { get; init; }

    /// <summary>Code of its words.</summary>
    public string TextKey => "presence." + Id;
}
