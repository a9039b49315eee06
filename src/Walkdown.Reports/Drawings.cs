using System.Collections.Immutable;
using PdfSharp.Drawing;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;

namespace Walkdown.Reports;

/// <summary>The marks of the interface on paper: shape first, so that a black-and-white print says the same.</summary>
internal static class Drawings
{
    public static XColor ColourOf(Verdict verdict) =>
        verdict switch
        {
            Verdict.Accepted => Sheets.Accepted,
            Verdict.AcceptedWithNote => Sheets.Noted,
            Verdict.Refused => Sheets.Refused,
            _ => Sheets.Open,
        };

    public static XColor ColourOf(State state) =>
        state switch
        {
            State.Out => Sheets.Refused,
            State.TooClose => Sheets.Noted,
            State.NotTaken or State.Stale or State.NotJudged => Sheets.Open,
            _ => Sheets.Ink,
        };

    public static void VerdictMark(this Sheets s, Verdict verdict, double cx, double cy, double r)
    {
        var colour = ColourOf(verdict);
        var brush = new XSolidBrush(colour);
        switch (verdict)
        {
            case Verdict.Accepted:
                s.G.DrawEllipse(brush, cx - r, cy - r, 2 * r, 2 * r);
                s.G.DrawLines(
                    new XPen(XColors.White, r / 4.5),
                    [new(cx - r * 0.45, cy + r * 0.02), new(cx - r * 0.1, cy + r * 0.38), new(cx + r * 0.5, cy - r * 0.35)]
                );
                break;
            case Verdict.AcceptedWithNote:
                s.Polygon(
                    colour,
                    new(cx - r, cy - r * 0.8),
                    new(cx + r * 0.45, cy - r * 0.8),
                    new(cx + r * 1.1, cy),
                    new(cx + r * 0.45, cy + r * 0.8),
                    new(cx - r, cy + r * 0.8)
                );
                s.G.DrawEllipse(XBrushes.White, cx + r * 0.3, cy - r * 0.16, r * 0.32, r * 0.32);
                s.Line(cx - r * 0.7, cy - r * 0.28, cx, cy - r * 0.28, XColors.White, r / 6);
                s.Line(cx - r * 0.7, cy + r * 0.28, cx, cy + r * 0.28, XColors.White, r / 6);
                break;
            case Verdict.Refused:
                s.Polygon(colour, new(cx - r, cy - r), new(cx + r * 0.72, cy - r), new(cx - r, cy + r * 0.72));
                s.Polygon(colour, new(cx + r, cy + r), new(cx - r * 0.72, cy + r), new(cx + r, cy - r * 0.72));
                break;
            default:
                s.G.DrawEllipse(new XPen(colour, r / 3.5), cx - r * 0.85, cy - r * 0.85, 1.7 * r, 1.7 * r);
                break;
        }
    }

    /// <summary>The tiny gauge that stands for a state.</summary>
    public static void StateMark(this Sheets s, State state, double x, double cy)
    {
        var colour = ColourOf(state);
        if (state == State.NotApplicable)
        {
            s.Line(x + 4, cy, x + 11, cy, Sheets.Ink2, 0.8);
            return;
        }
        // Read, with nothing to hold it against: a bar with its point and no ends.
        if (state == State.NotJudged)
        {
            s.Line(x, cy, x + 15, cy, colour, 0.8);
            s.G.DrawEllipse(new XSolidBrush(colour), x + 5, cy - 2.5, 5, 5);
            return;
        }
        s.Line(x, cy - 4, x, cy + 4, colour, 1.1);
        if (state == State.Out)
        {
            s.Line(x, cy, x + 9, cy, colour, 0.8);
            s.Line(x + 9, cy - 4, x + 9, cy + 4, colour, 1.1);
            Diamond(s, x + 14, cy, 3, colour, true);
            return;
        }
        s.Line(x, cy, x + 15, cy, colour, 0.8, state is State.NotTaken or State.Stale);
        s.Line(x + 15, cy - 4, x + 15, cy + 4, colour, 1.1);
        if (state == State.In)
            s.G.DrawEllipse(new XSolidBrush(colour), x + 5, cy - 2.5, 5, 5);
        if (state == State.TooClose)
            s.G.DrawEllipse(new XSolidBrush(colour), x + 10.5, cy - 2.5, 5, 5);
    }

    private static void Diamond(Sheets s, double cx, double cy, double r, XColor colour, bool filled)
    {
        XPoint[] points = [new(cx, cy - r), new(cx + r, cy), new(cx, cy + r), new(cx - r, cy)];
        if (filled)
            s.Polygon(colour, points);
        else
            s.G.DrawPolygon(new XPen(colour, 0.9), XBrushes.White, points, XFillMode.Winding);
    }

