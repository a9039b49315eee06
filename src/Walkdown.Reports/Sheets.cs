using PdfSharp.Drawing;
using PdfSharp.Pdf;

namespace Walkdown.Reports;

/// <summary>A4 pages with a running header and footer, a place to write that moves down, and bookmarks.</summary>
internal sealed class Sheets : IDisposable
{
    public const double Left = 42, Right = 553, Top = 62, Bottom = 790, Width = Right - Left;
    public static readonly XColor Ink = XColor.FromArgb(0x1B, 0x1F, 0x1D), Ink2 = XColor.FromArgb(0x45, 0x4A, 0x46), Hair = XColor.FromArgb(0xB9, 0xB3, 0xA4),
        Band = XColor.FromArgb(0xD9, 0xD3, 0xC3), Noted = XColor.FromArgb(0x73, 0x4A, 0x00), Refused = XColor.FromArgb(0x9B, 0x23, 0x18),
        Accepted = XColor.FromArgb(0x0A, 0x5A, 0x52), Open = XColor.FromArgb(0x44, 0x52, 0x5C);

    private readonly PdfDocument _document;
    private readonly string _jobName, _rightHead;
    private XGraphics? _g;

    public Sheets(string title, string jobName, string rightHead)
    {
        ShippedFonts.Use();
        _document = new PdfDocument();
        _document.Info.Title = title;
        _document.Info.Creator = "Walkdown";
        (_jobName, _rightHead) = (jobName, rightHead);
        NewPage();
    }

    public XGraphics G => _g!;
    public double Y { get; set; }
    public PdfPage Page => _document.Pages[^1];

    public void NewPage()
    {
        _g?.Dispose();
        var page = _document.AddPage();
        page.Size = PdfSharp.PageSize.A4;
        _g = XGraphics.FromPdfPage(page);
        BrandMark(Left, 33);
        Text("Walkdown", Left + 22, 40, 10.5, true);
        Text(_jobName, Left + 90, 40, 9);
        Text(_rightHead, Right, 40, 9, align: 1);
        Line(Left, 48, Right, 48, Ink, 0.8);
        Y = Top;
    }

    /// <summary>Starts a page where less than this is left.</summary>
    public void Need(double height)
    {
        if (Y + height > Bottom) NewPage();
    }

    public PdfOutline Bookmark(string title, PdfOutline? under = null) =>
        (under is null ? _document.Outlines : under.Outlines).Add(title, Page, true);

    public double WidthOf(string text, XFont font) => G.MeasureString(text, font).Width;

    /// <summary>One line at a baseline; align 0 left, 0.5 centre, 1 right.</summary>
    public void Text(string text, double x, double baseline, double size, bool bold = false, XColor? colour = null, double align = 0, bool mono = false)
    {
        if (text.Length == 0) return;
        var font = mono ? ShippedFonts.Mono(size, bold) : ShippedFonts.Text(size, bold);
        G.DrawString(text, font, new XSolidBrush(colour ?? Ink), x - align * WidthOf(text, font), baseline);
    }

    /// <summary>A paragraph that wraps, moving <see cref="Y"/>; a word wider than the column is broken.</summary>
    public void Paragraph(string text, double x, double width, double size, bool bold = false, XColor? colour = null, double leading = 1.35)
    {
        foreach (var line in Wrap(text, width, ShippedFonts.Text(size, bold)))
        {
            Need(size * leading);
            Y += size * leading;
            Text(line, x, Y - size * 0.3, size, bold, colour);
        }
    }

    public double HeightOf(string text, double width, double size, bool bold = false, double leading = 1.35) => Wrap(text, width, ShippedFonts.Text(size, bold)).Count * size * leading;

    public List<string> Wrap(string text, double width, XFont font)
    {
        var lines = new List<string>();
        foreach (var paragraph in text.Split('\n'))
        {
            var line = "";
            foreach (var raw in paragraph.Split(' '))
            {
                var word = raw;
                while (WidthOf(word, font) > width && word.Length > 1)
                {
                    var fits = word.Length - 1;
                    while (fits > 1 && WidthOf(word[..fits], font) > width) fits--;
                    if (line.Length > 0) lines.Add(line);
                    line = "";
                    lines.Add(word[..fits]);
                    word = word[fits..];
                }
                var longer = line.Length == 0 ? word : line + " " + word;
                if (line.Length > 0 && WidthOf(longer, font) > width)
                {
                    lines.Add(line);
                    line = word;
                }
                else line = longer;
            }
            lines.Add(line);
        }
        return lines;
    }

    public void Line(double x1, double y1, double x2, double y2, XColor colour, double width, bool dashed = false)
    {
        var pen = new XPen(colour, width);
        if (dashed) pen.DashPattern = [3, 2.2];
        G.DrawLine(pen, x1, y1, x2, y2);
    }

    public void Polygon(XColor colour, params XPoint[] points) => G.DrawPolygon(new XSolidBrush(colour), points, XFillMode.Winding);

    private void BrandMark(double x, double y)
    {
        Line(x, y - 4, x + 6, y - 4, Ink, 1.6);
        Line(x + 6, y - 4, x + 6, y + 2, Ink, 1.6);
        Line(x + 6, y + 2, x + 12, y + 2, Ink, 1.6);
        foreach (var (cx, cy) in new[] { (x, y - 4), (x + 6, y + 2), (x + 13, y + 2) }) G.DrawRectangle(new XSolidBrush(Ink), cx - 1.8, cy - 1.8, 3.6, 3.6);
    }

    /// <summary>Footers with the count of pages, then the bytes.</summary>
    public byte[] Finish(string leftFoot, Func<int, int, string> pageOf)
    {
        _g?.Dispose();
        _g = null;
        for (var i = 0; i < _document.PageCount; i++)
        {
            using var g = XGraphics.FromPdfPage(_document.Pages[i], XGraphicsPdfPageOptions.Append);
            _g = g;
            Line(Left, 803, Right, 803, Hair, 0.6);
            Text(leftFoot, Left, 815, 8, colour: Ink2);
            Text(pageOf(i + 1, _document.PageCount), Right, 815, 8, colour: Ink2, align: 1);
            _g = null;
        }
        using var stream = new MemoryStream();
        _document.Save(stream, false);
        return stream.ToArray();
    }

    public void Dispose()
    {
        _g?.Dispose();
        _document.Dispose();
    }
}
