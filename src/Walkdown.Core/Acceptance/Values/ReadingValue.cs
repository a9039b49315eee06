using System.Text.Json.Serialization;

namespace Walkdown.Core.Acceptance;

/// <summary>What was read, by way of entering.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(NumberValue), "number")]
[JsonDerivedType(typeof(YesNoValue), "yesNo")]
[JsonDerivedType(typeof(ChoiceValue), "choice")]
[JsonDerivedType(typeof(WireMapValue), "wireMap")]
[JsonDerivedType(typeof(ListValue), "list")]
[JsonDerivedType(typeof(TextValue), "text")]
[JsonDerivedType(typeof(ProbesValue), "probes")]
[JsonDerivedType(typeof(CountersValue), "counters")]
[JsonDerivedType(typeof(UnreadableValue), "unreadable")]
public abstract record ReadingValue;
