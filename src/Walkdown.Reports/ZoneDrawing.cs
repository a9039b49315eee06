using System.Globalization;
using PdfSharp.Drawing;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Zones;

namespace Walkdown.Reports;

/// <summary>Zones as they were drawn, on the picture that they were drawn on: told apart by their lines, so that a black-and-white print
/// says the same.</summary>
internal static class ZoneDrawing
{
    private const double Most = 330,
        Height = 190,
        Indent = 24;

    /// <param name="picture">Null: they were drawn on none, or it is not in the record.</param>
    public static void Onto(Sheets s, ZonesValue value, PackPicture? picture, Wording words)
    {
        var t = words.Texts;
        s.Need(Height + 30);
        s.Y += 4;
        double left = Sheets.Left + Indent,
            top = s.Y;
        var (width, height) = picture?.Jpeg is { } jpeg ? s.Picture(jpeg, left, top, Most, Height) : (Height * 16 / 9, Height);
        s.G.DrawRectangle(new XPen(Sheets.Ink2, 0.6), left, top, width, height);
        // What is blackened lies under the lines of what it cuts.
        foreach (var zone in value.Zones.OrderByDescending(z => z.Use == ZoneUse.Private))
            Draw(s, zone, left, top, width, height);
        for (var i = 0; i < value.Zones.Length; i++)
            Number(s, i + 1, value.Zones[i], left, top, width, height);
        s.Y = top + height + 3;
        s.Paragraph(
            string.Join(
                "; ",
                value.Zones.Select(
                    (zone, i) => $"{(i + 1).ToString(CultureInfo.InvariantCulture)} {zone.Name}, {t["zone.use." + Codes.Of(zone.Use)]}"
                )
            ),
            left,
            Sheets.Right - left,
            8
        );
        if (picture is null or { Jpeg: null })
            s.Paragraph(
                picture?.About.Erased is { } gone
                    ? t.Fill(t["pack.picture.erased"], [gone.By, words.Day(gone.At), gone.Reason])
                    : t[value.Picture is null ? "zone.drawn-on-none" : "pack.picture.missing"],
                left,
                Sheets.Right - left,
                8,
                colour: Sheets.Ink2
            );
        s.Y += 4;
    }

    private static void Draw(Sheets s, PictureZone zone, double left, double top, double width, double height)
    {
        XPoint[] points = [.. zone.Points.Select(p => new XPoint(left + p.X * width, top + p.Y * height))];
        if (zone.Use == ZoneUse.Private)
            s.G.DrawPolygon(new XSolidBrush(Sheets.Ink), points, XFillMode.Winding);
        // A light line under each, so that it is seen on dark ground, too.
        s.G.DrawPolygon(new XPen(XColors.White, zone.Use == ZoneUse.OwnGround ? 2.6 : 2.2), points);
        s.G.DrawPolygon(
            zone.Use switch
            {
                ZoneUse.Watch => new XPen(Sheets.Ink, 1.5),
                ZoneUse.Ignore => new XPen(Sheets.Ink, 1) { DashPattern = [5, 3] },
                ZoneUse.OwnGround => new XPen(Sheets.Ink, 1.3) { DashPattern = [1, 2] },
                _ => new XPen(Sheets.Ink, 0.8),
            },
            points
        );
    }

    private static void Number(Sheets s, int number, PictureZone zone, double left, double top, double width, double height)
    {
        var (x, y) = (left + zone.Points[0].X * width, top + zone.Points[0].Y * height);
        x = Math.Clamp(x, left + 6, left + width - 6);
        y = Math.Clamp(y, top + 6, top + height - 6);
        s.G.DrawEllipse(new XSolidBrush(XColors.White), x - 5.5, y - 5.5, 11, 11);
        s.G.DrawEllipse(new XPen(Sheets.Ink, 0.7), x - 5.5, y - 5.5, 11, 11);
        var text = number.ToString(CultureInfo.InvariantCulture);
        s.Text(text, x - s.WidthOf(text, ShippedFonts.Text(7, true)) / 2, y + 2.5, 7, true);
    }
}
