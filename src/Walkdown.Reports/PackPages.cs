using PdfSharp.Drawing;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Core.Sealing;

namespace Walkdown.Reports;

/// <summary>The pages of a pack that are not Cards.</summary>
/// <param name="drawing">What lies behind the plan, to print; null where nothing does.</param>
/// <param name="hash">Of the sealed record; null for a draft.</param>
internal sealed class PackPages(Sheets s, HandoverRecord record, Wording words, string? hash, string key, byte[]? drawing)
{
    private readonly List<(int Page, double Baseline)> _indexed = [];

    private Texts T => words.Texts;

    private string N(int number) => number.ToString(System.Globalization.CultureInfo.InvariantCulture);

    private string Fill(string code, params string[] args) => T.Fill(T[code], args);

    public void Front(int volume, int volumes)
    {
        Cover(volumes);
        s.NewPage();
        Summary();
        if (!record.Changes.IsEmpty)
            Changes();
        if (record.Of is null && record.Plan.Length > 0)
            Plan();
        if (record.Of is null)
            Index(volumes);
    }

    public void Back()
    {
        s.NewPage();
        Schedule();
        Cables();
        Budgets();
        Sums();
        Instruments();
        Limits();
        Practice();
        People();
        Glossary();
    }

    public void VolumeHead(int volume, int volumes, string first, string last)
    {
        s.Y += 60;
        s.Text(record.Job.Name, Sheets.Left, s.Y, 24, true);
        s.Y += 26;
        s.Text(Fill("pack.volume", N(volume), N(volumes)), Sheets.Left, s.Y, 13);
        s.Y += 20;
        s.Text($"{first} \u2013 {last}", Sheets.Left, s.Y, 16, true, mono: true);
    }

    private void Heading(string code, double need = 90)
    {
        s.Need(need);
        s.Bookmark(T[code]);
        s.Y += s.Y > Sheets.Top + 1 ? 22 : 8;
        s.Text(T[code], Sheets.Left, s.Y + 4, 14, true);
        s.Y += 12;
    }

    private void Cover(int volumes)
    {
        s.Bookmark(T["pack.cover"]);
        if (hash is not null)
            s.Qr($"Walkdown {hash}", Sheets.Right - 74, s.Y + 16, 74);
        s.Y += 34;
        s.Paragraph(T["pack.title"], Sheets.Left, Sheets.Width - 100, 13, colour: Sheets.Ink2);
        s.Paragraph(
            record.Of is { } one ? $"{one}, {record.Job.Name}" : record.Job.Name,
            Sheets.Left,
            Sheets.Width - 100,
            26,
            true,
            leading: 1.2
        );
        s.Y += 8;
        s.Paragraph(
            Fill(
                hash is null ? "pack.draft"
                    : record.Signatures.IsEmpty ? "pack.unsigned"
                    : "pack.signed",
                N(record.Revision),
                words.Moment(record.At)
            ),
            Sheets.Left,
            Sheets.Width - 100,
            11,
            true,
            record.Signatures.IsEmpty ? Sheets.Noted : Sheets.Accepted
        );
        if (record.Job.Simulated)
            s.Paragraph(T["pack.simulated"], Sheets.Left, Sheets.Width - 100, 11, true, Sheets.Refused);
        s.Y = Math.Max(s.Y + 14, Sheets.Top + 150);
        var c = record.Cover;
        foreach (
            var (code, value) in new[]
            {
                ("site", c.Site),
                ("client", c.Client),
                ("contractor", c.Contractor),
                ("contract", c.Contract),
                ("specification", c.Specification),
                ("standards", c.Standards),
                ("remarks", c.Remarks),
            }
        )
        {
            if (value.Length == 0 && code == "remarks")
                continue;
            var top = s.Y;
            s.Text(T["pack.cover." + code], Sheets.Left, s.Y + 12, 9, colour: Sheets.Ink2);
            s.Paragraph(
                value.Length == 0 ? T["pack.cover.not-given"] : value,
                Sheets.Left + 120,
                Sheets.Width - 120,
                10,
                colour: value.Length == 0 ? Sheets.Ink2 : null
            );
            s.Y = Math.Max(s.Y, top + 14) + 3;
            s.Line(Sheets.Left, s.Y, Sheets.Right, s.Y, Sheets.Hair, 0.5);
        }
        if (record.Summary is { FirstReading: { } from, LastReading: { } until })
        {
            s.Text(T["pack.cover.tested"], Sheets.Left, s.Y + 12, 9, colour: Sheets.Ink2);
            s.Paragraph(
                words.Day(from) == words.Day(until) ? words.Day(from) : $"{words.Day(from)} \u2013 {words.Day(until)}",
                Sheets.Left + 120,
                Sheets.Width - 120,
                10
            );
            s.Y += 3;
            s.Line(Sheets.Left, s.Y, Sheets.Right, s.Y, Sheets.Hair, 0.5);
        }
        s.Y += 18;
        Counts();
        InBrief();
        Signatures();
        s.Need(64);
        s.Y += 14;
        if (hash is null)
            s.Paragraph(T["pack.draft-seal"], Sheets.Left, Sheets.Width, 8.5, colour: Sheets.Ink2);
        else
        {
            s.Paragraph(Fill("pack.seal", SealKey.Short(hash), SealKey.Short(key)), Sheets.Left, Sheets.Width, 8.5, colour: Sheets.Ink2);
            s.Paragraph(hash, Sheets.Left, Sheets.Width, 7.5, colour: Sheets.Ink2);
        }
        if (record.Previous is { } before)
            s.Paragraph(
                Fill("pack.previous", N(record.Revision - 1), SealKey.Short(before)),
                Sheets.Left,
                Sheets.Width,
                8.5,
                colour: Sheets.Ink2
            );
        if (volumes > 1)
            s.Paragraph(
                Fill("pack.in-volumes", N(volumes), N(PackReport.CardsPerVolume)),
                Sheets.Left,
                Sheets.Width,
                8.5,
                colour: Sheets.Ink2
            );
    }

