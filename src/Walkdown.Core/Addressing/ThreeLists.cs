using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>The three lists that devices stand in.</summary>
public enum DeviceList
{
    /// <summary>What should be there.</summary>
    Planned,

    /// <summary>What answered on the network.</summary>
    Found,

    /// <summary>What a recorder has taken in.</summary>
    Registered,
}

/// <summary>What one device is known by in two lists, the surest first.</summary>
public enum DeviceKey
{
    /// <summary>Its hardware address.</summary>
    Mac,

    /// <summary>Its serial number.</summary>
    Serial,

    /// <summary>Its address on the network.</summary>
    Address,
}

/// <summary>How a device stands in the three lists.</summary>
public enum ListClass
{
    /// <summary>As it should be.</summary>
    InAllThree,

    /// <summary>It answers, and no recorder has it.</summary>
    NotRegistered,

    /// <summary>A recorder has it, and it does not answer.</summary>
    NotFoundOnNetwork,

    /// <summary>It stands in the plan alone.</summary>
    PlannedOnly,

    /// <summary>At its address answers another device.</summary>
    ReplacedDevice,

    /// <summary>It answers and a recorder has it, and nobody planned it.</summary>
    UnplannedRegistered,

    /// <summary>It answers, and nobody knows it.</summary>
    UnknownDevice,

    /// <summary>A recorder has what is neither planned nor there.</summary>
    StaleRegistration,
}

/// <summary>One device in one list.</summary>
/// <param name="Id">Its own within the list.</param>
/// <param name="Mac">As written; null, blank or unreadable: not known.</param>
/// <param name="Serial">Likewise; case and blanks around it do not matter.</param>
/// <param name="Address">Likewise.</param>
public sealed record ListedDevice(string Id, string? Mac, string? Serial, string? Address);

/// <summary>Holds what is planned, what was found and what is registered against each other (docs/calculations.md, H).</summary>
public static class ThreeLists
{
    private static readonly DeviceKey[] Keys = Enum.GetValues<DeviceKey>();

    /// <summary>Two lists name something otherwise.</summary>
    /// <param name="Field">What.</param>
    /// <param name="One">The list that stands first.</param>
    /// <param name="Other">The list that it is held against.</param>
    public readonly record struct Difference(DeviceKey Field, DeviceList One, DeviceList Other);

    /// <summary>One device, wherever it stands.</summary>
    /// <param name="Planned">Its id in the plan; null where it is not planned.</param>
    /// <param name="Found">Likewise of what answered.</param>
    /// <param name="Registered">Likewise of a recorder's.</param>
    /// <param name="FoundBy">What plan and network met by.</param>
    /// <param name="RegisteredBy">What the registered one was met by: from the plan, or where there is none from what was found.</param>
    /// <param name="ViaFound">The registered one was met by what the found one says, not by the plan.</param>
    /// <param name="Class">How it stands.</param>
    /// <param name="Differences">By field, then by pair of lists.</param>
    public sealed record Row(
        string? Planned,
        string? Found,
        string? Registered,
        DeviceKey? FoundBy,
        DeviceKey? RegisteredBy,
        bool ViaFound,
        ListClass Class,
        ImmutableArray<Difference> Differences
    );

    /// <summary>A value that stands twice in one list, and therefore tells nothing apart.</summary>
    /// <param name="List">Which.</param>
    /// <param name="Key">What.</param>
    /// <param name="Value">As it is compared.</param>
    /// <param name="Ids">Who has it, in the order of the list.</param>
    public sealed record Ambiguous(DeviceList List, DeviceKey Key, string Value, ImmutableArray<string> Ids);

    /// <param name="Rows">Planned ones in their order, then what was only found, then what is only registered.</param>
    /// <param name="AmbiguousKeys">Values that were not used.</param>
    public sealed record Result(ImmutableArray<Row> Rows, ImmutableArray<Ambiguous> AmbiguousKeys);

