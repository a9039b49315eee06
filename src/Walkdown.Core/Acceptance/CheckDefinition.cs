using System.Text.Json;
using System.Text.Json.Serialization;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Name of a check, such as <c>power.volts-at-device</c>. Never renamed.</summary>
[JsonConverter(typeof(Json))]
public readonly record struct CheckId(string Value)
{
    public override string ToString() => Value;

    internal sealed class Json : JsonConverter<CheckId>
    {
        public override CheckId Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) => new(reader.GetString() ?? "");

        public override void Write(Utf8JsonWriter writer, CheckId value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.Value);
    }
}

public enum Section
{
    Before,
    Bench,
    Cable,
    Fixing,
    Power,
    Link,
    Address,
    Time,
    Recorder,
    Aim,
    Focus,
    Night,
    Finish,
}

/// <summary>The eight legs of the signal path, from the recorder to the scene.</summary>
public enum Leg
{
    Recorder,
    Port,
    Run,
    Power,
    Link,
    Address,
    Picture,
    Fixing,
}

/// <summary>How a reading is entered.</summary>
public enum EntryKind
{
    YesNo,
    Number,
    Choice,
    WireMap,
    List,
    Text,
    Probes,
    Counters,
    Light,
}

/// <summary>What a row is about.</summary>
public enum SubjectKind
{
    Place,
    Unit,
    Head,
    Run,
    Port,
    Channel,
}

/// <summary>The subject of one row; the part names a piece of it (<c>pair 4-5</c>), empty for the whole.</summary>
public readonly record struct Subject(SubjectKind Kind, Guid Id, string Part = "");

/// <summary>Conditions under which a reading is taken. <see cref="Any"/> asks for none.</summary>
[Flags]
public enum Condition
{
    Any = 0,
    Bench = 1,
    CoverOn = 2,
    CoverOff = 4,
    InfraredOff = 8,
    InfraredOn = 16,
    HeaterOn = 32,
    Dark = 64,
    Locked = 128,
    Restarted = 256,
}

/// <summary>One row of a Card: check x subject x part x condition.</summary>
public readonly record struct CheckKey(CheckId Check, Subject On, Condition Under)
{
    /// <summary>Rows of one Card differ by a few letters of the check, the part and the condition: those tell them apart.</summary>
    public override int GetHashCode()
    {
        var (check, part) = (Check.Value ?? "", On.Part ?? "");
        var hash = On.Id.GetHashCode() + 31 * (int)Under + 8191 * (int)On.Kind;
        foreach (var letter in check)
            hash = hash * 31 + letter;
        foreach (var letter in part)
            hash = hash * 31 + letter;
        return hash;
    }

    /// <summary>One word for addresses and lists: <c>check~Run~id~part~condition</c>.</summary>
    public override string ToString() => $"{Check}~{On.Kind}~{On.Id:N}~{On.Part}~{(int)Under}";
}

/// <summary>A condition on a device, as data. Empty holds always.</summary>
public sealed record Rule
{
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public ImmutableArray<Rule>? All { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public ImmutableArray<Rule>? Any { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public Rule? Not { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public string? Feature { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public string? Kind { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public bool? Always { get; init; }

    public bool Holds(string kind, IReadOnlySet<string> features) =>
        Always != false
        && (Feature is null || features.Contains(Feature))
        && (Kind is null || Kind == kind)
        && (Not is null || !Not.Holds(kind, features))
        && (All is not { } all || all.All(rule => rule.Holds(kind, features)))
        && (Any is not { } any || any.Any(rule => rule.Holds(kind, features)));
}

/// <summary>One item of a check that is a list: part of a pack, hindrance, fact to be confirmed. Its words: <c>item.ID</c>, and
/// <c>item.ID.for</c> for what it is or calls for.</summary>
public sealed record CheckItem
{
    public required string Id { get; init; }
    public Rule Applies { get; init; } = new();

    /// <summary>Marked, it makes the reading out; else it only calls for care.</summary>
    public bool Out { get; init; }

    /// <summary>Does not come in the pack: to be brought.</summary>
    public bool Bring { get; init; }

    /// <summary>Small and easily lost.</summary>
    public bool Loose { get; init; }
}

/// <summary>What an optional row that is out does to the Verdict: it refuses, or it is a remark.</summary>
public enum IfOut
{
    Refuse,
    Remark,
}

/// <summary>What a number may be at all; beyond it the reading is refused as a slip.</summary>
public sealed record PlausibleRange(double Min, double Max);

/// <summary>A check as data. The names of an expectation, limit function or judge point into Core's closed registries.</summary>
public sealed record CheckDefinition
{
    public required CheckId Id { get; init; }
    public required int Version { get; init; }
    public required Section Section { get; init; }
    public required Leg Leg { get; init; }
    public required EntryKind Entry { get; init; }
    public Unit Unit { get; init; }

    /// <summary>Decimals that a technician reads off; for display only.</summary>
    public int Decimals { get; init; } = 1;
    public PlausibleRange? Plausible { get; init; }

    /// <summary>The words offered, for <see cref="EntryKind.Choice"/>.</summary>
    public ImmutableArray<string> Choices { get; init; } = [];
    public required SubjectKind Per { get; init; }

    /// <summary>Name of the parts of each subject: <c>pairs</c>, or none.</summary>
    public string? PartsFrom { get; init; }
    public ImmutableArray<Condition> Under { get; init; } = [Condition.Any];
    public Rule Applies { get; init; } = new();
    public Rule Required { get; init; } = new();

    /// <summary>What it does to the Verdict where it need not be taken, was, and is out. A check that does not say refuses.</summary>
    public IfOut IfOut { get; init; } = IfOut.Refuse;

    /// <summary>The items, for <see cref="EntryKind.List"/>.</summary>
    public ImmutableArray<CheckItem> Items { get; init; } = [];

    /// <summary>Each item is confirmed by itself; there is no one press for all.</summary>
    public bool ConfirmEach { get; init; }

    /// <summary>The number is a time that a stopwatch may take.</summary>
    public bool Stopwatch { get; init; }

    /// <summary>Hold points: the step is not to be made before each of these is in.</summary>
    public ImmutableArray<CheckId> HoldUntil { get; init; } = [];

    /// <summary>Checks that should be in first; a gate that is out stops only what names it.</summary>
    public ImmutableArray<CheckId> Gates { get; init; } = [];

    /// <summary>Acts after which an earlier reading no longer counts.</summary>
    public ImmutableArray<string> VoidedBy { get; init; } = [];

    /// <summary>True where a reading belongs to the unit hanging there, and goes with it.</summary>
    public bool OfUnit { get; init; }

    /// <summary><c>set:ID</c> from the limit set, or <c>fn:NAME</c> from the registry.</summary>
    public ImmutableArray<string> Limits { get; init; } = [];
    public string? Expect { get; init; }
    public required string Judge { get; init; }

    /// <summary>The tester's function that reads it, if one does.</summary>
    public string? Tester { get; init; }

    /// <summary>Id of the source that is asked for it.</summary>
    public string ReadFrom { get; init; } = "tester";

    public ImmutableArray<string> Cautions { get; init; } = [];
    public int Minutes { get; init; } = 1;
    public string TextKey => "check." + Id.Value;
}
