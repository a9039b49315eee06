using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;
using System.Text;
using System.Xml;
using System.Xml.Linq;

namespace Walkdown.StandIns.Cameras;

/// <summary>
/// The simulated network of the site: each camera answers on its own loopback address (10.46.8.29 is 127.46.8.29), on ports that anybody
/// may open, and to searches that do not leave this machine. Two cameras on one address are one listener: one of them answers, until it
/// leaves.
/// </summary>
public sealed class FieldSite : IDisposable
{
    private readonly Lock _lock = new();
    private readonly Dictionary<string, CameraTruth> _cameras = new(StringComparer.OrdinalIgnoreCase);
    private readonly ConcurrentDictionary<string, int> _missed = new();
    private readonly Dictionary<string, List<TextServer>> _listening = [];
    private readonly ConcurrentDictionary<string, CameraServices> _services = new();
    private readonly CancellationTokenSource _over = new();
    private readonly Func<DateTimeOffset> _now;
    private readonly Dictionary<string, string> _answers = [];
    private Socket? _searches;

    private readonly int _shift;
    private readonly LeaseServers _leases;

    /// <param name="shift">What the low ports are shifted by; a site beside another has another.</param>
    /// <param name="pictures">What a head of a camera sees, so many pixels wide; null: nothing is drawn.</param>
    /// <param name="motors">Of its heads' lenses; null: none has one.</param>
    public FieldSite(
        IEnumerable<CameraTruth> cameras,
        Func<DateTimeOffset> now,
        int shift = 8000,
        IReadOnlyList<LeaseServerTruth>? leaseServers = null,
        Func<string, int, int, byte[]?>? pictures = null,
        ILensMotors? motors = null
    )
    {
        Motors = motors;
        _now = now;
        _pictures = pictures;
        _shift = shift;
        _leases = new LeaseServers(leaseServers ?? [], shift);
        Time = new TimeServer(IPAddress.Parse("127.46.8.1"), 123 + shift, now);
        foreach (var camera in cameras)
            _cameras[camera.Label] = camera;
    }

    private readonly Func<string, int, int, byte[]?>? _pictures;

    public DateTimeOffset Now => _now();

    /// <summary>What a head sees, as JPEG; null: there is no such head.</summary>
    public byte[]? Picture(string label, int head, int wide) => _pictures?.Invoke(label, head, wide);

    /// <summary>Motors of its heads' lenses; null: none has one.</summary>
    public ILensMotors? Motors { get; }

    /// <summary>Its server of time.</summary>
    public TimeServer Time { get; }

    private int Services => 80 + _shift;

    private int Streams => 554 + _shift;

    private IPEndPoint Group => new(IPAddress.Parse("239.255.255.250"), 3702 + _shift - 8000);

    /// <summary>Opens every address and answers searches.</summary>
    /// <returns>Why that cannot be; null: it can.</returns>
    public string? Open()
    {
        try
        {
            Listen();
            _searches = new Socket(AddressFamily.InterNetwork, SocketType.Dgram, ProtocolType.Udp);
            _searches.SetSocketOption(SocketOptionLevel.Socket, SocketOptionName.ReuseAddress, true);
            _searches.Bind(Group);
            _searches.SetSocketOption(
                SocketOptionLevel.IP,
                SocketOptionName.AddMembership,
                new MulticastOption(Group.Address, IPAddress.Loopback)
            );
            _ = Search();
            _leases.Open();
            Time.Open();
            return null;
        }
        catch (SocketException problem)
        {
            return problem.Message;
        }
    }

