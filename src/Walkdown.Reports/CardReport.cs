using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Reports;

/// <summary>The acceptance report of one device as PDF: a first page for the client, then every row for whoever asks years later.</summary>
public static class CardReport
{
    /// <param name="pictureOf">The file of a picture that is shown; null where it is gone.</param>
    public static byte[] Draw(ReportRecord record, Texts texts, Func<string, byte[]?> pictureOf)
    {
        var place = record.Place;
        using var s = new Sheets(
            $"{place.Label} {texts["report.title"]}",
            record.Job.Name,
            texts.Fill(texts["report.card-of"], [record.CardNumber.ToString(), record.CardCount.ToString()])
        );
        Onto(s, record, texts, pictures: new(record.Pictures, pictureOf));
        var simulated = record.Job.Simulated ? " " + texts["report.simulated"] : "";
        using var stream = new MemoryStream();
        s.Finish(
            stream,
            texts["report.legend"] + simulated,
            (page, of) => texts.Fill(texts["report.page-of"], [place.Label, page.ToString(), of.ToString()])
        );
        return stream.ToArray();
    }

    /// <summary>Draws one Card onto pages that are begun: its first page, then every row.</summary>
    /// <param name="under">Bookmark it goes under.</param>
    /// <param name="pack">The pack's words: it knows everybody who took a picture.</param>
    /// <param name="sealedAs">Hash that its QR code carries, in a pack; its signatures are at the front.</param>
    internal static void Onto(
        Sheets s,
        ReportRecord record,
        Texts texts,
        PdfSharp.Pdf.PdfOutline? under = null,
        string? sealedAs = null,
        CardPictures? pictures = null,
        Wording? pack = null
    )
    {
        var words = new Wording(texts, record);
        var place = record.Place;
        var root = s.Bookmark($"{place.Label}, {place.Name}", under);
        if (sealedAs is not null)
            s.Qr($"{place.Label} {sealedAs}", Sheets.Right - 42, s.Y + 30, 42);
        Head(s, record, words);
        s.Bookmark(texts["report.summary"], root);
        Verdict(s, record, words);
        s.Need(60);
        s.SignalPath(record.Card, words, s.Y + 26);
        s.Y += 54;
        Maps(s, record, words);
        Table(s, record, words);
        Closing(s, record, words);
        PackPages.Pictures(s, pictures?.Shown ?? [], pack ?? words, sealedAs is null ? SignatureRoom : null);
        if (sealedAs is null)
            Signatures(s, record, words);
        // In a pack a Card that was never begun has said all on its first page.
        if (
            sealedAs is not null
            && record.Card is { Faults.IsEmpty: true, Acts.IsEmpty: true }
            && record.Card.Rows.All(r => r.Attempts.IsEmpty && r.Notes.IsEmpty && r.Conceded is null && r.ExemptedBecause is null)
        )
        {
            s.Y += 8;
            s.Paragraph(texts["pack.nothing-taken"], Sheets.Left, Sheets.Width, 8.5, colour: Sheets.Ink2);
            return;
        }
        // What the first page had no room for is not left alone on the second.
        if (s.Y > Sheets.Top + 180)
            s.NewPage();
        s.Bookmark(texts["report.every-row"], root);
        EveryRow(s, record, words, root, pictures);
        Faults(s, record, words, root);
        // What it was judged by stands once, behind the Cards.
        if (sealedAs is null)
            Basis(s, record, words, root);
    }

    /// <summary>Every row that is due, and every one that was touched; what might be taken and was not is no part of the record.</summary>
    private static IEnumerable<CardRow> Printed(ReportRecord record) => record.Card.Rows.Where(r => r.IsDue);

    /// <summary>Of an optional check whose parts are all in, the first page shows the one with least to spare; every row follows
    /// later.</summary>
    private static IEnumerable<(CardRow Row, int Of)> Tightest(IEnumerable<CardRow> rows) =>
        rows.GroupBy(r => (r.Check.Id, r.Key.On.Id, r.Key.Under))
            .SelectMany(group =>
                group.ToList() is { Count: > 1 } parts && parts.All(r => !r.Required && r.State == State.In)
                    ? [(parts.OrderBy(r => r.Spare?.Share ?? double.MaxValue).First(), parts.Count)]
                    : group.Select(r => (r, 1))
            );