    /// <summary>How many of each Verdict: mark, number, word.</summary>
    private void Counts()
    {
        var u = record.Summary;
        var x = Sheets.Left;
        foreach (
            var (verdict, count) in new[]
            {
                (Verdict.Accepted, u.Accepted),
                (Verdict.AcceptedWithNote, u.Noted),
                (Verdict.Refused, u.Refused),
                (Verdict.Open, u.Open),
            }
        )
        {
            var word = T["verdict." + Codes.Of(verdict)];
            s.VerdictMark(verdict, x + 10, s.Y + 12, 9);
            s.Text(N(count), x + 27, s.Y + 18, 18, true, count == 0 ? Sheets.Ink2 : Drawings.ColourOf(verdict), mono: true);
            s.Text(word, x, s.Y + 36, 9, count > 0);
            x += Math.Max(s.WidthOf(word, ShippedFonts.Text(9, true)), 27 + s.WidthOf(N(count), ShippedFonts.Mono(18))) + 26;
        }
        s.Y += 46;
    }

    /// <summary>What a client asks first: which were refused, which are open, and what nobody asked for.</summary>
    private void InBrief()
    {
        const int Named = 24;
        s.Y += 8;
        foreach (var (verdict, code) in new[] { (Verdict.Refused, "pack.brief.refused"), (Verdict.Open, "pack.brief.open") })
        {
            var these = record.Cards.Where(c => c.Verdict == verdict && !c.Cancelled).Select(c => c.Label).ToList();
            if (these.Count == 0)
                continue;
            var labels = string.Join(", ", these.Take(Named));
            s.Paragraph(
                Fill(code, these.Count > Named ? $"{labels} {Fill("pack.brief.more", N(these.Count - Named))}" : labels),
                Sheets.Left,
                Sheets.Width,
                9.5,
                verdict == Verdict.Refused
            );
        }
        if (!record.NotAsked.IsDefaultOrEmpty)
            s.Paragraph(
                Fill("pack.brief.not-part", string.Join(", ", record.NotAsked.Select(l => T["section." + Codes.Of(l)]))),
                Sheets.Left,
                Sheets.Width,
                9.5,
                colour: Sheets.Noted
            );
    }

    private void Signatures()
    {
        s.Y += 14;
        if (record.Reservations.Length > 0)
        {
            s.Need(40);
            s.Paragraph(T["pack.reservations"], Sheets.Left, Sheets.Width, 9.5, true, Sheets.Noted);
            s.Paragraph(record.Reservations, Sheets.Left, Sheets.Width, 9.5);
            s.Y += 8;
        }
        var half = (Sheets.Width - 24) / 2;
        (string Role, HandoverSignature? Of)[] fields = record.Signatures.IsEmpty
            ? [("technician", null), ("client", null)]
            : [.. record.Signatures.Select(g => (g.Role, (HandoverSignature?)g))];
        for (var i = 0; i < fields.Length; i += 2)
        {
            s.Need(118);
            var top = s.Y;
            for (var n = 0; n < 2 && i + n < fields.Length; n++)
            {
                var (role, of) = fields[i + n];
                var x = Sheets.Left + n * (half + 24);
                s.Text(T["pack.sign." + role], x, top + 10, 9, true);
                if (of is { Typed: true })
                    s.Text(T["pack.sign.typed"], x, top + 70, 8.5, colour: Sheets.Ink2);
                else if (of is not null)
                    Strokes(of, x, top + 14, 116, 58);
                s.Line(x, top + 76, x + half, top + 76, Sheets.Ink, 0.8);
                s.Y = top + 78;
                s.Paragraph(
                    of is null ? T["report.sign.name-date"] : string.Join(", ", new[] { of.Name, of.Position }.Where(v => v.Length > 0)),
                    x,
                    half,
                    9,
                    of is not null,
                    of is null ? Sheets.Ink2 : null
                );
                if (of is not null)
                    s.Paragraph(
                        string.Join(", ", new[] { of.Place, words.Moment(of.At) }.Where(v => v.Length > 0)),
                        x,
                        half,
                        8,
                        colour: Sheets.Ink2
                    );
            }
            s.Y = top + 112;
        }
    }

