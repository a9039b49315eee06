using System.Text.Json.Serialization;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>What was read, by way of entering.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(NumberValue), "number")]
[JsonDerivedType(typeof(YesNoValue), "yesNo")]
[JsonDerivedType(typeof(ChoiceValue), "choice")]
[JsonDerivedType(typeof(WireMapValue), "wireMap")]
[JsonDerivedType(typeof(ListValue), "list")]
[JsonDerivedType(typeof(ItemsValue), "items")]
[JsonDerivedType(typeof(FormValue), "form")]
[JsonDerivedType(typeof(TextValue), "text")]
[JsonDerivedType(typeof(ProbesValue), "probes")]
[JsonDerivedType(typeof(CountersValue), "counters")]
[JsonDerivedType(typeof(ZonesValue), "zones")]
[JsonDerivedType(typeof(WeekValue), "week")]
[JsonDerivedType(typeof(UnreadableValue), "unreadable")]
public abstract record ReadingValue
{
    /// <summary>Whether a check that is entered so can be given such a value.</summary>
    public abstract bool Suits(EntryKind entry);

    /// <summary>Why it cannot be a reading of a check that is entered so, in a technician's words; null where it can.</summary>
    public abstract Message? Refuse(CheckDefinition check);

    /// <summary>Whether it says what the check, as it is defined now, asks: a number in another unit does not.</summary>
    public virtual bool IsOf(CheckDefinition check) => Suits(check.Entry);

    /// <summary>What it says in words that an <see cref="Occasion"/> of another check may ask for.</summary>
    public virtual IEnumerable<string> Words() => [];

    /// <summary>The first of a text that is shown back.</summary>
    protected static string Short(string text) => text.Length <= 20 ? text : text[..20] + "\u2026";
}