    private static void Head(Sheets s, ReportRecord record, Wording words)
    {
        var (t, p, verdict) = (words.Texts, record.Place, record.Card.Verdict.Verdict);
        s.Text(p.Label, Sheets.Left, s.Y + 30, 32, true, mono: true);
        var x = Math.Max(Sheets.Left + 116, Sheets.Left + s.WidthOf(p.Label, ShippedFonts.Mono(32)) + 12);
        var verdictWord = t["verdict." + Codes.Of(verdict)];
        var verdictWidth = s.WidthOf(verdictWord, ShippedFonts.Text(13, true)) + 30;
        double room = Sheets.Right - verdictWidth - 10 - x,
            top = s.Y;
        var colour = Drawings.ColourOf(verdict);
        s.VerdictMark(verdict, Sheets.Right - verdictWidth + 9, top + 16, 9);
        s.Text(verdictWord, Sheets.Right, top + 20.5, 13, true, colour, 1);
        // An acceptance says in the same breath what it is about.
        var below = top + 22;
        if (
            verdict is Core.Acceptance.Verdict.Accepted or Core.Acceptance.Verdict.AcceptedWithNote
            && !record.Card.Verdict.Parts.IsDefaultOrEmpty
        )
        {
            var covers = t.Say(
                new Message("verdict.covers", string.Join(", ", record.Card.Verdict.Parts.Select(l => t["section." + Codes.Of(l)])))
            );
            // All parts of the work are a long sentence: it goes on below, and leaves the name its room.
            var lines = s.Wrap(covers, Sheets.Width * 0.36, ShippedFonts.Text(8));
            foreach (var line in lines)
                s.Text(line, Sheets.Right, below += 10, 8, false, Sheets.Ink2, 1);
            room = Math.Min(room, Sheets.Right - lines.Max(l => s.WidthOf(l, ShippedFonts.Text(8))) - 10 - x);
        }
        s.Y = top - 3;
        s.Paragraph(p.Name, x, room, 13, true);
        s.Paragraph(
            string.Join(
                ", ",
                new[] { p.Area, t["kind." + p.Kind], p.Model, p.PowerClass is { } c ? $"{t["term.class"]} {c}" : null }.Where(v =>
                    !string.IsNullOrEmpty(v)
                )
            ),
            x,
            room,
            8.5,
            colour: Sheets.Ink2
        );
        s.Paragraph(
            words.Where(string.Join(", ", p.Ports.Concat(p.Address is null ? [] : [p.Address]).Concat(p.Channels))),
            x,
            room,
            8.5,
            colour: Sheets.Ink2
        );
        if (p.Serial is not null)
            s.Paragraph(
                $"{t["report.serial"]} {p.Serial}{(p.HardwareAddress is null ? "" : ", " + p.HardwareAddress)}",
                x,
                room,
                8.5,
                colour: Sheets.Ink2
            );
        s.Y = Math.Max(s.Y, Math.Max(below + 4, top + 40)) + 6;
        s.Line(Sheets.Left, s.Y, Sheets.Right, s.Y, Sheets.Hair, 0.6);
    }

    /// <summary>Room that the name of a row keeps beside its reading, points.</summary>
    private const double Shortest = 70;

    /// <summary>Left free at the right for the code that says which record this is, points.</summary>
    private const double Code = 50;

    private static void Verdict(Sheets s, ReportRecord record, Wording words)
    {
        var t = words.Texts;
        s.Y += 4;
        var start = s.Y;
        s.Text(t["report.why"], Sheets.Left, s.Y + 9.4, 9, true);
        s.Paragraph(string.Join(", ", record.Card.Verdict.Because.Select(t.Say)) + ".", Sheets.Left + 50, Sheets.Width - 50 - Code, 9);
        foreach (var row in record.Card.Rows.Where(r => r.Conceded is not null))
            s.Paragraph(
                t.Fill(t["report.conceded"], [words.Name(row), row.Conceded!.AllowedBy, row.Conceded.Reason])
                    + (row.Conceded.Until is { } last ? " " + t.Fill(t["report.until"], [words.Date(last)]) : ""),
                Sheets.Left + 50,
                Sheets.Width - 50 - Code,
                9
            );
        if (record.Card.Blocked is { } blocked)
            s.Paragraph(
                t.Fill(
                    t[blocked.SetAside ? "report.set-aside" : "report.blocked"],
                    [blocked.BlockedBy, words.Moment(blocked.At), blocked.Reason]
                ) + (blocked.Until is { } until ? " " + t.Fill(t["report.until"], [words.Date(until)]) : ""),
                Sheets.Left + 50,
                Sheets.Width - 50 - Code,
                9,
                true
            );
        if (record.Place.Cancelled)
            s.Paragraph(t["report.cancelled"], Sheets.Left + 50, Sheets.Width - 50 - Code, 9, true);
        s.Y = Math.Max(s.Y, start + 14) + 4;
        Differences(s, record, words);
    }