    /// <summary>What a switch has learned: who is plugged at it, and at its uplink everybody behind the others. Who has no power has sent
    /// nothing.</summary>
    /// <returns>Null: there is no such switch.</returns>
    public IReadOnlyList<(int Port, string Address)>? LearnedAt(string cabinet)
    {
        var live = All().Where(c => !c.Dead && c.Port > 0).Select(c => (c.Cabinet, c.Port, Address: c.Mac));
        var servers = _leases.All().Where(l => !l.Off && l.Port > 0).Select(l => (l.Cabinet, l.Port, Address: l.Mac));
        var all = live.Concat(servers).Where(l => l.Address.Length > 0).ToList();
        bool IsHere(string of) => of.Equals(cabinet, StringComparison.OrdinalIgnoreCase);
        var here = all.Where(l => IsHere(l.Cabinet)).Select(l => (l.Port, l.Address)).ToList();
        return here.Count == 0 ? null : [.. here, .. all.Where(l => !IsHere(l.Cabinet)).Select(l => (Uplink, l.Address))];
    }

    private const int Uplink = 28;

    public IReadOnlyList<LeaseServerTruth> LeaseServers() => _leases.All();

    public LeaseServerTruth? Unplug(string label) => _leases.Mend(label);

    public CameraTruth? Of(string label)
    {
        lock (_lock)
            return _cameras.GetValueOrDefault(label);
    }

    public IReadOnlyList<CameraTruth> All()
    {
        lock (_lock)
            return [.. _cameras.Values.OrderBy(c => c.Label, StringComparer.Ordinal)];
    }

    /// <summary>A setting that a camera was told: now, or after its next start.</summary>
    public void Change(string label, Func<CameraTruth, CameraTruth> change)
    {
        lock (_lock)
        {
            var was = _cameras[label];
            _cameras[label] = was.SettingsAfterStart
                ? was with
                {
                    Waiting = change(was.Waiting ?? was) with { Waiting = null },
                }
                : change(was);
        }
        Listen();
    }

    /// <summary>Counts what was wrong; who shows the right login is forgiven.</summary>
    public void Tried(string label, bool? right)
    {
        if (right is not { } shown)
            return;
        lock (_lock)
            _cameras[label] = _cameras[label] with { Failed = shown ? 0 : _cameras[label].Failed + 1 };
    }

    /// <summary>Starts a camera again: what waited holds, and a lease may be another.</summary>
    public void Restart(string label)
    {
        lock (_lock)
        {
            var was = _cameras[label];
            was = (was.Waiting ?? was) with { Waiting = null, Failed = 0 };
            _cameras[label] = was.AddressAfterStart is { } next ? was with { Address = next, AddressAfterStart = null } : was;
        }
        Listen();
    }

    /// <summary>What is planted on a camera is gone; it keeps what it was told.</summary>
    public CameraTruth? Mend(string label, Func<CameraTruth, CameraTruth> mend)
    {
        lock (_lock)
        {
            if (!_cameras.TryGetValue(label, out var was))
                return null;
            _cameras[label] = mend(was) with { Note = null };
        }
        Listen();
        return Of(label);
    }

    public void Dispose()
    {
        _over.Cancel();
        _searches?.Dispose();
        _leases.Dispose();
        Time.Dispose();
        lock (_lock)
            foreach (var server in _listening.Values.SelectMany(s => s))
                server.Dispose();
        _over.Dispose();
    }

    internal static IPAddress Loopback(string address) => IPAddress.Parse("127." + address[(address.IndexOf('.') + 1)..]);

    /// <summary>Opens addresses that a camera has now, and closes those that none has any more.</summary>
    private void Listen()
    {
        lock (_lock)
        {
            var wanted = _cameras.Values.Where(c => !c.Dead).Select(c => Loopback(c.Address).ToString()).ToHashSet();
            foreach (var gone in _listening.Keys.Except(wanted).ToList())
            {
                foreach (var server in _listening[gone])
                    server.Close();
                _listening.Remove(gone);
            }
            foreach (var address in wanted.Except(_listening.Keys.ToList()))
                _listening[address] =
                [
                    new TextServer(new(IPAddress.Parse(address), Services), (q, c) => At(address).Http(q, c)),
                    new TextServer(new(IPAddress.Parse(address), Streams), (q, c) => At(address).Rtsp(q, c)),
                ];
        }
    }

