using PdfSharp.Pdf;
using Walkdown.Core.Handover;
using Walkdown.Core.Sealing;

namespace Walkdown.Reports;

/// <summary>A picture to print, or the mark of one that was erased.</summary>
/// <param name="Jpeg">Null where it was erased, or its file is missing.</param>
public sealed record PackPicture(byte[]? Jpeg, HandoverPicture About)
{
    internal static PackPicture Of(HandoverPicture about, Func<string, byte[]?> pictureOf) =>
        new(about.Erased is null ? pictureOf(about.ShownHash) : null, about);
}

/// <summary>The pictures of one Card with their files.</summary>
/// <param name="All">In the order in which they were taken.</param>
/// <param name="Of">The file of a picture; null where it is gone.</param>
internal sealed record CardPictures(IReadOnlyList<HandoverPicture> All, Func<string, byte[]?> Of)
{
    /// <summary>The two that a Card's page shows.</summary>
    public IReadOnlyList<PackPicture> Shown => [.. ReportPictures.Choose(All, p => p.Moment).Select(p => PackPicture.Of(p, Of))];

    /// <summary>That something was drawn on; null where the record has none such.</summary>
    public PackPicture? ById(Guid? id) =>
        id is not null && All.FirstOrDefault(p => p.Id == id) is { } about ? PackPicture.Of(about, Of) : null;
}

/// <summary>The handover pack as PDF: what the client asks first, then every Card. Large packs are made in volumes, so that memory does not
/// grow with the site.</summary>
public static class PackReport
{
    /// <summary>Cards a volume.</summary>
    public const int CardsPerVolume = 80;

    public static int VolumesOf(int cards) => cards <= CardsPerVolume ? 1 : 1 + (cards + CardsPerVolume - 1) / CardsPerVolume;

    /// <summary>Draws one volume, 1 to <see cref="VolumesOf"/>. With one volume everything is in it; with several, the first holds all but
    /// the Cards.</summary>
    /// <param name="hash">Of the sealed record, printed on every page; null: a draft to be read before anybody signs, marked on every
    /// page.</param>
    /// <param name="load">A Card's record.</param>
    /// <param name="pictureOf">The file of a picture that is shown; null where it is gone.</param>
    /// <param name="plan">What lies behind the plan, as <see cref="PlanPicture"/> draws it; null where there is none, or it could not be
    /// drawn.</param>
    /// <param name="attach">The sealed record, put into the first volume.</param>
    /// <param name="drawn">Told after each Card.</param>
    public static void Draw(
        HandoverRecord record,
        string? hash,
        string key,
        Texts texts,
        int volume,
        Func<HandoverCard, ReportRecord> load,
        Func<string, byte[]?> pictureOf,
        byte[]? plan,
        byte[]? attach,
        Stream into,
        Action drawn,
        CancellationToken cancel
    )
    {
        var volumes = VolumesOf(record.Cards.Length);
        var words = new Wording(texts, record.Job.TimeZone, record.People, record.Instruments);
        var name = hash is null
            ? texts["pack.draft-head"]
            : texts.Fill(texts["pack.head"], [record.Revision.ToString(), SealKey.Short(hash)]);
        using var s = new Sheets($"{record.Job.Name}, {texts["pack.title"]}", record.Job.Name, name);
        var front = volume == 1;
        var behind = front && record is { Of: null, Drawing: not null } ? plan : null;
        var pages = new PackPages(s, record, words, hash, key, behind);
        if (front)
            pages.Front(volume, volumes);
        if (volumes == 1 || !front)
        {
            var some =
                volumes == 1
                    ? record.Cards.AsSpan()
                    : record.Cards.AsSpan()[((volume - 2) * CardsPerVolume)..Math.Min(record.Cards.Length, (volume - 1) * CardsPerVolume)];
            PdfOutline? root = null;
            if (!front)
                pages.VolumeHead(volume, volumes, some[0].Label, some[^1].Label);
            foreach (var line in some)
            {
                cancel.ThrowIfCancellationRequested();
                var card = load(line);
                s.RightHead = $"{line.Label}  {name}";
                s.NewPage();
                root ??= s.Bookmark(texts["pack.cards"]);
                if (front)
                    pages.Begins(line.Number - 1);
                s.Foot = texts["report.legend"] + (record.Job.Simulated ? " " + texts["pack.simulated"] : "");
                CardReport.Onto(s, card, texts, root, SealKey.Short(line.Hash), new(line.Pictures, pictureOf), words);
                drawn();
            }
            s.RightHead = name;
            s.Foot = null;
        }
        if (front)
            pages.Back();
        if (front && attach is not null)
            s.Attach("record.json", attach, "application#2Fjson");
        s.Finish(
            into,
            texts[
                hash is null ? "pack.draft-foot"
                : record.Job.Simulated ? "pack.simulated"
                : "pack.foot"
            ],
            (page, of) =>
                volumes == 1
                    ? texts.Fill(texts["pack.page"], [page.ToString(), of.ToString()])
                    : texts.Fill(texts["pack.page-of-volume"], [volume.ToString(), volumes.ToString(), page.ToString(), of.ToString()]),
            hash is null ? texts["pack.draft-mark"] : null
        );
    }
}
