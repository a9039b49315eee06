using System.Text.RegularExpressions;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>
/// Compares the register with itself (CAPABILITIES C01): doubles, orphans, shared runs, heads without a channel, and places where the order
/// of
/// labels, ports and channels disagrees.
/// </summary>
public static partial class RegisterFindings
{
    /// <summary>An order counts as meant when at least this share of a group keeps to it.</summary>
    private const double MeantShare = 0.7;

    [GeneratedRegex(@"\d+")]
    private static partial Regex Digits { get; }

    /// <summary>What contradicts itself in a register.</summary>
    public static ImmutableArray<Finding> Of(IReadOnlyList<RegisterEntry> devices, IReadOnlyDictionary<string, string?> cabinetFedFrom)
    {
        var findings = ImmutableArray.CreateBuilder<Finding>();
        var ordered = devices.OrderBy(d => d.Label, NaturalOrder.Instance).ToList();
        Doubles("serial", d => d["serial"]);
        Doubles("hardware_address", d => d["hardware_address"]);
        Doubles("address", d => d["address"]);
        Doubles("channels", d => d["recorder"], d => (d["channels"] ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries));
        foreach (var run in ordered.Where(d => d["run"] is not null).GroupBy(d => d["run"], Labels.Comparer).Where(g => g.Count() > 1))
            Add("finding.shared-run", "run", run, run.Key!, Names(run));
        foreach (
            var port in ordered
                .Where(d => d["port"] is not null)
                .GroupBy(PortName, Labels.Comparer)
                .Where(g => g.Select(d => d["run"]).Distinct().Count() > 1)
        )
            Add("finding.double-port", "port", port, port.Key, Names(port));
        Group("finding.no-run", "run", ordered.Where(d => d.Features.Contains("cable") && d["run"] is null));
        Group("finding.no-port", "port", ordered.Where(d => d["run"] is not null && d["port"] is null && d["supply"] is null));
        Group("finding.no-length", "length_m", ordered.Where(d => d["run"] is not null && d["length_m"] is null));
        Group(
            "finding.no-address",
            "address",
            ordered.Any(d => d["address"] is not null)
                ? ordered.Where(d => d.Features.Contains("camera") && !d.Features.Contains("coax") && d["address"] is null)
                : []
        );
        if (ordered.Any(d => d["channels"] is not null))
        {
            Group(
                "finding.head-without-channel",
                "channels",
                ordered.Where(d => d.Features.Contains("camera") && ChannelsOf(d).Length < Heads(d))
            );
            Group(
                "finding.recorder-without-channels",
                "recorder",
                ordered.Where(d => d.Features.Contains("recorder") && !ordered.Any(x => Labels.Same(x["recorder"], d.Label)))
            );
        }
        foreach (
            var cabinet in cabinetFedFrom.Keys.Where(c =>
                !ordered.Any(d => Labels.Same(d["cabinet"], c)) && !cabinetFedFrom.Values.Contains(c)
            )
        )
            findings.Add(new Finding(new("finding.cabinet-empty", cabinet), [], "cabinet"));
        if (Ring(cabinetFedFrom.Where(c => c.Value is not null).ToDictionary(c => c.Key, c => c.Value!)) is { } ring)
            findings.Add(new Finding(new("finding.ring", string.Join(", ", ring)), [], "cabinet"));
        foreach (var cabinet in ordered.Where(d => d["port"] is not null).GroupBy(d => $"{d["cabinet"]} {d["switch"]}".Trim()))
            OutOfOrder("finding.port-order", "port", cabinet.Key, [.. cabinet], d => int.Parse(d["port"]!, CultureInfo.InvariantCulture));
        foreach (var recorder in ordered.Where(d => d["recorder"] is not null && ChannelsOf(d).Length > 0).GroupBy(d => d["recorder"]!))
            OutOfOrder(
                "finding.channel-order",
                "channels",
                recorder.Key,
                [.. recorder],
                d => int.Parse(ChannelsOf(d)[0], CultureInfo.InvariantCulture)
            );
        RunNumbers();
        return findings.ToImmutable();

        void Add(string code, string field, IEnumerable<RegisterEntry> whom, params ImmutableArray<string> args) =>
            findings.Add(new Finding(new Message(code, args), [.. whom.Select(d => d.Id)], field));

        void Group(string code, string field, IEnumerable<RegisterEntry> whom)
        {
            var list = whom.ToList();
            if (list.Count > 0)
                Add(list.Count == 1 ? code + ".one" : code, field, list, Names(list), list.Count.ToString(CultureInfo.InvariantCulture));
        }

        void Doubles(string field, Func<RegisterEntry, string?> of, Func<RegisterEntry, string[]>? parts = null)
        {
            var keyed = ordered
                .Where(d => of(d) is not null)
                .SelectMany(d => parts is null ? [(Key: of(d)!, Device: d)] : parts(d).Select(p => (Key: $"{of(d)} {p}", Device: d)));
            foreach (var group in keyed.GroupBy(k => k.Key, k => k.Device, Labels.Comparer).Where(g => g.Count() > 1))
                Add($"finding.double-{field}", field, group, group.Key, Names(group));
        }

        void OutOfOrder(string code, string field, string group, List<RegisterEntry> members, Func<RegisterEntry, int> number)
        {
            // Compared within one family of labels: gate cameras may well sit above workshop cameras.
            foreach (var family in members.GroupBy(d => Digits.Replace(d.Label, "#")).Where(g => g.Count() >= 4))
            {
                var list = family.ToList();
                var keep = LongestRise([.. list.Select(number)]);
                if (keep.Count == list.Count || keep.Count < MeantShare * list.Count)
                    continue;
                var odd = list.Where((_, i) => !keep.Contains(i)).ToList();
                Add(code, field, odd, group, string.Join(", ", odd.Select(d => $"{d.Label} ({number(d)})")));
            }
        }

        void RunNumbers()
        {
            var named = ordered.Where(d => d["run"] is not null && Number(d.Label) is not null && Number(d["run"]!) is not null).ToList();
            var odd = named.Where(d => Number(d.Label) != Number(d["run"]!)).ToList();
            if (odd.Count > 0 && named.Count - odd.Count >= MeantShare * named.Count)
                Add("finding.run-number", "run", odd, string.Join(", ", odd.Select(d => $"{d.Label} ({d["run"]})")));
        }
    }