    private void Strokes(HandoverSignature signature, double x, double y, double width, double height)
    {
        var pen = new XPen(Sheets.Ink, 1.1) { LineCap = XLineCap.Round, LineJoin = XLineJoin.Round };
        foreach (var stroke in signature.Strokes)
        {
            var points = new XPoint[stroke.Length / 2];
            for (var i = 0; i < points.Length; i++)
                points[i] = new XPoint(x + Math.Clamp(stroke[2 * i], 0, 2) * width / 2, y + Math.Clamp(stroke[2 * i + 1], 0, 1) * height);
            if (points.Length == 1)
                s.G.DrawEllipse(new XSolidBrush(Sheets.Ink), points[0].X - 0.7, points[0].Y - 0.7, 1.4, 1.4);
            else if (points.Length > 1)
                s.G.DrawLines(pen, points);
        }
    }

    private void Summary()
    {
        Heading("pack.summary");
        var u = record.Summary;
        Counts();
        s.Paragraph(
            Fill(
                record.Cards.Length == 1 ? "pack.summary.line.one" : "pack.summary.line",
                N(record.Cards.Length),
                N(u.Readings),
                N(u.OpenFaults),
                N(u.Pictures)
            ),
            Sheets.Left,
            Sheets.Width,
            9.5
        );
        var flagged = record
            .Cards.Where(c => c.Exceptions.Any(e => e.Kind != ExceptionKind.NotTaken) || c.Verdict == Verdict.Refused)
            .ToList();
        Heading("pack.exceptions", 60);
        if (flagged.Count == 0)
            s.Paragraph(T["pack.no-exceptions"], Sheets.Left, Sheets.Width, 9.5);
        foreach (
            var card in flagged
                .OrderBy(c =>
                    c.Verdict switch
                    {
                        Verdict.Refused => 0,
                        Verdict.Open => 1,
                        _ => 2,
                    }
                )
                .ThenBy(c => c.Number)
        )
            Exceptions(card, e => e.Kind != ExceptionKind.NotTaken);
        var untested = record.Cards.Where(c => c.Exceptions.Any(e => e.Kind == ExceptionKind.NotTaken)).ToList();
        Heading("pack.not-tested", 60);
        if (untested.Count == 0)
            s.Paragraph(T["pack.all-tested"], Sheets.Left, Sheets.Width, 9.5);
        // A device of which nothing was taken is one word; what lacks of one that was begun is named.
        var never = untested.Where(c => c.Taken == 0 && c.Exceptions.All(e => e.Kind != ExceptionKind.Blocked)).ToList();
        if (never.Count > 0)
            s.Paragraph(
                Fill("pack.never-begun", N(never.Count)) + " " + string.Join(", ", never.Select(c => c.Label)) + ".",
                Sheets.Left,
                Sheets.Width,
                9
            );
        // Where many lack the same, it is said once.
        foreach (
            var alike in untested
                .Except(never)
                .GroupBy(c =>
                    string.Join(
                        " ",
                        c.Exceptions.Where(e => e.Kind is ExceptionKind.NotTaken or ExceptionKind.Blocked).Select(words.Exception)
                    )
                )
        )
        {
            if (alike.Count() < 4)
            {
                foreach (var card in alike)
                    Exceptions(card, e => e.Kind is ExceptionKind.NotTaken or ExceptionKind.Blocked);
                continue;
            }
            s.Need(40);
            s.Y += 3;
            s.Paragraph($"{alike.Key} {Fill("pack.alike", N(alike.Count()))}", Sheets.Left, Sheets.Width, 8.5, true);
            s.Paragraph(string.Join(", ", alike.Select(c => c.Label)) + ".", Sheets.Left, Sheets.Width, 8.5);
            s.Y += 3;
            s.Line(Sheets.Left, s.Y, Sheets.Right, s.Y, Sheets.Hair, 0.4);
        }

        HonestyMarks();
    }

