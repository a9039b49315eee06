using System.Collections.Immutable;
using CsCheck;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;

namespace Walkdown.Core.Tests;

/// <summary>Cells, headings, schedules and what does not agree in a register.</summary>
public sealed class RegisterTests
{
    private static readonly Dictionary<string, string> Kinds = new()
    {
        ["bullet"] = "bullet",
        ["turret"] = "ball",
        ["nvr"] = "recorder",
        ["rack"] = "cabinet",
        ["recorder"] = "recorder",
        ["cabinet"] = "cabinet",
    };

    private static CellRead Read(string field, string text, DecimalSign sign = DecimalSign.Unknown, bool isNumber = false) =>
        CellText.Read(RegisterFields.Find(field)!, new Cell(text, isNumber), sign, Kinds);

    [Theory]
    [InlineData("length_m", "62,5", "62.5")]
    [InlineData("length_m", "62.5 m", "62.5")]
    [InlineData("length_m", "203 ft", "61.874")]
    [InlineData("length_m", "1.062,5", "1062.5")]
    [InlineData("length_m", "1,062.5", "1062.5")]
    [InlineData("length_m", "1 062", "1062")]
    [InlineData("port", "7", "7")]
    [InlineData("speed_mbps", "1 Gb/s", "1000")]
    [InlineData("hardware_address", "0246.0899.0a01", "02:46:08:99:0A:01")]
    [InlineData("hardware_address", "02-46-08-99-0A-01", "02:46:08:99:0A:01")]
    [InlineData("hardware_address", "024608990a01", "02:46:08:99:0A:01")]
    [InlineData("address", "10.46.8.21/24", "10.46.8.21")]
    [InlineData("channels", "7-10", "7 8 9 10")]
    [InlineData("channels", "Ch 3 / 4", "3 4")]
    [InlineData("kind", "  TURRET ", "ball")]
    [InlineData("scheme", "T568B", "B")]
    [InlineData("reach", "MEWP", "lift")]
    [InlineData("material", "CCA", "copper-clad-aluminium")]
    [InlineData("name", "Roof edge,\n  quay side", "Roof edge, quay side")]
    [InlineData("length_m", "tbc", null)]
    [InlineData("serial", "n/a", null)]
    public void ACellIsReadAsPeopleWriteIt(string field, string text, string? expected)
    {
        var read = Read(field, text);
        Assert.Null(read.What);
        Assert.Equal(expected, read.Value);
    }

    [Theory]
    [InlineData("length_m", "1,250", "cell.two-ways")]
    [InlineData("length_m", "sixty", "cell.number")]
    [InlineData("length_m", "-4", "cell.range")]
    [InlineData("length_m", "62 V", "cell.number")]
    [InlineData("port", "3.5", "cell.whole")]
    [InlineData("speed_mbps", "300", "cell.speed")]
    [InlineData("address", "10.46.8.300", "cell.address")]
    [InlineData("address", "010.046.008.021", "cell.address")]
    [InlineData("hardware_address", "02:46:08", "cell.hardware-address")]
    [InlineData("channels", "seven", "cell.channel")]
    [InlineData("kind", "periscope", "cell.kind")]
    [InlineData("scheme", "C", "cell.word")]
    public void ACellThatCannotBeIsRefusedWithItsMend(string field, string text, string code)
    {
        var read = Read(field, text);
        Assert.Equal(code, read.What?.Code);
        Assert.StartsWith(code, read.Mend!.Code);
        Assert.Null(read.Value);
    }

    [Fact]
    public void WhatCanBeReadTwoWaysFollowsTheFileWhereTheFileShowsIt()
    {
        Assert.Equal("1250", Read("length_m", "1,250", DecimalSign.Point).Value);
        Assert.Equal("1.25", Read("length_m", "1,250", DecimalSign.Comma).Value);
        Assert.Equal("1.25", Read("length_m", "1.250", isNumber: true).Value);
        Assert.Equal(DecimalSign.Comma, CellText.SignOf([new("1,250"), new("62,5"), new("1.062,5")]));
        Assert.Equal(DecimalSign.Point, CellText.SignOf([new("1,250"), new("62.5")]));
        Assert.Equal(DecimalSign.Unknown, CellText.SignOf([new("62.5"), new("62,5")]));
        Assert.Equal(DecimalSign.Unknown, CellText.SignOf([new("62.5", true), new("1,250")]));
    }