    /// <summary>What hangs or runs otherwise than planned, with who found it.</summary>
    private static void Differences(Sheets s, ReportRecord record, Wording words)
    {
        var (t, place) = (words.Texts, record.Place);
        if (place.Differences.IsEmpty && !place.AddedOnSite)
            return;
        s.Need(30);
        s.Text(t["report.built"], Sheets.Left, s.Y + 9.4, 9, true);
        if (place.AddedOnSite)
            s.Paragraph(t["report.added"], Sheets.Left + 50, Sheets.Width - 50, 9);
        foreach (var d in place.Differences)
        {
            s.Need(14);
            var who = record.People.FirstOrDefault(p => p.Id == d.By)?.Name;
            s.Paragraph(
                t.Fill(t["report.difference"], [t["field." + d.Field], d.Planned ?? t["report.nothing"], d.AsBuilt ?? t["report.nothing"]])
                    + string.Join(
                        "",
                        new[] { d.Why, who, d.At is { } at ? words.Moment(at) : null }
                            .Where(x => !string.IsNullOrEmpty(x))
                            .Select(x => ", " + x)
                    )
                    + ".",
                Sheets.Left + 50,
                Sheets.Width - 50,
                9
            );
        }
        s.Y += 4;
    }

    private static void Maps(Sheets s, ReportRecord record, Wording words)
    {
        var t = words.Texts;
        foreach (var row in record.Card.Rows.Where(r => r.Check.Entry == EntryKind.WireMap))
        {
            if (row.Counting is not { Value: WireMapValue value } counts)
                continue;
            s.Need(118);
            var first = row.Attempts.FirstOrDefault(a =>
                a.ReadingId != counts.ReadingId && a.Standing is not Standing.Withdrawn && a.Value is WireMapValue
            );
            var top = s.Y;
            var length = record.Card.Rows.FirstOrDefault(r => r.Check.Id.Value == "cable.length" && r.Key.On.Id == row.Key.On.Id);
            var metres = length?.Counting?.Value is NumberValue n ? n.Value : length?.Expected?.Value?.Value;
            var half = Sheets.Width / 2 - 10;
            Map(s, words.Name(row), words.Moment(counts.TakenAt), value, metres, counts, Sheets.Left, half, 8.6, t);
            var after = s.Y;
            if (first is { Value: WireMapValue earlier })
            {
                s.Y = top;
                Map(
                    s,
                    t["report.first-attempt"],
                    words.Moment(first.TakenAt),
                    earlier,
                    metres,
                    first,
                    Sheets.Left + half + 20,
                    half,
                    6.4,
                    t
                );
            }
            s.Y = Math.Max(after, s.Y) + 4;
        }
    }

    private static void Map(
        Sheets s,
        string title,
        string when,
        WireMapValue value,
        double? runMetres,
        Attempt attempt,
        double x,
        double width,
        double pitch,
        Texts t
    )
    {
        s.Text(title, x, s.Y + 10, 9.5, true);
        s.Text(when, x + width, s.Y + 10, 8, colour: Sheets.Ink2, align: 1);
        s.Y += 16;
        s.Y += s.WireMap(value, runMetres, t["report.open"], x, s.Y, width, pitch, fine: attempt.State == State.In) + 2;
        s.Paragraph(string.Join(" ", attempt.Because.Select(t.Say)), x, width, 8, colour: Drawings.ColourOf(attempt.State));
    }

