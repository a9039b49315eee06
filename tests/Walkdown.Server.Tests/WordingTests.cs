using System.Globalization;
using System.Text.Json;
using CsCheck;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Reports;

namespace Walkdown.Server.Tests;

/// <summary>What is printed, in both languages that ship.</summary>
public sealed class WordingTests
{
    private static readonly Guid Ina = Guid.NewGuid();

    private static Wording In(string language) =>
        new(new Texts(language), "Europe/London", [new ReportPerson(Ina, "Ina Solberg", "technician")], []);

    private static CheckKey Loop(string pair, Condition under = Condition.Any) =>
        new(new CheckId("cable.loop-resistance"), new Subject(SubjectKind.Run, Guid.NewGuid(), pair), under);

    [Fact]
    public void AnExceptionIsOneSentenceWithWhoWhyAndUntilWhen()
    {
        var until = new DateOnly(2026, 12, 5);
        var conceded = new CardException(
            ExceptionKind.Conceded,
            Loop("3-6"),
            "check.cable.loop-resistance",
            Ina,
            "Marit Holm",
            "relay room is hot",
            until
        );
        Assert.Equal(
            "Loop resistance, pair 3-6: conceded by Marit Holm. relay room is hot. Until 5 December 2026.",
            In("en").Exception(conceded)
        );
        var german = In("de").Exception(conceded);
        Assert.Contains("zugestanden von Marit Holm", german);
        Assert.Contains("5. Dezember 2026", german);
        Assert.Equal(
            "Open Fault: Pair open (raised by Ina Solberg)",
            In("en").Exception(new(ExceptionKind.OpenFault, null, null, Ina, null, "Pair open", null))
        );
        Assert.Equal(
            "Held up by Harbour office: fuel delivery.",
            In("en").Exception(new(ExceptionKind.Blocked, null, null, Ina, "Harbour office", "fuel delivery", null))
        );
        Assert.Equal("Set aside: no ladder.", In("en").Exception(new(ExceptionKind.Blocked, null, null, Ina, null, "no ladder", null)));
        // Many rows of one Check that were not taken are told once, without a pair or a condition of one of them.
        var untaken = new CardException(
            ExceptionKind.NotTaken,
            Loop("1-2", Condition.InfraredOn),
            "check.cable.loop-resistance",
            null,
            null,
            null,
            null
        )
        {
            Count = 4,
        };
        Assert.Equal("Loop resistance: 4 not taken.", In("en").Exception(untaken));
        Assert.Contains("infrared on", In("en").Exception(untaken with { Count = 1 }), StringComparison.OrdinalIgnoreCase);
    }

    [Fact]
    public void AStepSaysItsOriginOnceWhereAllHaveOne()
    {
        Term Port(int n, Origin origin) => new("sum.port", $"{n} GT-0{n} 15.1 W", origin);
        var step = new TraceStep(
            TraceKind.Sum,
            new("sum.source.asked", "2", "30.2"),
            [Port(1, Origin.Planned), Port(2, Origin.Planned)],
            "IEEE 802.3, 33 and 145"
        );
        Assert.Equal(
            "Asked for by draw, 2 devices at their heaviest: together 30.2 W (port 1 GT-01 15.1 W, port 2 GT-02 15.1 "
                + "W; planned). IEEE 802.3, 33 and 145.",
            In("en").Step(step)
        );
        var mixed = step with { From = [Port(1, Origin.Planned), Port(2, Origin.Measured)], Source = null };
        Assert.EndsWith("(port 1 GT-01 15.1 W planned, port 2 GT-02 15.1 W).", In("en").Step(mixed));
        Assert.Contains("zusammen 30,2 W (Anschluss 1 GT-01 15,1 W, Anschluss 2 GT-02 15,1 W; geplant)", In("de").Step(step));
        Assert.StartsWith(
            "Left: 54 \u2212 52.5 = 1.5 W",
            In("en").Step(new(TraceKind.Decision, new("sum.source.left", "54", "52.5", "1.5"), [])).Replace('\u2013', '\u2212')
        );
    }

