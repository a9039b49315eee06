using Walkdown.Core.Measures;
using Walkdown.Core.Recording;

namespace Walkdown.Devices.Recorders;

/// <summary>A recorder, however it says who is on which channel: asked itself, by a list that somebody exported there, or by what somebody
/// reads off its page and types.</summary>
public interface IRecorder
{
    /// <summary>As the register names it.</summary>
    string Label { get; }

    /// <summary>All that it says of itself.</summary>
    /// <returns>What it said; or why nothing of it counts.</returns>
    Task<(RecorderReading? Reading, Message? Trouble)> Read(CancellationToken cancel);
}

/// <summary>One thing that is set at a channel; null: as it is.</summary>
/// <param name="Channel">Of the recorder.</param>
/// <param name="Name">That it is called.</param>
/// <param name="From">Whose device comes here: the number of the channel that had it.</param>
public sealed record ChannelSetting(int Channel, string? Name = null, int? From = null);

/// <summary>A recorder that answers itself: it shows what it sees and what it has recorded, and can be set.</summary>
public interface ILiveRecorder : IRecorder
{
    /// <summary>What a channel shows now.</summary>
    /// <returns>The picture; or why there is none.</returns>
    Task<(byte[]? Picture, Message? Trouble)> Picture(int channel, CancellationToken cancel);

    /// <summary>What a channel's camera read, as the recorder's disk has it: by the recorder's clock, with how far that is ahead.</summary>
    /// <param name="channel">Of the recorder.</param>
    /// <param name="since">By our clock.</param>
    /// <param name="most">Lines; more is nonsense.</param>
    Task<(IReadOnlyList<(DateTimeOffset At, string Text)>? Lines, double? AheadSeconds, Message? Trouble)> Plates(
        int channel,
        DateTimeOffset since,
        int most,
        CancellationToken cancel
    );

    /// <summary>Has a clip sent, and looks at its pictures as they come; one is kept.</summary>
    /// <param name="channel">Of the recorder.</param>
    /// <param name="ask">From when to when, by its clock.</param>
    Task<(ClipHeard? Clip, byte[]? Still, Message? Trouble)> Clip(int channel, ClipAsk ask, CancellationToken cancel);

    /// <summary>Sets names and who is on which channel, all in one; what became of it is read afterwards.</summary>
    /// <returns>Why it was not taken; null: it was.</returns>
    Task<Message?> Set(IReadOnlyList<ChannelSetting> settings, CancellationToken cancel);
}