    private static void Table(Sheets s, ReportRecord record, Wording words)
    {
        var t = words.Texts;
        const double reading = 250,
            limit = 262,
            gauge = 346,
            gaugeWidth = 96;
        s.Need(40);
        s.Y += 12;
        s.Text(t["report.col.check"], Sheets.Left + 24, s.Y, 8, colour: Sheets.Ink2);
        s.Text(t["report.col.reading"], reading, s.Y, 8, colour: Sheets.Ink2, align: 1);
        s.Text(t["report.col.limit"], limit, s.Y, 8, colour: Sheets.Ink2);
        s.Text(t["report.col.gauge"], gauge, s.Y, 8, colour: Sheets.Ink2);
        s.Text(t["report.col.spare"], Sheets.Right, s.Y, 8, colour: Sheets.Ink2, align: 1);
        s.Y += 4;
        s.Line(Sheets.Left, s.Y, Sheets.Right, s.Y, Sheets.Ink, 0.8);
        foreach (var section in Printed(record).GroupBy(r => r.Check.Section))
        {
            s.Need(34);
            s.Y += 12;
            s.Text(t["section." + Codes.Of(section.Key)], Sheets.Left, s.Y, 9, true);
            foreach (var (row, of) in Tightest(section))
            {
                var name = of > 1 ? $"{t[row.Check.TextKey]}, {t.Fill(t["report.tightest"], [of.ToString()])}" : words.Name(row);
                var counts = row.Counting;
                var colour = Drawings.ColourOf(row.State);
                var value = counts is null ? words.State(row.State) : words.Value(row, counts.Value, counts.Map);
                // The name of what is no figure stays as large as the others; a figure keeps its place, and its name gives way.
                var least = row.Check.Entry == EntryKind.Number ? Shortest : Math.Max(Shortest, s.WidthOf(name, ShippedFonts.Text(8)) + 8);
                // Several fields at once are a sentence, not a figure: they go on below, over the columns that they have nothing for.
                var said =
                    s.WidthOf(value, ShippedFonts.Mono(9)) > reading - Sheets.Left - 24 - least
                        ? s.Wrap(
                            words.Limits(row) is { Length: > 0 } asked ? $"{value} ({asked})" : value,
                            Sheets.Right - limit - 60,
                            ShippedFonts.Text(8.5, true)
                        )
                        : [];
                var more = Math.Max(0, said.Count - 1) * 11;
                s.Need(18 + more);
                var baseline = s.Y + 13;
                s.StateMark(row.State, Sheets.Left, baseline - 3);
                // A long name gives way to the reading, which never wraps.
                var room = reading - (said.Count > 0 ? 0 : s.WidthOf(value, ShippedFonts.Mono(9)) + 8) - (Sheets.Left + 24);
                var size = 8.5;
                while (size > 6 && s.WidthOf(name, ShippedFonts.Text(size)) > room)
                    size -= 0.25;
                s.Text(name, Sheets.Left + 24, baseline, size);
                foreach (var (line, at) in said.Select((line, n) => (line, baseline + n * 11)))
                    s.Text(line, limit, at, 8.5, true, colour);
                if (said.Count == 0)
                {
                    s.Text(value, reading, baseline, 9, true, colour, 1, true);
                    s.Text(words.Limits(row), limit, baseline, 8.5);
                    s.Gauge(row, counts, gauge, baseline - 3.5, gaugeWidth);
                }
                var spare = row.State == State.Out && row.Spare is null ? words.State(State.Out) : words.SpareOf(row, row.Spare);
                if (row.State is State.TooClose or State.NotJudged)
                    spare = (spare + " " + words.State(row.State)).Trim();
                if (row.IsUnexplained)
                    spare = (spare + " " + t["report.unexpected"]).Trim();
                s.Text(spare, Sheets.Right, baseline, 8, true, colour, 1, true);
                s.Y += 17 + more;
            }
            s.Y += 2;
            s.Line(Sheets.Left, s.Y, Sheets.Right, s.Y, Sheets.Hair, 0.5);
        }
    }