    /// <summary>Who answers at an address: of several, one after another.</summary>
    private CameraServices At(string loopback)
    {
        lock (_lock)
        {
            var there = _cameras
                .Values.Where(c => !c.Dead && Loopback(c.Address).ToString() == loopback)
                .Select(c => c.Label)
                .Order()
                .ToList();
            // Whoever asked last remembers who answered (RFC 826): it stays with him until he leaves.
            var label = _answers.GetValueOrDefault(loopback) is { } last && there.Contains(last) ? last : there.FirstOrDefault("");
            _answers[loopback] = label;
            return _services.GetOrAdd(label, l => new CameraServices(this, l));
        }
    }

    private async Task Search()
    {
        XNamespace envelope = "http://www.w3.org/2003/05/soap-envelope";
        XNamespace addressing = "http://schemas.xmlsoap.org/ws/2004/08/addressing";
        XNamespace discovery = "http://schemas.xmlsoap.org/ws/2005/04/discovery";
        var buffer = new byte[16 * 1024];
        while (!_over.IsCancellationRequested)
        {
            SocketReceiveFromResult heard;
            string? id;
            try
            {
                heard = await _searches!.ReceiveFromAsync(buffer, new IPEndPoint(IPAddress.Any, 0), _over.Token);
                using var reader = XmlReader.Create(new MemoryStream(buffer, 0, heard.ReceivedBytes));
                var root = XDocument.Load(reader).Root!;
                id = root.Descendants(discovery + "Probe").Any()
                    ? root.Descendants(addressing + "MessageID").FirstOrDefault()?.Value
                    : null;
            }
            catch (XmlException)
            {
                continue;
            }
            catch (Exception problem) when (problem is OperationCanceledException or SocketException or ObjectDisposedException)
            {
                return;
            }
            if (id is null || !IPAddress.IsLoopback(((IPEndPoint)heard.RemoteEndPoint).Address))
                continue;
            foreach (var camera in All().Where(c => c is { Dead: false, Discoverable: true, IsCamera: true }))
            {
                // The second datagram of one search asks nobody anew.
                if (
                    camera.MissesSearches > 0
                    && _missed.AddOrUpdate($"{camera.Label}", _ => 1, (_, n) => n + 1) <= camera.MissesSearches * 2
                )
                    continue;
                var node = camera.Mac.Replace(":", "", StringComparison.Ordinal).ToLowerInvariant();
                var match = new XElement(
                    envelope + "Envelope",
                    new XElement(
                        envelope + "Header",
                        new XElement(addressing + "RelatesTo", id),
                        new XElement(addressing + "Action", discovery.NamespaceName + "/ProbeMatches")
                    ),
                    new XElement(
                        envelope + "Body",
                        new XElement(
                            discovery + "ProbeMatches",
                            new XElement(
                                discovery + "ProbeMatch",
                                new XElement(
                                    addressing + "EndpointReference",
                                    new XElement(addressing + "Address", $"urn:uuid:4608a0c0-6d2e-11f0-8d17-{node}")
                                ),
                                new XElement(discovery + "Types", "dn:NetworkVideoTransmitter"),
                                new XElement(discovery + "Scopes", $"onvif://www.onvif.org/name/{Uri.EscapeDataString(camera.Name)}"),
                                new XElement(discovery + "XAddrs", $"http://{camera.Address}/onvif/device_service"),
                                new XElement(discovery + "MetadataVersion", "1")
                            )
                        )
                    )
                );
                try
                {
                    using var from = new Socket(AddressFamily.InterNetwork, SocketType.Dgram, ProtocolType.Udp);
                    from.Bind(new IPEndPoint(Loopback(camera.Address), 0));
                    await from.SendToAsync(Encoding.UTF8.GetBytes(match.ToString(SaveOptions.DisableFormatting)), heard.RemoteEndPoint);
                }
                catch (SocketException)
                {
                    // Whoever searched has gone.
                }
            }
        }
    }
}