    /// <summary>Reconciles. Each device stands in one row, and each row holds at most one of each list.</summary>
    /// <exception cref="BadInputException">An id stands twice in a list.</exception>
    public static Result Of(IReadOnlyList<ListedDevice> planned, IReadOnlyList<ListedDevice> found, IReadOnlyList<ListedDevice> registered)
    {
        var values = new Values();
        Side p = new(DeviceList.Planned, planned, values),
            f = new(DeviceList.Found, found, values),
            r = new(DeviceList.Registered, registered, values);
        foreach (var side in (Side[])[p, f, r])
            side.Index(values);
        var toFound = new Match[planned.Count];
        var toRegistered = new Match[planned.Count];
        Meet(p, f, toFound);
        Meet(p, r, toRegistered);
        foreach (var key in Keys)
            for (var i = 0; i < planned.Count; i++)
                if (toFound[i].Other is { } partner && toRegistered[i].Other is null && f.Alone(key, partner) is { } value)
                    toRegistered[i] = r.Take(key, value, viaFound: true);
        // What nobody planned, and yet answers and is recorded.
        var foundToRegistered = new Match[found.Count];
        foreach (var key in Keys)
            for (var i = 0; i < found.Count; i++)
                if (!f.Taken[i] && foundToRegistered[i].Other is null && f.Alone(key, i) is { } value)
                    foundToRegistered[i] = r.Take(key, value, viaFound: false);
        var rows = ImmutableArray.CreateBuilder<Row>(planned.Count);
        for (var i = 0; i < planned.Count; i++)
            rows.Add(Told(p, i, f, toFound[i], r, toRegistered[i]));
        for (var i = 0; i < found.Count; i++)
            if (!f.Taken[i])
                rows.Add(Told(p, null, f, new(i, null), r, foundToRegistered[i]));
        for (var i = 0; i < registered.Count; i++)
            if (!r.Taken[i])
                rows.Add(Told(p, null, f, default, r, new(i, null)));
        return new(rows.DrainToImmutable(), [.. p.Twice(), .. f.Twice(), .. r.Twice()]);
    }

    private static void Meet(Side one, Side other, Match[] matches)
    {
        foreach (var key in Keys)
            for (var i = 0; i < matches.Length; i++)
                if (matches[i].Other is null && one.Alone(key, i) is { } value)
                    matches[i] = other.Take(key, value, viaFound: false);
    }

    private static Row Told(Side p, int? plan, Side f, Match found, Side r, Match registered)
    {
        var replaced =
            plan is { } i
            && found is { By: DeviceKey.Address, Other: { } j }
            && p.Value(DeviceKey.Mac, i) is { } wanted
            && f.Value(DeviceKey.Mac, j) is { } there
            && wanted != there;
        var kind = (plan, found.Other, registered.Other) switch
        {
            (not null, not null, _) when replaced => ListClass.ReplacedDevice,
            (not null, not null, not null) => ListClass.InAllThree,
            (not null, not null, null) => ListClass.NotRegistered,
            (not null, null, not null) => ListClass.NotFoundOnNetwork,
            (not null, null, null) => ListClass.PlannedOnly,
            (null, not null, not null) => ListClass.UnplannedRegistered,
            (null, not null, null) => ListClass.UnknownDevice,
            _ => ListClass.StaleRegistration,
        };
        var differences = ImmutableArray.CreateBuilder<Difference>();
        foreach (var key in Keys)
        {
            int? a = plan is { } x ? p.Value(key, x) : null,
                b = found.Other is { } y ? f.Value(key, y) : null,
                c = registered.Other is { } z ? r.Value(key, z) : null;
            if (a is not null && b is not null && a != b)
                differences.Add(new(key, DeviceList.Planned, DeviceList.Found));
            if (a is not null && c is not null && a != c)
                differences.Add(new(key, DeviceList.Planned, DeviceList.Registered));
            if (b is not null && c is not null && b != c)
                differences.Add(new(key, DeviceList.Found, DeviceList.Registered));
        }
        return new(
            plan is { } at ? p.Id(at) : null,
            found.Other is { } met ? f.Id(met) : null,
            registered.Other is { } known ? r.Id(known) : null,
            found.By,
            registered.By,
            registered.ViaFound,
            kind,
            differences.DrainToImmutable()
        );
    }

    /// <summary>Whom one met in another list, and by what.</summary>
    private readonly record struct Match(int? Other, DeviceKey? By, bool ViaFound = false);