    private static void Closing(Sheets s, ReportRecord record, Wording words)
    {
        var t = words.Texts;
        var used = record
            .Card.Rows.SelectMany(r => r.Attempts)
            .Where(a => a.Standing != Standing.Withdrawn)
            .Select(a => words.InstrumentOf(a.InstrumentId))
            .OfType<Instrument>()
            .DistinctBy(i => i.Id)
            .ToList();
        var half = Sheets.Width / 2 - 10;
        s.Need(30 + 11.5 * Math.Max(used.Count, Math.Min(4, record.Card.Faults.Length)));
        s.Y += 6;
        var top = s.Y;
        var x = Sheets.Left + half + 20;
        s.Text(t["report.measured-with"], x, s.Y + 10, 9, true);
        s.Y += 13;
        if (used.Count == 0)
            s.Paragraph(t["report.no-instrument"], x, half, 8.5);
        foreach (var i in used)
            s.Paragraph(t.Fill(t["report.instrument"], [i.Name, i.Serial, words.Date(i.CalibrationDue)]), x, half, 8.5);
        var right = s.Y;
        s.Y = top;
        s.Text(t["report.faults"], Sheets.Left, s.Y + 10, 9, true);
        s.Y += 13;
        if (record.Card.Faults.IsEmpty)
            s.Paragraph(t["report.no-faults"], Sheets.Left, half, 8.5);
        // The gravest that are open first; all of them follow with their history.
        var faults = record.Card.Faults.OrderBy(f => f.Open ? 0 : 1).ThenBy(f => f.Fault.Severity).ToList();
        var shown = 0;
        foreach (var fault in faults)
        {
            var stands = fault.Open
                ? t["fault.open"]
                : t.Fill(t[fault.Ended is null ? "fault.closed-at" : "fault.ended-at"], [words.Moment(fault.ClosedAt!.Value)]);
            var text = $"{fault.Fault.Title} {stands}";
            if (shown > 0 && s.Y + s.HeightOf(text, half, 8.5) > Math.Min(Sheets.Bottom - 12, top + 110))
                break;
            s.Paragraph(text, Sheets.Left, half, 8.5, colour: fault.Open ? Sheets.Refused : null);
            shown++;
        }
        if (faults.Count > shown)
            s.Paragraph(t.Fill(t["report.more-faults"], [(faults.Count - shown).ToString()]), Sheets.Left, half, 8.5, true);
        s.Y = Math.Max(right, s.Y) + 6;
    }

    private const double SignatureRoom = 64;

    private static void Signatures(Sheets s, ReportRecord record, Wording words)
    {
        s.Need(SignatureRoom);
        s.Y = Math.Max(s.Y + 34, Math.Min(Sheets.Bottom - 26, s.Y + 60));
        var third = (Sheets.Width - 40) / 3;
        string[] roles = ["report.sign.tested", "report.sign.second", "report.sign.client"];
        for (var i = 0; i < 3; i++)
        {
            var x = Sheets.Left + i * (third + 20);
            s.Line(x, s.Y, x + third, s.Y, Sheets.Ink, 0.8);
            s.Text(words.Texts[roles[i]], x, s.Y + 12, 8.5, true);
            s.Text(words.Texts["report.sign.name-date"], x, s.Y + 23, 8, colour: Sheets.Ink2);
        }
        s.Y += 28;
    }

    private static void EveryRow(Sheets s, ReportRecord record, Wording words, PdfSharp.Pdf.PdfOutline root, CardPictures? pictures)
    {
        var t = words.Texts;
        var drawn = new HashSet<(Guid, string)>();
        s.Y += 10;
        s.Text(t["report.every-row"], Sheets.Left, s.Y + 6, 13, true);
        s.Y += 14;
        foreach (var section in Printed(record).GroupBy(r => r.Check.Section))
        {
            var rows = section.ToList();
            var asAbove = rows.Select((row, i) => i > 0 && IsAsAbove(row, rows[i - 1], words)).ToList();
            var lines = rows.Select((row, i) => Lines(row, asAbove[i], words)).ToList();
            // A heading stands with its first row.
            s.Need(18 + HeightOf(s, lines[0]));
            s.Bookmark(t["section." + Codes.Of(section.Key)], root);
            s.Y += 14;
            s.Text(t["section." + Codes.Of(section.Key)], Sheets.Left, s.Y, 11, true);
            s.Y += 4;
            s.Line(Sheets.Left, s.Y, Sheets.Right, s.Y, Sheets.Ink, 0.8);
            for (var i = 0; i < rows.Count; i++)
            {
                Row(s, rows[i], lines[i], words, asAbove[i], pictures);
                Measured(s, rows[i], words, pictures, drawn);
                s.Y += 4;
                s.Line(RowLeft, s.Y, Sheets.Right, s.Y, Sheets.Hair, 0.4);
            }
        }
    }

    /// <summary>The picture that the reading that counts was measured in, with the measurement drawn in: once, however many rows lean on
    /// it.</summary>
    private static void Measured(Sheets s, CardRow row, Wording words, CardPictures? pictures, HashSet<(Guid, string)> drawn)
    {
        if (pictures is null || row.Counting is not { } attempt)
            return;
        foreach (var e in attempt.Evidence)
            if (
                Core.Entries.EvidenceMark.Of(e) is { IsEmpty: false } marks
                && pictures.ById(e.PictureId) is { Jpeg: { } jpeg }
                && drawn.Add((e.PictureId, e.Algorithm))
            )
                MeasurementDrawing.Onto(s, marks, jpeg, words);
    }

