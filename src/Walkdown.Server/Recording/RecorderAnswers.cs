using System.Collections.Immutable;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;

namespace Walkdown.Server.Recording;

/// <summary>A recorder of a job, as a list shows it.</summary>
/// <param name="Devices">Places that have a channel of it.</param>
public sealed record RecorderLine(Guid Id, string Label, ImmutableArray<Guid> Devices);

/// <summary>All recorders of a job.</summary>
/// <param name="CanRead">The recorders of this installation answer.</param>
public sealed record RecordersAnswer(ImmutableArray<RecorderLine> Recorders, bool CanRead);

/// <summary>An event and what its clip proves.</summary>
/// <param name="At">By our clock.</param>
/// <param name="Verdict">Null: the recorder did not answer.</param>
/// <param name="Proves">Yes, no; null: neither.</param>
/// <param name="Seconds">Of the clip, from the event on.</param>
/// <param name="BeginsLate">Seconds after the event.</param>
/// <param name="Because">In words; empty where nothing came.</param>
/// <param name="Picture">Of the place, from the clip.</param>
/// <param name="Earlier">After a restart: what was there before it is still there; null: not looked for.</param>
public sealed record ProofLine(
    DateTimeOffset At,
    EventWay Way,
    ClipVerdict? Verdict,
    bool? Proves,
    double Seconds,
    double BeginsLate,
    ImmutableArray<Message> Because,
    Guid? Picture,
    bool? Earlier
);

/// <summary>One channel, as it is planned, read and proven.</summary>
/// <param name="DeviceId">The place that is planned; null: none.</param>
/// <param name="Label">Of it; empty likewise.</param>
/// <param name="PlaceName">Of it.</param>
/// <param name="Wanted">What it should be called; empty likewise.</param>
/// <param name="Name">What the recorder calls it.</param>
/// <param name="Carries">Whose picture arrives; empty: nobody knows.</param>
/// <param name="IsTold">The recorder tells of it.</param>
/// <param name="Before">One at most.</param>
/// <param name="After">One at most.</param>
/// <param name="IsKept">It is recorded without a signal from elsewhere; null: it did not say.</param>
/// <param name="PendingAt">An event that waits for its clip.</param>
/// <param name="IsPendingAfter">That event was made after the restart.</param>
/// <param name="Week">Hours in which a schedule records; empty where it did not say, or none.</param>
/// <param name="Stream">Against what was asked for; one at most, none where nobody has asked the recorder.</param>
/// <param name="Rang">How often its zones rang in the last 24 hours; null: it did not say.</param>
/// <param name="Clock">Of the camera against its recorder's, by the last look at both; one at most.</param>
public sealed record ChannelLine(
    int Number,
    ChannelFinding Finding,
    KnownBy? By,
    Guid? DeviceId,
    string Label,
    string PlaceName,
    string Area,
    string Wanted,
    string Name,
    string Carries,
    bool IsTold,
    bool NeedsHand,
    bool NameDiffers,
    ChannelState State,
    RecordedWhen When,
    string Codec,
    int? Wide,
    int? High,
    double? FramesPerSecond,
    double? PeakMbps,
    double? MeanMbps,
    double? RecordedPercent,
    ImmutableArray<ProofLine> Before,
    ImmutableArray<ProofLine> After,
    bool? IsProvenAfter,
    bool? IsKept,
    DateTimeOffset? PendingAt,
    bool IsPendingAfter,
    ImmutableArray<ChannelNote> Notes,
    ImmutableArray<WeekSpan> Week,
    ImmutableArray<StreamStanding> Stream,
    ImmutableArray<ClockAgainst> Clock,
    RangLine? Rang
);

/// <summary>How often zones rang.</summary>
/// <param name="Events">In the last 24 hours, without those that were pressed here; walks of its Card are taken out there.</param>
/// <param name="IsOften">More than the limit set finds bearable.</param>
public sealed record RangLine(int Events, bool IsOften);

/// <summary>A clock as it was read.</summary>
/// <param name="Outcome">Against the limit.</param>
/// <param name="LimitSeconds">Either way.</param>
/// <param name="Against">The server of time instead of our clock; one at most.</param>
/// <param name="Drift">How it ran since an earlier reading of it; null: there is none that is hours away.</param>
public sealed record ClockLine(
    double OffsetSeconds,
    double UncertaintySeconds,
    string Source,
    string Zone,
    Outcome Outcome,
    double LimitSeconds,
    ImmutableArray<ClockAgainst> Against,
    ClockDrift? Drift
);

/// <summary>A clock against another.</summary>
/// <param name="DifferenceSeconds">Positive: it is ahead.</param>
/// <param name="UncertaintySeconds">Of both.</param>
/// <param name="LimitSeconds">Either way.</param>
public sealed record ClockAgainst(double DifferenceSeconds, double UncertaintySeconds, double LimitSeconds, Outcome Outcome);

