using Walkdown.Core.Measures;
using Walkdown.Core.Register;

namespace Walkdown.Core.Tests;

/// <summary>A schedule is read as a person would read it, or it asks.</summary>
public sealed class ImportReadingTests
{
    private static readonly Dictionary<string, string> Kinds = new()
    {
        ["turret"] = "turret",
        ["bullet"] = "bullet",
        ["cabinet"] = "cabinet",
    };
    private static readonly Dictionary<string, string> None = [];

    private static IReadOnlyList<IReadOnlyList<Cell>> Rows(params string[] lines) =>
        [.. lines.Select(l => (IReadOnlyList<Cell>)[.. l.Split('|').Select(c => new Cell(c.Trim()))])];

    private static SchedulePlan Plan(
        IReadOnlyList<IReadOnlyList<Cell>> rows,
        Func<SheetMapping, SheetMapping>? change = null,
        IReadOnlyDictionary<int, RowOddity>? odd = null
    ) => SchedulePlan.Of(rows, (change ?? (m => m))(HeadingMatch.Propose(rows, None, None)), Kinds, Facts.Shipped.Records, odd);

    [Theory]
    [InlineData("7", null, null, "7")]
    [InlineData("07", null, null, "07")]
    [InlineData("7.0", null, null, "7")]
    [InlineData("Port 7", null, null, "7")]
    [InlineData("P7", null, null, "7")]
    [InlineData("port-07", null, null, "07")]
    [InlineData("Port 7 / Switch 2", null, "Switch 2", "7")]
    [InlineData("Switch 2 / Port 7", null, "Switch 2", "7")]
    [InlineData("SW2 P7", null, "SW2", "7")]
    [InlineData("SW2/7", null, "SW2", "7")]
    [InlineData("Gi1/0/7", null, "Gi1/0", "7")]
    [InlineData("GigabitEthernet1/0/7", null, "GigabitEthernet1/0", "7")]
    [InlineData("Te 1/1/3", null, "Te 1/1", "3")]
    [InlineData("ge-0/0/7", null, "ge-0/0", "7")]
    [InlineData("eth7", null, null, "7")]
    [InlineData("1/7", null, "1", "7")]
    [InlineData("2/0/48", null, "2/0", "48")]
    [InlineData("K3/7", "K3", null, "7")]
    [InlineData("K3-7", "K3", null, "7")]
    [InlineData("K3 port 7", "K3", null, "7")]
    [InlineData("N-1:12", "N-1", null, "12")]
    [InlineData("Comms Room 1 port 7", "Comms Room 1", null, "7")]
    [InlineData("K3 SW2 P7", "K3", "SW2", "7")]
    [InlineData("Rack R4 port 9", "R4", null, "9")]
    [InlineData("Rack 4 port 9", "Rack 4", null, "9")]
    public void APortIsReadInTheFormsThatPeopleWrite(string text, string? cabinet, string? onSwitch, string port) =>
        Assert.Equal(new PortParts(cabinet, onSwitch, port), PortText.Read(new Cell(text)).Parts);

    [Theory]
    [InlineData("2026-07-01", "cell.port-date")]
    [InlineData("2026-07", "cell.port-date")]
    [InlineData("01-Jul", "cell.port-date")]
    [InlineData("Jul-01", "cell.port-date")]
    [InlineData("1.7.2026", "cell.port-date")]
    [InlineData("7-8", "cell.port-unclear")]
    [InlineData("7, 8", "cell.port-unclear")]
    [InlineData("Port", "cell.port-unclear")]
    [InlineData("Port Switch 2", "cell.port-unclear")]
    [InlineData("Port 7 Port 8", "cell.port-unclear")]
    [InlineData("1 7", "cell.port-unclear")]
    [InlineData("left hand", "cell.port-unclear")]
    public void WhatCouldBeADayOrPartedTwoWaysIsAskedOf(string text, string code)
    {
        var (parts, wrong) = PortText.Read(new Cell(text));
        Assert.Null(parts);
        Assert.Equal(code, wrong.What!.Code);
    }

    [Fact]
    public void ADayInAWorkbookIsNeverAPort() =>
        Assert.Equal("cell.port-date", PortText.Read(new Cell("2026-07-01", Odd: CellOddity.Date)).Wrong.What!.Code);