    private void Exceptions(HandoverCard card, Func<CardException, bool> which)
    {
        var lines = card.Exceptions.Where(which).Select(words.Exception).ToList();
        // Short ones run on in one line; what is long, or many, stands line by line.
        if (lines.Count < 8 && lines.All(l => l.Length < 90))
            lines = [string.Join(" ", lines)];
        s.Need(Math.Min(120, lines.Sum(l => s.HeightOf(l, Sheets.Width - 96, 8.5)) + 8));
        s.Y += 3;
        var top = s.Y;
        s.VerdictMark(card.Verdict, Sheets.Left + 6, top + 8, 5.5);
        s.Text(card.Label, Sheets.Left + 18, top + 11, 9.5, true, mono: true);
        var page = s.PageCount;
        foreach (var line in lines)
            s.Paragraph(line, Sheets.Left + 96, Sheets.Width - 96, 8.5);
        s.Y = (s.PageCount == page ? Math.Max(s.Y, top + 14) : s.Y) + 3;
        s.Line(Sheets.Left, s.Y, Sheets.Right, s.Y, Sheets.Hair, 0.4);
    }

    private void HonestyMarks()
    {
        Heading("pack.honesty", 80);
        var h = record.Honesty;
        if (h.Readings == 0)
        {
            s.Paragraph(T["pack.honesty.none"], Sheets.Left, Sheets.Width, 9);
            return;
        }
        // One bar of all readings by where they come from; the words say the same.
        double x = Sheets.Left,
            width = Sheets.Width,
            top = s.Y + 4;
        (string Code, int Count, XColor Colour)[] shares =
        [
            ("tester", h.Tester, Sheets.Ink),
            ("typed", h.Typed, Sheets.Ink2),
            ("imported", h.Imported, Sheets.Hair),
            ("simulated", h.Simulated, Sheets.Band),
        ];
        foreach (var (_, count, colour) in shares)
        {
            var w = width * count / h.Readings;
            if (w > 0)
                s.G.DrawRectangle(new XPen(Sheets.Ink, 0.5), new XSolidBrush(colour), x, top, w, 9);
            x += w;
        }
        s.Y = top + 12;
        s.Paragraph(
            string.Join(
                ", ",
                shares
                    .Where(v => v.Count > 0)
                    .Select(v => Fill("pack.source." + v.Code, N(v.Count), N(SumTrace.Percent(v.Count, h.Readings))))
            )
                + (h.Withdrawn > 0 ? ", " + Fill("pack.source.withdrawn", N(h.Withdrawn)) : "")
                + ".",
            Sheets.Left,
            Sheets.Width,
            9
        );
        foreach (var remark in h.Remarks)
            s.Paragraph(
                (remark.By is { } by ? words.Person(by) + ": " : "") + T.Say(remark.What),
                Sheets.Left,
                Sheets.Width,
                9,
                colour: Sheets.Noted
            );
        if (h.Remarks.IsEmpty)
            s.Paragraph(T["pack.honesty.nothing"], Sheets.Left, Sheets.Width, 9);
    }

    private void Changes()
    {
        Heading("pack.changes");
        s.Paragraph(Fill("pack.changes.since", N(record.Revision - 1)), Sheets.Left, Sheets.Width, 9, colour: Sheets.Ink2);
        foreach (var change in record.Changes)
        {
            var parts = new List<string>();
            string Word(Verdict? v) => v is { } known ? T["verdict." + Codes.Of(known)] : T["pack.changes.not-there"];
            parts.Add(
                change.Before == change.After ? Word(change.After) : Fill("pack.changes.verdict", Word(change.Before), Word(change.After))
            );
            var byWord = change
                .Rows.GroupBy(r =>
                    (
                        Before: r.Before is { } b ? words.State(b) : T["pack.changes.not-there"],
                        After: r.After is { } a ? words.State(a) : T["pack.changes.not-there"]
                    )
                )
                .ToList();
            foreach (var group in byWord)
            {
                var names = group
                    .Select(r =>
                        record.Definitions.FirstOrDefault(d => d.Id == r.Key.Check) is { } check
                            ? words.Name(check.TextKey, r.Key)
                            : r.Key.Check.Value
                    )
                    .Distinct()
                    .ToList();
                var more = names.Count > 6 ? " " + Fill("pack.and-more", N(names.Count - 6)) : "";
                var what =
                    group.Key.Before == group.Key.After
                        ? T["pack.changes.read-again"]
                        : Fill("pack.changes.state", group.Key.Before, group.Key.After);
                parts.Add($"{string.Join("; ", names.Take(6))}{more}: {what}");
            }
            if (change.BuiltOtherwise)
                parts.Add(T["pack.changes.built"]);
            var text = string.Join(". ", parts) + ".";
            s.Need(Math.Min(120, s.HeightOf(text, Sheets.Width - 96, 8.5) + 8));
            var top = s.Y + 3;
            s.Y = top;
            s.Text(change.Label, Sheets.Left, top + 11, 9.5, true, mono: true);
            s.Paragraph(text, Sheets.Left + 96, Sheets.Width - 96, 8.5);
            s.Y = Math.Max(s.Y, top + 14) + 3;
            s.Line(Sheets.Left, s.Y, Sheets.Right, s.Y, Sheets.Hair, 0.4);
        }
    }