/// <summary>Our own clock against a server of time.</summary>
/// <param name="AheadSeconds">Of us; negative: we are behind.</param>
/// <param name="Stratum">Steps from a reference.</param>
/// <param name="At">When it was asked.</param>
public sealed record ReferenceLine(
    string Server,
    double AheadSeconds,
    double UncertaintySeconds,
    int Stratum,
    Outcome Outcome,
    DateTimeOffset At
);

/// <summary>A recorder with all that is known of it.</summary>
/// <param name="ReadAt">Null: nobody has asked it.</param>
/// <param name="Seen">Of what it said, for whoever changes it.</param>
/// <param name="Notes">Of the recorder itself.</param>
/// <param name="Clock">One at most.</param>
/// <param name="RestartAt">Its last start that a proof must outlive; null: none since the first event.</param>
/// <param name="StartedAt">Its last start at all.</param>
/// <param name="DaysKept">On its disks, of the channel that has the fewest.</param>
/// <param name="DaysPromised">Null: nobody has said.</param>
/// <param name="Proposed">What one writing puts right.</param>
/// <param name="Moves">Channels that change places, the fewest.</param>
/// <param name="Tally">Of the channels that are planned.</param>
/// <param name="Reference">Our own clock; one at most.</param>
/// <param name="IsTyped">From a list that somebody exported: it says nothing of what runs.</param>
/// <param name="HasTimeServer">The plan of the network names a server of time.</param>
/// <param name="PendingReadyAt">When the last of the events that wait can be on the disk.</param>
public sealed record RecorderPage(
    Guid Id,
    string Label,
    string Name,
    DateTimeOffset? ReadAt,
    string Seen,
    bool CanRead,
    ImmutableArray<Message> Notes,
    ImmutableArray<ClockLine> Clock,
    ImmutableArray<RecorderDisk> Disks,
    double? IntakeMbps,
    DateTimeOffset? RestartAt,
    DateTimeOffset? StartedAt,
    double? DaysKept,
    double? DaysPromised,
    ImmutableArray<string>? Users,
    ImmutableArray<string>? Notifies,
    ImmutableArray<ChannelLine> Channels,
    ImmutableArray<ProposedSetting> Proposed,
    ImmutableArray<ChannelExchange> Moves,
    ProofTally Tally,
    int Pending,
    DateTimeOffset? PendingReadyAt,
    ImmutableArray<ReferenceLine> Reference,
    bool HasTimeServer,
    bool IsTyped
);

/// <summary>Reads a recorder.</summary>
/// <param name="By">Who, by name.</param>
public sealed record ReadRecorderRequest(string By);

/// <summary>An event that somebody has just made.</summary>
/// <param name="Channels">That see it.</param>
/// <param name="SecondsAgo">Since then: it may have been said where there was no connection.</param>
/// <param name="By">Who, by name.</param>
public sealed record EventRequest(EventWay Way, ImmutableArray<int> Channels, double SecondsAgo, string By);

/// <summary>An event that was pressed at its camera.</summary>
/// <param name="Id">Of the entry, by which it is taken back.</param>
/// <param name="At">By the record's clock.</param>
/// <param name="Waits">Its clip is to be had.</param>
/// <param name="Proves">Its clip was there, on every channel of the camera; false: not on each; null: nobody has looked, or the look told
/// nothing.</param>
public sealed record PressedLine(Guid Id, DateTimeOffset At, EventWay Way, bool Waits, bool? Proves);

/// <summary>Events that were pressed at one camera.</summary>
/// <param name="Recorder">Label of its recorder; empty: it has no channel.</param>
/// <param name="Channels">Of it, by number.</param>
/// <param name="Events">Of the last two days, the last first.</param>
public sealed record PressedAnswer(string Recorder, ImmutableArray<int> Channels, ImmutableArray<PressedLine> Events);

/// <summary>Has the clips of all events sent that wait.</summary>
/// <param name="By">Who looks; pictures are kept in this name.</param>
public sealed record ProofRequest(Guid By) : Core.Entries.IAsked;

/// <summary>Sets what was proposed.</summary>
/// <param name="Seen">Of what the recorder said when it was looked at.</param>
/// <param name="Channels">Those of the proposed that are wanted.</param>
/// <param name="By">Who sets it; the acts on Cards are in this name.</param>
public sealed record SetChannelsRequest(string Seen, ImmutableArray<int> Channels, Guid By) : Core.Entries.IAsked;

/// <summary>Event links of all plate cameras of a job.</summary>
/// <param name="Length">Digits of an identifier here; null: the figures of the limit set fit none.</param>
public sealed record EventLinksAnswer(ImmutableArray<EventLinkLine> Links, int? Length);