    [Fact]
    public void NoPortCellTakesLongHoweverItIsMade()
    {
        // Cubic in its length before: a letter, 100,000 blanks, a letter. Now it is too long to be looked at.
        foreach (
            var text in new[]
            {
                "a" + new string(' ', 100_000) + "b",
                new string('/', 100_000),
                string.Concat(Enumerable.Repeat("port ", 20_000)),
            }
        )
            Assert.Equal("cell.port-unclear", PortText.Read(new Cell(text)).Wrong.What!.Code);
    }

    [Fact]
    public void DittoMarksStandForTheRowAbove()
    {
        var plan = Plan(
            Rows(
                "Device ID | Type | Rack | Zone | Port",
                "V-01 | Turret | R1 | Pier | 1",
                "V-02 | Turret | \" | ditto | 2",
                "V-03 | Turret | \u3003 | as above | 3"
            )
        );
        Assert.Empty(plan.Problems);
        Assert.All(plan.Rows.Where(r => r.Kind == "turret"), r => Assert.Equal(("R1", "Pier"), (r["cabinet"], r["area"])));
        var own = Plan(Rows("Device ID | Type | Serial", "V-01 | Turret | A1", "V-02 | Turret | \""));
        Assert.Equal("cell.ditto-own", Assert.Single(own.Problems).What.Code);
        var first = Plan(Rows("Device ID | Type | Rack | Port", "V-01 | Turret | \" | 1"));
        Assert.Contains(first.Problems, p => p.What.Code == "cell.ditto-nothing");
    }

    [Fact]
    public void LinesThatAreNoDeviceArePassedOverAndSaid()
    {
        var plan = Plan(
            Rows(
                "Device ID | Type | Length | Zone",
                " | | m | ",
                "V-01 | Turret | 40 | Pier",
                "Page 1 of 2",
                "Device ID | Type | Length | Zone",
                "V-02 | Bullet | 50 | Pier",
                "Seite 2 von 2",
                "Total 2 cameras | | 90 |"
            ),
            m => m with { Defaults = m.Defaults.Add("kind", "turret") }
        );
        Assert.Empty(plan.Problems);
        Assert.Equal(["V-01", "V-02"], plan.Rows.Select(r => r.Label));
        Assert.All(plan.Rows, r => Assert.Equal("Pier", r["area"]));
        Assert.Equal(
            [(2, "passed.units"), (4, "passed.page"), (5, "passed.heading"), (7, "passed.page"), (8, "passed.total")],
            plan.Passed.Select(p => (p.Row, p.Why.Code))
        );
    }

    [Fact]
    public void ARowWithOnlyItsLabelIsADeviceAndNoArea()
    {
        var plan = Plan(Rows("Device ID | Type | Zone", "V-01 | Turret | Pier", "V-02 | | ", "V-03 | Turret | "));
        Assert.Equal((3, "kind"), (Assert.Single(plan.Problems).Row, plan.Problems[0].Column));
        Assert.Equal("Pier", plan.Rows.Single(r => r.Label == "V-03")["area"]);
        // A title stays one.
        var titled = Plan(Rows("Device ID | Type", "Level 2", "V-01 | Turret"));
        Assert.Equal("Level 2", Assert.Single(titled.Rows)["area"]);
        Assert.Equal("passed.title", Assert.Single(titled.Passed).Why.Code);
    }

    [Fact]
    public void SignsThatNobodySeesMakeNoOtherDevice()
    {
        var plan = Plan(
            Rows(
                "Device ID | Type | Rack | Port",
                "S-3\u200b | Turret | R1 | 1",
                "S-4 | Turret | R1\u2060 | 2",
                "\ufeffS-5 | Turret | R\u00ad1 | 3"
            )
        );
        Assert.Empty(plan.Problems);
        Assert.Equal(["S-3", "S-4", "S-5", "R1"], plan.Rows.Select(r => r.Label));
        Assert.Equal("cell.twice", Plan(Rows("Device ID | Type", "S-3 | Turret", "S-3\u200b | Turret")).Problems.Single().What.Code);
    }

    [Fact]
    public void WordsForKindsAreThoseOfDevices()
    {
        var rows = Rows(
            "Device ID | Type",
            "V-01 | Turret",
            "V-02 | \"",
            "Device ID | Type",
            "V-03 | Bullet",
            "V-04 | Turret",
            "Page 1 of 2"
        );
        Assert.Equal([("Turret", 2), ("Bullet", 1)], SchedulePlan.KindWords(rows, HeadingMatch.Propose(rows, None, None)));
    }

