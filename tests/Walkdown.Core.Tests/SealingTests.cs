using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using CsCheck;
using Walkdown.Core.Measures;
using Walkdown.Core.Sealing;

namespace Walkdown.Core.Tests;

/// <summary>The canonical form by the examples of RFC 8785, and seals by breaking them.</summary>
public sealed class SealingTests
{
    private static readonly SealKey Key = SealKey.Create();
    private static readonly DateTimeOffset At = new(2026, 10, 14, 16, 5, 0, TimeSpan.Zero);

    [Theory]
    // RFC 8785 appendix B, and 3.2.2.3.
    [InlineData(0.0, "0")]
    [InlineData(5e-324, "5e-324")]
    [InlineData(-5e-324, "-5e-324")]
    [InlineData(1.7976931348623157e308, "1.7976931348623157e+308")]
    [InlineData(9007199254740992, "9007199254740992")]
    [InlineData(295147905179352830000.0, "295147905179352830000")]
    [InlineData(9.999999999999997e22, "9.999999999999997e+22")]
    [InlineData(1e23, "1e+23")]
    [InlineData(1.0000000000000001e23, "1.0000000000000001e+23")]
    [InlineData(999999999999999700000.0, "999999999999999700000")]
    [InlineData(1e21, "1e+21")]
    [InlineData(9.999999999999997e-7, "9.999999999999997e-7")]
    [InlineData(0.000001, "0.000001")]
    [InlineData(333333333.3333332, "333333333.3333332")]
    [InlineData(333333333.33333325, "333333333.33333325")]
    [InlineData(1E30, "1e+30")]
    [InlineData(4.50, "4.5")]
    [InlineData(0.002, "0.002")]
    [InlineData(1e-27, "1e-27")]
    [InlineData(-51.3, "-51.3")]
    [InlineData(100, "100")]
    public void ANumberIsWrittenAsEcmaScriptWritesIt(double number, string text) => Assert.Equal(text, CanonicalJson.Number(number));

    [Fact]
    public void EveryNumberReadsBackToItself() =>
        Gen
            .Double.Where(double.IsFinite)
            .Sample(number =>
                Assert.Equal(number, double.Parse(CanonicalJson.Number(number), System.Globalization.CultureInfo.InvariantCulture))
            );

    [Fact]
    public void MembersAreSortedByTheirUtf16NamesAndTextIsEscapedNoMoreThanItMustBe()
    {
        // RFC 8785, 3.2.3 and 3.2.2.2.
        const string json = """
            {"\u20ac":"Euro Sign","\r":"Carriage Return","\ufb33":"Hebrew Letter Dalet With Dagesh","1":"One",
             "\ud83d\ude00":"Emoji: Grinning Face","\u0080":"Control","\u00f6":"Latin Small Letter O With Diaeresis"}
            """;
        using var document = JsonDocument.Parse(json);
        Assert.Equal(
            "{\"\\r\":\"Carriage Return\",\"1\":\"One\",\"\u0080\":\"Control\",\"\u00f6\":\"Latin Small Letter O With Diaeresis\","
                + "\"\u20ac\":\"Euro Sign\",\"\ud83d\ude00\":\"Emoji: Grinning Face\",\"\ufb33\":\"Hebrew Letter Dalet With Dagesh\"}",
            Encoding.UTF8.GetString(CanonicalJson.Of(document.RootElement))
        );
        using var text = JsonDocument.Parse("""{"string":"\u20ac$\u000F\u000aA'\u0042\u0022\u005c\\\"\/"}""");
        Assert.Equal("{\"string\":\"\u20ac$\\u000f\\nA'B\\\"\\\\\\\\\\\"/\"}", Encoding.UTF8.GetString(CanonicalJson.Of(text.RootElement)));
        using var twice = JsonDocument.Parse("""{"a":1,"a":2}""");
        Assert.Throws<BadInputException>(() => CanonicalJson.Of(twice.RootElement));
    }

