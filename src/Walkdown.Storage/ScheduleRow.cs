using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogue;

namespace Walkdown.Storage;

/// <summary>One row of the schedule, read and checked by itself.</summary>
internal sealed partial record ScheduleRow
{
    public required int Row { get; init; }
    public required string Label { get; init; }
    public required string Name { get; init; }
    public required string Area { get; init; }
    public required string Kind { get; init; }
    public bool IsCabinet => Kind == "cabinet";
    public string Model { get; init; } = "";
    public string? Serial { get; init; }
    public string? HardwareAddress { get; init; }
    public string? Address { get; init; }
    public string? CabinetLabel { get; init; }
    public int? Port { get; init; }
    public double SourceVolts { get; init; }
    public int PortSpeedMbps { get; init; }
    public string? RecorderLabel { get; init; }
    public List<int> Channels { get; init; } = [];
    public int Heads { get; init; } = 1;
    public string? Run { get; init; }
    public LinkConfiguration Configuration { get; init; }
    public double LengthMetres { get; init; }
    public double GaugeAwg { get; init; }
    public ConductorMaterial Material { get; init; }
    public bool Screened { get; init; }
    public double? TemperatureC { get; init; }
    public double CordsMetres { get; init; }
    public double CordGaugeAwg { get; init; }
    public WiringScheme? Scheme { get; init; }
    public int? PowerClass { get; init; }
    public double? WattsInfraredOff { get; init; }
    public double? WattsInfraredOn { get; init; }
    public int? SpeedMbps { get; init; }
    public double? X { get; init; }
    public double? Y { get; init; }
    public double? HeightMetres { get; init; }
    public string Reach { get; init; } = "ground";
    public string Features { get; init; } = "";

    [GeneratedRegex("^([0-9A-F]{2}[:-]){5}[0-9A-F]{2}$", RegexOptions.IgnoreCase)]
    private static partial Regex HardwareAddressShape { get; }

