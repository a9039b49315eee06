using Walkdown.Core.Addressing;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>What a recorded stream should be at least, by its purpose.</summary>
/// <param name="Megapixels">10^6 pixels of each picture.</param>
/// <param name="FramesPerSecond">Pictures a second.</param>
public sealed record StreamSpec(double Megapixels, double FramesPerSecond)
{
    /// <summary>Figures of the limit set.</summary>
    internal static readonly ImmutableArray<string> Figures = ["stream.megapixels", "stream.frames", "stream.frames-plates"];

    /// <summary>Of a camera, by what it is for.</summary>
    /// <param name="catalogue">In force.</param>
    /// <param name="isPlates">It reads number plates.</param>
    public static StreamSpec Of(Catalogue catalogue, bool isPlates) =>
        new(catalogue.Figure("stream.megapixels"), catalogue.Figure(isPlates ? "stream.frames-plates" : "stream.frames"));
}

/// <summary>A recorded stream against what the camera has, what was asked for, and what its clip shows.</summary>
/// <param name="Spec">What was asked for.</param>
/// <param name="Largest">The largest that the camera has, such as "H265 2560x1440"; empty: it was not asked.</param>
/// <param name="MeasuredFrames">Pictures a second as they came in a clip; null: none came.</param>
/// <param name="IsLarge">Its pictures are as large as they should be; null: nobody told, or the camera was not asked.</param>
/// <param name="IsQuick">As many come a second as should; null: nobody told, or no clip was had.</param>
/// <param name="Word">Of the row of its Card: as-planned, less or jerky; null: it says neither.</param>
/// <param name="Notes">What is wrong, in words.</param>
public sealed record StreamStanding(
    StreamSpec Spec,
    string Largest,
    double? MeasuredFrames,
    bool? IsLarge,
    bool? IsQuick,
    string? Word,
    ImmutableArray<ChannelNote> Notes
)
{
    /// <summary>Pictures that come at less than this of what is told are missing, and not only counted otherwise (practice).</summary>
    private const double Jerky = 0.8;

    /// <summary>Of a channel; null where the planned device is not on it, does not answer, or nobody has asked the recorder.</summary>
    /// <param name="line">Against the plan.</param>
    /// <param name="proof">Of the channel; null: nobody has made an event.</param>
    /// <param name="camera">Of the place, as the network showed it last; null: it was not found.</param>
    /// <param name="catalogue">In force.</param>
    public static StreamStanding? Of(ChannelStanding line, ChannelProof? proof, FoundDevice? camera, Catalogue catalogue) =>
        line is { Finding: ChannelFinding.AsPlanned, Planned: { } planned, Read: { State: not ChannelState.Offline } read }
            ? Of(
                StreamSpec.Of(catalogue, planned.IsPlates),
                read,
                // Of several pictures of one device nobody knows whose stream is whose.
                planned.Heads == 1
                    ? camera?.Streams ?? []
                    : [],
                proof
            )
            : null;

    /// <summary>Compares.</summary>
    /// <param name="spec">What was asked for.</param>
    /// <param name="said">By the recorder.</param>
    /// <param name="camera">Streams that the camera said it has; empty: it was not asked.</param>
    /// <param name="proof">Of the channel; null: nobody has made an event.</param>
    public static StreamStanding Of(StreamSpec spec, RecorderChannel said, IReadOnlyCollection<CameraStream> camera, ChannelProof? proof)
    {
        var notes = ImmutableArray.CreateBuilder<ChannelNote>();
        void Wrong(string code, params ImmutableArray<string> args) => notes.Add(new(new(code, args), true));
        static double Pixels(int wide, int high) => (double)wide * high;
        static string Size(int wide, int high) => string.Create(CultureInfo.InvariantCulture, $"{wide}x{high}");
        var largest = camera.Where(s => s is { Wide: > 0, High: > 0 }).MaxBy(s => Pixels(s.Wide!.Value, s.High!.Value));
        bool? isLarge = null;
        if (said is { Wide: { } wide, High: { } high })
        {
            if (largest is { Wide: { } mostWide, High: { } mostHigh } && Pixels(wide, high) < Pixels(mostWide, mostHigh))
            {
                // One that it has, and not its best: somebody chose the stream that is meant for a phone.
                var isOwn = camera.Any(s => s.Wide == wide && s.High == high);
                Wrong(isOwn ? "stream.small-one" : "stream.smaller", Size(wide, high), Size(mostWide, mostHigh));
                isLarge = false;
            }
            else if (Pixels(wide, high) / 1e6 < spec.Megapixels)
            {
                Wrong("stream.pixels", Message.Number(Pixels(wide, high) / 1e6, 1), Message.Number(spec.Megapixels));
                isLarge = false;
            }
            else if (largest is not null)
                isLarge = true;
        }
        var measured = (proof?.After?.Proof ?? proof?.Before?.Proof)?.FramesPerSecond;
        bool? isQuick = null;
        var (isSlow, isJerky) = (false, false);
        if (said.FramesPerSecond is { } told)
        {
            isSlow = told < spec.FramesPerSecond;
            if (isSlow)
                Wrong("stream.frames", Message.Number(told, 1), Message.Number(spec.FramesPerSecond));
            isJerky = measured < told * Jerky;
            if (isJerky)
                Wrong("stream.jerky", Message.Number(measured!.Value, 1), Message.Number(told, 1));
            isQuick =
                isSlow || isJerky ? false
                : measured is not null ? true
                : null;
        }
        // One of both is read wrongly, or something between them makes another of it.
        static string Plain(string codec) => codec.Replace(".", "", StringComparison.Ordinal).ToUpperInvariant();
        var codecs = camera.Where(s => s.Codec.Length > 0).Select(s => Plain(s.Codec)).Distinct().ToList();
        if (said.Codec.Length > 0 && codecs.Count > 0 && !codecs.Contains(Plain(said.Codec)))
            notes.Add(new(new("stream.codec", Message.Said(said.Codec), Message.Said(string.Join(", ", codecs))), false));
        return new(
            spec,
            largest?.Says ?? "",
            measured,
            isLarge,
            isQuick,
            isLarge == false || isSlow ? "less"
                : isJerky ? "jerky"
                // Only where all of it was told, asked of the camera, and seen to come.
                : isLarge == true && isQuick == true ? "as-planned"
                : null,
            notes.ToImmutable()
        );
    }
}