    /// <summary>The site by Verdict: marks where the devices are, labels where there is room.</summary>
    private void Plan()
    {
        s.NewPage();
        Heading("pack.plan");
        if (drawing is null && record.Drawing is not null)
            s.Paragraph(T["pack.plan-not-drawn"], Sheets.Left, Sheets.Width, 9, colour: Sheets.Noted);
        var stops = record.Plan;
        double minX = stops.Min(p => p.X),
            maxX = stops.Max(p => p.X),
            minY = stops.Min(p => p.Y),
            maxY = stops.Max(p => p.Y);
        double top = s.Y + 6,
            room = Sheets.Bottom - top - 30;
        var scale = Math.Min((Sheets.Width - 64) / Math.Max(1, maxX - minX), (room - 40) / Math.Max(1, maxY - minY));
        double X(double x) => Sheets.Left + 16 + (x - minX) * scale;
        double Y(double y) => top + 20 + (y - minY) * scale;
        var height = (maxY - minY) * scale + 40;
        if (drawing is not null && record.Drawing is { } sheet)
            s.Behind(
                drawing,
                new XRect(X(sheet.Left), Y(sheet.Top), sheet.Width * scale, sheet.Height * scale),
                new XRect(Sheets.Left, top, Sheets.Width, height)
            );
        s.G.DrawRectangle(new XPen(Sheets.Hair, 0.6), Sheets.Left, top, Sheets.Width, height);
        var r =
            stops.Length > 200 ? 2.2
            : stops.Length > 80 ? 3.2
            : 4.6;
        var taken = new List<XRect>();
        foreach (var stop in stops)
            taken.Add(new XRect(X(stop.X) - r, Y(stop.Y) - r, 2 * r, 2 * r));
        foreach (var stop in stops)
            s.VerdictMark(stop.Verdict, X(stop.X), Y(stop.Y), r);
        var font = ShippedFonts.Mono(6.5, true);
        foreach (
            var stop in stops.OrderBy(p =>
                p.Verdict is Verdict.Refused ? 0
                : p.Verdict is Verdict.Open ? 1
                : 2
            )
        )
        {
            var w = s.WidthOf(stop.Label, font);
            // Beside, above and below, then at the corners; two labels in a row stand apart.
            foreach (
                var (dx, dy) in new[]
                {
                    (r + 2, 2.4),
                    (-r - 2 - w, 2.4),
                    (-w / 2, -r - 2),
                    (-w / 2, r + 7.0),
                    (r, -r),
                    (r, r + 5.0),
                    (-r - w, -r),
                    (-r - w, r + 5.0),
                }
            )
            {
                var box = new XRect(X(stop.X) + dx - 0.5, Y(stop.Y) + dy - 6, w + 1, 7.4);
                var apart = new XRect(box.X - 2, box.Y, box.Width + 4, box.Height);
                if (
                    box.Left < Sheets.Left
                    || box.Right > Sheets.Right
                    || box.Top < top
                    || box.Bottom > top + height
                    || taken.Any(t => t.IntersectsWith(dx is > -6 and < 6 ? box : apart))
                )
                    continue;
                if (drawing is not null)
                    s.G.DrawRectangle(new XSolidBrush(XColor.FromArgb(215, 255, 255, 255)), box);
                s.Text(stop.Label, X(stop.X) + dx, Y(stop.Y) + dy, 6.5, true, mono: true);
                taken.Add(box);
                break;
            }
        }
        s.Y = top + height + 6;
        var x = Sheets.Left;
        foreach (var verdict in new[] { Verdict.Accepted, Verdict.AcceptedWithNote, Verdict.Refused, Verdict.Open })
        {
            s.VerdictMark(verdict, x + 5, s.Y + 6, 4.5);
            s.Text(T["verdict." + Codes.Of(verdict)], x + 15, s.Y + 9, 8);
            x += 118;
        }
        // A bar of round length says the scale.
        var metres = new[] { 5, 10, 20, 50, 100, 200, 500, 1000 }.FirstOrDefault(m => m * scale > 50, 1000);
        if (metres * scale < 90)
        {
            s.Line(Sheets.Right - metres * scale, s.Y + 4, Sheets.Right, s.Y + 4, Sheets.Ink, 1.2);
            s.Text($"{metres} m", Sheets.Right, s.Y + 13, 7.5, align: 1, mono: true);
        }
        s.Y += 18;
    }