    /// <summary>The labels of a ring in which each is fed from the next; null where there is none.</summary>
    public static ImmutableArray<string>? Ring(IReadOnlyDictionary<string, string> fedFrom)
    {
        var settled = new HashSet<string>(Labels.Comparer);
        foreach (var start in fedFrom.Keys)
        {
            var path = new List<string>();
            for (var at = start; settled.Add(at) || path.Contains(at, Labels.Comparer); at = fedFrom[at])
            {
                var seen = path.FindIndex(p => Labels.Same(p, at));
                if (seen >= 0)
                    return [.. path.Skip(seen)];
                path.Add(at);
                if (!fedFrom.ContainsKey(at))
                    break;
            }
        }
        return null;
    }

    /// <summary>Indices of a longest strictly rising subsequence: the fewest that stand in the way are what is left.</summary>
    public static IReadOnlySet<int> LongestRise(IReadOnlyList<int> numbers)
    {
        var tails = new List<int>();
        var before = new int[numbers.Count];
        for (var i = 0; i < numbers.Count; i++)
        {
            int low = 0,
                high = tails.Count;
            while (low < high)
            {
                var middle = (low + high) / 2;
                if (numbers[tails[middle]] < numbers[i])
                    low = middle + 1;
                else
                    high = middle;
            }
            before[i] = low > 0 ? tails[low - 1] : -1;
            if (low == tails.Count)
                tails.Add(i);
            else
                tails[low] = i;
        }
        var keep = new HashSet<int>();
        for (var i = tails.Count > 0 ? tails[^1] : -1; i >= 0; i = before[i])
            keep.Add(i);
        return keep;
    }

    private static string PortName(RegisterEntry d) =>
        d["switch"] is { } s ? $"{d["cabinet"]} {s} port {d["port"]}" : $"{d["cabinet"]} port {d["port"]}";

    private static string[] ChannelsOf(RegisterEntry d) => (d["channels"] ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries);

    private static int Heads(RegisterEntry d) => d["heads"] is { } n ? int.Parse(n, CultureInfo.InvariantCulture) : 1;

    private static long? Number(string label) =>
        Digits.Match(label) is { Success: true, Value.Length: < 12 } m ? long.Parse(m.Value, CultureInfo.InvariantCulture) : null;

    private static string Names(IEnumerable<RegisterEntry> devices)
    {
        var labels = devices.Select(d => d.Label).ToList();
        return labels.Count <= 8 ? string.Join(", ", labels) : string.Join(", ", labels.Take(7)) + $", +{labels.Count - 7}";
    }
}
