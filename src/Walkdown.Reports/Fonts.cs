using PdfSharp.Drawing;
using PdfSharp.Fonts;

namespace Walkdown.Reports;

/// <summary>The fonts that ship with Walkdown; nothing of the machine's is used, so that a page looks the same everywhere.</summary>
internal sealed class ShippedFonts : IFontResolver
{
    private static readonly Lock Once = new();

    public static void Use()
    {
        lock (Once) GlobalFontSettings.FontResolver ??= new ShippedFonts();
    }

    public FontResolverInfo? ResolveTypeface(string family, bool bold, bool italic) =>
        new($"AtkinsonHyperlegible{(family == "Mono" ? "Mono" : "Next")}-{(bold ? "Bold" : "Regular")}");

    public byte[]? GetFont(string face)
    {
        using var stream = typeof(ShippedFonts).Assembly.GetManifestResourceStream($"fonts/{face}.ttf")!;
        using var copy = new MemoryStream();
        stream.CopyTo(copy);
        return copy.ToArray();
    }

    public static XFont Text(double size, bool bold = false) => new("Next", size, bold ? XFontStyleEx.Bold : XFontStyleEx.Regular);

    public static XFont Mono(double size, bool bold = true) => new("Mono", size, bold ? XFontStyleEx.Bold : XFontStyleEx.Regular);
}
