using Walkdown.Core.Nights;

namespace Walkdown.Core.Tests;

/// <summary>A white light, watched in the pictures of its camera: twice a second, as they come.</summary>
public sealed class WhiteLightTests
{
    private static readonly DateTimeOffset Dusk = new(2026, 11, 20, 18, 0, 0, TimeSpan.Zero);

    private readonly WhiteLightWatch _watch = new();
    private DateTimeOffset _at = Dusk;

    /// <summary>Pictures for so long.</summary>
    private WhiteLightTests See(double seconds, bool? coloured = false, double light = 0.15, double? db = 22)
    {
        for (var n = 0; n < 2 * seconds; n++, _at = _at.AddSeconds(0.5))
            _watch.Next(coloured, light, db, _at);
        return this;
    }

    private WhiteLightTests Lit(double seconds) => See(seconds, coloured: true, db: 30);

    private WhiteLightTests Walk()
    {
        _watch.Walked(_at);
        return this;
    }

    private (string?, string?, string?) Says => (_watch.Told!.Movement, _watch.Told.Colour, _watch.Told.Still);

    [Fact]
    public void ItComesOnWithColourAndGoesOff()
    {
        See(3).Walk().See(2).Lit(20);
        Assert.True(_watch.Told!.IsLit);
        Assert.Equal(("comes-on", "colour", null), Says);
        Assert.Equal(2, _watch.Told.Changes[0].AfterWalkSeconds!.Value, 0.01);
        See(3);
        Assert.Equal(("comes-on", "colour", "goes-off"), Says);
        Assert.False(_watch.Told.IsLit);
        Assert.Equal(["20"], _watch.Told.Told.Args);
    }

    /// <summary>A dead one is told as such once it had its time, and no sooner.</summary>
    [Fact]
    public void ItStaysDark()
    {
        See(3).Walk().See(14);
        Assert.Equal((null, null, null), Says);
        See(3);
        Assert.Equal(("stays-dark", null, null), Says);
    }

    /// <summary>Exposure takes the light away again: signal against noise tells a lamp whose picture stays grey.</summary>
    [Theory]
    [InlineData(0.15, 27.0)]
    [InlineData(0.40, 22.0)]
    public void ItStaysGrey(double light, double db)
    {
        See(3).Walk().See(1).See(4, light: light, db: db);
        Assert.Equal(("comes-on", null, null), Says);
        See(3, light: light, db: db);
        Assert.Equal("grey", _watch.Told!.Colour);
    }

    [Fact]
    public void OneThatIsLeftOnIsTold()
    {
        See(3).Walk().See(1).Lit(299);
        Assert.Null(_watch.Told!.Still);
        // Whoever walks once more while it is on keeps it on.
        Walk().Lit(200);
        Assert.Null(_watch.Told.Still);
        Lit(150);
        Assert.Equal("stays-on", _watch.Told.Still);
    }

    /// <summary>Headlights go by in one picture; a broken one is none either.</summary>
    [Fact]
    public void OnePictureAloneIsNoLamp()
    {
        See(3).Walk().See(0.5, light: 0.9).See(3).See(0.5, coloured: true).See(3);
        Assert.Empty(_watch.Told!.Changes);
        Assert.False(_watch.MayBeLit);
    }

    /// <summary>Nobody walked: that it comes on is no answer to him.</summary>
    [Fact]
    public void AloneItAnswersNobody()
    {
        See(3).Lit(5);
        Assert.Null(_watch.Told!.Movement);
        Assert.Equal("night.lamp-on-alone", _watch.Told.Told.Code);
        // Walked while it is on, and gone off since: nothing was to be seen of what a walk does.
        Walk().Lit(3).See(30);
        Assert.Null(_watch.Told.Movement);
    }

    /// <summary>A camera that saw in colour before may see by day, where a cloud that goes is as much light; one whose colour nobody knows
    /// says nothing by it.</summary>
    [Theory]
    [InlineData(true, null)]
    [InlineData(null, "comes-on")]
    public void WithoutGreyBeforeColourSaysNothing(bool? coloured, string? movement)
    {
        See(3, coloured).Walk().See(1, coloured).See(10, coloured, light: 0.5);
        Assert.Equal((movement, null, null), Says);
    }

    /// <summary>By day none comes on: that tells nothing of it, whoever walks.</summary>
    [Fact]
    public void ByDayThatItStaysOffSaysNothing()
    {
        See(3, coloured: true, light: 0.3).Walk().See(40, coloured: true, light: 0.3);
        Assert.Equal((null, null, null), Says);
        Assert.Equal("night.lamp-by-day", _watch.Told!.Told.Code);
        // The sun comes out for a while.
        See(400, coloured: true, light: 0.6).See(10, coloured: true, light: 0.3);
        Assert.Equal((null, null, null), Says);
        // Dusk comes: who walked by day has not walked in the dark.
        See(20);
        Assert.Null(_watch.Told.Movement);
        Walk().See(17);
        Assert.Equal("stays-dark", _watch.Told.Movement);
    }

    /// <summary>Whoever covers its light sensor by day, and uncovers it, asks whether it changes over: no lamp came on. An hour later one
    /// may, and by itself it tells no row.</summary>
    [Fact]
    public void ACoveredLightSensorIsNoLamp()
    {
        See(10, coloured: true, light: 0.3).See(20, light: 0.6, db: 30);
        Assert.False(_watch.MayBeLit);
        See(10, coloured: true, light: 0.3);
        Assert.Empty(_watch.Told!.Changes);
        See(3600).Lit(400).See(5);
        Assert.Equal([true, false], _watch.Told.Changes.Select(c => c.IsOn));
        Assert.Equal((null, null, null), Says);
    }

    /// <summary>The picture that may be of a lit view is no night picture, from the first on.</summary>
    [Fact]
    public void WhatMayBeLitIsNotTheDark()
    {
        See(3);
        Assert.False(_watch.MayBeLit);
        Lit(0.5);
        Assert.True(_watch.MayBeLit);
        Lit(3).See(0.5);
        Assert.True(_watch.MayBeLit);
        See(0.5);
        Assert.False(_watch.MayBeLit);
    }

    /// <summary>Pictures that stop say nothing of what happened meanwhile.</summary>
    [Fact]
    public void WhoWalksBeforeAnybodyLooksWasNotSeen()
    {
        Walk();
        _at = _at.AddSeconds(30);
        See(3);
        Assert.Equal((null, null, null), Says);
    }
}
