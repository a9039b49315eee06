using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Reflection;
using System.Text.Json;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Addressing;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Clocks;
using Walkdown.Core.Entries;
using Walkdown.Core.Links;
using Walkdown.Core.Optics;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>
/// What a row of a bundle may hold: no more than the doors of the application let in. A bundle is a stranger's text, whoever sealed it.
/// </summary>
internal static class BundleRows
{
    public const int MostText = 4000,
        MostJson = 200_000,
        MostLook = 16_000_000;

    /// <summary>An installation's own order has room for as many entries; beyond, no next one could be numbered.</summary>
    public const long MostSequence = 1L << 40;

    private static readonly ConcurrentDictionary<Type, PropertyInfo[]> Properties = new();

    /// <summary>The column that cannot be, or null where the whole row can.</summary>
    /// <param name="now">Nothing was done later than a day from now: clocks differ, calendars do not.</param>
    public static string? Refuse(object row, Catalogue catalogue, DateTimeOffset now)
    {
        foreach (
            var property in Properties.GetOrAdd(
                row.GetType(),
                static type =>
                    [.. type.GetProperties().Where(p => p is { CanRead: true, CanWrite: true } && p.GetIndexParameters().Length == 0)]
            )
        )
        {
            switch (property.GetValue(row))
            {
                case string text
                    when text.Length
                        > (
                            row is NetworkLook && property.Name == nameof(NetworkLook.FoundJson) ? MostLook
                            : property.Name.EndsWith("Json", StringComparison.Ordinal) || property.Name == "Json" ? MostJson
                            : MostText
                        )
                        || text.Any(c => c < ' ' && c is not ('\n' or '\r' or '\t')):
                case double number when !(Math.Abs(number) <= 1e9):
                case DateTimeOffset at when at.Year < 2000 || at > now.AddDays(1):
                case DateOnly day when day.Year is < 1990 or > 2200:
                case byte[] { Length: > 64 }:
                case Enum word when !Enum.IsDefined(word.GetType(), word) && word is not Condition:
                case Condition under when ((int)under & ~0x1FF) != 0:
                    return property.Name;
                case long sequence when property.Name is "Sequence" or "UpTo" && sequence is < 0 or > MostSequence:
                    return property.Name;
                case null when property.PropertyType == typeof(string) && IsRequired(property):
                    return property.Name;
            }
        }
        return Own(row, catalogue);
    }

    private static readonly NullabilityInfoContext Nullability = new();

    private static bool IsRequired(PropertyInfo property)
    {
        lock (Nullability)
            return Nullability.Create(property).WriteState == NullabilityState.NotNull;
    }