    /// <summary>Writes into the index on which page a Card begins, once that is known.</summary>
    public void Begins(int card)
    {
        if (card < _indexed.Count)
            s.Late(_indexed[card].Page, N(s.PageCount), Sheets.Right - 6, _indexed[card].Baseline, 8);
    }

    private void Index(int volumes)
    {
        // Under the plan where that leaves room for more than a few.
        Heading("pack.index", 200);
        s.Table(
            [
                (T["pack.col.device"], 1.1),
                (T["pack.col.name"], 2.6),
                (T["pack.col.area"], 1.5),
                (T["pack.col.kind"], 1.5),
                (T["pack.col.verdict"], 1.5),
                (T["pack.col.taken"], -0.9),
                (T["pack.col.hash"], 1.1),
                (T["pack.col.page"], -0.7),
            ],
            record.Cards.Select(
                (c, i) =>
                    (IReadOnlyList<string>)
                        [
                            c.Label,
                            c.Name,
                            c.Area,
                            T["kind." + c.Kind],
                            T["verdict." + Codes.Of(c.Verdict)],
                            $"{N(c.Taken)}/{N(c.Total)}",
                            SealKey.Short(c.Hash)[..9],
                            volumes == 1 ? "" : Fill("pack.in-volume", N(2 + i / PackReport.CardsPerVolume)),
                        ]
            ),
            8,
            i => record.Cards[i].Verdict is Verdict.Refused or Verdict.AcceptedWithNote ? Drawings.ColourOf(record.Cards[i].Verdict) : null,
            (page, baseline) => _indexed.Add((page, baseline))
        );
    }

    private void Schedule()
    {
        Heading("pack.schedule");
        s.Table(
            [
                (T["pack.col.device"], 1),
                (T["pack.col.model"], 1.6),
                (T["pack.col.serial"], 1.5),
                (T["pack.col.hardware"], 1.9),
                (T["pack.col.address"], 1.4),
                (T["pack.col.port"], 1.4),
                (T["pack.col.channel"], 1.5),
                (T["pack.col.otherwise"], -0.8),
            ],
            record.Cards.Select(c =>
                (IReadOnlyList<string>)
                    [
                        c.Label,
                        c.Model,
                        c.Serial ?? "",
                        c.HardwareAddress ?? "",
                        c.Address ?? "",
                        words.Where(c.Port),
                        words.Where(c.Channel),
                        c.Differences == 0 ? "" : N(c.Differences),
                    ]
            ),
            7.5
        );
        if (record.Of is null)
            s.Paragraph(T["pack.schedule.more"], Sheets.Left, Sheets.Width, 8, colour: Sheets.Ink2);
    }

    private void Cables()
    {
        var runs = record.Cards.SelectMany(c => c.Cables.Select(r => (Card: c, Run: r))).ToList();
        if (runs.Count == 0)
            return;
        Heading("pack.cables");
        string Number(double? value, int decimals) => value is { } v ? words.Number(v, decimals) : "";
        s.Table(
            [
                (T["pack.col.run"], 1.1),
                (T["pack.col.from"], 1.5),
                (T["pack.col.to"], 1.1),
                (T["pack.col.planned-m"], -1),
                (T["pack.col.metres"], -1),
                (T["pack.col.loop"], -1),
                (T["pack.col.map"], 1.3),
                (T["pack.col.state"], 1.2),
            ],
            runs.Select(r =>
                (IReadOnlyList<string>)
                    [
                        r.Run.Run,
                        r.Run.Port,
                        r.Card.Label,
                        Number(r.Run.PlannedMetres, 1),
                        Number(r.Run.Metres, 1),
                        Number(r.Run.MostLoopOhms, 2),
                        r.Run.Map is { } map ? words.State(map) : "",
                        words.State(r.Run.Worst),
                    ]
            ),
            8,
            i => runs[i].Run.Worst is State.Out or State.TooClose ? Drawings.ColourOf(runs[i].Run.Worst) : null
        );
    }

    private void Budgets()
    {
        if (record.Sources.IsEmpty)
            return;
        Heading("pack.budgets");
        s.Table(
            [
                (T["pack.col.source"], 1.6),
                (T["pack.col.kind"], 1.4),
                (T["pack.col.gives"], -1),
                (T["pack.col.asked"], -1),
                (T["pack.col.left"], -1),
                (T["pack.col.devices"], -0.8),
                (T["pack.col.dropped"], 2),
            ],
            record.Sources.Select(x =>
                (IReadOnlyList<string>)
                    [
                        x.Name,
                        T["source.kind." + x.Kind],
                        x.UsableWatts is { } w ? words.Number(w, 0) + " W"
                        : x.UsableAmperes is { } a ? words.Number(a, 2) + " A"
                        : T["pack.unknown"],
                        words.Number(x.Demand, x.UsableAmperes is null ? 0 : 2),
                        x.Left is { } left ? words.Number(left, x.UsableAmperes is null ? 0 : 2) : "",
                        N(x.Devices),
                        string.Join(", ", x.DroppedOrOut),
                    ]
            ),
            8,
            i => record.Sources[i].DroppedOrOut.IsEmpty ? null : Sheets.Refused
        );
    }