    [Fact]
    public void WhatTheRegisterWritesItReadsAgain() =>
        Gen.Double[0.2, 1999]
            .Select(n => Math.Round(n, 3))
            .Sample(n =>
            {
                var once = Read("length_m", n.ToString("R", System.Globalization.CultureInfo.InvariantCulture), DecimalSign.Point).Value;
                Assert.Equal(once, Read("length_m", once!, DecimalSign.Point).Value);
                Assert.Equal(n, double.Parse(once!, System.Globalization.CultureInfo.InvariantCulture));
            });

    [Fact]
    public void NoTextIsTooOddToBeReadOrRefused() =>
        Gen.Select(Gen.Int[0, RegisterFields.All.Length - 1], Gen.String[0, 60])
            .Sample(
                (field, text) =>
                {
                    var read = CellText.Read(RegisterFields.All[field], new Cell(text.Trim()), DecimalSign.Unknown, Kinds);
                    Assert.True(read.What is null || (read.Value is null && read.Mend is not null));
                }
            );

    [Theory]
    [InlineData("Cam No.", "label")]
    [InlineData("  IP-Address ", "address")]
    [InlineData("Cable length (m)", "length_m")]
    [InlineData("LENGTH FT", "length_m")]
    [InlineData("MAC", "hardware_address")]
    [InlineData("Serial No", "serial")]
    [InlineData("power_class", "power_class")]
    [InlineData("Favourite colour", null)]
    public void AHeadingIsKnownInCommonWording(string heading, string? field) =>
        Assert.Equal(field, HeadingMatch.FieldOf(heading, new Dictionary<string, string>()));

    [Fact]
    public void EveryWordingMeansOneColumn()
    {
        var twice = RegisterFields
            .All.SelectMany(f => f.Headings.Prepend(f.Id).Select(h => (Word: CellText.Plain(h), f.Id)))
            .GroupBy(h => h.Word)
            .Where(g => g.Select(x => x.Id).Distinct().Count() > 1)
            .Select(g => g.Key);
        Assert.Empty(twice);
    }

    private static List<IReadOnlyList<Cell>> Sheet(params string[] lines) =>
        [.. lines.Select(l => (IReadOnlyList<Cell>)[.. l.Split('|').Select(c => new Cell(c.Trim()))])];

    private static SchedulePlan PlanOf(List<IReadOnlyList<Cell>> rows, Func<SheetMapping, SheetMapping>? change = null)
    {
        var mapping = HeadingMatch.Propose(rows, new Dictionary<string, string>(), new Dictionary<string, string>());
        return SchedulePlan.Of(rows, change?.Invoke(mapping) ?? mapping, Kinds, Facts.Shipped.Records);
    }

    [Fact]
    public void TitlesBlocksAndRepeatedHeadingsAreNoDevices()
    {
        var plan = PlanOf(
            Sheet(
                "Ternhaven, issue C",
                "",
                "Cam No|Description|Type|Rack|Port|Length (ft)|NVR|Ch|Remark",
                "GATE",
                "GT-1|Barrier|Turret|K9|1|200|N-1|1|scaffold",
                "Cam No|Description|Type|Rack|Port|Length (ft)|NVR|Ch|Remark",
                "QUAY",
                "QY-1|Bollard|Turret|K9|2|220|N-1|2|",
                "||||||||"
            )
        );
        Assert.Empty(plan.Problems);
        Assert.Equal(["GT-1", "QY-1", "K9", "N-1"], plan.Rows.Select(r => r.Label));
        Assert.Equal(["GATE", "QUAY"], plan.Rows.Take(2).Select(r => r["area"]));
        Assert.Equal("60.96", plan.Rows[0]["length_m"]);
        Assert.Equal("GT-1", plan.Rows[0]["run"]);
        Assert.Equal("scaffold", plan.Rows[0].Notes["Remark"]);
        Assert.All(plan.Rows.Skip(2), r => Assert.Equal(0, r.Row));
    }

