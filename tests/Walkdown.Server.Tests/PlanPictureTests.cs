using System.Net;
using System.Net.Sockets;
using System.Text;
using SkiaSharp;
using Walkdown.Reports;

namespace Walkdown.Server.Tests;

/// <summary>The drawing behind a printed plan comes from whoever uploads it: it is drawn, or it is left out, and nothing else
/// happens.</summary>
public sealed class PlanPictureTests
{
    private static byte[]? Svg(string inside, string head = "") =>
        PlanPicture.Of(
            Encoding.UTF8.GetBytes(
                $"{head}<svg xmlns=\"http://www.w3.org/2000/svg\" xmlns:xlink=\"http://www.w3.org/1999/xlink\" "
                    + $"width=\"400\" height=\"200\">{inside}</svg>"
            ),
            "image/svg+xml"
        );

    private static SKBitmap Pixels(byte[]? jpeg)
    {
        Assert.NotNull(jpeg);
        return SKBitmap.Decode(jpeg);
    }

    [Fact]
    public void ADrawingKeepsItsShapeAndTurnsPale()
    {
        using var drawn = Pixels(Svg("<rect width=\"200\" height=\"200\" fill=\"#000\"/>"));
        Assert.Equal(2.0, (double)drawn.Width / drawn.Height, 0.01);
        var (black, white) = (drawn.GetPixel(drawn.Width / 4, drawn.Height / 2), drawn.GetPixel(3 * drawn.Width / 4, drawn.Height / 2));
        Assert.InRange(black.Red, 60, 150);
        Assert.InRange(white.Red, 250, 255);
    }

    [Fact]
    public void WordsAreSetInTheFontThatShips()
    {
        using var drawn = Pixels(Svg("<text x=\"20\" y=\"120\" font-family=\"No such font\" font-size=\"80\">Gate</text>"));
        var dark = 0;
        for (var x = 0; x < drawn.Width; x += 3)
        for (var y = 0; y < drawn.Height; y += 3)
            if (drawn.GetPixel(x, y).Red < 160)
                dark++;
        Assert.InRange(dark, 500, drawn.Width * drawn.Height / 18);
    }

    [Fact]
    public void APngIsDrawnToo()
    {
        using var bitmap = new SKBitmap(60, 120);
        bitmap.Erase(SKColors.Black);
        using var png = bitmap.Encode(SKEncodedImageFormat.Png, 90);
        using var drawn = Pixels(PlanPicture.Of(png.ToArray(), "image/png"));
        Assert.Equal(0.5, (double)drawn.Width / drawn.Height, 0.01);
    }

    [Theory]
    [InlineData("", "image/svg+xml")]
    [InlineData("<svg", "image/svg+xml")]
    [InlineData("<html><body>no drawing</body></html>", "image/svg+xml")]
    [InlineData("no picture", "image/png")]
    public void WhatIsNoDrawingIsLeftOut(string content, string mediaType) =>
        Assert.Null(PlanPicture.Of(Encoding.UTF8.GetBytes(content), mediaType));

    [Fact]
    public async Task NothingOutsideTheFileIsAskedFor()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        var asked = listener.AcceptTcpClientAsync();
        var there = $"http://127.0.0.1:{((IPEndPoint)listener.LocalEndpoint).Port}/x";
        Svg(
            $"<image xlink:href=\"{there}.png\" width=\"9\" height=\"9\"/><image href=\"{there}.svg\" width=\"9\" height=\"9\"/>"
                + $"<use xlink:href=\"{there}.svg#a\"/><style>@import url({there}.css);</style><script href=\"{there}.js\"/>"
        );
        Svg("<text>&x;</text>", $"<!DOCTYPE svg [<!ENTITY x SYSTEM \"{there}\">]>");
        Svg("<text>&a;</text>", $"<!DOCTYPE svg SYSTEM \"{there}.dtd\">");
        // Ours is the first to knock.
        using var us = new TcpClient();
        await us.ConnectAsync(IPAddress.Loopback, ((IPEndPoint)listener.LocalEndpoint).Port);
        using var first = await asked;
        Assert.Equal(((IPEndPoint)us.Client.LocalEndPoint!).Port, ((IPEndPoint)first.Client.RemoteEndPoint!).Port);
    }

    [Fact]
    public void AnEntityThatSwellsIsNotSwelled()
    {
        var entities = string.Concat(
            Enumerable.Range(1, 9).Select(i => $"<!ENTITY e{i} \"{string.Concat(Enumerable.Repeat($"&e{i - 1};", 10))}\">")
        );
        // Of this thread: others of the run allocate too.
        var before = GC.GetAllocatedBytesForCurrentThread();
        Svg("<text>&e9;</text>", $"<!DOCTYPE svg [<!ENTITY e0 \"ha\">{entities}]>");
        Assert.InRange(GC.GetAllocatedBytesForCurrentThread() - before, 0, 100_000_000);
    }
}
