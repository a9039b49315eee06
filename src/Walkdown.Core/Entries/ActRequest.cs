using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;

namespace Walkdown.Core.Entries;

/// <summary>Work after which some readings no longer count: a repair, a swap, a restart.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Kind">Id of the act in the catalogue.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
/// <param name="RunId">The run that was worked on, where the act is of one.</param>
/// <param name="End">The end of it, where the act asks.</param>
/// <param name="Text">In own words.</param>
/// <param name="NewSerial">Of the unit that hangs now.</param>
/// <param name="FaultId">The Fault that it is a repair of.</param>
public sealed record ActRequest(
    Guid Id,
    string Kind,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    Guid? RunId = null,
    CableEnd? End = null,
    string? Text = null,
    string? NewSerial = null,
    Guid? FaultId = null
) : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <inheritdoc/>
    public override string JournalKind() => "act";

    /// <inheritdoc/>
    public override EntryNeeds Needs() => new(UnitSerial: NewSerial?.Trim());

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        var facts = at.Facts;
        if (at.Catalogue.Acts.FirstOrDefault(a => a.Id == Kind) is not { } act)
            return EntryDecision.Refuse("problem.unknown-act", "kind");
        if (IsTooLong(Text))
            return EntryDecision.Refuse("problem.text-too-long", "text");
        if (act.On == SubjectKind.Run && facts.Runs.All(r => r.Id != RunId))
            return EntryDecision.Refuse("problem.which-run", "runId");
        if (act.AsksEnd && End is null)
            return EntryDecision.Refuse("problem.which-end", "end");
        if (act.NotWhileUpdating && at.Card.Hold is { } hold)
            return EntryDecision.Refuse(hold, "kind");
        var serial = NewSerial?.Trim();
        if (act.NewUnit && (string.IsNullOrEmpty(serial) || serial.Length > 60))
            return EntryDecision.Refuse("problem.which-serial", "newSerial");
        if (act.NewUnit && Labels.Same(serial, facts.Unit?.Serial))
            return EntryDecision.Refuse("problem.same-serial", "newSerial");
        if (FaultId is { } fault && facts.Faults.All(f => f.Id != fault))
            return EntryDecision.Refuse("problem.unknown-fault", "faultId");
        if (act.NewUnit)
        {
            // A unit cannot leave before it came: then the moment is wrong, or another swap was recorded since.
            if (facts.Unit is { } hangs && at.At <= hangs.From)
                return EntryDecision.Refuse(
                    new Message(
                        "problem.swap-before",
                        hangs.Serial,
                        SiteTime.In(facts.TimeZone, hangs.From).ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture)
                    ),
                    "takenAt"
                );
            if (at.UnitHangs)
                return EntryDecision.Refuse(new Message("problem.unit-hangs-elsewhere", serial!), "newSerial");
        }
        return EntryDecision.Of(
            new Act
            {
                Id = Id,
                By = By,
                At = at.At,
                Sequence = at.Sequence,
                ActKind = act.Id,
                End = End,
                Text = Text,
                NewSerial = act.NewUnit ? serial : null,
                FaultId = FaultId,
                On =
                    act.On == SubjectKind.Run ? new Subject(SubjectKind.Run, RunId!.Value) : new Subject(SubjectKind.Place, facts.Place.Id),
            }
        ) with
        {
            Swap = act.NewUnit ? new UnitSwap(serial!, at.At) : null,
        };
    }
}