    /// <summary>
    /// Values of all lists as small numbers, alike for what is compared as alike: hardware addresses and addresses by their bits, serial
    /// numbers without blanks and case.
    /// </summary>
    private sealed class Values
    {
        private readonly Dictionary<ulong, int> _macs = [];
        private readonly Dictionary<string, int> _serials = new(StringComparer.OrdinalIgnoreCase);
        private readonly Dictionary<uint, int> _addresses = [];

        public int Count(DeviceKey key) =>
            key switch
            {
                DeviceKey.Mac => _macs.Count,
                DeviceKey.Serial => _serials.Count,
                _ => _addresses.Count,
            };

        /// <summary>-1: not known.</summary>
        public int Of(DeviceKey key, ListedDevice device) =>
            key switch
            {
                DeviceKey.Mac => HardwareAddress.Read(device.Mac) is { } mac ? Number(_macs, mac.Number) : -1,
                DeviceKey.Serial => string.IsNullOrWhiteSpace(device.Serial) ? -1 : Number(_serials, device.Serial.Trim()),
                _ => Ipv4Address.Read(device.Address) is { } address ? Number(_addresses, address.Number) : -1,
            };

        /// <summary>As it is told.</summary>
        public static string Text(DeviceKey key, ListedDevice device) =>
            key switch
            {
                DeviceKey.Mac => HardwareAddress.Read(device.Mac)!.Value.ToString(),
                DeviceKey.Serial => device.Serial!.Trim().ToUpperInvariant(),
                _ => Ipv4Address.Read(device.Address)!.Value.ToString(),
            };

        private static int Number<T>(Dictionary<T, int> numbers, T value)
            where T : notnull
        {
            if (!numbers.TryGetValue(value, out var number))
                numbers.Add(value, number = numbers.Count);
            return number;
        }
    }

    /// <summary>One list, its values as they are compared.</summary>
    private sealed class Side
    {
        private const int Nobody = -1,
            Several = -2;
        private readonly IReadOnlyList<ListedDevice> _devices;
        private readonly int[][] _values;

        /// <summary>Who alone has a value; made when the last list has been read.</summary>
        private int[][] _byValue = [];

        public Side(DeviceList list, IReadOnlyList<ListedDevice> devices, Values values)
        {
            if (devices.DistinctBy(d => d.Id).Count() != devices.Count)
                throw new BadInputException(BadInputReason.Inconsistent, Codes.Of(list) + ".id");
            _devices = devices;
            List = list;
            Taken = new bool[devices.Count];
            _values = [.. Keys.Select(k => devices.Select(d => values.Of(k, d)).ToArray())];
        }

        public DeviceList List { get; }

        public bool[] Taken { get; }

        /// <summary>Finds who alone has which value.</summary>
        /// <param name="values">Of all lists.</param>
        public void Index(Values values)
        {
            _byValue = [.. Keys.Select(k => Enumerable.Repeat(Nobody, values.Count(k)).ToArray())];
            foreach (var key in Keys)
                for (var i = 0; i < _devices.Count; i++)
                    if (Value(key, i) is { } value)
                        _byValue[(int)key][value] = _byValue[(int)key][value] == Nobody ? i : Several;
        }

        public IEnumerable<Ambiguous> Twice() =>
            Keys.SelectMany(key =>
                Enumerable
                    .Range(0, _devices.Count)
                    .Where(i => Value(key, i) is { } value && _byValue[(int)key][value] == Several)
                    .GroupBy(i => Value(key, i)!.Value)
                    .Select(g => new Ambiguous(List, key, Values.Text(key, _devices[g.First()]), [.. g.Select(i => _devices[i].Id)]))
                    .OrderBy(a => a.Value, StringComparer.Ordinal)
            );

        public string Id(int index) => _devices[index].Id;

        public int? Value(DeviceKey key, int index) => _values[(int)key][index] is >= 0 and var value ? value : null;

        /// <summary>The value, where nobody else in the list has it.</summary>
        public int? Alone(DeviceKey key, int index) => Value(key, index) is { } value && _byValue[(int)key][value] >= 0 ? value : null;

        /// <summary>Takes who alone has a value, where nobody took him before.</summary>
        public Match Take(DeviceKey key, int value, bool viaFound)
        {
            var index = _byValue[(int)key][value];
            if (index < 0 || Taken[index])
                return default;
            Taken[index] = true;
            return new(index, key, viaFound);
        }
    }
}