    /// <summary>A picture by the first eight digits of its hash, by which it stands in the pack.</summary>
    private static string SeenIn(Texts t, Core.Entries.ReadingEvidence e) =>
        e.Algorithm.Length == 0
            ? t.Fill(t["report.seen-in"], [e.PictureHash[..Math.Min(8, e.PictureHash.Length)]])
            : t.Fill(
                t["report.measured-in"],
                [
                    e.PictureHash[..Math.Min(8, e.PictureHash.Length)],
                    e.Algorithm,
                    e.AlgorithmVersion.ToString(System.Globalization.CultureInfo.InvariantCulture),
                ]
            );

    /// <summary>Another part of what stands above, with the same limit and expectation: they are printed once.</summary>
    private static bool IsAsAbove(CardRow row, CardRow above, Wording words) =>
        row.Check.Id == above.Check.Id
        && row.Key.On.Id == above.Key.On.Id
        && row.Key.Under == above.Key.Under
        && LimitText(row, words) == LimitText(above, words)
        && ExpectedText(row, words) == ExpectedText(above, words)
        && LimitText(row, words) + ExpectedText(row, words) != "";

    private static string LimitText(CardRow row, Wording words) =>
        row.Window is { } window
            ? $"{words.Texts["report.limit"]}: {words.Limits(row)} {words.Unit(row)}: "
                + string.Join("; ", window.Parts.Select(l => $"{words.Texts.Phrase(l.Purpose)} ({words.Texts.Phrase(l.Source)})"))
                + "."
            : "";

    private static string ExpectedText(CardRow row, Wording words) =>
        row.Expected is { } expected && words.Expected(row) is { Length: > 0 } text
            ? $"{words.Texts["report.expected"]}: {text}"
                + (expected.From.IsEmpty ? "." : $" {words.Texts["report.from"]} {words.Terms(expected)}.")
            : "";

    private const double RowLeft = Sheets.Left + 24;

    /// <summary>One paragraph under a row's name; Indent in points from the row's own.</summary>
    private readonly record struct Line(
        string Text,
        double Size,
        bool Bold = false,
        PdfSharp.Drawing.XColor? Colour = null,
        double Indent = 0
    )
    {
        public double Width => Sheets.Right - RowLeft - Indent;
    }

    /// <summary>Of a row with what surrounds it, points.</summary>
    private static double HeightOf(Sheets s, List<Line> lines) => 21 + lines.Sum(l => s.HeightOf(l.Text, l.Width, l.Size, l.Bold));

    private static void Row(Sheets s, CardRow row, List<Line> lines, Wording words, bool asAbove, CardPictures? pictures)
    {
        var t = words.Texts;
        s.Need(Math.Min(260, HeightOf(s, lines)));
        s.Y += 14;
        s.StateMark(row.State, Sheets.Left, s.Y - 3);
        s.Text(words.Name(row), RowLeft, s.Y, 9.5, true);
        if (asAbove)
            s.Text(
                t["report.as-above"],
                RowLeft + s.WidthOf(words.Name(row), ShippedFonts.Text(9.5, true)) + 8,
                s.Y,
                8,
                colour: Sheets.Ink2
            );
        s.Text(
            words.State(row.State) + (row.Required ? "" : ", " + t["report.optional"]),
            Sheets.Right,
            s.Y,
            9,
            true,
            Drawings.ColourOf(row.State),
            1
        );
        s.Y += 3;
        foreach (var line in lines)
            s.Paragraph(line.Text, RowLeft + line.Indent, line.Width, line.Size, line.Bold, line.Colour);
        if (row.Counting?.Value is ZonesValue zones)
            ZoneDrawing.Onto(s, zones, pictures?.ById(zones.Picture), words);
    }

