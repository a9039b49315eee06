using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Catalogues;

/// <summary>An act that may be recorded.</summary>
public sealed record ActDefinition
{
    /// <summary>Id; never renamed.</summary>
    public required string Id { get; init; }

    /// <summary>What is worked on.</summary>
    public required SubjectKind On { get; init; }

    /// <summary>It asks which end.</summary>
    public bool AsksEnd { get; init; }

    /// <summary>It fits another unit.</summary>
    public bool NewUnit { get; init; }

    /// <summary>Pulls a plug or sets something: not while an update runs.</summary>
    public bool NotWhileUpdating { get; init; }

    /// <summary>A text <c>act.ID.void</c> says why earlier readings say nothing after it.</summary>
    public bool Explained { get; init; }

    /// <summary>Minutes that it takes.</summary>
    public int Minutes { get; init; } = 5;

    /// <summary>Code of its words.</summary>
    public string TextKey => "act." + Id;
}