    [Fact]
    public void DoubledHeadingsAreBothKept()
    {
        var plan = Plan(Rows("Device ID | Type | Remarks | Remarks", "V-01 | Turret | asbestos register | use lift"));
        Assert.Equal(["asbestos register", "use lift"], plan.Rows[0].Notes.Values.Order());
    }

    [Fact]
    public void ARunningNumberIsNoLabelWhereThereIsOne()
    {
        IEnumerable<string?> FieldsOf(params string[] lines) => HeadingMatch.Propose(Rows(lines), None, None).Columns.Select(c => c.Field);
        Assert.Equal([null, "label", "kind"], FieldsOf("No | Device ID | Type", "1 | V-01 | Turret", "2 | V-02 | Turret"));
        Assert.Equal(["name", "label", "kind"], FieldsOf("Camera | Camera No | Type", "North gate | V-01 | Turret"));
        Assert.Equal([null, "label", "kind"], FieldsOf("No | Camera | Type", "1 | V-01 | Turret", "2 | V-02 | Turret"));
        Assert.Equal(["label", "kind"], FieldsOf("Camera | Type", "V-01 | Turret"));
        // What was chosen before for this client wins.
        Assert.Equal(
            "name",
            HeadingMatch
                .Propose(Rows("Camera | Type", "V-01 | Turret"), new Dictionary<string, string> { ["camera"] = "name" }, None)
                .Columns[0]
                .Field
        );
    }

    [Fact]
    public void HiddenStruckOutAndDeletedRowsAreAskedOf()
    {
        var rows = Rows(
            "Device ID | Type | Status",
            "V-01 | Turret | ",
            "V-02 | Turret | ",
            "V-03 | Turret | DELETED",
            "V-04 | Turret | entfällt",
            "V-05 | Turret | "
        );
        var odd = new Dictionary<int, RowOddity> { [1] = RowOddity.Hidden, [2] = RowOddity.StruckOut };
        var asked = Plan(rows, null, odd);
        Assert.Equal(
            [(2, "cell.row-hidden"), (3, "cell.row-struck"), (4, "cell.row-gone"), (5, "cell.row-gone")],
            asked.Problems.Select(p => (p.Row, p.What.Code))
        );
        Assert.All(asked.Problems, p => Assert.True(p.MayTake));
        var settled = Plan(rows, m => m with { LeftOut = [2, 4, 5], TakenAnyway = [3] }, odd);
        Assert.Empty(settled.Problems);
        Assert.Equal(["V-02", "V-05"], settled.Rows.Select(r => r.Label));
        Assert.Equal([2, 4, 5], settled.Passed.Select(p => p.Row));
    }

    [Fact]
    public void CellsThatAWorkbookDoesNotVouchForAreAskedOf()
    {
        IReadOnlyList<Cell> Row(Cell length) => [new("V-01"), new("Turret"), length];
        CellProblem Of(Cell cell) => Assert.Single(Plan([Rows("Device ID | Type | Length")[0], Row(cell)]).Problems);
        Assert.Equal("cell.no-result", Of(new("", Odd: CellOddity.NoResult)).What.Code);
        Assert.Equal("cell.error", Of(new("#REF!", Odd: CellOddity.Error)).What.Code);
        Assert.Equal("cell.date", Of(new("2026-07-01", Odd: CellOddity.Date)).What.Code);
    }

    [Theory]
    [InlineData("length_m", "10 feet", "3.048")]
    [InlineData("length_m", "88 mtr", "88")]
    [InlineData("length_m", "9'6\"", "2.896")]
    [InlineData("height_m", "9 ft 6 in", "2.896")]
    [InlineData("height_m", "4,2 mètres", "4.2")]
    [InlineData("power_class", "Class 3", "3")]
    [InlineData("power_class", "PoE class 4", "4")]
    [InlineData("power_class", "Klasse 2", "2")]
    [InlineData("channels", "12.0", "12")]
    [InlineData("channels", "Ch. 3-4", "3 4")]
    public void WhatIsClearToAPersonIsTaken(string field, string text, string value)
    {
        var read = CellText.Read(RegisterFields.Find(field)!, new Cell(text), DecimalSign.Unknown, Kinds);
        Assert.True(value == read.Value, $"{read.Value} {read.What?.Code} {string.Join(' ', read.What?.Args ?? [])}");
    }

