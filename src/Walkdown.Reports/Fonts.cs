using PdfSharp.Drawing;
using PdfSharp.Fonts;

namespace Walkdown.Reports;

/// <summary>The fonts that ship with Walkdown; nothing of the machine's is used, so that a page looks the same everywhere.</summary>
internal sealed class ShippedFonts : IFontResolver
{
    private static readonly Lock Once = new();

    public static void Use()
    {
        lock (Once)
            GlobalFontSettings.FontResolver ??= new ShippedFonts();
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

    /// <summary>A font is looked up under a lock of the library's; each thread keeps its own.</summary>
    [ThreadStatic]
    private static Dictionary<(string, double, bool), XFont>? _kept;

    public static XFont Text(double size, bool bold = false) => Of("Next", size, bold);

    public static XFont Mono(double size, bool bold = true) => Of("Mono", size, bold);

    private static XFont Of(string family, double size, bool bold)
    {
        _kept ??= [];
        if (!_kept.TryGetValue((family, size, bold), out var font))
            _kept[(family, size, bold)] = font = new XFont(family, size, bold ? XFontStyleEx.Bold : XFontStyleEx.Regular);
        return font;
    }
}
