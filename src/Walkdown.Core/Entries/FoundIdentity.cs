namespace Walkdown.Core.Entries;

/// <summary>By what something that was found says which device it is; empty words are not known.</summary>
public sealed record FoundIdentity
{
    /// <summary>Serial number of the unit.</summary>
    public string Serial { get; init; } = "";

    /// <summary>Hardware address, however it is written.</summary>
    public string HardwareAddress { get; init; } = "";

    /// <summary>IPv4 address.</summary>
    public string Address { get; init; } = "";

    /// <summary>Label of a run or of a place.</summary>
    public string Label { get; init; } = "";
}
