using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Aiming;
using Walkdown.Core.Entries;
using Walkdown.Core.Focusing;
using Walkdown.Core.Measures;
using Walkdown.Core.Nights;
using Walkdown.Server.Addresses;

namespace Walkdown.Server.Aim;

/// <summary>A head whose pictures are to be looked at.</summary>
/// <param name="By">Who looks.</param>
/// <param name="Login">For its camera; null: none. It lives in memory as long as somebody looks.</param>
/// <param name="Use">What for.</param>
/// <param name="Target">Where in its picture, in shares of it; null: in its middle.</param>
public sealed record AimRequest(Guid By, GivenLogin? Login = null, AimUse Use = AimUse.Aim, PictureShare? Target = null) : IAsked;

/// <summary>Something was done against what lies over a night picture.</summary>
public sealed record NightTriedRequest(NightAct Act);

/// <summary>The picture by day that a night picture is held against.</summary>
/// <param name="At">When it was taken or agreed; null: nobody said.</param>
/// <param name="IsFocus">It is the one in which its focus was measured; else the agreed view's.</param>
/// <param name="PictureId">It.</param>
/// <param name="Why">Why it cannot be held against it; null: it can.</param>
public sealed record NightAgainst(DateTimeOffset? At, bool IsFocus, Guid PictureId, Message? Why);

/// <summary>What the dark does to a head, live.</summary>
/// <param name="Look">What the newest pictures say; null: none yet.</param>
/// <param name="Against">The picture by day; null: there is none.</param>
/// <param name="Says">The word that the row would be told; null: nothing tells.</param>
/// <param name="Tries">What was done to find the reason, in turn.</param>
/// <param name="Next">What is worth doing, the best first.</param>
public sealed record NightLive(
    NightLook? Look,
    NightAgainst? Against,
    string? Says,
    ImmutableArray<NightTry> Tries,
    ImmutableArray<NightAct> Next
);

/// <summary>Where to look how sharp a picture is; what was measured before is forgotten.</summary>
/// <param name="Target">In shares of the picture.</param>
public sealed record FocusTargetRequest(PictureShare Target);

/// <summary>The earlier picture that focus is held against.</summary>
/// <param name="At">When it was taken.</param>
/// <param name="IsBeforeLock">It is the one before the screws were tightened or the cover was put on; else it was kept on the Card.</param>
/// <param name="IsCovered">The cover was on; null: it has none, or nobody said.</param>
/// <param name="Why">Why nothing can be compared; null: it can.</param>
public sealed record FocusAgainst(DateTimeOffset At, bool IsBeforeLock, bool? IsCovered, Message? Why);

/// <summary>How sharp a head is, live.</summary>
/// <param name="Look">What the newest picture says; null: none yet.</param>
/// <param name="Against">The earlier picture; null: none was kept.</param>
/// <param name="Says">The word that the row would be told: sharp, corner or soft; null: nothing tells.</param>
/// <param name="HasCover">It is behind a cover: whoever keeps a figure says how that is.</param>
/// <param name="Motor">The motor that focuses it; null: it has none that can be driven from here.</param>
public sealed record FocusLive(FocusLook? Look, FocusAgainst? Against, string? Says, bool HasCover, MotorLive? Motor);

/// <summary>Keep how sharp the picture is.</summary>
/// <param name="IsCovered">The camera's cover is on; of one that has none it says nothing.</param>
public sealed record FocusKeep(bool IsCovered);

/// <summary>What the agreed view of a head is.</summary>
/// <param name="By">Who agreed to it; null: nobody.</param>
/// <param name="At">When; null: nobody has.</param>
/// <param name="PictureId">Its picture; null: the view alone was agreed, or the picture was erased.</param>
/// <param name="Why">Why no picture can be laid on it; null where it can.</param>
public sealed record AimAgreed(string? By, DateTimeOffset? At, Guid? PictureId, Message? Why);

