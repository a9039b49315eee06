using PdfSharp.Drawing;
using PdfSharp.Pdf;

namespace Walkdown.Reports;

/// <summary>A4 pages with a running header and footer, a place to write that moves down, and bookmarks.</summary>
internal sealed class Sheets : IDisposable
{
    public const double Left = 42,
        Right = 553,
        Top = 62,
        Bottom = 790,
        Width = Right - Left;
    public static readonly XColor Ink = XColor.FromArgb(0x1B, 0x1F, 0x1D),
        Ink2 = XColor.FromArgb(0x45, 0x4A, 0x46),
        Hair = XColor.FromArgb(0xB9, 0xB3, 0xA4),
        Band = XColor.FromArgb(0xD9, 0xD3, 0xC3),
        Noted = XColor.FromArgb(0x73, 0x4A, 0x00),
        Refused = XColor.FromArgb(0x9B, 0x23, 0x18),
        Accepted = XColor.FromArgb(0x0A, 0x5A, 0x52),
        Open = XColor.FromArgb(0x44, 0x52, 0x5C);

    private readonly PdfDocument _document;
    private readonly string _jobName;
    private readonly List<string> _feet = [];
    private readonly List<(int Page, string Text, double X, double Baseline, double Size)> _late = [];
    private XGraphics? _g;

    public Sheets(string title, string jobName, string rightHead)
    {
        ShippedFonts.Use();
        _document = new PdfDocument();
        _document.Info.Title = title;
        _document.Info.Creator = "Walkdown";
        (_jobName, RightHead) = (jobName, rightHead);
        NewPage();
    }

    public XGraphics G => _g!;
    public double Y { get; set; }

    /// <summary>Right of the running header, from the next page on.</summary>
    public string RightHead { get; set; }

    /// <summary>Left of the foot, from this page on; null: what <see cref="Finish"/> is given.</summary>
    public string? Foot { get; set; }
    public PdfPage Page => _document.Pages[^1];

    public void NewPage()
    {
        _g?.Dispose();
        if (_document.PageCount > 0)
            _feet.Add(Foot ?? "");
        var page = _document.AddPage();
        page.Size = PdfSharp.PageSize.A4;
        _g = XGraphics.FromPdfPage(page);
        BrandMark(Left, 33);
        Text("Walkdown", Left + 22, 40, 10.5, true);
        Text(_jobName, Left + 90, 40, 9);
        Text(RightHead, Right, 40, 9, align: 1);
        Line(Left, 48, Right, 48, Ink, 0.8);
        Y = Top;
    }

    /// <summary>Starts a page where less than this is left.</summary>
    public void Need(double height)
    {
        if (Y + height > Bottom)
            NewPage();
    }

    public PdfOutline Bookmark(string title, PdfOutline? under = null) =>
        (under is null ? _document.Outlines : under.Outlines).Add(title, Page, true);

    /// <summary>Widths by font and word: a report says the same words thousands of times.</summary>
    private readonly Dictionary<XFont, Dictionary<string, double>> _widths = [];

    private const int MostWidths = 5000;

    public double WidthOf(string text, XFont font)
    {
        if (!_widths.TryGetValue(font, out var known))
            _widths[font] = known = [];
        if (known.TryGetValue(text, out var width))
            return width;
        if (known.Count >= MostWidths)
            known.Clear();
        return known[text] = G.MeasureString(text, font).Width;
    }

