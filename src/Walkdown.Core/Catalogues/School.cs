namespace Walkdown.Core.Catalogues;

/// <summary>
/// A question on which practitioners differ, and its sides. A job takes one side of each; the side gives features, and the rules of checks,
/// items, limits and cautions ask for these. Its words: <c>school.ID</c>, <c>school.ID.why</c> for the grounds of the default.
/// </summary>
public sealed record School
{
    /// <summary>Id; never renamed.</summary>
    public required string Id { get; init; }

    /// <summary>Parts of the work that it is about; empty: all of it.</summary>
    public ImmutableArray<Acceptance.Section> Parts { get; init; } = [];

    /// <summary>The sides.</summary>
    public required ImmutableArray<SchoolSide> Sides { get; init; }

    /// <summary>The side of a job that says nothing: the first one, unless another is named.</summary>
    public string? Default { get; init; }

    /// <summary>The side that a job takes; one that this catalogue does not know is the default.</summary>
    public SchoolSide SideOf(string? chosen) =>
        Sides.FirstOrDefault(s => s.Id == chosen) ?? Sides.FirstOrDefault(s => s.Id == Default) ?? Sides[0];

    /// <summary>Code of its words.</summary>
    public string TextKey => "school." + Id;
}

/// <summary>One side of a school. Its words: <c>school.SCHOOL.ID</c>.</summary>
public sealed record SchoolSide
{
    /// <summary>Id within its school; never renamed.</summary>
    public required string Id { get; init; }

    /// <summary>What every device of the job has by it, for the rules.</summary>
    public ImmutableArray<string> Features { get; init; } = [];
}
