using Walkdown.Core.Addressing;
using Walkdown.Core.Recording;

namespace Walkdown.Core.Tests;

/// <summary>A recorded stream against what the camera has, what was asked for, and what its clip shows.</summary>
public sealed class StreamTests
{
    private static readonly CameraStream[] Camera =
    [
        new("Record", "H265", 2560, 1440, 25, 8192),
        new("View", "H264", 640, 360, 12, 512),
        new("Nothing"),
    ];

    private static StreamStanding Of(
        int? wide,
        int? high,
        double? told,
        double? came,
        CameraStream[]? camera = null,
        StreamSpec? spec = null
    ) =>
        StreamStanding.Of(
            spec ?? new(2, 8),
            new(1, Wide: wide, High: high, FramesPerSecond: told),
            camera ?? Camera,
            came is null
                ? null
                : new(
                    1,
                    new(
                        1,
                        Guid.Empty,
                        1,
                        EventWay.Walk,
                        default,
                        RecordedWhen.Always,
                        new(ClipVerdict.Found, default, 12, 0, 0.1, came, new("clip.found"))
                    ),
                    null,
                    null
                )
        );

    [Theory]
    [InlineData(2560, 1440, 12.0, 11.9, "as-planned", "")]
    [InlineData(640, 360, 12.0, 12.0, "less", "stream.small-one")]
    [InlineData(1920, 1080, 12.0, 12.0, "less", "stream.smaller")]
    [InlineData(2560, 1440, 5.0, 5.0, "less", "stream.frames")]
    [InlineData(2560, 1440, 12.0, 6.0, "jerky", "stream.jerky")]
    // On the edge it is not jerky; a little beyond it is.
    [InlineData(2560, 1440, 10.0, 8.0, "as-planned", "")]
    [InlineData(2560, 1440, 10.0, 7.9, "jerky", "stream.jerky")]
    // What nobody told, asked or saw says neither.
    [InlineData(2560, 1440, 12.0, null, null, "")]
    [InlineData(2560, 1440, null, 12.0, null, "")]
    [InlineData(null, null, 12.0, 12.0, null, "")]
    // Less and jerky: less comes first, both are told.
    [InlineData(640, 360, 12.0, 3.0, "less", "stream.small-one stream.jerky")]
    public void AStreamIsHeldAgainstCameraPurposeAndClip(int? wide, int? high, double? told, double? came, string? word, string notes)
    {
        var standing = Of(wide, high, told, came);
        Assert.Equal(word, standing.Word);
        Assert.Equal(notes, string.Join(' ', standing.Notes.Select(n => n.Said.Code)));
        Assert.Equal("H265 2560x1440", standing.Largest);
        // As planned is what is large and quick enough, and seen to be both.
        Assert.Equal(word == "as-planned", standing is { IsLarge: true, IsQuick: true });
        Assert.Equal(standing.Notes.Any(n => n.IsWrong), standing.IsLarge == false || standing.IsQuick == false);
    }

    [Fact]
    public void WithoutTheCameraTheSizeIsHeldAgainstThePurposeAlone()
    {
        Assert.Equal("stream.pixels", Of(1280, 720, 12, 12, []).Notes.Single().Said.Code);
        var fine = Of(1920, 1080, 12, 12, []);
        // Whether it is the camera's best nobody knows.
        Assert.Equal((true, null, ""), (fine.Notes.IsEmpty, fine.Word, fine.Largest));
        // A camera that has no better is as planned only where that is enough.
        Assert.Equal("less", Of(640, 360, 12, 12, [Camera[1]]).Word);
        Assert.Equal("as-planned", Of(640, 360, 12, 12, [Camera[1]], new(0.2, 8)).Word);
    }

    [Theory]
    [InlineData("H.265", "")]
    [InlineData("h264", "")]
    [InlineData("", "")]
    [InlineData("MJPEG", "stream.codec")]
    public void ACodecThatTheCameraHasNotIsToldAndRefusesNothing(string codec, string note)
    {
        var standing = StreamStanding.Of(new(2, 8), new(1, Wide: 2560, High: 1440, FramesPerSecond: 12, Codec: codec), Camera, null);
        Assert.Equal(note, string.Join(' ', standing.Notes.Select(n => n.Said.Code)));
        Assert.DoesNotContain(standing.Notes, n => n.IsWrong);
    }

    [Fact]
    public void ThePurposeOfPlatesAsksForMorePictures()
    {
        var (usual, plates) = (StreamSpec.Of(Facts.Shipped, false), StreamSpec.Of(Facts.Shipped, true));
        Assert.True(plates.FramesPerSecond > usual.FramesPerSecond);
        Assert.Equal(usual.Megapixels, plates.Megapixels);
    }
}