    [Fact]
    public void ANumberIsWrittenAsTheLanguageWritesItAndNothingElseIsTouched()
    {
        var (english, german) = (new Texts("en"), new Texts("de"));
        Gen.Select(Gen.Double[-1e6, 1e6], Gen.Int[0, 4])
            .Sample(
                (value, decimals) =>
                {
                    var text = value.ToString("F" + decimals, CultureInfo.InvariantCulture);
                    Assert.Equal(text, english.Number(value, decimals));
                    Assert.Equal(text.Replace('.', ','), german.Number(value, decimals));
                    Assert.Equal(
                        value,
                        double.Parse(german.Number(value, decimals), new NumberFormatInfo { NumberDecimalSeparator = "," }),
                        Math.Pow(10, -decimals)
                    );
                }
            );
        foreach (var other in new[] { "10.46.9.11", "GT-01", "v2.1", "", ".", "1.2.3", "IEEE 802.3" })
            Assert.Equal(other, german.Local(other));
    }

    /// <summary>Of two texts under one code the last is taken and the first is lost without a word: there are none.</summary>
    [Theory]
    [InlineData("en")]
    [InlineData("de")]
    public void NoCodeHasTwoTexts(string language)
    {
        var codes = new List<string>();
        var files = typeof(Texts)
            .Assembly.GetManifestResourceNames()
            .Where(n => n.StartsWith($"texts/{language}", StringComparison.Ordinal))
            .ToList();
        Assert.NotEmpty(files);
        foreach (var file in files)
        {
            using var stream = typeof(Texts).Assembly.GetManifestResourceStream(file)!;
            using var bytes = new MemoryStream();
            stream.CopyTo(bytes);
            var reader = new Utf8JsonReader(bytes.ToArray());
            while (reader.Read())
                if (reader.TokenType == JsonTokenType.PropertyName)
                    codes.Add(reader.GetString()!);
        }
        Assert.Empty(codes.GroupBy(c => c).Where(g => g.Count() > 1).Select(g => g.Key));
    }

    [Fact]
    public void MomentsAreTheSites()
    {
        var at = new DateTimeOffset(2026, 7, 1, 23, 30, 0, TimeSpan.Zero);
        Assert.Equal("2 July 2026 00:30", In("en").Moment(at));
        Assert.Equal("2. Juli 2026", In("de").Day(at));
    }

    [Fact]
    public void WhatALanguageLacksIsSaidInEnglishAndAnUnknownCodeIsSeen()
    {
        var german = new Texts("de");
        Assert.Equal(new Texts("en")["handover.title"], german["handover.title"]);
        Assert.Equal("no.such.code", german["no.such.code"]);
        Assert.Equal("Abgelehnt 3", german.Fill("{0} {1}", ["@verdict.refused", "3"]));
    }

    /// <summary>A Check is found by its name: no two of a Card may have one and the same.</summary>
    [Theory]
    [InlineData("en")]
    [InlineData("de")]
    public void NoTwoChecksHaveOneName(string language)
    {
        var texts = new Texts(language);
        var known = Texts.Shipped("en").Keys.ToHashSet();
        var checks = Catalogue.Read(Catalogue.Shipped, known).Catalogue!.Checks;
        Assert.True(checks.Length > 100);
        Assert.Equal([], checks.GroupBy(c => texts[c.TextKey]).Where(g => g.Count() > 1).Select(g => g.Key));
    }

    /// <summary>A count of one has a text of its own, in each language; where a language has none it says its own of many, never
    /// English.</summary>
    [Fact]
    public void OneOfSomethingIsSaidAsOne()
    {
        var (english, german) = (new Texts("en"), new Texts("de"));
        Message Stand(string n) => new("sum.readings", n, "0", "1");
        Assert.StartsWith("One reading was taken", english.Say(Stand("1")));
        Assert.StartsWith("2 readings were taken", english.Say(Stand("2")));
        Assert.StartsWith("Ein Messwert wurde", german.Say(Stand("1")));
        foreach (var code in english.All.Keys.Where(k => k.EndsWith(".one", StringComparison.Ordinal)).Select(k => k[..^4]))
        {
            if (!english.All.ContainsKey(code) || !Texts.Shipped("de").ContainsKey(code))
                continue;
            var said = german.Say(new(code, "1", "2", "3", "4", "5"));
            Assert.True(
                Texts.Shipped("de").ContainsKey(code + ".one") || said == german.Fill(german[code], ["1", "2", "3", "4", "5"]),
                $"{code}: {said}"
            );
        }
    }
}
