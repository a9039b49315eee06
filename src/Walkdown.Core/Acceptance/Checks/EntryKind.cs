namespace Walkdown.Core.Acceptance;

/// <summary>How a reading is entered.</summary>
public enum EntryKind
{
    /// <summary>Yes or no.</summary>
    YesNo,

    /// <summary>A number in the check's unit.</summary>
    Number,

    /// <summary>One of a few words.</summary>
    Choice,

    /// <summary>Far pins by near pin.</summary>
    WireMap,

    /// <summary>Items marked of a list.</summary>
    List,

    /// <summary>A state for each item of a list.</summary>
    Items,

    /// <summary>A few words.</summary>
    Text,

    /// <summary>Probes sent and received.</summary>
    Probes,

    /// <summary>Counters at two looks.</summary>
    Counters,

    /// <summary>A light by its colour and rhythm.</summary>
    Light,

    /// <summary>Several fields at once, once or line by line.</summary>
    Form,

    /// <summary>Zones drawn on a picture.</summary>
    Zones,

    /// <summary>Hours of a week.</summary>
    Week,

    /// <summary>Nobody enters it: it is worked out from what is on record.</summary>
    Derived,
}
