using System.Collections.Immutable;
using System.Globalization;
using PdfSharp.Drawing;
using Walkdown.Core.Aiming;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;

namespace Walkdown.Reports;

/// <summary>A picture with what was measured in it: each sort of mark by its shape, so that a black-and-white print says the
/// same.</summary>
internal static class MeasurementDrawing
{
    private const double Most = 260,
        Height = 150,
        Indent = 24;

    public static void Onto(Sheets s, ImmutableArray<EvidenceMark> marks, byte[] jpeg, Wording words)
    {
        var t = words.Texts;
        s.Need(Height + 34);
        s.Y += 4;
        double left = Sheets.Left + Indent,
            top = s.Y;
        var (width, height) = s.Picture(jpeg, left, top, Most, Height);
        var frame = new XRect(left, top, width, height);
        var state = s.G.Save();
        // What was agreed may lie far outside of the picture.
        s.G.IntersectClip(frame);
        foreach (var mark in marks)
            Draw(s, mark, frame);
        s.G.Restore(state);
        s.G.DrawRectangle(new XPen(Sheets.Ink2, 0.6), frame);
        s.Y = top + height + 3;
        s.Paragraph(
            string.Join(" ", marks.Select(m => m.Kind).Distinct().Select(k => t["measured.mark." + Codes.Of(k)])),
            left,
            Sheets.Right - left,
            8,
            colour: Sheets.Ink2
        );
        s.Y += 2;
    }

    private static void Draw(Sheets s, EvidenceMark mark, XRect frame)
    {
        XPoint At(PictureShare p) => new(frame.X + p.X * frame.Width, frame.Y + p.Y * frame.Height);
        var (a, b) = (At(mark.From), At(mark.To));
        switch (mark.Kind)
        {
            case EvidenceMarkKind.Axis:
                Twice(pen => s.G.DrawLine(pen, a.X - 9, a.Y, a.X + 9, a.Y), 1.2);
                Twice(pen => s.G.DrawLine(pen, a.X, a.Y - 9, a.X, a.Y + 9), 1.2);
                break;
            case EvidenceMarkKind.Agreed:
                Twice(pen => s.G.DrawEllipse(pen, a.X - 7, a.Y - 7, 14, 14), 1.4);
                break;
            case EvidenceMarkKind.Horizon:
                Twice(pen => s.G.DrawLine(pen, a, b), 0.8, [6, 4]);
                break;
            case EvidenceMarkKind.Line:
                Twice(pen => s.G.DrawLine(pen, a, b), 1.4);
                foreach (var end in new[] { a, b })
                    Twice(pen => s.G.DrawEllipse(pen, end.X - 3, end.Y - 3, 6, 6), 1);
                break;
            case EvidenceMarkKind.Point:
                Twice(pen => s.G.DrawEllipse(pen, a.X - 5, a.Y - 5, 10, 10), 1.2);
                Twice(pen => s.G.DrawLine(pen, a.X - 2, a.Y, a.X + 2, a.Y), 0.8);
                break;
            case EvidenceMarkKind.Target:
                Twice(pen => s.G.DrawRectangle(pen, new XRect(a, b)), 1.2);
                break;
            case EvidenceMarkKind.Veil:
                s.G.DrawRectangle(new XPen(XColors.White, 0.6), new XRect(a, b));
                var text = ((mark.Share ?? 0) * 100).ToString("0", CultureInfo.InvariantCulture);
                var (x, y) = ((a.X + b.X - s.WidthOf(text, ShippedFonts.Text(8, true))) / 2, (a.Y + b.Y) / 2 + 3);
                s.G.DrawRectangle(new XSolidBrush(XColors.White), x - 1.5, y - 7.5, s.WidthOf(text, ShippedFonts.Text(8, true)) + 3, 9.5);
                s.Text(text, x, y, 8, true);
                break;
        }
    }

    /// <summary>Dark on a light line, so that it is seen on any ground.</summary>
    private static void Twice(Action<XPen> draw, double width, double[]? dashes = null)
    {
        draw(new XPen(XColors.White, width + 1.6));
        var pen = new XPen(Sheets.Ink, width);
        if (dashes is not null)
            pen.DashPattern = dashes;
        draw(pen);
    }
}
