using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Plates;

namespace Walkdown.Core.Entries;

/// <summary>A test drive before a plate reader, agreed.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Design">The drive.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
public sealed record PlateDriveRequest(Guid Id, DriveDesign Design, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs)
    : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <inheritdoc/>
    public override string JournalKind() => "drive";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        if (!new DriveRecord(at.Facts, at.Catalogue).IsReader)
            return EntryDecision.Refuse("problem.no-plate-reader", "design");
        if (Design is null)
            return EntryDecision.Refuse("problem.drive-missing", "design");
        return Design.Refuse() is var (why, field)
            ? EntryDecision.Refuse(why, field)
            : EntryDecision.Of(
                new PlateDrive
                {
                    Id = Id,
                    By = By,
                    At = at.At,
                    Sequence = at.Sequence,
                    Design = Design.Tidy(),
                }
            );
    }
}

/// <summary>An own vehicle passed.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Vehicle">As the drive calls it.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
/// <param name="SecondsBefore">It passed so long before that.</param>
/// <param name="Kmh">How fast; null: not said.</param>
/// <param name="Lane">One of the drive's; null: not said.</param>
/// <param name="Way">Which way.</param>
public sealed record PlatePassRequest(
    Guid Id,
    string Vehicle,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    double SecondsBefore = 0,
    double? Kmh = null,
    string? Lane = null,
    TravelWay Way = TravelWay.Towards
) : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <summary>Nobody remembers to the second what passed longer ago.</summary>
    public const double LongestBefore = 24 * 3600;

    /// <inheritdoc/>
    public override string JournalKind() => "pass";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        var record = new DriveRecord(at.Facts, at.Catalogue);
        if (record.Design is not { } drive)
            return EntryDecision.Refuse("problem.no-drive", "vehicle");
        var named = drive.Vehicles.FirstOrDefault(v => string.Equals(v.Name, Vehicle?.Trim(), StringComparison.OrdinalIgnoreCase));
        if (named is null)
            return EntryDecision.Refuse(new Message("problem.no-vehicle", Message.Said(Vehicle ?? "")), "vehicle");
        if (SecondsBefore is not (>= 0 and <= LongestBefore))
            return EntryDecision.Refuse("problem.pass-when", "secondsBefore");
        if (Kmh is { } kmh && kmh is not (>= 1 and <= 250))
            return EntryDecision.Refuse(new Message("drive.outside", "@drive.field.speed", "1", "250"), "kmh");
        if (Lane is not null && !drive.Lanes.Contains(Lane, StringComparer.OrdinalIgnoreCase))
            return EntryDecision.Refuse(new Message("problem.no-lane", Message.Said(Lane)), "lane");
        if (!Enum.IsDefined(Way))
            return EntryDecision.Refuse("problem.no-way", "way");
        return record.Ticked >= 2 * DrivePlan.Most
            ? EntryDecision.Refuse(new Message("problem.passes-many", Message.Number(2 * DrivePlan.Most)), "vehicle")
            : EntryDecision.Of(
                new PlatePassed
                {
                    Id = Id,
                    By = By,
                    At = at.At,
                    Sequence = at.Sequence,
                    Vehicle = named.Name,
                    Plate = named.Plate,
                    SecondsBefore = SecondsBefore,
                    Kmh = Kmh,
                    Lane = Lane,
                    Way = Way,
                }
            );
    }
}

/// <summary>A reader's list, taken: others' plates have already been made unreadable.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="From">Where it comes from.</param>
/// <param name="Name">Of the recorder or the file.</param>
/// <param name="Lines">In any order.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
/// <param name="AheadSeconds">That its clock was ahead; null: not measured.</param>
/// <param name="Covers">From here on it has everything; null: from the first pass.</param>
public sealed record PlateListRequest(
    Guid Id,
    PlateListFrom From,
    string Name,
    ImmutableArray<PlateLine> Lines,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    double? AheadSeconds = null,
    DateTimeOffset? Covers = null
) : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <inheritdoc/>
    public override string JournalKind() => "plates";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        if (new DriveRecord(at.Facts, at.Catalogue).Design is null)
            return EntryDecision.Refuse("problem.no-drive", "lines");
        if (IsNoName(Name))
            return EntryDecision.Refuse("problem.list-name", "name");
        if (!Enum.IsDefined(From))
            return EntryDecision.Refuse("problem.list-from", "from");
        return Lines.IsDefault || Lines.Length > PlateList.Most
            ? EntryDecision.Refuse(new Message("problem.list-long", Message.Number(PlateList.Most)), "lines")
            : EntryDecision.Of(
                new PlateList
                {
                    Id = Id,
                    By = By,
                    At = at.At,
                    Sequence = at.Sequence,
                    From = From,
                    Name = Name.Trim(),
                    Lines = [.. Lines.OrderBy(l => l.At)],
                    AheadSeconds = AheadSeconds,
                    Covers = Covers,
                }
            );
    }
}