    [Theory]
    // One name in two spellings is one name; as is one number.
    [InlineData("""{"a":1,"\u0061":2}""", null)]
    [InlineData("""{"b":1,"\u0061":2}""", """{"a":2,"b":1}""")]
    [InlineData(
        """{ "x" : [ 1.0 , 1e2, -0, 0.10, 100000000000000000000, 12345678901234567 ] }""",
        """{"x":[1,100,0,0.1,100000000000000000000,12345678901234568]}"""
    )]
    [InlineData("""["\u0041","\/","\u00fc","\u007f"]""", "[\"A\",\"/\",\"\u00fc\",\"\u007f\"]")]
    [InlineData("""{"":{"\"":[],"'":{}},"aa":null,"a":true,"A":false}""", """{"":{"\"":[],"'":{}},"A":false,"a":true,"aa":null}""")]
    [InlineData("""{"n":1e400}""", null)]
    public void HoweverItIsSpelledThereIsOneForm(string json, string? canonical)
    {
        using var document = JsonDocument.Parse(json);
        if (canonical is null)
            Assert.Throws<BadInputException>(() => CanonicalJson.Of(document.RootElement));
        else
            Assert.Equal(canonical, Encoding.UTF8.GetString(CanonicalJson.Of(document.RootElement)));
    }

    /// <summary>A second route: members into a sorted dictionary by their names, text by text, numbers by <see
    /// cref="CanonicalJson.Number"/>.</summary>
    private static string Slowly(JsonElement value) =>
        value.ValueKind switch
        {
            JsonValueKind.Object => "{"
                + string.Join(
                    ",",
                    value.EnumerateObject().OrderBy(m => m.Name, StringComparer.Ordinal).Select(m => Quoted(m.Name) + ":" + Slowly(m.Value))
                )
                + "}",
            JsonValueKind.Array => "[" + string.Join(",", value.EnumerateArray().Select(Slowly)) + "]",
            JsonValueKind.String => Quoted(value.GetString()!),
            JsonValueKind.Number => CanonicalJson.Number(value.GetDouble()),
            _ => value.GetRawText(),
        };

    private static string Quoted(string text) =>
        "\""
        + string.Concat(
            text.Select(c =>
                c switch
                {
                    '"' => "\\\"",
                    '\\' => "\\\\",
                    '\b' => "\\b",
                    '\t' => "\\t",
                    '\n' => "\\n",
                    '\f' => "\\f",
                    '\r' => "\\r",
                    < ' ' => $"\\u{(int)c:x4}",
                    _ => c.ToString(),
                }
            )
        )
        + "\"";

    private static readonly Gen<string> Word = Gen.OneOf(
        Gen.String[Gen.Char["abcxyzAZ09 '\"\\/\n\t\u0001\u007f"], 0, 6],
        Gen.String[Gen.Char['\u00a0', '\u05ff'], 0, 4],
        Gen.Const("\ud83d\ude00")
    );

    private static Gen<object?> Value(int depth) =>
        depth == 0
            ? Gen.OneOf(
                Word.Select(w => (object?)w),
                Gen.Double.Where(double.IsFinite).Select(d => (object?)d),
                Gen.Int.Select(i => (object?)i),
                Gen.Long.Select(l => (object?)l),
                Gen.Bool.Select(b => (object?)b),
                Gen.Const((object?)null)
            )
            : Gen.OneOf(
                Value(0),
                Value(depth - 1).List[0, 4].Select(l => (object?)l),
                Gen.Select(Word, Value(depth - 1))
                    .List[0, 5]
                    .Select(l => (object?)l.DistinctBy(p => p.Item1).ToDictionary(p => p.Item1, p => p.Item2))
            );

    [Fact]
    public void TheQuickWayAndTheSlowWayAgreeOnAnyDocument() =>
        Value(3)
            .Sample(value =>
            {
                // As most programs write it, with everything escaped, and with as little as may be.
                foreach (
                    var options in new[]
                    {
                        new JsonSerializerOptions(),
                        new JsonSerializerOptions
                        {
                            Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
                            WriteIndented = true,
                        },
                    }
                )
                {
                    using var document = JsonDocument.Parse(JsonSerializer.SerializeToUtf8Bytes(value, options));
                    var canonical = CanonicalJson.Of(document.RootElement);
                    Assert.Equal(Slowly(document.RootElement), Encoding.UTF8.GetString(canonical));
                    // What is canonical stays as it is.
                    using var again = JsonDocument.Parse(canonical);
                    Assert.True(CanonicalJson.Of(again.RootElement).AsSpan().SequenceEqual(canonical));
                }
            });

    [Fact]
    public void AFlipOfAnyBitOfASealedRecordIsFoundAndNoneInAnUntouchedOne()
    {
        var file = Sealed();
        Assert.Equal(SealOutcome.Untouched, RecordSeal.Check(file).Outcome);
        for (var i = 0; i < file.Length; i++)
            foreach (var bit in new[] { 0x01, 0x20 })
            {
                var other = (byte[])file.Clone();
                other[i] ^= (byte)bit;
                Assert.False(RecordSeal.Check(other).Outcome is SealOutcome.Untouched or SealOutcome.OtherKey, $"byte {i}, bit {bit}");
            }
    }