    /// <summary>How the numbers that are no readings came about, each with what it rests on.</summary>
    private void Sums()
    {
        // Counts are short and stand together; a budget has its own paragraph.
        var shown = record
            .Sums.Where(x => x.Of == "source" || record.Honesty.Readings > 0 && x.Of.StartsWith("readings", StringComparison.Ordinal))
            .ToList();
        if (shown.Count == 0)
            return;
        Heading("pack.sums");
        s.Paragraph(T["pack.sums.hint"], Sheets.Left, Sheets.Width, 8.5, colour: Sheets.Ink2);
        foreach (var sum in shown)
        {
            var name = sum.Subject.Length > 0 ? sum.Subject : T["sum.of." + sum.Of];
            var lines = sum.Steps.Select(words.Step).ToList();
            s.Need(Math.Min(120, lines.Sum(l => s.HeightOf(l, Sheets.Width - 110, 8.5)) + 8));
            s.Y += 3;
            var top = s.Y;
            s.Paragraph(name, Sheets.Left, 100, 8.5, true);
            var under = s.Y;
            s.Y = top;
            var page = s.PageCount;
            foreach (var line in lines)
                s.Paragraph(line, Sheets.Left + 110, Sheets.Width - 110, 8.5);
            s.Y = (s.PageCount == page ? Math.Max(s.Y, under) : s.Y) + 3;
            s.Line(Sheets.Left, s.Y, Sheets.Right, s.Y, Sheets.Hair, 0.4);
        }
    }

    private void Instruments()
    {
        Heading("pack.instruments");
        if (record.Instruments.IsEmpty)
            s.Paragraph(T["report.no-instrument"], Sheets.Left, Sheets.Width, 9);
        foreach (var i in record.Instruments)
        {
            s.Need(30);
            s.Paragraph(Fill("report.instrument", i.Name, i.Serial, words.Date(i.CalibrationDue)), Sheets.Left, Sheets.Width, 9, true);
            s.Paragraph(
                CardReport.Functions(i, T)
                    + (
                        i.Checks.IsEmpty
                            ? ""
                            : " " + Fill("pack.reference-checks", N(i.Checks.Length), N(i.Checks.Count(c => i.IsIn(c) == false)))
                    ),
                Sheets.Left + 12,
                Sheets.Width - 12,
                8.5,
                colour: Sheets.Ink2
            );
        }
    }

    private void Limits()
    {
        Heading("pack.limits");
        s.Paragraph(Fill("pack.limits.edition", record.Limits.Edition, record.CoreVersion), Sheets.Left, Sheets.Width, 9);
        s.Y += 4;
        s.Table(
            [
                (T["pack.col.limit"], 1.8),
                (T["pack.col.least"], -0.8),
                (T["pack.col.most"], -0.8),
                (T["pack.col.purpose"], 3),
                (T["pack.col.basis"], 2.2),
            ],
            record.Limits.Limits.Select(l =>
                (IReadOnlyList<string>)
                    [T.Or("limit-name." + l.Id, l.Id), Value(l.Min, l.Unit), Value(l.Max, l.Unit), T.Phrase(l.Purpose), T.Phrase(l.Source)]
            ),
            7.5
        );
        s.Paragraph(T["pack.limits.figures"], Sheets.Left, Sheets.Width, 8.5, colour: Sheets.Ink2);
        s.Paragraph(
            string.Join(", ", record.Limits.Figures.Select(f => $"{T.Or("figure." + f.Id, f.Id)} {T.Local(Message.Number(f.Value, 4))}"))
                + ".",
            Sheets.Left,
            Sheets.Width,
            7.5,
            colour: Sheets.Ink2
        );
        string Value(double? number, Unit unit) => number is { } v ? $"{T.Local(Message.Number(v, 4))} {T["unit." + Codes.Of(unit)]}" : "";
    }

