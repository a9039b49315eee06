using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Walkdown.Core.Cabling;
using Walkdown.Core.Register;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>The register's row of one device, by column, in the register's notation.</summary>
public static class RegisterValues
{
    public static Dictionary<string, string> Of(Device d, InstalledUnit? unit, Run? run, int heads, IReadOnlyList<Channel> channels)
    {
        var v = new Dictionary<string, string>(32);
        void Put(string field, string? text)
        {
            if (!string.IsNullOrEmpty(text))
                v[field] = text;
        }

        void Number(string field, double? number) => Put(field, number?.ToString("R", CultureInfo.InvariantCulture));
        Put("label", d.Label);
        Put("name", d.Name);
        Put("area", d.Area.Name);
        Put("kind", d.Kind);
        Put("model", d.Model);
        Put("features", d.Features);
        Put("address", d.Address);
        Put("reach", d.Reach);
        Put("supply", d.Supply);
        Number("supply_m", d.SupplyMetres);
        Put("mount", d.Mount);
        Put("cable_entry", d.CableEntry);
        Number("power_class", d.PowerClass);
        Number("watts_infrared_off", d.WattsInfraredOff);
        Number("watts_infrared_on", d.WattsInfraredOn);
        Number("speed_mbps", d.SpeedMbps);
        Number("x_m", d.X);
        Number("y_m", d.Y);
        Number("height_m", d.HeightMetres);
        if (heads > 1)
            Number("heads", heads);
        Put("serial", unit?.Serial);
        Put("hardware_address", unit?.HardwareAddress);
        if (channels.Count > 0)
        {
            Put("recorder", channels[0].Recorder.Label);
            Put("channels", string.Join(' ', channels.OrderBy(c => c.Head.Number).Select(c => c.Number)));
        }
        if (run is null)
            return v;
        Put("run", run.Label);
        // What cannot be read is not there: whoever writes it changes it.
        if (!Damaged.Is(run.Configuration))
            Put("configuration", run.Configuration == LinkConfiguration.Channel ? "channel" : "permanent-link");
        if (!run.LengthAssumed)
            Number("length_m", run.LengthMetres);
        Number("gauge_awg", run.GaugeAwg);
        if (!Damaged.Is(run.Material))
            Put("material", Material(run.Material));
        Put("screened", run.Screened ? "yes" : "no");
        Number("temperature_c", run.TemperatureC);
        if (run.CordsMetres > 0)
            Number("cords_m", run.CordsMetres);
        if (run.CordsMetres > 0)
            Number("cord_gauge_awg", run.CordGaugeAwg);
        Put(
            "scheme",
            run.Scheme is { } s && !Damaged.Is(s)
                ? s == WiringScheme.T568A
                    ? "A"
                    : "B"
                : null
        );
        Put("path", run.Path);
        if (run.Ends.PortEndOf(d.Id)?.Port is not { } port)
            return v;
        Put("cabinet", port.Cabinet.Label);
        Put("switch", port.Switch);
        Number("port", port.Number);
        Number("source_volts", port.SourceVolts);
        Number("port_speed_mbps", port.SpeedMbps);
        return v;
    }

    /// <summary>Where a row is built otherwise than planned. What the plan does not say, and nobody changed, is no difference.</summary>
    public static ImmutableArray<PlanDifference> Differences(
        Device device,
        IReadOnlyDictionary<string, string> values,
        IEnumerable<RegisterChange> changes
    )
    {
        if (device.PlannedJson is null)
            return [];
        var planned = Read(device.PlannedJson);
        var last = changes.Where(c => c.AsBuilt).GroupBy(c => c.Field).ToDictionary(g => g.Key, g => g.Last());
        return
        [
            .. RegisterFields
                .All.Where(f => last.ContainsKey(f.Id))
                .Select(f => (f.Id, Was: planned.GetValueOrDefault(f.Id), Is: values.GetValueOrDefault(f.Id)))
                .Where(d => d.Was != d.Is && RegisterFields.IsDeviation(d.Id, d.Was))
                .Select(d => new PlanDifference(d.Id, d.Was, d.Is, last[d.Id].Why, last[d.Id].By, last[d.Id].At)),
        ];
    }

    /// <summary>Columns as they were kept; none where they cannot be read.</summary>
    public static ImmutableDictionary<string, string> Read(string? json)
    {
        try
        {
            return json is null
                ? ImmutableDictionary<string, string>.Empty
                : JsonSerializer
                    .Deserialize<ImmutableDictionary<string, string?>>(json)
                    ?.Where(v => v.Value is not null)
                    .ToImmutableDictionary(v => v.Key, v => v.Value!)
                    ?? ImmutableDictionary<string, string>.Empty;
        }
        catch (JsonException)
        {
            return ImmutableDictionary<string, string>.Empty;
        }
    }

    public static string Material(ConductorMaterial material) =>
        material switch
        {
            ConductorMaterial.StrandedCopper => "stranded-copper",
            ConductorMaterial.CopperCladAluminium => "copper-clad-aluminium",
            _ => "solid-copper",
        };
}
