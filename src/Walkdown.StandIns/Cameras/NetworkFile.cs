using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Catalogues;

namespace Walkdown.StandIns.Cameras;

/// <summary>The hidden state of the simulated network: what is not said of a camera is as the schedule plans it.</summary>
public sealed record NetworkFile(
    NetworkFile.AsMade Factory,
    NetworkFile.Login Site,
    string Gateway,
    Dictionary<string, NetworkFile.Odd> Cameras,
    NetworkFile.Stranger[]? Strangers = null,
    LeaseServerTruth[]? LeaseServers = null
)
{
    public sealed record AsMade(string Address, string User, string Password);

    public sealed record Login(string User, string Password);

    /// <summary>What is odd about one camera.</summary>
    public sealed record Odd(
        string? Address = null,
        int? Prefix = null,
        string? Gateway = null,
        string? Name = null,
        string? Firmware = null,
        string? Serial = null,
        string? Mac = null,
        string? Password = null,
        bool AsMade = false,
        bool KeepsFactoryLogin = false,
        bool Leases = false,
        string? AddressAfterStart = null,
        bool? Discoverable = null,
        int MissesSearches = 0,
        bool Dead = false,
        double DelayMs = 0,
        double ClockAheadSeconds = 0,
        bool? Ntp = null,
        bool AsksInMessage = false,
        bool SettingsAfterStart = false,
        string[]? Refuses = null,
        string? AnnouncesHost = null,
        string? SendsCodec = null,
        int? Port = null,
        string? Note = null
    );

    public sealed record Stranger(
        string Label,
        string Address,
        string Mac,
        string Serial,
        string Model,
        string Name,
        string Firmware,
        string Cabinet = "",
        int Port = 0,
        string? Note = null
    );

    /// <summary>What the recorders have in their lists otherwise than the schedule says.</summary>
    public static NetworkFile Read(string json) => JsonSerializer.Deserialize<NetworkFile>(json, CoreJson.Options)!;

    /// <summary>The cameras of a schedule as they truly are.</summary>
    public IEnumerable<CameraTruth> Of(IEnumerable<IReadOnlyDictionary<string, string>> schedule)
    {
        foreach (var row in schedule.Where(r => r.GetValueOrDefault("address", "").Length > 0))
        {
            var label = row["label"];
            var odd = Cameras.GetValueOrDefault(label) ?? new Odd();
            var serial = odd.Serial ?? row.GetValueOrDefault("serial", "");
            var own = new Dictionary<string, string> { [Site.User] = odd.Password ?? PasswordOf(serial) };
            var factory = new Dictionary<string, string> { [Factory.User] = Factory.Password };
            yield return new CameraTruth
            {
                Label = label,
                IsCamera = !NoCameras.Contains(row.GetValueOrDefault("kind", "")),
                Address = odd.AsMade ? Factory.Address : odd.Address ?? row["address"],
                Prefix = odd.Prefix ?? 24,
                Gateway = odd.AsMade ? "" : odd.Gateway ?? Gateway,
                Mac = odd.Mac ?? row.GetValueOrDefault("hardware_address", ""),
                Serial = serial,
                Model = row.GetValueOrDefault("model", ""),
                Firmware = odd.Firmware ?? Firmwares.Value.GetValueOrDefault(row.GetValueOrDefault("model", "")) ?? "3.4.1",
                Name = odd.AsMade ? "CAMERA" : odd.Name ?? label,
                Leases = odd.Leases,
                AddressAfterStart = odd.AddressAfterStart,
                Discoverable = odd.Discoverable ?? true,
                MissesSearches = odd.MissesSearches,
                Dead = odd.Dead,
                DelayMs = odd.DelayMs,
                ClockAheadSeconds = odd.ClockAheadSeconds,
                Ntp = odd.Ntp ?? !odd.AsMade,
                AsksInMessage = odd.AsksInMessage,
                SettingsAfterStart = odd.SettingsAfterStart,
                Refuses = odd.Refuses ?? [],
                AnnouncesHost = odd.AnnouncesHost,
                SendsCodec = odd.SendsCodec,
                Heads = int.TryParse(row.GetValueOrDefault("heads", ""), out var heads) ? Math.Max(1, heads) : 1,
                Cabinet = Cabinet(row),
                Port = odd.Port ?? (int.TryParse(row.GetValueOrDefault("port", ""), out var port) ? port : 0),
                Logins =
                    odd.AsMade ? factory
                    : odd.KeepsFactoryLogin ? own.Concat(factory).ToDictionary()
                    : own,
                Note = odd.Note,
            };
        }
        foreach (var stranger in Strangers ?? [])
            yield return new CameraTruth
            {
                Label = stranger.Label,
                Address = stranger.Address,
                Mac = stranger.Mac,
                Serial = stranger.Serial,
                Model = stranger.Model,
                Name = stranger.Name,
                Firmware = stranger.Firmware,
                Cabinet = stranger.Cabinet,
                Port = stranger.Port,
                Note = stranger.Note,
                Gateway = Gateway,
            };
    }

    private static string Cabinet(IReadOnlyDictionary<string, string> row) =>
        $"{row.GetValueOrDefault("cabinet", "")} {row.GetValueOrDefault("switch", "")}".Trim();

    /// <summary>What the site's login of a unit is, in the simulated world.</summary>
    public string PasswordOf(string serial) => Site.Password.Replace("{serial}", serial, StringComparison.Ordinal);

    private static readonly Lazy<Dictionary<string, string?>> Firmwares = new(() =>
        Catalogue
            .Shipped.SelectMany(f => JsonSerializer.Deserialize<CatalogueFile>(f.Json, Catalogue.Json)!.Models)
            .ToDictionary(m => m.Id, m => m.Firmware)
    );

    private static readonly string[] NoCameras =
    [
        "recorder",
        "radio-recorder",
        "switch",
        "router",
        "bridge",
        "cloud-bridge",
        "access-point",
    ];
}