    [Fact]
    public void EveryBadCellIsNamedAtOnceWithItsRow()
    {
        var plan = PlanOf(
            Sheet("label|kind|port|length_m|serial", "A-1|turret||x|S1", "A-1|teapot||5|S1", "|turret||5|"),
            m => m with { AddMissing = false }
        );
        Assert.Equal(
            [
                (2, "length_m", "cell.number"),
                (3, "kind", "cell.kind"),
                (3, "label", "cell.twice"),
                (3, "serial", "cell.twice"),
                (4, "label", "cell.empty"),
            ],
            plan.Problems.Select(p => (p.Row, p.Column, p.What.Code)).OrderBy(p => p.Row).ThenBy(p => p.Column, StringComparer.Ordinal)
        );
    }

    [Fact]
    public void APortWithItsCabinetInOneCellIsParted()
    {
        var plan = PlanOf(Sheet("label|kind|switch port", "A-1|turret|K2/7", "A-2|turret|Rack 3 port 12"));
        Assert.Equal([("K2", "7"), ("Rack 3", "12")], plan.Rows.Where(r => r.Row > 0).Select(r => (r["cabinet"]!, r["port"]!)));
    }

    [Fact]
    public void CabinetsThatFeedEachOtherInARingAreRefused()
    {
        var plan = PlanOf(Sheet("label|kind|cabinet", "K1|cabinet|K3", "K2|cabinet|K1", "K3|cabinet|K2", "A-1|turret|"));
        Assert.Contains(plan.Problems, p => p.What.Code == "cell.ring" && p.What.Args[0].Split(", ").Length == 3);
    }

    [Fact]
    public void OneCableGivenTwiceAndDifferentlyIsRefused() =>
        Assert.Contains(
            PlanOf(Sheet("label|kind|run|length", "A-1|turret|R1|20", "A-2|turret|R1|30")).Problems,
            p => p is { Column: "length_m", What.Code: "cell.run-differs" }
        );

    private static RegisterEntry Device(string label, params (string Field, string Value)[] values)
    {
        var all = values.ToDictionary(v => v.Field, v => v.Value);
        all["label"] = label;
        all.TryAdd("run", label);
        all.TryAdd("cabinet", "K1");
        all.TryAdd("length_m", "20");
        return new RegisterEntry(Guid.NewGuid(), label, "ball", ImmutableHashSet.Create("camera", "cable", "poe"), all);
    }

    private static ImmutableArray<Finding> Findings(params RegisterEntry[] devices) =>
        RegisterFindings.Of(devices, new Dictionary<string, string?> { ["K1"] = null });

    [Fact]
    public void ASoundRegisterAgreesWithItself() =>
        Assert.Empty(
            Findings([
                .. Enumerable
                    .Range(1, 6)
                    .Select(n => Device($"A-{n}", ("port", $"{n}"), ("recorder", "N1"), ("channels", $"{n}"), ("address", $"10.0.0.{n}"))),
            ])
        );