    /// <summary>Band between limits, hollow diamond expected, solid mark read with its whisker, line to the nearest limit.</summary>
    public static void Gauge(this Sheets s, CardRow row, Attempt? attempt, double x, double y, double width)
    {
        if (row.Window is not { } w || w.Empty)
            return;
        var read = attempt?.Value is NumberValue n ? n.Value : (double?)null;
        var expected = row.Expected?.Value?.Value;
        var values = new[] { w.Min, w.Max, read, expected }.OfType<double>().ToList();
        double low = values.Min(),
            high = values.Max(),
            span = Math.Max(high - low, Math.Abs(high) * 0.02 + 1e-6);
        double from = low - span * 0.125,
            to = high + span * 0.125;
        double At(double v) => x + (v - from) / (to - from) * width;
        s.Line(x, y, x + width, y, Sheets.Hair, 0.6);
        double bandLeft = w.Min is { } a ? At(a) : x,
            bandRight = w.Max is { } b ? At(b) : x + width;
        s.G.DrawRectangle(new XPen(Sheets.Ink2, 0.4), new XSolidBrush(Sheets.Band), bandLeft, y - 2.2, bandRight - bandLeft, 4.4);
        if (w.Min is not null)
            s.Line(bandLeft, y - 5, bandLeft, y + 5, Sheets.Ink, 1.3);
        if (w.Max is not null)
            s.Line(bandRight, y - 5, bandRight, y + 5, Sheets.Ink, 1.3);
        if (expected is { } e)
            Diamond(s, At(e), y - 5.2, 2.8, Sheets.Ink, false);
        if (read is not { } r || attempt is null)
            return;
        var colour = ColourOf(attempt.State);
        if (attempt.HalfWidth is { } half && half / (to - from) * width > 3)
        {
            double l = Math.Max(x, At(r - half)),
                h = Math.Min(x + width, At(r + half));
            s.Line(l, y, h, y, colour, 0.8);
            s.Line(l, y - 2.5, l, y + 2.5, colour, 0.8);
            s.Line(h, y - 2.5, h, y + 2.5, colour, 0.8);
        }
        if (attempt.State == State.Out)
            Diamond(s, At(r), y, 3.3, colour, true);
        else
            s.G.DrawEllipse(new XSolidBrush(colour), At(r) - 2.4, y - 2.4, 4.8, 4.8);
        if (attempt.Spare is { } spare)
        {
            var limit = spare.Nearest == Core.Measures.NearestLimit.Min ? bandLeft : bandRight;
            s.Line(At(r), y + 7, limit, y + 7, colour, 0.6);
        }
    }

    private static readonly (bool Striped, XColor Colour)[] SchemeB =
    [
        (true, XColor.FromArgb(0xDD, 0x74, 0x24)),
        (false, XColor.FromArgb(0xDD, 0x74, 0x24)),
        (true, XColor.FromArgb(0x2E, 0x8A, 0x4C)),
        (false, XColor.FromArgb(0x2B, 0x60, 0xB4)),
        (true, XColor.FromArgb(0x2B, 0x60, 0xB4)),
        (false, XColor.FromArgb(0x2E, 0x8A, 0x4C)),
        (true, XColor.FromArgb(0x75, 0x47, 0x2A)),
        (false, XColor.FromArgb(0x75, 0x47, 0x2A)),
    ];

    /// <summary>Eight conductors from near to far in their insulation colours; gaps where they are open. Returns the height
    /// taken.</summary>
    public static double WireMap(
        this Sheets s,
        WireMapValue value,
        double? runMetres,
        string open,
        double x,
        double y,
        double width,
        double pitch,
        bool fine = false
    )
    {
        double left = x + 14,
            right = x + width - 14 - s.WidthOf(open, ShippedFonts.Text(8, true)) - 6;
        for (var pass = 0; pass < 2; pass++)
        for (var i = 0; i < 8; i++)
        {
            var far = value.NearToFar[i].IsDefault ? ImmutableArray<int>.Empty : value.NearToFar[i];
            var straight = far.Length == 1 && far[0] == i + 1;
            if (straight != (pass == 0))
                continue;
            var nearY = y + (i + 0.5) * pitch;
            if (far.IsEmpty)
            {
                var metres =
                    value.OpenDistanceMetres?.GetValueOrDefault(
                        (i + 1).ToString(System.Globalization.CultureInfo.InvariantCulture),
                        double.NaN
                    )
                    ?? double.NaN;
                var share = runMetres > 0 && double.IsFinite(metres) ? Math.Clamp(metres / runMetres.Value, 0.06, 0.94) : 0.5;
                Conductor(s, i, left, nearY, left + (right - left) * share - 6, nearY, pitch);
                Conductor(s, i, left + (right - left) * share + 6, nearY, right, nearY, pitch);
                s.Text(open, right + 18, nearY + 2.8, 8, true, fine ? Sheets.Ink2 : Sheets.Refused);
            }
            foreach (var pin in far.Where(p => p <= 8))
            {
                var farY = y + (pin - 0.5) * pitch;
                if (straight)
                    Conductor(s, i, left, nearY, right, farY, pitch);
                else
                {
                    double a = left + (right - left) * 0.35,
                        b = left + (right - left) * 0.65;
                    Conductor(s, i, left, nearY, a, nearY, pitch);
                    Conductor(s, i, a, nearY, b, farY, pitch);
                    Conductor(s, i, b, farY, right, farY, pitch);
                }
            }
        }
        for (var i = 0; i < 8; i++)
        {
            var wrong = value.NearToFar[i].Length != 1 || value.NearToFar[i][0] != i + 1;
            var baseline = y + (i + 0.5) * pitch + 2.8;
            s.Text((i + 1).ToString(), left - 5, baseline, 8, true, wrong ? Sheets.Refused : Sheets.Ink, 1, true);
            s.Text((i + 1).ToString(), right + 5, baseline, 8, true, Sheets.Ink, 0, true);
        }
        s.Line(left, y, left, y + 8 * pitch, Sheets.Ink, 1.2);
        s.Line(right, y, right, y + 8 * pitch, Sheets.Ink, 1.2);
        return 8 * pitch;
    }