    private void Practice()
    {
        Heading("pack.practice");
        var p = record.Practice;
        s.Paragraph(
            $"{T["report.rule"]}: {T["rule." + Codes.Of(p.Rule)]}. "
                + $"{T["report.scheme"]}: {T[p.Sides.GetValueOrDefault("scheme") == "far-end" ? "scheme.match" : "scheme." + p.Scheme]}.",
            Sheets.Left,
            Sheets.Width,
            9
        );
        s.Paragraph(
            string.Join(
                " ",
                p.Sides.Where(s => s.Key != "scheme")
                    .Select(s => $"{T.Or("school." + s.Key, s.Key)}: {T.Or($"school.{s.Key}.{s.Value}", s.Value)}.")
            ),
            Sheets.Left,
            Sheets.Width,
            9
        );
    }

    private void People()
    {
        if (record.WorkDone.IsEmpty)
            return;
        Heading("pack.people");
        s.Table(
            [
                (T["pack.col.person"], 2),
                (T["pack.col.role"], 2),
                (T["pack.col.readings"], -1),
                (T["pack.col.work"], -1),
                (T["pack.col.when"], 3),
            ],
            record.WorkDone.Select(w =>
                (IReadOnlyList<string>)
                    [
                        words.Person(w.By),
                        record.People.FirstOrDefault(p => p.Id == w.By)?.Role ?? "",
                        N(w.Readings),
                        N(w.Acts),
                        words.Day(w.From) == words.Day(w.Until) ? words.Day(w.From) : $"{words.Day(w.From)} \u2013 {words.Day(w.Until)}",
                    ]
            ),
            8.5
        );
    }

    private void Glossary()
    {
        List<string> codes =
        [
            .. T
                .All.Keys.Where(k => k.StartsWith("glossary.", StringComparison.Ordinal))
                .OrderBy(k => T[k], StringComparer.OrdinalIgnoreCase),
        ];
        // All of it on one page: no page has its last lines alone.
        s.Need(40 + codes.Sum(code => s.HeightOf(T[code], Sheets.Width - 130, 8.5) + 1.5));
        Heading("pack.glossary");
        foreach (var code in codes)
        {
            var text = T[code];
            var at = text.IndexOf(':', StringComparison.Ordinal);
            s.Need(Math.Max(26, s.HeightOf(text, Sheets.Width - 130, 8.5)));
            var top = s.Y;
            s.Paragraph(text[..at], Sheets.Left, 120, 8.5, true);
            var under = s.Y;
            s.Y = top;
            s.Paragraph(text[(at + 1)..].Trim(), Sheets.Left + 130, Sheets.Width - 130, 8.5);
            s.Y = Math.Max(s.Y, under) + 1.5;
        }
    }

    /// <summary>Two pictures side by side with what they show; of an erased one who had it erased, and why.</summary>
    /// <param name="before">Room that must be left on their page for what comes behind them.</param>
    public static void Pictures(Sheets s, IReadOnlyList<PackPicture> pictures, Wording words, double? before = null)
    {
        if (pictures.Count == 0)
            return;
        const double gap = 16,
            captions = 40,
            most = 168,
            least = 96;
        // They give way to what comes behind them, down to what still shows something.
        var height = before is { } room && Sheets.Bottom - s.Y - room - captions is >= least and var left ? Math.Min(most, left) : most;
        var half = (Sheets.Width - gap) / 2;
        s.Need(height + captions + (before ?? 0));
        s.Y += 8;
        double top = s.Y,
            lowest = top;
        for (var i = 0; i < pictures.Count; i++)
        {
            var (x, picture) = (Sheets.Left + i * (half + gap), pictures[i]);
            s.Y = top;
            if (picture.Jpeg is { } jpeg)
            {
                var size = s.Picture(jpeg, x, top, half, height);
                s.Y = top + size.Height;
            }
            else
            {
                s.G.DrawRectangle(new XPen(Sheets.Ink2, 0.7) { DashPattern = [3, 2.2] }, x, top, half, 54);
                s.Y = top + 4;
                s.Paragraph(
                    picture.About.Erased is { } gone
                        ? words.Texts.Fill(words.Texts["pack.picture.erased"], [gone.By, words.Day(gone.At), gone.Reason])
                        : words.Texts["pack.picture.missing"],
                    x + 6,
                    half - 12,
                    8.5
                );
                s.Y = Math.Max(s.Y, top + 54);
            }
            s.Paragraph(
                string.Join(
                    ", ",
                    new[]
                    {
                        picture.About.Moment == PictureMoment.General
                            ? ""
                            : words.Texts["picture.moment." + Codes.Of(picture.About.Moment)],
                        picture.About.Caption,
                        words.Person(picture.About.By),
                        words.Moment(picture.About.TakenAt),
                    }.Where(v => v.Length > 0)
                ),
                x,
                half,
                8
            );
            s.Paragraph(SealKey.Short(picture.About.Hash), x, half, 7, colour: Sheets.Ink2);
            lowest = Math.Max(lowest, s.Y);
        }
        s.Y = lowest;
    }
}