    [Fact]
    public void DoublesSharedRunsAndHeadsWithoutAChannelAreNamed()
    {
        var found = Findings(
                Device(
                    "A-1",
                    ("port", "1"),
                    ("address", "10.0.0.1"),
                    ("hardware_address", "02:00:00:00:00:01"),
                    ("recorder", "N1"),
                    ("channels", "1")
                ),
                Device(
                    "A-2",
                    ("port", "1"),
                    ("address", "10.0.0.1"),
                    ("hardware_address", "02:00:00:00:00:01"),
                    ("recorder", "N1"),
                    ("channels", "1")
                ),
                Device("A-3", ("run", "A-4"), ("port", "4"), ("heads", "4"), ("recorder", "N1"), ("channels", "5 6")),
                Device("A-4", ("port", "4"))
            )
            .Select(f => f.What.Code)
            .ToHashSet();
        Assert.Superset(
            new HashSet<string>
            {
                "finding.double-port",
                "finding.double-address",
                "finding.double-hardware_address",
                "finding.double-channels",
                "finding.shared-run",
                "finding.head-without-channel",
                "finding.no-address",
            },
            found
        );
    }

    [Fact]
    public void TheFewThatStandOutOfOrderAreNamedAndNotTheMany()
    {
        var found = Findings([
            .. new[] { 1, 2, 9, 4, 5, 6 }.Select((port, i) => Device($"A-{i + 1}", ("port", $"{port}"), ("address", $"10.0.0.{i}"))),
        ]);
        var order = Assert.Single(found, f => f.What.Code == "finding.port-order");
        Assert.Equal("A-3 (9)", order.What.Args[1]);
        Assert.Single(order.Devices);
        Assert.DoesNotContain(
            Findings([
                .. new[] { 6, 1, 5, 2, 4, 3 }.Select((port, i) => Device($"A-{i + 1}", ("port", $"{port}"), ("address", $"10.0.0.{i}"))),
            ]),
            f => f.What.Code == "finding.port-order"
        );
    }

    [Fact]
    public void ALongestRiseRisesAndNothingLongerDoes() =>
        Gen.Int[0, 12]
            .List[0, 9]
            .Sample(numbers =>
            {
                var keep = RegisterFindings.LongestRise(numbers);
                var kept = keep.Order().Select(i => numbers[i]).ToList();
                Assert.Equal(kept.Distinct().Order(), kept);
                var best = Enumerable
                    .Range(0, 1 << numbers.Count)
                    .Select(mask => numbers.Where((_, i) => (mask >> i & 1) == 1).ToList())
                    .Where(s => s.Zip(s.Skip(1)).All(p => p.First < p.Second))
                    .Max(s => s.Count);
                Assert.Equal(best, keep.Count);
            });

    [Fact]
    public void LabelsAreOrderedAsPeopleCount()
    {
        Assert.Equal(
            ["CC-1", "CC-2", "CC-02b", "CC-10", "DD-1"],
            new[] { "DD-1", "CC-10", "CC-02b", "CC-2", "CC-1" }.Order(NaturalOrder.Instance)
        );
        Gen.String[0, 8]
            .Array[3]
            .Sample(s =>
                Assert.True(
                    NaturalOrder.Instance.Compare(s[0], s[1]) > 0
                        || NaturalOrder.Instance.Compare(s[1], s[2]) > 0
                        || NaturalOrder.Instance.Compare(s[0], s[2]) <= 0
                )
            );
    }

    [Fact]
    public void TwoPointsGiveScaleAndPlace()
    {
        var at = PlanScale.FromTwoPoints(100, 100, 400, 500, 50, 10, 20);
        Assert.Equal(new PlanPosition(0.1, 0, 10), at);
        Assert.Equal("plan.apart", Assert.Throws<BadInputException>(() => PlanScale.FromTwoPoints(1, 1, 3, 3, 50)).Field);
        Assert.Throws<BadInputException>(() => PlanScale.FromTwoPoints(0, 0, 300, 0, double.NaN));
        Gen.Select(Gen.Double[0, 4000], Gen.Double[0, 4000], Gen.Double[0.5, 900])
            .Where(g => Math.Abs(g.Item1) + Math.Abs(g.Item2) > 20)
            .Sample(
                (x, y, metres) =>
                {
                    var p = PlanScale.FromTwoPoints(0, 0, x, y, metres);
                    Assert.Equal(metres, Math.Sqrt(x * x + y * y) * p.MetresPerPixel, 6);
                }
            );
    }
}