    private static string? Own(object row, Catalogue catalogue) =>
        row switch
        {
            Job j => !Text(j.Name, 120) ? nameof(j.Name)
            : !SiteTime.IsKnown(j.TimeZone) ? nameof(j.TimeZone)
            : j.CoverJson is { } cover && !IsObject(cover) ? nameof(j.CoverJson)
            : j.NetworkJson is { } network && Read<NetworkPlan>(network) is null ? nameof(j.NetworkJson)
            : j.GroundJson is { } ground && (Read<SiteGround>(ground) is not { } drawn || drawn.Refuse() is not null) ? nameof(j.GroundJson)
            : null,
            Person p => !Text(p.Name, 80) ? nameof(p.Name)
            : p.Role.Length > 80 ? nameof(p.Role)
            : null,
            Area a => !Text(a.Name, 60) ? nameof(a.Name) : null,
            Cabinet c => !Text(c.Label, 60) ? nameof(c.Label)
            : c.Name.Length > 120 ? nameof(c.Name)
            : null,
            Port p => p.Number is < 0 or > 9999 ? nameof(p.Number)
            : p.Switch.Length > 60 ? nameof(p.Switch)
            : p.SourceVolts is not (> 0 and <= 120) ? nameof(p.SourceVolts)
            : !Negotiated.SpeedsMbps.Contains(p.SpeedMbps) ? nameof(p.SpeedMbps)
            : null,
            PowerSource s => s.Label.Length > 60 ? nameof(s.Label)
            : s.BudgetWatts is < 0 or > 20_000 ? nameof(s.BudgetWatts)
            : s.ReservePercent is < 0 or > 99 ? nameof(s.ReservePercent)
            : s.PortLimitWatts is <= 0 or > 200 ? nameof(s.PortLimitWatts)
            : s.Volts is <= 0 or > 60 ? nameof(s.Volts)
            : s.RegulationPercent is < 0 or > 100 ? nameof(s.RegulationPercent)
            : new[] { s.RatedAmperes, s.FuseAmperes, s.CableAmperes }.Any(a => a is <= 0 or > 500) ? nameof(s.RatedAmperes)
            : s.WireGaugeAwg is < 10 or > 40 ? nameof(s.WireGaugeAwg)
            : s.WireAreaMm2 is <= 0 or > 100 ? nameof(s.WireAreaMm2)
            : s.WireAreaMm2 is not null && s.WireGaugeAwg is not null ? nameof(s.WireAreaMm2)
            : s.TemperatureC is < -40 or > 75 ? nameof(s.TemperatureC)
            : null,
            Device d => !Text(d.Label, 60) ? nameof(d.Label)
            : d.Name.Length > 120 ? nameof(d.Name)
            : !Text(d.Kind, 60) ? nameof(d.Kind)
            : d.Model.Length > 80 ? nameof(d.Model)
            : d.PowerClass is < 0 or > 8 ? nameof(d.PowerClass)
            : d.WattsInfraredOff is <= 0 or > 1000 || d.WattsInfraredOn is <= 0 or > 1000 ? nameof(d.WattsInfraredOff)
            : d.SpeedMbps is { } speed && !Negotiated.SpeedsMbps.Contains(speed) ? nameof(d.SpeedMbps)
            : d.SupplyMetres is < 0 or > 2000 ? nameof(d.SupplyMetres)
            : d.Reach is not ("ground" or "ladder" or "lift") ? nameof(d.Reach)
            : d.HeightMetres is < -100 or > 1000 ? nameof(d.HeightMetres)
            : !IsColumns(d.PlannedJson) ? nameof(d.PlannedJson)
            : !IsColumns(d.NotesJson) ? nameof(d.NotesJson)
            : null,
            InstalledUnit u => u.Serial.Length > 60 ? nameof(u.Serial)
            : u.HardwareAddress?.Length > 20 ? nameof(u.HardwareAddress)
            : null,
            Installation i => i.Until <= i.From ? nameof(i.Until) : null,
            Head h => h.Number is < 1 or > 64 ? nameof(h.Number) : null,
            Channel c => c.Number is < 1 or > 1024 ? nameof(c.Number) : null,
            Run r => !Text(r.Label, 60) ? nameof(r.Label)
            : r.LengthMetres is not (>= 0 and <= 2000) ? nameof(r.LengthMetres)
            : r.GaugeAwg is not (>= 10 and <= 40) ? nameof(r.GaugeAwg)
            : r.CordsMetres is not (>= 0 and <= 200) ? nameof(r.CordsMetres)
            : r.CordGaugeAwg is not (>= 10 and <= 40) ? nameof(r.CordGaugeAwg)
            : r.TemperatureC is < -40 or > 75 ? nameof(r.TemperatureC)
            : r.PiecesJson is { } pieces
            && !(
                Read<System.Collections.Immutable.ImmutableArray<PathPiece>>(pieces) is { IsDefault: false } path
                && path.All(p => p is not null)
                && new RunPath(path).Problems().IsEmpty
            )
                ? nameof(r.PiecesJson)
            : null,
            PlanDrawing d => !IsHash(d.Hash) ? nameof(d.Hash)
            : d.MediaType is not ("image/svg+xml" or "image/png") ? nameof(d.MediaType)
            : d.WidthPixels is not (> 0 and <= 100_000) || d.HeightPixels is not (> 0 and <= 100_000) ? nameof(d.WidthPixels)
            : d.MetresPerPixel is <= 0 or > 1000 ? nameof(d.MetresPerPixel)
            : null,
            InstrumentRecord i => !Text(i.Name, 80) ? nameof(i.Name)
            : i.Serial.Length > 60 ? nameof(i.Serial)
            : CardFactsLoader.ToCore(i, []).Unreadable ? nameof(i.AccuracyJson)
            : i.CalibratedOn > i.CalibrationDue || i.CalibratedOn is null != i.CalibrationDue is null ? nameof(i.CalibrationDue)
            : null,
            ReadingRecord r => Value(r, catalogue)
                ?? (
                    r.SeenJson is { } seen && Read<LimitSeen>(seen) is null ? nameof(r.SeenJson)
                    : r.EvidenceJson is { } shown && !IsEvidence(shown) ? nameof(r.EvidenceJson)
                    : !(Math.Abs(r.ClockOffsetMs) <= 1e13) ? nameof(r.ClockOffsetMs)
                    : r.TakenAt > r.ReceivedAt.AddDays(1) ? nameof(r.TakenAt)
                    : null
                ),
            CardEventRecord e => e.ToCore() is var core && core is UnreadableEvent
            || core.At > DateTimeOffset.UtcNow.AddDays(1)
            || core.At.Year < 2000
                ? nameof(e.BodyJson)
                : null,
            Fault f => !Text(f.Title, 200) ? nameof(f.Title) : null,
            FaultStep s => !Text(s.Text, 2000) ? nameof(s.Text) : null,
            ObservationRecord o => o.Serial.Length > 60 ? nameof(o.Serial)
            : o.FoundJson is { } found && Read<FoundIdentity>(found) is null ? nameof(o.FoundJson)
            : Read<Dictionary<string, ReadingValue>>(o.ValuesJson) is null ? nameof(o.ValuesJson)
            : null,
            NetworkLook l => l.Of.Length > 60 ? nameof(l.Of)
            : l.By.Length > 120 ? nameof(l.By)
            : l.Kind == LookKind.Network && Read<ImmutableArray<FoundDevice>?>(l.FoundJson) is null ? nameof(l.FoundJson)
            : l.Kind == LookKind.Leases && Read<ImmutableArray<LeaseOffer>?>(l.FoundJson) is null ? nameof(l.FoundJson)
            : l.Kind == LookKind.Ports && Read<ImmutableArray<LearnedAddress>?>(l.FoundJson) is null ? nameof(l.FoundJson)
            : l.Kind == LookKind.List && Read<ImmutableArray<RegisteredDevice>?>(l.FoundJson) is null ? nameof(l.FoundJson)
            : null,
            Picture p => !IsHash(p.Hash) ? nameof(p.Hash)
            : !IsHash(p.ShownHash) ? nameof(p.ShownHash)
            : p.MediaType is not ("image/jpeg" or "image/png") ? nameof(p.MediaType)
            : p.Caption.Length > 200 ? nameof(p.Caption)
            : null,
            Erasure e => !Text(e.By, 120) ? nameof(e.By)
            : !Text(e.Reason, 400) ? nameof(e.Reason)
            : null,
            Revision r => r.File != $"{r.Id:N}.zip" ? nameof(r.File)
            : !IsHash(r.Hash) || r.PreviousHash is { } previous && !IsHash(previous) ? nameof(r.Hash)
            : !IsHash(r.Key) ? nameof(r.Key)
            : !IsObject(r.SummaryJson) ? nameof(r.SummaryJson)
            : null,
            _ => null,
        };