    /// <summary>The row; what is wrong with it is added to the list, and it still takes part in what only shows between rows.</summary>
    public static ScheduleRow Of((int Row, Dictionary<string, string> Cells) from, Catalogue catalogue, List<ScheduleProblem> problems)
    {
        var cell = new Cells(from.Row, from.Cells, problems);
        string label = cell.Required("label", 40), name = cell.Required("name", 120), area = cell.Required("area", 60), kind = cell.Required("kind", 40);
        if (kind.Length > 0 && kind != "cabinet" && catalogue.Kind(kind) is null)
            cell.Problem("kind", $"'{kind}' is no device kind.", "Use one of: cabinet, " + string.Join(", ", catalogue.Kinds.Select(k => k.Id)) + ".");
        var run = cell.Text("run");
        var channels = new List<int>();
        foreach (var part in (cell.Text("channels") ?? "").Split([' ', '/'], StringSplitOptions.RemoveEmptyEntries))
        {
            if (int.TryParse(part, NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n is >= 1 and <= 1024) channels.Add(n);
            else cell.Problem("channels", $"'{part}' is no channel.", "Whole numbers from 1, parted by blanks: 7 8.");
        }
        var address = cell.Text("address");
        if (address is not null && (!IPAddress.TryParse(address, out var ip) || ip.ToString() != address || address.Count(c => c == '.') != 3)) cell.Problem("address", $"'{address}' is no IPv4 address.", "Four numbers from 0 to 255 with points, no leading zeros.");
        var mac = cell.Text("hardware_address");
        if (mac is not null && !HardwareAddressShape.IsMatch(mac)) cell.Problem("hardware_address", $"'{mac}' is no hardware address.", "Six pairs of digits 0 to F with colons.");
        var cabinet = cell.Text("cabinet");
        var port = cell.Whole("port", 1, 512);
        if (port is not null && cabinet is null) cell.Problem("cabinet", "A port without its cabinet.", "Name the cabinet that the port is in.");
        if (channels.Count > 0 && cell.Text("recorder") is null) cell.Problem("recorder", "A channel without its recorder.", "Name the recorder.");
        var heads = cell.Whole("heads", 1, 8) ?? 1;
        if (channels.Count > heads) cell.Problem("channels", $"{channels.Count} channels for {heads} heads.", "One channel a head, in order.");
        var row = new ScheduleRow
        {
            Row = from.Row, Label = label, Name = name, Area = area, Kind = kind, Model = cell.Text("model") ?? "", Serial = cell.Text("serial"), HardwareAddress = mac?.ToUpperInvariant().Replace('-', ':'),
            Address = address, CabinetLabel = cabinet, Port = port, SourceVolts = cell.Number("source_volts", 1, 120) ?? 54, PortSpeedMbps = cell.Speed("port_speed_mbps") ?? 1000,
            RecorderLabel = cell.Text("recorder"), Channels = channels, Heads = heads, Run = run,
            Configuration = cell.Word("configuration", ("permanent-link", LinkConfiguration.PermanentLink), ("channel", LinkConfiguration.Channel)) ?? LinkConfiguration.PermanentLink,
            LengthMetres = cell.Number("length_m", 0.1, 2000, run is not null) ?? 0, GaugeAwg = cell.Number("gauge_awg", 10, 40) ?? 24,
            Material = cell.Word("material", ("solid-copper", ConductorMaterial.SolidCopper), ("stranded-copper", ConductorMaterial.StrandedCopper), ("copper-clad-aluminium", ConductorMaterial.CopperCladAluminium)) ?? ConductorMaterial.SolidCopper,
            Screened = cell.Word("screened", ("yes", true), ("no", false)) ?? false, TemperatureC = cell.Number("temperature_c", -40, 75),
            CordsMetres = cell.Number("cords_m", 0, 100) ?? 0, CordGaugeAwg = cell.Number("cord_gauge_awg", 22, 28) ?? 24,
            Scheme = cell.Word("scheme", ("A", WiringScheme.T568A), ("B", WiringScheme.T568B)), PowerClass = cell.Whole("power_class", 0, 8),
            WattsInfraredOff = cell.Number("watts_infrared_off", 0, 90), WattsInfraredOn = cell.Number("watts_infrared_on", 0, 90), SpeedMbps = cell.Speed("speed_mbps"),
            X = cell.Number("x_m", -100_000, 100_000), Y = cell.Number("y_m", -100_000, 100_000), HeightMetres = cell.Number("height_m", 0, 200),
            Reach = cell.Word("reach", ("ground", "ground"), ("ladder", "ladder"), ("lift", "lift")) ?? "ground", Features = cell.Text("features") ?? "",
        };
        return row;
    }

    private sealed class Cells(int row, Dictionary<string, string> cells, List<ScheduleProblem> problems)
    {
        public void Problem(string column, string what, string mend) => problems.Add(new ScheduleProblem(row, column, what, mend));

        public string? Text(string column) => cells.TryGetValue(column, out var text) && text.Length > 0 ? text.Length <= 200 ? text : Cut(column, text) : null;

        private string Cut(string column, string text)
        {
            Problem(column, $"The cell has {text.Length} characters.", "At most 200.");
            return text[..200];
        }

        public string Required(string column, int most)
        {
            var text = Text(column);
            if (text is null) Problem(column, "The cell is empty.", $"Fill in the {column}.");
            else if (text.Length > most) Problem(column, $"'{text[..20]}\u2026' is too long.", $"At most {most} characters.");
            return text ?? "";
        }

        public double? Number(string column, double min, double max, bool required = false)
        {
            if (Text(column) is not { } text)
            {
                if (required) Problem(column, "The cell is empty.", "A run needs it.");
                return null;
            }
            if (!double.TryParse(text, NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var number) || !double.IsFinite(number))
                Problem(column, $"'{text}' is no number.", "Digits with a point, no unit: 62.5.");
            else if (number < min || number > max) Problem(column, $"{text} cannot be.", $"Between {min} and {max}.");
            else return number;
            return null;
        }

        public int? Whole(string column, int min, int max)
        {
            var number = Number(column, min, max);
            if (number is { } n && n != Math.Floor(n))
            {
                Problem(column, $"{n} is not whole.", "A whole number.");
                return null;
            }
            return (int?)number;
        }

        public int? Speed(string column)
        {
            var speed = Whole(column, 10, 10000);
            if (speed is { } s && !Walkdown.Core.Links.Negotiated.SpeedsMbps.Contains(s)) Problem(column, $"{s} is no speed.", "10, 100, 1000, 2500 or 10000.");
            return speed;
        }

        public T? Word<T>(string column, params (string Word, T Value)[] words) where T : struct
        {
            if (Text(column) is not { } text) return null;
            foreach (var (word, value) in words)
                if (string.Equals(word, text, StringComparison.OrdinalIgnoreCase)) return value;
            Problem(column, $"'{text}' is not known here.", "One of: " + string.Join(", ", words.Select(w => w.Word)) + ".");
            return null;
        }

        public string? Word(string column, params (string Word, string Value)[] words)
        {
            if (Text(column) is not { } text) return null;
            if (words.Any(w => w.Word == text)) return text;
            Problem(column, $"'{text}' is not known here.", "One of: " + string.Join(", ", words.Select(w => w.Word)) + ".");
            return null;
        }
    }
}