    [Theory]
    [InlineData("\uff14\uff15")]
    [InlineData("\u0664\u0665")]
    public void DigitsOfOtherWritingsAreRefusedInWords(string text)
    {
        Assert.NotNull(QuantityText.Parse(text, Unit.Metre).Refused);
        Assert.NotNull(CellText.Read(RegisterFields.Find("length_m")!, new Cell(text), DecimalSign.Point, Kinds).What);
        Assert.NotNull(CellText.Read(RegisterFields.Find("channels")!, new Cell(text), DecimalSign.Point, Kinds).What);
        Assert.NotNull(PortText.Read(new Cell(text)).Wrong.What);
    }

    [Theory]
    [InlineData("Kameranummer | Standort | Gerätetyp | Schrank | Kabellänge", "label name kind cabinet length_m")]
    [InlineData("Numéro de caméra | Emplacement | Type de caméra | Baie | Longueur de câble", "label name kind cabinet length_m")]
    [InlineData("Número de cámara | Ubicación | Tipo de cámara | Armario | Longitud de cable", "label name kind cabinet length_m")]
    [InlineData("Numero telecamera | Posizione | Tipo telecamera | Armadio | Lunghezza cavo", "label name kind cabinet length_m")]
    [InlineData("Cameranummer | Locatie | Cameratype | Patchkast | Kabellengte", "label name kind cabinet length_m")]
    public void HeadingsAreKnownInFiveMoreLanguages(string headings, string fields) =>
        Assert.Equal(
            fields.Split(' '),
            HeadingMatch.Propose(Rows(headings, "V-01 | a | Turret | K1 | 40"), None, None).Columns.Select(c => c.Field)
        );

    [Fact]
    public void ACabinetInThePortAndAnotherInTheRowIsAskedOf()
    {
        Assert.Equal(
            "cell.port-cabinet",
            Plan(Rows("Device ID | Type | Rack | Port", "V-01 | Turret | K1 | K3/7")).Problems.Single(p => p.Column == "port").What.Code
        );
        Assert.Empty(Plan(Rows("Device ID | Type | Rack | Port", "V-01 | Turret | k3 | K3/7")).Problems);
        Assert.Equal(
            "cell.port-alone",
            Assert.Single(Plan(Rows("Device ID | Type | Port", "V-01 | Turret | Port 7 / Switch 2")).Problems).What.Code
        );
    }

    [Fact]
    public void TheCommonestScheduleIsTakenAsItComes()
    {
        var rows = Rows(
            "Cam No | Location | Camera type | Switch | Port | Cable (m) | IP",
            "P-01 | Quay north | Turret | SW-1 | 1 | 42 | 10.4.1.11",
            "P-02 | Quay south | Turret | SW-1 | 2 | 35.5 | 10.4.1.12",
            "P-03 | Roof | Turret | SW-2 | 2 | 51 m | 10.4.1.13"
        );
        Assert.Equal(
            ["label", "name", "kind", "switch", "port", "length_m", "address"],
            HeadingMatch.Propose(rows, None, None).Columns.Select(c => c.Field)
        );
        var plan = Plan(rows);
        Assert.Empty(plan.Problems);
        // A switch without a cabinet stands in one of its own name, which gets a row as any cabinet that is only named.
        Assert.Equal(
            ["SW-1", "SW-1", "SW-2"],
            plan.Rows.Where(r => r.Label.StartsWith("P-", StringComparison.Ordinal)).Select(r => r["cabinet"])
        );
        Assert.Equal(["SW-1", "SW-2"], plan.Rows.Where(r => r["kind"] == "cabinet").Select(r => r.Label).Order());
    }

    [Theory]
    [InlineData("C-101", "run")]
    [InlineData("1", "run")]
    [InlineData("0", "run")]
    [InlineData("42,5 m", "length_m")]
    [InlineData("141 ft", "length_m")]
    public void WhatStandsUnderCableSaysWhetherItIsNamesOrMetres(string value, string field) =>
        Assert.Equal(field, HeadingMatch.Propose(Rows("Label | Type | Cable", $"V-01 | Turret | {value}"), None, None).Columns[2].Field);
}