    /// <summary>A value that its check could have been given, where that check is known here.</summary>
    private static string? Value(ReadingRecord r, Catalogue catalogue) =>
        Read<ReadingValue>(r.ValueJson) is not { } value || value is UnreadableValue ? nameof(r.ValueJson)
        : catalogue.CheckById.TryGetValue(new CheckId(r.CheckId), out var check)
        && ReadingRules.Mismatch(check, value) is null
        && ReadingRules.Refuse(check, value) is not null
            ? nameof(r.ValueJson)
        : null;

    private static bool Text(string? text, int most) => !string.IsNullOrWhiteSpace(text) && text.Length <= most;

    private static bool IsEvidence(string json) =>
        Read<ReadingEvidence[]>(json) is { Length: <= EvidenceRequest.Most } all && all.All(e => e is not null && IsHash(e.PictureHash));

    public static bool IsHash(string? text) => text is { Length: 64 } && text.All(char.IsAsciiHexDigitLower);

    private static T? Read<T>(string json) => Stored.Read<T>(json);

    private static bool IsObject(string json)
    {
        try
        {
            using var document = JsonDocument.Parse(json);
            return document.RootElement.ValueKind == JsonValueKind.Object;
        }
        catch (JsonException)
        {
            return false;
        }
    }

    private static bool IsColumns(string? json) =>
        json is null || IsObject(json) && Stored.Read<Dictionary<string, string>>(json) is not null;
}

/// <summary>
/// Looks at the bytes of a table while they are hashed: no text and no row is longer than any that Walkdown writes, so that reading it row
/// by row holds one row and no more.
/// </summary>
internal struct RowGuard
{
    private const int MostString = 2 * BundleRows.MostJson * 6,
        MostRow = 4 * 1024 * 1024,
        MostDepth = 24;

    private bool _inString,
        _escaped;
    private int _string,
        _row,
        _depth;

    /// <returns>False where what is read cannot be rows.</returns>
    public bool Takes(ReadOnlySpan<byte> bytes)
    {
        foreach (var b in bytes)
        {
            _row++;
            if (_inString)
            {
                if (++_string > MostString)
                    return false;
                if (_escaped)
                    _escaped = false;
                else if (b == '\\')
                    _escaped = true;
                else if (b == '"')
                    _inString = false;
            }
            else if (b == '"')
                (_inString, _string) = (true, 0);
            else if (b is (byte)'{' or (byte)'[')
            {
                if (++_depth > MostDepth)
                    return false;
            }
            else if (b is (byte)'}' or (byte)']')
            {
                if (--_depth == 1)
                    _row = 0;
            }
            if (_row > MostRow)
                return false;
        }
        return true;
    }
}