    [Fact]
    public void ItSaysWhichPartWasChanged()
    {
        var text = Encoding.UTF8.GetString(Sealed());
        Assert.Equal(["readings"], RecordSeal.Check(Encoding.UTF8.GetBytes(text.Replace("51.3", "53.1"))).Changed);
        Assert.Equal(["place"], RecordSeal.Check(Encoding.UTF8.GetBytes(text.Replace("CC-07", "CC-08"))).Changed);
        Assert.Equal(
            ["aside"],
            RecordSeal.Check(Encoding.UTF8.GetBytes(text.Replace("{\"by\":{\"name", "{\"aside\":\"x\",\"by\":{\"name"))).Changed
        );
        Assert.Equal(SealOutcome.Altered, RecordSeal.Check(Encoding.UTF8.GetBytes(text + "\n")).Outcome);
        Assert.Equal(SealOutcome.NotSealed, RecordSeal.Check("{}"u8.ToArray()).Outcome);
        Assert.Equal(SealOutcome.Unreadable, RecordSeal.Check("%PDF"u8.ToArray()).Outcome);
    }

    [Fact]
    public void AnotherKeyIsNamedAndAContentSealedAnewIsNotTakenForTheOldOne()
    {
        using var other = SealKey.Create();
        var mine = RecordSeal.Check(Sealed(), Key.Fingerprint);
        Assert.Equal((SealOutcome.Untouched, Key.Fingerprint, At), (mine.Outcome, mine.Key, mine.SealedAt!.Value));
        Assert.Equal(SealOutcome.OtherKey, RecordSeal.Check(Sealed(), other.Fingerprint).Outcome);
        // Somebody changes a record and seals it with a key of their own, under the first one's name.
        using var forged = JsonDocument.Parse("""{"place":"CC-07","readings":[53.1]}""");
        var file = RecordSeal.Seal(forged.RootElement, other, At);
        Assert.Equal(SealOutcome.OtherKey, RecordSeal.Check(file, Key.Fingerprint).Outcome);
        Assert.Equal(
            SealOutcome.Altered,
            RecordSeal.Check(Encoding.UTF8.GetBytes(Encoding.UTF8.GetString(file).Replace(other.Fingerprint, Key.Fingerprint))).Outcome
        );
    }

    [Fact]
    public void AWholeFileIsSealedByTheLineBehindIt()
    {
        var body = RandomNumberGenerator.GetBytes(300);
        var line = FileSeal.Line(RecordSeal.HashOf(body), Key);
        Assert.Equal(FileSeal.Length, line.Length);
        Assert.Equal(SealOutcome.Untouched, FileSeal.Read(line)!.Judge(RecordSeal.HashOf(body), Key.Fingerprint));
        for (var i = 0; i < body.Length; i++)
        {
            var other = (byte[])body.Clone();
            other[i] ^= 0x10;
            Assert.Equal(SealOutcome.Altered, FileSeal.Read(line)!.Judge(RecordSeal.HashOf(other)));
        }
        for (var i = 0; i < line.Length; i++)
        {
            var other = (byte[])line.Clone();
            other[i] ^= 0x20;
            Assert.True(FileSeal.Read(other) is not { } read || read.Judge(RecordSeal.HashOf(body)) == SealOutcome.Altered, $"byte {i}");
        }
    }

    [Fact]
    public void AKeyComesBackFromItsBackupOnlyWithItsPassphrase()
    {
        using var back = SealKey.FromPem(Key.ToPem("ferry 26 harbour"), "ferry 26 harbour");
        Assert.Equal(Key.Fingerprint, back.Fingerprint);
        Assert.Throws<BadInputException>(() => SealKey.FromPem(Key.ToPem("ferry 26 harbour"), "another"));
        Assert.Throws<BadInputException>(() => SealKey.FromPem("nothing"));
    }

    private static byte[] Sealed()
    {
        using var record = JsonDocument.Parse(
            """{"readings":[51.3,10.1],"place":"CC-07","by":{"name":"Ina Solberg","note":"quay \"side\" \u00fc"}}"""
        );
        return RecordSeal.Seal(record.RootElement, Key, At);
    }
}
