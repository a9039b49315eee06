using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Globalization;
using Walkdown.Core.Addressing;
using Walkdown.Core.Measures;
using Walkdown.Devices.Field;

namespace Walkdown.Devices.Discovery;

/// <summary>Looks for devices on the network one way, and asks each that it finds what it is.</summary>
public sealed class NetworkSweep(FieldNetwork network, FieldHttp http, TimeProvider time, NetworkSweep.Pace pace)
{
    /// <summary>How long is waited, and how many are asked at once.</summary>
    /// <param name="Listen">For answers to a search.</param>
    /// <param name="Knock">For one address of a range to take a connection.</param>
    /// <param name="Patience">For one question to one device.</param>
    /// <param name="AtOnce">Devices that are asked at once.</param>
    /// <param name="KnocksAtOnce">Addresses that are tried at once.</param>
    public sealed record Pace(TimeSpan Listen, TimeSpan Knock, TimeSpan Patience, int AtOnce = 16, int KnocksAtOnce = 64)
    {
        /// <summary>For a network of cameras.</summary>
        public static Pace Usual => new(TimeSpan.FromSeconds(3), TimeSpan.FromMilliseconds(500), TimeSpan.FromSeconds(4));
    }

    /// <summary>A device that somebody names.</summary>
    /// <param name="Address">Of the site.</param>
    /// <param name="Port">Of its services; 0: the usual ones are tried.</param>
    /// <param name="Path">Of its device service; empty: the usual one.</param>
    /// <param name="Tls">Over TLS.</param>
    public sealed record Named(Ipv4Address Address, int Port = 0, string Path = "", bool Tls = false);

    /// <summary>What is looked for.</summary>
    /// <param name="Way">How.</param>
    /// <param name="Networks">That the site is known to have, its own first.</param>
    /// <param name="Range">Addresses that are tried; of the job's plan, confirmed by a person.</param>
    /// <param name="Names">Devices that somebody names.</param>
    /// <param name="LoginAt">The one login that is shown to who answers at an address, and whose hardware address may be known; null:
    /// none.</param>
    public sealed record Wanted(
        FoundBy Way,
        ImmutableArray<Ipv4Address> Networks,
        ImmutableArray<Ipv4Address> Range,
        ImmutableArray<Named> Names,
        Func<Ipv4Address, HardwareAddress?, FieldLogin?> LoginAt
    );

    private static readonly int[] UsualPorts = [80, 443];

    /// <summary>Looks.</summary>
    /// <param name="progress">Done, of.</param>
    /// <exception cref="FieldTrouble">This way cannot be gone at all.</exception>
    public async Task<ImmutableArray<FoundDevice>> Run(Wanted wanted, IProgress<(int Done, int Of)>? progress, CancellationToken cancel)
    {
        var doors = wanted.Way switch
        {
            FoundBy.Search or FoundBy.SearchAgain => await Searched(wanted, cancel),
            FoundBy.RangeScan or FoundBy.OtherNetwork => await Scanned(wanted, progress, cancel),
            _ =>
            [
                .. wanted.Names.Select(n => new Door(
                    n.Address,
                    n.Port == 0 ? (n.Tls ? 443 : 80) : n.Port,
                    n.Path,
                    n.Tls || n.Port == 443,
                    []
                )),
            ],
        };
        var found = new ConcurrentBag<FoundDevice>();
        var done = 0;
        progress?.Report((0, doors.Count));
        await Parallel.ForEachAsync(
            doors,
            new ParallelOptions { MaxDegreeOfParallelism = pace.AtOnce, CancellationToken = cancel },
            async (door, stop) =>
            {
                foreach (
                    var device in await Look(
                        door,
                        wanted.LoginAt(door.Address, door.Heard is [var one] ? NodeOf(one.Endpoint) : null),
                        stop
                    )
                )
                    found.Add(device with { By = [wanted.Way] });
                progress?.Report((Interlocked.Increment(ref done), doors.Count));
            }
        );
        return [.. found.OrderBy(f => Ipv4Address.Read(f.Address)).ThenBy(f => f.Key, StringComparer.Ordinal)];
    }

    /// <summary>Where somebody answers, and the names for themselves that were heard from there.</summary>
    private sealed record Door(Ipv4Address Address, int Port, string Path, bool Tls, ImmutableArray<SearchAnswer> Heard);

    private async Task<IReadOnlyCollection<Door>> Searched(Wanted wanted, CancellationToken cancel)
    {
        var answers = await new DeviceSearch(network).Ask(wanted.Networks, pace.Listen, null, cancel);
        return
        [
            .. answers
                .GroupBy(a => a.Address)
                .Select(g =>
                {
                    var url = g.SelectMany(a => a.ServiceUrls)
                        .Select(u => Uri.TryCreate(u, UriKind.Absolute, out var made) && made.Scheme is "http" or "https" ? made : null)
                        .OfType<Uri>()
                        .FirstOrDefault();
                    return new Door(g.Key, url?.Port ?? 80, url?.AbsolutePath ?? "", url?.Scheme == "https", [.. g]);
                }),
        ];
    }

