using NodaTime;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;

namespace Walkdown.Reports;

/// <summary>Readings, limits and spares as they are printed.</summary>
public sealed class Wording(Texts texts, string timeZone, IReadOnlyList<ReportPerson> people, IReadOnlyList<Instrument> instruments)
{
    private readonly DateTimeZone _zone = DateTimeZoneProviders.Tzdb.GetZoneOrNull(timeZone) ?? DateTimeZone.Utc;
    private readonly Dictionary<Guid, string> _people = people.ToDictionary(p => p.Id, p => p.Name);
    private readonly Dictionary<Guid, Instrument> _instruments = instruments.ToDictionary(i => i.Id);

    public Wording(Texts texts, ReportRecord record)
        : this(texts, record.Job.TimeZone, record.People, record.Instruments) { }

    public Texts Texts => texts;

    public string Moment(DateTimeOffset at)
    {
        var local = Instant.FromDateTimeOffset(at).InZone(_zone).LocalDateTime;
        return $"{texts.Date(new DateOnly(local.Year, local.Month, local.Day))} {local.Hour:00}:{local.Minute:00}";
    }

    public string Day(DateTimeOffset at)
    {
        var local = Instant.FromDateTimeOffset(at).InZone(_zone).LocalDateTime;
        return texts.Date(new DateOnly(local.Year, local.Month, local.Day));
    }

    public string Date(DateOnly? date) => date is { } day ? texts.Date(day) : "?";

    /// <summary>A port or channel as records name it, in this language.</summary>
    public string Where(string place) =>
        place
            .Replace(" port ", $" {texts["word.port"]} ", StringComparison.Ordinal)
            .Replace(" channel ", $" {texts["word.channel"]} ", StringComparison.Ordinal);

    public string Person(Guid id) => _people.GetValueOrDefault(id, texts["report.someone"]);

    public Instrument? InstrumentOf(Guid? id) => id is { } known ? _instruments.GetValueOrDefault(known) : null;

    public string Name(CardRow row) => Name(row.Check.TextKey, row.Key, row.Of);

    /// <param name="of">Which of several heads, runs, ports or channels; null: there is one.</param>
    public string Name(string textKey, CheckKey key, Message? of = null)
    {
        var name = texts[textKey];
        if (of is not null)
            name += ", " + texts.Say(of);
        if (key.On.Part.Length > 0)
            name += ", " + Part(texts, key.On.Part);
        if (key.Under != Condition.Any)
            name +=
                ", "
                + string.Join(
                    ", ",
                    Enum.GetValues<Condition>()
                        .Where(c => c != Condition.Any && key.Under.HasFlag(c))
                        .Select(c => texts["condition." + Codes.Of(c)])
                );
        return name;
    }

    public string Unit(CardRow row) => texts["unit." + Codes.Of(row.Check.Unit)];

    public string Number(double value, int decimals) => texts.Number(value, decimals);

    public string Value(CardRow row, ReadingValue value, Core.Cabling.WireMapAnalysis? map) =>
        value switch
        {
            ChoiceValue c when row.Lights.FirstOrDefault(l => l.Id == c.Choice) is { } light => texts["light." + Codes.Of(light.State)],
            WireMapValue => map is { IsStraight: true } ? texts["report.straight"]
            : map is null ? ""
            : texts["report.not-straight"],
            _ => ValueText.Of(texts, value, row.Check),
        };

    public string Limits(CardRow row)
    {
        if (row.Window is not { } w)
            return row.Expected?.Word is null ? "" : Expected(row);
        return ValueText.Limits(texts, w, row.Check.Decimals);
    }

    /// <summary>"+6.6 m", or how far beyond. Never rounded so that a failing value reads as the limit itself.</summary>
    public string SpareOf(CardRow row, Spare? spare)
    {
        if (spare is null)
            return "";
        var d = row.Check.Decimals;
        var shown = Math.Round(Math.Abs(spare.Value), d);
        if (shown == 0 && spare.Value < 0)
            (shown, d) = (Math.Abs(spare.Value), d + 2);
        return spare.Value >= 0
            ? $"+{Number(shown, d)} {Unit(row)}"
            : $"{Number(shown, d)} {Unit(row)} {texts[spare.Nearest == NearestLimit.Min ? "spare.under" : "spare.over"]}";
    }

    public string State(State state) => texts["state." + Codes.Of(state)];

