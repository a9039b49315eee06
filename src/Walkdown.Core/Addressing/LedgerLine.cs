using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>How two lists stand to each other on one device.</summary>
public enum ListBond
{
    /// <summary>One of them does not have it.</summary>
    Apart,

    /// <summary>Both have it, and name the same.</summary>
    Agree,

    /// <summary>Both have it, and name something otherwise.</summary>
    Differ,
}

/// <summary>What a list of thousands shows of one device; everything else stands in its <see cref="LedgerRow"/>.</summary>
/// <param name="Key">Of its row.</param>
/// <param name="Name">What it is called.</param>
/// <param name="DeviceId">Of its place; null where nobody planned it.</param>
/// <param name="PlaceName">Of its place; empty likewise.</param>
/// <param name="Standing">How it stands.</param>
/// <param name="Planned">Its planned address; empty where it has none.</param>
/// <param name="Found">The address that it answers from; empty where it does not.</param>
/// <param name="Unit">The hardware address that was found, else the serial number; empty where neither was.</param>
/// <param name="Recorder">That has it; empty where none has.</param>
/// <param name="Channel">Of the recorder; 0 likewise.</param>
/// <param name="AskedAt">Where the recorder asks for it.</param>
/// <param name="PlannedToFound">Between plan and network.</param>
/// <param name="FoundToRegistered">Between network and recorder.</param>
/// <param name="AddressDiffers">It answers elsewhere than planned.</param>
/// <param name="Notes">Those that are not only told, the gravest first.</param>
/// <param name="Unregistered">Why no recorder's list has it here; null: one has, or none should.</param>
/// <param name="IsUnlooked">Nobody has looked for it in a way that it would answer.</param>
public sealed record LedgerLine(
    string Key,
    string Name,
    Guid? DeviceId,
    string PlaceName,
    RowStanding Standing,
    string Planned,
    string Found,
    string Unit,
    string Recorder,
    int Channel,
    string AskedAt,
    ListBond PlannedToFound,
    ListBond FoundToRegistered,
    bool AddressDiffers,
    ImmutableArray<LedgerNote> Notes,
    Message? Unregistered,
    bool IsUnlooked
)
{
    /// <summary>Of a row.</summary>
    public static LedgerLine Of(LedgerRow row)
    {
        var (planned, found, registered) = (row.Planned, row.Found, row.Registered);
        bool Differs(DeviceList one, DeviceList other) => row.Differences.Any(d => d.One == one && d.Other == other);
        return new(
            row.Key,
            row.Name,
            planned?.Id,
            planned?.Name ?? "",
            row.Standing,
            planned?.Address ?? "",
            found?.Address ?? "",
            (found?.HardwareAddress ?? found?.Serial ?? "").Trim(),
            registered?.Recorder ?? "",
            registered?.Channel ?? 0,
            registered?.Address ?? "",
            planned is null || found is null ? ListBond.Apart
                : row.Class == ListClass.ReplacedDevice || Differs(DeviceList.Planned, DeviceList.Found) ? ListBond.Differ
                : ListBond.Agree,
            found is null || registered is null ? ListBond.Apart
                : Differs(DeviceList.Found, DeviceList.Registered) ? ListBond.Differ
                : ListBond.Agree,
            row.Differences.Contains(new(DeviceKey.Address, DeviceList.Planned, DeviceList.Found)),
            [.. row.Notes.Where(n => n.Weight != LedgerWeight.Told)],
            row.Unregistered,
            row.IsUnlooked
        );
    }
}