/// <summary>The newest picture of a head, and what it says.</summary>
/// <param name="Use">What it is looked at for; null: nobody looks.</param>
/// <param name="Number">Counts pictures; 0: none yet.</param>
/// <param name="IsLive">The camera is asked again and again.</param>
/// <param name="IsFile">The picture came from a file, not from the camera.</param>
/// <param name="AgeMs">Since it was taken by the camera, as far as can be told: since it last changed.</param>
/// <param name="TookMs">From the picture to what it says.</param>
/// <param name="Wide">Of the picture, pixels.</param>
/// <param name="High">Of the picture, pixels.</param>
/// <param name="Look">What it says against the agreed view; null: no picture, or none was agreed.</param>
/// <param name="Harms">What covers the agreed view, or glares in it, and did not; null: nothing can be told of it.</param>
/// <param name="Lights">How the targets of the agreed view are lit; null: nothing can be told of it.</param>
/// <param name="Trouble">Why there is no newer one; null: there is.</param>
/// <param name="WantsLogin">It gives pictures only with a login, or with another one.</param>
/// <param name="Tolerance">How far it may be off.</param>
/// <param name="Agreed">The agreed view.</param>
/// <param name="IsLocked">Somebody said that its screws are tight.</param>
/// <param name="Moved">What tightening moved; null: not locked, or nothing can be told.</param>
/// <param name="Focus">How sharp it is; null: it is not focused.</param>
/// <param name="Night">What the dark does to it; null: it is not looked at by night.</param>
/// <param name="Sway">How still it stands; null: nobody asked.</param>
public sealed record AimLive(
    AimUse? Use,
    int Number,
    bool IsLive,
    bool IsFile,
    double? AgeMs,
    double? TookMs,
    int? Wide,
    int? High,
    AimLook? Look,
    ImmutableArray<ViewHarm>? Harms,
    ImmutableArray<TargetLight>? Lights,
    Message? Trouble,
    bool WantsLogin,
    AimTolerance Tolerance,
    AimAgreed Agreed,
    bool IsLocked,
    AimMoved? Moved,
    FocusLive? Focus,
    NightLive? Night,
    SwayLook? Sway
);

/// <summary>What is asked about how still a camera stands.</summary>
public enum SwayAsk
{
    /// <summary>Measure it, from the next picture on.</summary>
    Begin,

    /// <summary>Nobody will push it: what was seen with hands off is all.</summary>
    Unpushed,

    /// <summary>Ask no more.</summary>
    End,
}

/// <summary>About how still a camera stands.</summary>
public sealed record SwayRequest(SwayAsk Ask);

/// <summary>Where the screws stand.</summary>
/// <param name="Tight">They were tightened now; else they are loose again.</param>
public sealed record AimLockRequest(bool Tight);

/// <summary>Keep the picture that is shown.</summary>
/// <param name="PictureId">Made by whoever keeps it.</param>
/// <param name="Number">Of the picture.</param>
/// <param name="By">Who keeps it.</param>
/// <param name="Caption">What it shows.</param>
/// <param name="Personal">People can be told apart in it.</param>
/// <param name="Touch">Keep what was touched in it, and not how it is aimed; null: how it is aimed.</param>
/// <param name="Focus">Keep how sharp it is; null: what else it was looked at for.</param>
/// <param name="IsSway">Keep how still it stands, as it was measured.</param>
public sealed record AimKeepRequest(
    Guid PictureId,
    int Number,
    Guid By,
    string Caption = "",
    bool Personal = false,
    AimTouch? Touch = null,
    FocusKeep? Focus = null,
    bool IsSway = false
) : IAsked;

/// <summary>Measure between two touched points of the picture that is shown; nothing is kept.</summary>
/// <param name="Number">Of the picture.</param>
public sealed record AimTouchRequest(int Number, AimTouch Touch);

/// <summary>What was touched says.</summary>
/// <param name="Measured">The figure; null: a light was touched.</param>
/// <param name="Light">What the lamp or the mirror does; null: something else was touched.</param>
/// <param name="Row">The row that it answers, as it would be judged; null: the Card asks for none, or nothing is told.</param>
public sealed record AimTouched(TouchMeasure? Measured, TouchedLight? Light, AimRow? Row);

/// <summary>One row that the picture answers.</summary>
/// <param name="State">As it would be judged; null where a reading of it would not count.</param>
/// <param name="Held">Why it cannot be entered yet; null: it can.</param>
public sealed record AimRow(string Row, string Check, ReadingValue Value, State? State, Message? Held);

/// <summary>A picture that was kept, and what readings may cite.</summary>
/// <param name="PictureId">The picture.</param>
/// <param name="ObservationId">What it says; null: nothing that a row asks for.</param>
/// <param name="Rows">That it answers.</param>
/// <param name="Evidence">To be sent along with each reading.</param>
public sealed record AimKept(Guid PictureId, Guid? ObservationId, ImmutableArray<AimRow> Rows, EvidenceRequest Evidence);
