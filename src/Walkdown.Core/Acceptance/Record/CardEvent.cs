using System.Text.Json.Serialization;

namespace Walkdown.Core.Acceptance;

/// <summary>What happened to a Card beside readings. Append-only.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(Act), "act")]
[JsonDerivedType(typeof(Withdrawal), "withdrawal")]
[JsonDerivedType(typeof(Exemption), "exemption")]
[JsonDerivedType(typeof(Concession), "concession")]
[JsonDerivedType(typeof(Note), "note")]
[JsonDerivedType(typeof(Block), "block")]
[JsonDerivedType(typeof(BlockEnd), "blockEnd")]
[JsonDerivedType(typeof(Ruling), "ruling")]
[JsonDerivedType(typeof(FaultEnd), "faultEnd")]
[JsonDerivedType(typeof(PlannedView), "view")]
[JsonDerivedType(typeof(PlateDrive), "drive")]
[JsonDerivedType(typeof(PlatePassed), "pass")]
[JsonDerivedType(typeof(PlateList), "plates")]
[JsonDerivedType(typeof(EventPressed), "event")]
[JsonDerivedType(typeof(UnreadableEvent), "unreadable")]
public abstract record CardEvent
{
    /// <summary>Made by whoever entered it.</summary>
    public required Guid Id { get; init; }

    /// <summary>Who entered it.</summary>
    public required Guid By { get; init; }

    /// <summary>When it happened, by the record's clock.</summary>
    public required DateTimeOffset At { get; init; }

    /// <summary>The journal's order.</summary>
    public long Sequence { get; init; }
}