    /// <summary>All that is said of a row under its name, in its order.</summary>
    private static List<Line> Lines(CardRow row, bool asAbove, Wording words)
    {
        var t = words.Texts;
        var lines = new List<Line>();
        if (!asAbove)
            foreach (var text in new[] { LimitText(row, words), ExpectedText(row, words) }.Where(text => text.Length > 0))
                lines.Add(new Line(text, 8, Colour: Sheets.Ink2));
        if (row.ExemptedBecause is not null)
            lines.Add(new Line($"{t["state.notApplicable"]}: {row.ExemptedBecause}", 8.5));
        if (row.Conceded is { } allowed)
            lines.Add(
                new Line(
                    t.Fill(t["report.conceded"], [words.Name(row), allowed.AllowedBy, allowed.Reason])
                        + $" {words.Person(allowed.By)}, {words.Moment(allowed.At)}",
                    8.5,
                    Colour: Sheets.Noted
                )
            );
        if (!row.Unexpected.IsEmpty)
            lines.Add(new Line(string.Join(" ", row.Unexpected.Select(m => Sentence(t.Say(m)))), 8.5, true, Sheets.Noted));
        if (row.Ruling is { } said)
            lines.Add(
                new Line(
                    t.Fill(t["report.ruling." + Codes.Of(said.Says)], [said.RuledBy, said.Reason])
                        + $" {words.Person(said.By)}, {words.Moment(said.At)}",
                    8.5,
                    Colour: Sheets.Noted
                )
            );
        if (row.Attempts.IsEmpty)
            lines.Add(new Line(t["report.never-taken"], 8.5, Colour: Sheets.Open));
        foreach (var attempt in row.Attempts)
        {
            var instrument = words.InstrumentOf(attempt.InstrumentId);
            var parts = new[]
            {
                words.Value(row, attempt.Value, attempt.Map),
                words.State(attempt.State),
                attempt.HalfWidth is > 0 and { } half ? $"\u00b1{words.Number(half, row.Check.Decimals + 1)} {words.Unit(row)}" : null,
                words.SpareOf(row, attempt.Spare) is { Length: > 0 } spare ? t.Fill(t["report.spare"], [spare]) : null,
                $"{words.Person(attempt.By)}, {words.Moment(attempt.TakenAt)}",
                t["source." + Codes.Of(attempt.Source)],
                // Until when it is calibrated stands where the instruments are named, once.
                instrument is null
                    ? t["report.no-instrument-row"]
                    : $"{instrument.Name} {instrument.Serial}",
            }.Concat(attempt.Evidence.Select(e => SeenIn(t, e)));
            var counts = attempt.Standing == Standing.Counts;
            lines.Add(
                new Line(
                    words.StandingOf(attempt) + ": " + string.Join("; ", parts.OfType<string>()) + ".",
                    8,
                    counts,
                    counts ? Drawings.ColourOf(attempt.State) : Sheets.Ink2
                )
            );
            if (attempt.Value is WireMapValue map)
                lines.Add(
                    new Line(
                        t["report.far-pins"]
                            + " "
                            + string.Join(
                                "  ",
                                map.NearToFar.Select(
                                    (far, i) => $"{i + 1}:{(far.IsDefaultOrEmpty ? t["report.open"] : string.Join("+", far))}"
                                )
                            ),
                        8,
                        Colour: Sheets.Ink2,
                        Indent: 10
                    )
                );
            if (!attempt.Because.IsEmpty)
                lines.Add(new Line(string.Join(" ", attempt.Because.Select(m => Sentence(t.Say(m)))), 8, Colour: Sheets.Ink2, Indent: 10));
        }
        foreach (var note in row.Notes)
            lines.Add(new Line($"{t["report.note"]}: {note.Text} ({words.Person(note.By)}, {words.Moment(note.At)})", 8.5));
        return lines;
    }

