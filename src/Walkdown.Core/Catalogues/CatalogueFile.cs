using System.Text.Json.Serialization;
using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Catalogues;

/// <summary>One catalogue file. Any file may hold any part, so a new kind, its check and their texts can travel together.</summary>
public sealed record CatalogueFile
{
    /// <summary>Where its schema is.</summary>
    [JsonPropertyName("$schema")]
    public string? Schema { get; init; }

    /// <summary>Checks.</summary>
    public ImmutableArray<CheckDefinition> Checks { get; init; } = [];

    /// <summary>Kinds.</summary>
    public ImmutableArray<DeviceKind> Kinds { get; init; } = [];

    /// <summary>Models.</summary>
    public ImmutableArray<DeviceModel> Models { get; init; } = [];

    /// <summary>A whole limit set.</summary>
    public LimitSet? LimitSet { get; init; }

    /// <summary>Limits beside those of the set in force.</summary>
    public ImmutableArray<LimitEntry> Limits { get; init; } = [];

    /// <summary>Figures in place of those of the set in force.</summary>
    public ImmutableArray<FigureEntry> Figures { get; init; } = [];

    /// <summary>Acts.</summary>
    public ImmutableArray<ActDefinition> Acts { get; init; } = [];

    /// <summary>Causes.</summary>
    public ImmutableArray<CauseDefinition> Causes { get; init; } = [];

    /// <summary>Questions on which practitioners differ.</summary>
    public ImmutableArray<School> Schools { get; init; } = [];

    /// <summary>What rows wait for until a person says that it is there.</summary>
    public ImmutableArray<Presence> Presences { get; init; } = [];

    /// <summary>Kinds of instrument.</summary>
    public ImmutableArray<InstrumentKind> InstrumentKinds { get; init; } = [];

    /// <summary>True for the file that is edited in the application: what it holds takes the place of entries with the same id.</summary>
    public bool Overrides { get; init; }

    /// <summary>Number of its edition, printed beside the limit set's.</summary>
    public int? Edition { get; init; }

    /// <summary>Texts by language, then by code.</summary>
    public ImmutableDictionary<string, ImmutableDictionary<string, string>> Texts { get; init; } =
        ImmutableDictionary<string, ImmutableDictionary<string, string>>.Empty;
}