    private static void Conductor(Sheets s, int index, double x1, double y1, double x2, double y2, double pitch)
    {
        var (striped, colour) = SchemeB[index];
        var width = pitch * 0.52;
        s.Line(x1, y1, x2, y2, Sheets.Ink, width + 0.9);
        s.Line(x1, y1, x2, y2, striped ? XColors.White : colour, width);
        if (!striped)
            return;
        var pen = new XPen(colour, width) { DashPattern = [1.1, 1.1] };
        s.G.DrawLine(pen, x1, y1, x2, y2);
    }

    /// <summary>Eight legs from the recorder to the scene: whole, pinched, parted, dashed.</summary>
    public static void SignalPath(this Sheets s, Card card, Wording words, double y)
    {
        double left = Sheets.Left + 22,
            right = Sheets.Right - 20,
            step = (right - left) / 8;
        s.G.DrawRectangle(new XSolidBrush(Sheets.Ink), Sheets.Left, y - 8, 16, 16);
        s.Line(Sheets.Left + 4, y - 2.5, Sheets.Left + 12, y - 2.5, XColors.White, 1.2);
        s.Line(Sheets.Left + 4, y + 2.5, Sheets.Left + 9, y + 2.5, XColors.White, 1.2);
        s.Line(Sheets.Left + 16, y, left, y, Sheets.Ink, 3.6);
        foreach (var leg in card.Legs)
        {
            double x1 = left + (int)leg.Leg * step,
                x2 = x1 + step,
                mid = (x1 + x2) / 2;
            var colour = ColourOf(leg.State);
            s.Text(words.Texts["leg." + Core.Measures.Codes.Of(leg.Leg)], mid, y - 14, 8.5, true, Sheets.Ink, 0.5);
            s.Line(x2, y - 5, x2, y + 5, Sheets.Ink, 1.1);
            switch (leg.State)
            {
                case State.In:
                    s.Line(x1, y, x2, y, colour, 3.6);
                    break;
                case State.TooClose:
                    s.Polygon(
                        colour,
                        new(x1, y - 1.8),
                        new(mid, y - 0.3),
                        new(x2, y - 1.8),
                        new(x2, y + 1.8),
                        new(mid, y + 0.3),
                        new(x1, y + 1.8)
                    );
                    break;
                case State.Out:
                    s.Line(x1, y, mid - 4, y, colour, 3.6);
                    s.Line(mid + 4, y + 3, x2, y + 1.5, colour, 3.6);
                    break;
                case State.NotApplicable:
                    s.Line(x1, y, x2, y, Sheets.Hair, 0.6);
                    break;
                default:
                    var share = leg.Total == 0 ? 0 : (double)leg.Taken / leg.Total;
                    if (share > 0)
                        s.Line(x1, y, x1 + step * share, y, Sheets.Ink, 3.6);
                    s.Line(x1 + step * share, y, x2, y, colour, 1.1, true);
                    break;
            }
            var tightest = card.Rows.FirstOrDefault(r => r.Id == leg.TightestRow);
            var below =
                leg.State == State.NotApplicable ? ""
                : leg.State is State.NotTaken or State.Stale
                    ? leg.Taken > 0 ? words.Texts.Fill(words.Texts["ui.n-of-m"], [leg.Taken.ToString(), leg.Total.ToString()])
                        : words.State(State.NotTaken)
                : tightest is not null ? words.SpareOf(tightest, tightest.Spare)
                : leg.State == State.In ? words.Texts.Fill(words.Texts["ui.n-of-m"], [leg.Taken.ToString(), leg.Total.ToString()])
                : words.State(leg.State);
            s.Text(below, mid, y + 17, 7.5, leg.State is State.Out or State.TooClose, colour, 0.5, true);
        }
        s.G.DrawLines(new XPen(Sheets.Ink, 0.9), [new(right + 16, y - 10), new(right + 2, y), new(right + 16, y + 10)]);
        s.G.DrawEllipse(new XSolidBrush(Sheets.Ink), right - 1, y - 3, 6, 6);
    }
}