    private static void Faults(Sheets s, ReportRecord record, Wording words, PdfSharp.Pdf.PdfOutline root)
    {
        if (record.Card.Faults.IsEmpty && record.Card.Acts.IsEmpty)
            return;
        var t = words.Texts;
        s.Need(70);
        s.Bookmark(t["report.fault-history"], root);
        s.Y += 22;
        s.Text(t["report.fault-history"], Sheets.Left, s.Y, 11, true);
        s.Y += 4;
        s.Line(Sheets.Left, s.Y, Sheets.Right, s.Y, Sheets.Ink, 0.8);
        foreach (var f in record.Card.Faults)
        {
            s.Need(40);
            s.Y += 4;
            s.Paragraph(
                $"{f.Fault.Title} {t["severity." + Codes.Of(f.Fault.Severity)]}, {(f.Open ? t["fault.open"] : t["fault.closed"])}",
                Sheets.Left,
                Sheets.Width,
                9.5,
                true,
                f.Open ? Sheets.Refused : null
            );
            var steps = new List<(DateTimeOffset At, string What)>
            {
                (
                    f.Fault.RaisedAt,
                    t.Fill(t["fault.raised"], [words.Person(f.Fault.RaisedBy)])
                        + (f.Fault.CauseId is { } cause ? $" {t["fault.cause"]}: {t["cause." + cause]}." : "")
                ),
            };
            steps.AddRange(f.Repairs.Select(a => (a.At, ActText(a, words))));
            steps.AddRange(record.FaultWords.Where(w => w.FaultId == f.Fault.Id).Select(w => (w.At, $"{w.Text} ({words.Person(w.By)})")));
            if (f.ClosedAt is { } closed)
                steps.Add((closed, t["fault.closed-by-retest"]));
            foreach (var (at, what) in steps.OrderBy(step => step.At))
                s.Paragraph($"{words.Moment(at)}: {what}", Sheets.Left + 12, Sheets.Width - 12, 8.5);
        }
        foreach (var act in record.Card.Acts.Where(a => record.Card.Faults.All(f => f.Repairs.All(r => r.Id != a.Id))))
            s.Paragraph($"{words.Moment(act.At)}: {ActText(act, words)}", Sheets.Left, Sheets.Width, 8.5);
    }

    private static string ActText(Act act, Wording words) =>
        words.Texts["act." + act.ActKind]
        + (act.End is { } end ? $", {words.Texts["end." + Codes.Of(end)]}" : "")
        + (act.NewSerial is { } serial ? $", {serial}" : "")
        + $". {words.Person(act.By)}."
        + (string.IsNullOrWhiteSpace(act.Text) ? "" : " " + act.Text);

    private static void Basis(Sheets s, ReportRecord record, Wording words, PdfSharp.Pdf.PdfOutline root)
    {
        var t = words.Texts;
        var scheme = t[record.Job.MatchFarEnd ? "scheme.match" : "scheme." + record.Job.Scheme];
        string[] paragraphs =
        [
            $"{t["report.rule"]}: {t["rule." + Codes.Of(record.Card.Rule)]}.",
            $"{t["report.edition"]}: {record.Card.LimitEdition}. {t["report.scheme"]}: {scheme}.",
            .. record
                .Instruments.Where(i => record.Card.Rows.Any(r => r.Attempts.Any(a => a.InstrumentId == i.Id)))
                .Select(i => t.Fill(t["report.instrument"], [i.Name, i.Serial, words.Date(i.CalibrationDue)]) + ". " + Functions(i, t)),
            t.Fill(t["report.made"], [words.Moment(record.MadeAt), record.CoreVersion]),
        ];
        // A page with these few lines alone is none.
        s.Need(26 + paragraphs.Sum(p => s.HeightOf(p, Sheets.Width, 8.5)));
        s.Bookmark(t["report.basis"], root);
        s.Y += 22;
        s.Text(t["report.basis"], Sheets.Left, s.Y, 11, true);
        s.Y += 4;
        s.Line(Sheets.Left, s.Y, Sheets.Right, s.Y, Sheets.Ink, 0.8);
        foreach (var text in paragraphs)
            s.Paragraph(text, Sheets.Left, Sheets.Width, 8.5);
    }

    /// <summary>What an instrument promises, function by function.</summary>
    internal static string Functions(Instrument i, Texts t) =>
        string.Join("; ", i.Functions.OrderBy(f => f.Unit).ThenBy(f => f.UpTo ?? double.MaxValue).Select(f => Function(f, t))) + ".";

    private static string Function(InstrumentFunction f, Texts t)
    {
        var (a, unit) = (f.Accuracy, t["unit." + Codes.Of(f.Unit)]);
        return $"{unit}{(f.UpTo is { } most ? " " + t.Fill(t["report.up-to"], [Message.Number(most)]) : "")}: "
            + $"{t.Local(Message.Number(a.PercentOfReading))} %"
            + (a.Counts > 0 ? $" + {Message.Number(a.Counts)} x {t.Local(Message.Number(a.Resolution ?? 0, 4))}" : "")
            + (a.Absolute > 0 ? $" + {t.Local(Message.Number(a.Absolute, 4))} {unit}" : "");
    }

    private static string Sentence(string text) => text.Length == 0 || text.EndsWith('.') ? text : text + ".";
}