    /// <summary>One line at a baseline; align 0 left, 0.5 centre, 1 right.</summary>
    public void Text(
        string text,
        double x,
        double baseline,
        double size,
        bool bold = false,
        XColor? colour = null,
        double align = 0,
        bool mono = false
    )
    {
        if (text.Length == 0)
            return;
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

    public double HeightOf(string text, double width, double size, bool bold = false, double leading = 1.35) =>
        Wrap(text, width, ShippedFonts.Text(size, bold)).Count * size * leading;

    public List<string> Wrap(string text, double width, XFont font)
    {
        var lines = new List<string>();
        // Advances add up: the library measures without kerning.
        var space = WidthOf("n n", font) - WidthOf("nn", font);
        foreach (var paragraph in text.Split('\n'))
        {
            var line = "";
            double length = 0;
            foreach (var raw in paragraph.Split(' '))
            {
                var word = raw;
                double wide;
                while ((wide = WidthOf(word, font)) > width && word.Length > 1)
                {
                    var fits = word.Length - 1;
                    while (fits > 1 && G.MeasureString(word[..fits], font).Width > width)
                        fits--;
                    if (line.Length > 0)
                        lines.Add(line);
                    (line, length) = ("", 0);
                    lines.Add(word[..fits]);
                    word = word[fits..];
                }
                if (line.Length > 0 && length + space + wide > width)
                {
                    lines.Add(line);
                    (line, length) = (word, wide);
                }
                else
                    (line, length) = line.Length == 0 ? (word, wide) : (line + " " + word, length + space + wide);
            }
            lines.Add(line);
        }
        return lines;
    }

    public void Line(double x1, double y1, double x2, double y2, XColor colour, double width, bool dashed = false)
    {
        var pen = new XPen(colour, width);
        if (dashed)
            pen.DashPattern = [3, 2.2];
        G.DrawLine(pen, x1, y1, x2, y2);
    }

    public void Polygon(XColor colour, params XPoint[] points) => G.DrawPolygon(new XSolidBrush(colour), points, XFillMode.Winding);

    private void BrandMark(double x, double y)
    {
        Line(x, y - 4, x + 6, y - 4, Ink, 1.6);
        Line(x + 6, y - 4, x + 6, y + 2, Ink, 1.6);
        Line(x + 6, y + 2, x + 12, y + 2, Ink, 1.6);
        foreach (var (cx, cy) in new[] { (x, y - 4), (x + 6, y + 2), (x + 13, y + 2) })
            G.DrawRectangle(new XSolidBrush(Ink), cx - 1.8, cy - 1.8, 3.6, 3.6);
    }

    /// <summary>A picture in a box, its sides kept; what is left of the box stays free on the right and below.</summary>
    public (double Width, double Height) Picture(byte[] jpeg, double x, double y, double width, double height)
    {
        using var stream = new MemoryStream(jpeg, 0, jpeg.Length, writable: false, publiclyVisible: true);
        using var image = XImage.FromStream(stream);
        var scale = Math.Min(width / image.PixelWidth, height / image.PixelHeight);
        var (w, h) = (image.PixelWidth * scale, image.PixelHeight * scale);
        G.DrawImage(image, x, y, w, h);
        return (w, h);
    }

    /// <summary>A picture under what is drawn later, of which only what lies in a frame is shown.</summary>
    public void Behind(byte[] jpeg, XRect at, XRect frame)
    {
        using var image = XImage.FromStream(new MemoryStream(jpeg));
        var state = G.Save();
        G.IntersectClip(frame);
        G.DrawImage(image, at);
        G.Restore(state);
    }

    /// <summary>A QR code, drawn as one shape of squares.</summary>
    public void Qr(string text, double x, double y, double side)
    {
        using var generator = new QRCoder.QRCodeGenerator();
        using var data = generator.CreateQrCode(text, QRCoder.QRCodeGenerator.ECCLevel.M);
        var matrix = data.ModuleMatrix;
        // The library leaves a quiet zone of four; the page's own white does for most of it.
        const int quiet = 4;
        var count = matrix.Count - 2 * quiet;
        var step = side / count;
        // Each run of squares is one thick line.
        var pen = new XPen(XColors.Black, step) { LineCap = XLineCap.Flat };
        for (var row = 0; row < count; row++)
        for (var column = 0; column < count; column++)
        {
            var run = 0;
            while (column + run < count && matrix[row + quiet][column + run + quiet])
                run++;
            if (run == 0)
                continue;
            G.DrawLine(pen, x + column * step, y + (row + 0.5) * step, x + (column + run) * step, y + (row + 0.5) * step);
            column += run;
        }
    }

    /// <summary>Rows of a table that are not parted by the end of a page.</summary>
    private const int Last = 5;

    /// <summary>A table that goes on over pages with its headings; cells wrap, a row is never parted.</summary>
    /// <param name="placed">Told the page and the baseline of each row.</param>
    /// <param name="columns">Heading and share of the width; a negative share: right-aligned, in the figures' type.</param>
    public void Table(
        IReadOnlyList<(string Heading, double Share)> columns,
        IEnumerable<IReadOnlyList<string>> rows,
        double size = 8,
        Func<int, XColor?>? colourOf = null,
        Action<int, double>? placed = null
    )
    {
        var total = columns.Sum(c => Math.Abs(c.Share));
        var widths = columns.Select(c => Math.Abs(c.Share) / total * Width).ToArray();
        const double gap = 6;
        Headings();
        var wrapped = rows.Select(row =>
                row.Select(
                        (cell, i) =>
                            Wrap(
                                cell,
                                widths[i] - gap,
                                columns[i].Share < 0 ? ShippedFonts.Mono(size, false) : ShippedFonts.Text(size, i == 0)
                            )
                    )
                    .ToArray()
            )
            .ToList();
        double HeightOf(List<string>[] lines) => Math.Max(1, lines.Max(l => l.Count)) * size * 1.3 + 4;
        for (var index = 0; index < wrapped.Count; index++)
        {
            var lines = wrapped[index];
            var height = HeightOf(lines);
            // The last few stay together: a page with two lines of a table is none.
            var together = index == wrapped.Count - Last ? wrapped.Skip(index).Sum(HeightOf) : height;
            if (Y + together > Bottom)
            {
                NewPage();
                Headings();
            }
            var x = Left;
            for (var i = 0; i < lines.Length; i++)
            {
                for (var n = 0; n < lines[i].Count; n++)
                {
                    var right = columns[i].Share < 0;
                    Text(
                        lines[i][n],
                        right ? x + widths[i] - gap : x,
                        Y + 2 + (n + 1) * size * 1.3 - 1.5,
                        size,
                        i == 0,
                        colourOf?.Invoke(index),
                        right ? 1 : 0,
                        right
                    );
                }
                x += widths[i];
            }
            placed?.Invoke(_document.PageCount - 1, Y + 2 + size * 1.3 - 1.5);
            Y += height;
            Line(Left, Y, Right, Y, Hair, 0.4);
        }

        void Headings()
        {
            Need(34);
            var x = Left;
            var most = 1;
            for (var i = 0; i < columns.Count; i++)
            {
                var words = Wrap(columns[i].Heading, widths[i] - gap, ShippedFonts.Text(7.5));
                most = Math.Max(most, words.Count);
                for (var n = 0; n < words.Count; n++)
                    Text(
                        words[n],
                        columns[i].Share < 0 ? x + widths[i] - gap : x,
                        Y + 9 + n * 9,
                        7.5,
                        colour: Ink2,
                        align: columns[i].Share < 0 ? 1 : 0
                    );
                x += widths[i];
            }
            Y += 4 + most * 9;
            Line(Left, Y, Right, Y, Ink, 0.8);
        }
    }

    /// <summary>A file beside the pages, for programs and for whoever asks years later.</summary>
    public void Attach(string name, byte[] content, string mediaType)
    {
        var file = new PdfDictionary(_document);
        file.CreateStream(Packed(content));
        file.Elements.SetName("/Type", "/EmbeddedFile");
        file.Elements.SetName("/Subtype", "/" + mediaType);
        file.Elements.SetName("/Filter", "/FlateDecode");
        _document.Internals.AddObject(file);
        var holds = new PdfDictionary(_document);
        holds.Elements.SetReference("/F", file.Reference!);
        var spec = new PdfDictionary(_document);
        spec.Elements.SetName("/Type", "/Filespec");
        spec.Elements.SetString("/F", name);
        spec.Elements.SetString("/UF", name);
        spec.Elements["/EF"] = holds;
        _document.Internals.AddObject(spec);
        var names = new PdfArray(_document);
        names.Elements.Add(new PdfString(name));
        names.Elements.Add(spec.Reference!);
        var tree = new PdfDictionary(_document);
        tree.Elements["/Names"] = names;
        var all = new PdfDictionary(_document);
        all.Elements["/EmbeddedFiles"] = tree;
        _document.Internals.Catalog.Elements["/Names"] = all;
    }

    public int PageCount => _document.PageCount;

    /// <summary>A figure that is known only later, right-aligned on a page that is done.</summary>
    public void Late(int page, string text, double x, double baseline, double size) => _late.Add((page, text, x, baseline, size));

    /// <summary>Footers with the count of pages, then the bytes.</summary>
    /// <param name="mark">Across every page; null: none.</param>
    public void Finish(Stream into, string leftFoot, Func<int, int, string> pageOf, string? mark = null)
    {
        _g?.Dispose();
        _g = null;
        _feet.Add(Foot ?? "");
        for (var i = 0; i < _document.PageCount; i++)
        {
            using var g = XGraphics.FromPdfPage(_document.Pages[i], XGraphicsPdfPageOptions.Append);
            _g = g;
            foreach (var late in _late.Where(l => l.Page == i))
                Text(late.Text, late.X, late.Baseline, late.Size, align: 1, mono: true);
            Line(Left, 803, Right, 803, Hair, 0.6);
            var (foot, page) = (_feet[i].Length > 0 ? _feet[i] : leftFoot, pageOf(i + 1, _document.PageCount));
            // A long foot gives way to the page's number.
            var (room, size) = (Width - WidthOf(page, ShippedFonts.Text(8)) - 14, 8.0);
            while (size > 5 && WidthOf(foot, ShippedFonts.Text(size)) > room)
                size -= 0.25;
            Text(foot, Left, 815, size, colour: Ink2);
            Text(page, Right, 815, 8, colour: Ink2, align: 1);
            if (mark is not null)
                Across(g, mark);
            _g = null;
        }
        _document.Save(into, false);
    }

    /// <summary>Large and pale, from lower left to upper right: what is under it can still be read.</summary>
    private static void Across(XGraphics g, string mark)
    {
        var font = ShippedFonts.Text(96);
        var state = g.Save();
        g.TranslateTransform((Left + Right) / 2, 440);
        g.RotateTransform(-52);
        g.DrawString(mark, font, new XSolidBrush(XColor.FromArgb(34, 0x9B, 0x23, 0x18)), 0, 34, XStringFormats.BaseLineCenter);
        g.Restore(state);
    }

    public void Dispose()
    {
        _g?.Dispose();
        _document.Dispose();
    }

    private static byte[] Packed(byte[] content)
    {
        using var packed = new MemoryStream();
        using (var zip = new System.IO.Compression.ZLibStream(packed, System.IO.Compression.CompressionLevel.Optimal, leaveOpen: true))
            zip.Write(content);
        return packed.ToArray();
    }
}