    private async Task<IReadOnlyCollection<Door>> Scanned(Wanted wanted, IProgress<(int, int)>? progress, CancellationToken cancel)
    {
        var open = await new RangeScan(network).Ask(
            wanted.Range,
            UsualPorts,
            pace.KnocksAtOnce,
            pace.Knock,
            done => progress?.Report((done, wanted.Range.Length)),
            cancel
        );
        return [.. open.Select(o => new Door(o.Address, o.Port, "", o.Port == 443, []))];
    }

    /// <summary>Who is behind a door: one device, or several that answered a search from the same address.</summary>
    private async Task<IReadOnlyList<FoundDevice>> Look(Door door, FieldLogin? login, CancellationToken cancel)
    {
        var path = door.Path.Length > 0 ? door.Path : OnvifCamera.UsualPath;
        FoundDevice said;
        try
        {
            said = await new OnvifCamera(http, door.Address, door.Port, path, door.Tls, login, pace.Patience, time).Read(cancel);
            said = said with { Streams = await Described(door.Address, said.Streams, login, cancel) };
        }
        catch (FieldTrouble trouble)
        {
            said = new FoundDevice
            {
                Address = door.Address.ToString(),
                Port = door.Port,
                Path = door.Path,
                Tls = door.Tls,
                Trouble = trouble.Why,
            };
        }
        if (door.Heard.IsEmpty)
            return [said];
        var here = HardwareAddress.Read(said.HardwareAddress);
        // Who has told its hardware address is one of those that were heard; who has not, is the only one that was heard.
        var speaker =
            door.Heard.FirstOrDefault(h => here is not null && NodeOf(h.Endpoint) == here)
            ?? (door.Heard.Length == 1 ? door.Heard[0] : null);
        ImmutableArray<string> Others(SearchAnswer? but) =>
            [.. door.Heard.Where(h => h != but).Select(h => NodeOf(h.Endpoint)?.ToString() ?? h.Endpoint)];
        var hidden = new FoundDevice
        {
            Address = said.Address,
            Port = said.Port,
            Path = said.Path,
            Tls = said.Tls,
            // Nobody knows which of them refuses the login.
            Trouble = speaker is null ? said.Trouble ?? new Message("asked.two-answer") : new Message("asked.hidden-behind"),
        };
        return [.. door.Heard.Select(h => WithHeard(h == speaker ? said : hidden, h) with { Others = Others(h) })];
    }

    /// <summary>The first stream, which is recorded, with what it says of itself. What a camera promises is not always what it
    /// sends.</summary>
    private async Task<ImmutableArray<CameraStream>> Described(
        Ipv4Address address,
        ImmutableArray<CameraStream> streams,
        FieldLogin? login,
        CancellationToken cancel
    )
    {
        if (streams is not [{ StreamUrl.Length: > 0 } first, ..])
            return streams;
        try
        {
            var told = await new StreamQuestion(network).Ask(address, first.StreamUrl, login, pace.Patience, cancel);
            return streams.SetItem(0, first with { Described = CameraStream.Of(told.Codec, told.Wide, told.High) });
        }
        catch (FieldTrouble)
        {
            // A stream that says nothing of itself is looked at where streams are.
            return streams;
        }
    }

    /// <summary>With what a search told of it, where it did not tell better itself.</summary>
    private static FoundDevice WithHeard(FoundDevice device, SearchAnswer? heard) =>
        heard is null
            ? device
            : device with
            {
                Endpoint = heard.Endpoint,
                HardwareAddress = device.HardwareAddress ?? NodeOf(heard.Endpoint)?.ToString(),
                Name = device.Name ?? NameIn(heard.Scopes),
                AnnouncesElsewhere = device.AnnouncesElsewhere ?? Elsewhere(heard, device.Address),
            };

    private static string? Elsewhere(SearchAnswer heard, string address) =>
        heard
            .ServiceUrls.Select(u => Uri.TryCreate(u, UriKind.Absolute, out var url) ? url.Host : null)
            .FirstOrDefault(h => h is not null && Ipv4Address.Read(h) is not null && h != address);

    private static string? NameIn(ImmutableArray<string> scopes)
    {
        const string Name = "onvif://www.onvif.org/name/";
        var scope = scopes.FirstOrDefault(s => s.StartsWith(Name, StringComparison.OrdinalIgnoreCase));
        return scope is null || Soap.Short(Uri.UnescapeDataString(scope[Name.Length..]), 60) is not { Length: > 0 } name ? null : name;
    }

    /// <summary>The hardware address that a name by time carries (RFC 9562, version 1); null where it is another kind of name, or its node
    /// was made up.</summary>
    public static HardwareAddress? NodeOf(string endpoint)
    {
        const string Urn = "urn:uuid:";
        var text = endpoint.StartsWith(Urn, StringComparison.OrdinalIgnoreCase) ? endpoint[Urn.Length..] : endpoint;
        if (!Guid.TryParseExact(text, "D", out var id) || id.Version != 1)
            return null;
        var node = ulong.Parse(text[24..], NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture);
        return (node >> 40 & 1) == 0 ? new(node) : null;
    }
}
