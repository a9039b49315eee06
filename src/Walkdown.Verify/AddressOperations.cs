using Walkdown.Core.Addressing;
using Walkdown.Core.Measures;

namespace Walkdown.Verify;

/// <summary>Topic H, IPv4: names and shapes only.</summary>
internal static class AddressOperations
{
    public static readonly IReadOnlyDictionary<string, Operations.Operation> All = new Dictionary<string, Operations.Operation>
    {
        ["address_kind"] = i => new { kind = Words.Of(Ipv4Address.KindOf(i.Text("address"))) },
        ["subnet_info"] = SubnetInfo,
        ["mac_check"] = i =>
        {
            var odd = HardwareAddress.Check(i.OptionalText("mac"));
            var canonical = HardwareAddress.Read(i.OptionalText("mac"))?.ToString();
            return new
            {
                valid = canonical is not null,
                canonical,
                findings = odd.Select(f => Words.Of(f)).ToArray(),
            };
        },
        ["audit"] = Audit,
        ["allocate"] = Allocate,
        ["reconcile"] = Reconcile,
    };

    private static object SubnetInfo(CaseInput i)
    {
        var address = Ipv4Address.Parse(i.Text("address"), "address");
        var subnet = Subnet.Around(address, i.Whole("prefix"));
        return new
        {
            mask = subnet.Mask.ToString(),
            network = subnet.Network.ToString(),
            broadcast = subnet.Broadcast?.ToString(),
            first_host = subnet.FirstHost.ToString(),
            last_host = subnet.LastHost.ToString(),
            usable_hosts = subnet.UsableHosts,
            is_network_address = subnet.IsNetworkAddress(address),
            is_broadcast_address = subnet.IsBroadcastAddress(address),
        };
    }

    private static object Audit(CaseInput i)
    {
        var subnet = Subnet.Parse(i.Text("subnet"));
        var result = AddressAudit.Of(
            subnet,
            i.OptionalText("gateway") is { } gateway ? Ipv4Address.Parse(gateway, "gateway") : null,
            [
                .. i.List("devices")
                    .Select(d => new AuditedDevice(
                        d.Text("id"),
                        d.OptionalText("address"),
                        d.OptionalText("mask"),
                        d.OptionalText("gateway"),
                        d.OptionalText("mac"),
                        d.Flag("fixed", true)
                    )),
            ],
            Pool(i),
            i.Has("factory_addresses") ? i.Raw("factory_addresses").EnumerateArray().Select(a => a.GetString() ?? "") : []
        );
        return new
        {
            expected_mask = subnet.Mask.ToString(),
            general_findings = result.Network.Select(f => Words.Of(f)).ToArray(),
            devices = result.Devices.Select(d => new { id = d.Id, findings = d.Findings.Select(f => Words.Of(f)).ToArray() }).ToArray(),
            devices_with_findings = result.Devices.Count(d => !d.Findings.IsEmpty),
        };
    }

    private static AddressRange? Pool(CaseInput i) => i.Has("dynamic_pool") ? Range(i.Group("dynamic_pool"), "dynamic_pool") : null;

    private static AddressRange Range(CaseInput range, string field) =>
        AddressRange.Parse(range.OptionalText("first"), range.OptionalText("last"), field);

    private static object Allocate(CaseInput i)
    {
        var gateway = i.OptionalText("gateway");
        var result = AddressAllocation.Of(
            new(
                Subnet.Parse(i.Text("subnet")),
                string.IsNullOrWhiteSpace(gateway) ? null : Ipv4Address.Parse(gateway, "gateway"),
                i.Whole("first_host_offset"),
                [.. i.List("reserved").Select(r => Range(r, "reserved"))],
                i.OptionalWhole("gap_every") ?? 0,
                i.OptionalWhole("gap_size") ?? 0,
                Pool(i),
                i.Has("already_used")
                    ? [.. i.Raw("already_used").EnumerateArray().Select(a => Ipv4Address.Parse(a.GetString(), "already_used"))]
                    : []
            ),
            [.. i.List("walk_order").Select(d => new AddressAllocation.Device(d.Text("id"), d.OptionalText("address")))]
        );
        return new
        {
            assigned = result.Assigned.Select(a => new { id = a.Id, address = a.Address }).ToArray(),
            unassigned = result.Unassigned,
            verdict = result.Unassigned.IsEmpty ? "ok" : "subnet_full",
        };
    }

    private static object Reconcile(CaseInput i)
    {
        ListedDevice[] List(string name) =>
            [
                .. i.List(name)
                    .Select(d => new ListedDevice(
                        d.Text("id"),
                        d.OptionalText("mac"),
                        d.OptionalText("serial"),
                        d.OptionalText("address")
                    )),
            ];
        var result = ThreeLists.Of(List("planned"), List("found"), List("registered"));
        return new
        {
            rows = result
                .Rows.Select(r => new
                {
                    planned_id = r.Planned,
                    found_id = r.Found,
                    registered_id = r.Registered,
                    found_key = Key(r.FoundBy),
                    registered_key = Key(r.RegisteredBy) is { } key && r.ViaFound ? key + "_via_found" : Key(r.RegisteredBy),
                    @class = Words.Of(r.Class),
                    differences = r.Differences.Select(d => $"{Words.Of(d.Field)}_{Words.Of(d.One)}_differs_{Words.Of(d.Other)}").ToArray(),
                })
                .ToArray(),
            ambiguous_keys = result
                .AmbiguousKeys.Select(a => new
                {
                    list = Words.Of(a.List),
                    key = Words.Of(a.Key),
                    value = a.Value,
                    ids = a.Ids,
                })
                .ToArray(),
        };
    }

    private static string? Key(DeviceKey? key) => key is { } one ? Words.Of(one) : null;
}