    public string Expected(CardRow row) =>
        row.Expected switch
        {
            null => "",
            { WhyNone: { } why } => texts.Say(why),
            { Value: { } q } e when row.Check.Entry == EntryKind.Number => $"{Number(q.Value, row.Check.Decimals)} {Unit(row)}"
                + (e.PlusMinus is { } pm ? $" \u00b1{Number(pm, row.Check.Decimals)}" : ""),
            { Word: ['@', .. var code] } => texts[code],
            { Word: { } word } => texts.Or("expect.word." + word, $"{texts.Or("choice." + word, word)} {Unit(row)}".Trim()),
            _ => "",
        };

    public string Terms(Expectation expected) => string.Join(", ", expected.From.Select(Said));

    private string Said(Term term)
    {
        var value = term.Value.StartsWith('@') ? texts[term.Value[1..]] : string.Join(' ', term.Value.Split(' ').Select(texts.Local));
        return $"{texts["term." + term.Name.Replace("term.", "")]} {value} ({texts["origin." + Codes.Of(term.Origin)]})";
    }

    /// <summary>An exception of a Card in one sentence.</summary>
    public string Exception(CardException e)
    {
        var untaken = e.Kind == ExceptionKind.NotTaken;
        var what =
            e.Row is { } row && e.TextKey is { } name
                ? Name(
                    name,
                    row with
                    {
                        On = untaken ? row.On with { Part = "" } : row.On,
                        Under = untaken && e.Count > 1 ? Condition.Any : row.Under,
                    },
                    e.Of
                )
                : "";
        var code = "pack.exception." + Codes.Of(e.Kind);
        string Fill(string text, params string[] args) =>
            texts.Fill(texts[text], args) + (e.Until is { } until ? " " + texts.Fill(texts["report.until"], [Date(until)]) : "");
        return e.Kind switch
        {
            ExceptionKind.NotTaken => e.Count > 1
                ? Fill("pack.exception.notTaken.more", what, e.Count.ToString(System.Globalization.CultureInfo.InvariantCulture))
                : Fill(code, what),
            ExceptionKind.Blocked => Fill(e.Who is null ? "pack.exception.set-aside" : code, e.Why ?? "", e.Who ?? ""),
            ExceptionKind.Unexpected => Fill(e.Who is null ? code : code + ".explained", what, e.Who ?? "", e.Why ?? ""),
            ExceptionKind.OpenFault => Fill(code, e.Why ?? "", e.By is { } by ? Person(by) : ""),
            _ => Fill(code, what, e.Who ?? "", e.Why ?? ""),
        };
    }

    /// <summary>A step of a trace in one sentence, what it rests on in brackets.</summary>
    public string Step(TraceStep step)
    {
        var said = texts.Say(step.What);
        // Where all of them have one origin, it is said once.
        var alike = step.From.Length > 0 && step.From.All(t => t.Origin == step.From[0].Origin);
        string OriginOf(Term t) => step.Kind == TraceKind.Sum && t.Origin != Origin.Measured ? texts["origin." + Codes.Of(t.Origin)] : "";
        string Of(Term t) =>
            $"{texts[t.Name]} {string.Join(' ', t.Value.Split(' ').Select(texts.Local))}".Trim()
            + (alike || OriginOf(t).Length == 0 ? "" : $" {OriginOf(t)}");
        if (!step.From.IsEmpty)
        {
            var origin = alike && OriginOf(step.From[0]).Length > 0 ? "; " + OriginOf(step.From[0]) : "";
            said += $" ({string.Join(", ", step.From.Select(Of))}{origin})";
        }
        return said
            + "."
            + (step.Source is { } source ? $" {texts.Phrase(source)}{(step.Edition is { } edition ? ", " + edition : "")}." : "");
    }

    public string StandingOf(Attempt attempt) =>
        attempt.Standing switch
        {
            Standing.Counts => texts["standing.counts"],
            Standing.Withdrawn => texts.Fill(
                texts["standing.withdrawn"],
                [texts.Or("withdraw." + attempt.WithdrawnBecause, attempt.WithdrawnBecause ?? "")]
            ),
            var standing => texts["standing." + Codes.Of(standing)],
        };

    /// <summary>A part of a subject in words: a pair, a group of fasteners, a preset.</summary>
    private static string Part(Texts texts, string part) =>
        part.StartsWith("preset-", StringComparison.Ordinal)
            ? texts.Fill(texts["part.preset"], [part["preset-".Length..]])
            : texts.Or("part." + part, texts.Fill(texts["report.pair"], [part]));
}
