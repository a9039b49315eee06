using System.Collections.Immutable;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;

namespace Walkdown.Server.Identity;

/// <summary>One channel of the board.</summary>
/// <param name="View">What it shows.</param>
/// <param name="HasPicture">Its picture is here.</param>
/// <param name="AgreedPictureId">Of the view that is planned here; null: none was agreed.</param>
/// <param name="Nearest">Views that it was held against, the nearest first.</param>
public sealed record BoardChannel(ChannelView View, bool HasPicture, Guid? AgreedPictureId, ImmutableArray<BoardView> Nearest);

/// <summary>A compared view, as it is called.</summary>
/// <param name="DeviceId">Of the place.</param>
/// <param name="Said">The place, with the head where there are several.</param>
/// <param name="PictureId">That was agreed.</param>
public sealed record BoardView(Guid DeviceId, Message Said, Guid? PictureId, ViewCompared Compared);

/// <summary>What the channels of a recorder show, side by side with what was agreed.</summary>
/// <param name="Label">Of the recorder.</param>
/// <param name="At">When the pictures were taken; null: nobody has looked since the server was started.</param>
/// <param name="Number">Counts looks: pictures are asked for with it.</param>
/// <param name="TookMs">To compare them all.</param>
/// <param name="Channels">By number; empty where nobody looked.</param>
/// <param name="Exchanges">That put them right, in their order.</param>
/// <param name="Unagreed">So many planned views have no agreed picture.</param>
/// <param name="Planned">So many views are planned on it.</param>
/// <param name="CanLook">Recorders of this installation answer.</param>
public sealed record IdentityBoard(
    string Label,
    DateTimeOffset? At,
    int Number,
    double TookMs,
    ImmutableArray<BoardChannel> Channels,
    ImmutableArray<ChannelExchange> Exchanges,
    int Unagreed,
    int Planned,
    bool CanLook
);

/// <param name="By">Who looks.</param>
public sealed record LookAtViewsRequest(Guid By) : IAsked;

/// <summary>Tell the Cards what was seen.</summary>
/// <param name="Number">Of the look that was shown.</param>
/// <param name="Channels">Those to tell.</param>
/// <param name="By">Who says so.</param>
public sealed record TellViewsRequest(int Number, ImmutableArray<int> Channels, Guid By) : IAsked;
