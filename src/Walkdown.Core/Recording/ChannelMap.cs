using Walkdown.Core.Addressing;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>A channel as the register plans it.</summary>
/// <param name="Id">Of the channel.</param>
/// <param name="Number">From 1.</param>
/// <param name="Device">The place whose picture belongs here.</param>
/// <param name="Label">Of the place.</param>
/// <param name="Name">Of the place.</param>
/// <param name="Area">Of the place.</param>
/// <param name="Head">Which of its pictures, from 1.</param>
/// <param name="Heads">How many it has.</param>
/// <param name="Serial">Of the unit that hangs there; empty: not known.</param>
/// <param name="HardwareAddress">Likewise.</param>
/// <param name="Address">As planned; empty: none.</param>
/// <param name="IsPlates">It reads number plates.</param>
public sealed record PlannedChannel(
    Guid Id,
    int Number,
    Guid Device,
    string Label,
    string Name,
    string Area,
    int Head = 1,
    int Heads = 1,
    string Serial = "",
    string HardwareAddress = "",
    string Address = "",
    bool IsPlates = false
)
{
    /// <summary>A plate and the video beside it are of one moment only within this, seconds (practice).</summary>
    private const double PlatesSeconds = 1;

    /// <summary>So far may its clock be from its recorder's, seconds.</summary>
    /// <param name="limitSeconds">Where nothing asks for less.</param>
    public double ClockLimit(double limitSeconds) => IsPlates ? Math.Min(PlatesSeconds, limitSeconds) : limitSeconds;

    /// <summary>The place, with the head where there are several: "CC-04 head 2".</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public Message Said => Heads > 1 ? new("map.head", Message.Said(Label), Message.Number(Head)) : new("map.place", Message.Said(Label));
}

/// <summary>What a channel of a recorder is against the plan.</summary>
public enum ChannelFinding
{
    /// <summary>The planned device, by what it says of itself.</summary>
    AsPlanned,

    /// <summary>A device that is planned on another channel.</summary>
    Exchanged,

    /// <summary>The planned device, and another of its pictures.</summary>
    OtherHead,

    /// <summary>Its device stands on another channel already.</summary>
    Twice,

    /// <summary>A device that nobody planned, where another is planned.</summary>
    Stranger,

    /// <summary>Something where nothing is planned.</summary>
    Unplanned,

    /// <summary>Planned, and the recorder has nobody there.</summary>
    Missing,

    /// <summary>Somebody is there; neither serial number nor address tells who.</summary>
    Untold,
}

/// <summary>By what a device was told apart.</summary>
public enum KnownBy
{
    /// <summary>Its serial number.</summary>
    Serial,

    /// <summary>Its hardware address.</summary>
    HardwareAddress,

    /// <summary>The address that the recorder asks: whoever has it may be anybody.</summary>
    Address,
}

/// <summary>One channel, as it is planned and as it is.</summary>
/// <param name="Number">From 1.</param>
/// <param name="Finding">What it is.</param>
/// <param name="Planned">Null: nothing is planned here.</param>
/// <param name="Read">Null: the recorder does not tell of it.</param>
/// <param name="Carries">The planned channel whose picture arrives here; null: nobody knows.</param>
/// <param name="By">How that is known.</param>
/// <param name="NameDiffers">The recorder calls it neither by the label nor by the name of the place that is planned.</param>
/// <param name="NeedsHand">Something must be done about it, or looked at.</param>
public sealed record ChannelStanding(
    int Number,
    ChannelFinding Finding,
    PlannedChannel? Planned,
    RecorderChannel? Read,
    PlannedChannel? Carries,
    KnownBy? By,
    bool NameDiffers,
    bool NeedsHand
)
{
    /// <summary>Something must be done about it: as it stands against the plan, or by what its clips show.</summary>
    /// <param name="proof">Null: nobody has made an event.</param>
    public bool NeedsHandWith(ChannelProof? proof) => NeedsHand || proof?.IsProven == false || proof?.IsProvenAfter == false;
}

/// <summary>Two channels whose devices change places; one of them may have none.</summary>
/// <param name="A">The lower number.</param>
/// <param name="B">The higher.</param>
/// <param name="ToA">Label of what comes to the first; empty: nobody.</param>
/// <param name="ToB">Likewise.</param>
public sealed record ChannelExchange(int A, int B, string ToA, string ToB);

/// <summary>
/// The channels of a recorder against the plan, and the fewest exchanges that put them right. A device is told by its serial number, else
/// its hardware address, else the address that the recorder asks. Whether the picture is the view that was agreed, pictures tell.
/// </summary>
/// <param name="Channels">By number.</param>
/// <param name="Exchanges">In their order: each puts at least one channel right.</param>
public sealed record ChannelMap(ImmutableArray<ChannelStanding> Channels, ImmutableArray<ChannelExchange> Exchanges)
{
    /// <summary>Compares.</summary>
    /// <param name="planned">Of this recorder.</param>
    /// <param name="read">As the recorder tells.</param>
    public static ChannelMap Of(IReadOnlyCollection<PlannedChannel> planned, IReadOnlyCollection<RecorderChannel> read)
    {
        // What stands at two devices tells neither.
        var bySerial = Only(planned, p => Text(p.Serial));
        var byHardware = Only(planned, p => Addressing.HardwareAddress.Read(p.HardwareAddress)?.ToString());
        var byAddress = Only(planned, p => Ipv4Address.Read(p.Address)?.ToString());
        var views = planned.GroupBy(p => (p.Device, p.Head)).ToDictionary(g => g.Key, g => g.First());
        var plan = planned.GroupBy(p => p.Number).ToDictionary(g => g.Key, g => g.First());
        var told = read.Where(r => r.State != ChannelState.Empty).GroupBy(r => r.Number).ToDictionary(g => g.Key, g => g.First());

        (PlannedChannel? Of, KnownBy? By, bool Anybody) Who(RecorderChannel r)
        {
            var (device, by) =
                Text(r.Serial) is { } serial && bySerial.TryGetValue(serial, out var own) ? (own, KnownBy.Serial)
                : Addressing.HardwareAddress.Read(r.HardwareAddress)?.ToString() is { } mac && byHardware.TryGetValue(mac, out own)
                    ? (own, KnownBy.HardwareAddress)
                : Ipv4Address.Read(r.Address)?.ToString() is { } address && byAddress.TryGetValue(address, out own) ? (own, KnownBy.Address)
                : ((PlannedChannel?)null, (KnownBy?)null);
            if (device is null)
                return (null, null, Text(r.Serial) is not null || Text(r.HardwareAddress) is not null || Text(r.Address) is not null);
            // Of several pictures only its number tells which; without it the one that is planned here may be another.
            var head = r.Input ?? (device.Heads == 1 ? 1 : 0);
            return (views.GetValueOrDefault((device.Device, head)), by, true);
        }

        var carried = told.ToDictionary(t => t.Key, t => Who(t.Value));
        // Who stands on two channels stands rightly on his own, else on the first.
        var seat = carried
            .Where(c => c.Value.Of is not null)
            .GroupBy(c => c.Value.Of!.Id)
            .ToDictionary(g => g.Key, g => g.OrderBy(c => c.Key != c.Value.Of!.Number).ThenBy(c => c.Key).First().Key);
        var rows = ImmutableArray.CreateBuilder<ChannelStanding>();
        var occupants = new SortedDictionary<int, PlannedChannel?>();
        foreach (var number in plan.Keys.Union(told.Keys).Order())
        {
            var (own, there) = (plan.GetValueOrDefault(number), told.GetValueOrDefault(number));
            var (of, by, isSomebody) = there is null ? (null, null, false) : carried[number];
            var twice = of is not null && seat[of.Id] != number;
            occupants[number] = twice ? null : of;
            var finding =
                there is null ? ChannelFinding.Missing
                : twice ? ChannelFinding.Twice
                : own is null ? ChannelFinding.Unplanned
                : of is not null
                    ? of.Id == own.Id ? ChannelFinding.AsPlanned
                        : of.Device == own.Device ? ChannelFinding.OtherHead
                        : ChannelFinding.Exchanged
                // A device of several heads that is known, and its head is not.
                : by is not null || !isSomebody ? ChannelFinding.Untold
                : ChannelFinding.Stranger;
            var differs = own is not null && there is { Name.Length: > 0 } && !IsName(there.Name, own);
            rows.Add(
                new(
                    number,
                    finding,
                    own,
                    there,
                    of,
                    by,
                    differs,
                    finding != ChannelFinding.AsPlanned || differs || there?.State == ChannelState.Offline || there?.IsKept == false
                )
            );
        }
        return new(rows.ToImmutable(), Fewest(occupants));
    }

    /// <summary>Whether a recorder's name of a channel is the place's: its label or its name, each with the head where there are
    /// several.</summary>
    public static bool IsName(string said, PlannedChannel planned)
    {
        bool Is(string own) =>
            own.Length > 0
            && (
                string.Equals(said.Trim(), own, StringComparison.OrdinalIgnoreCase)
                || planned.Heads > 1
                    && string.Equals(
                        said.Trim(),
                        string.Create(CultureInfo.InvariantCulture, $"{own} {planned.Head}"),
                        StringComparison.OrdinalIgnoreCase
                    )
            );
        return Is(planned.Label)
            || Is(planned.Name)
            || string.Equals(said.Trim(), $"{planned.Label} {planned.Name}", StringComparison.OrdinalIgnoreCase);
    }

    /// <summary>What a channel is to be called: the label, with the head where there are several.</summary>
    public static string NameOf(PlannedChannel planned) =>
        planned.Heads > 1 ? string.Create(CultureInfo.InvariantCulture, $"{planned.Label} {planned.Head}") : planned.Label;

    /// <summary>
    /// The fewest: every exchange brings one device to its channel, and the last of a ring brings two. So many are misplaced, less one for
    /// each closed ring.
    /// </summary>
    /// <param name="occupants">By channel, whose picture arrives there; null: nobody's.</param>
    public static ImmutableArray<ChannelExchange> Fewest(IReadOnlyDictionary<int, PlannedChannel?> occupants)
    {
        var now = occupants.ToDictionary();
        var result = ImmutableArray.CreateBuilder<ChannelExchange>();
        foreach (var at in occupants.Keys.Order())
            while (now[at] is { } here && here.Number != at)
            {
                var there = now.GetValueOrDefault(here.Number);
                // Two that are planned on one channel: neither can be brought there without driving the other out.
                if (there?.Number == here.Number)
                    break;
                (now[here.Number], now[at]) = (here, there);
                var (low, high) = at < here.Number ? (at, here.Number) : (here.Number, at);
                result.Add(new(low, high, Name(now[low]), Name(now[high])));
            }
        return result.ToImmutable();

        static string Name(PlannedChannel? of) => of is null ? "" : NameOf(of);
    }

    private static string? Text(string said) => said.Trim() is { Length: > 0 } own ? own.ToUpperInvariant() : null;

    private static Dictionary<string, PlannedChannel> Only(IEnumerable<PlannedChannel> planned, Func<PlannedChannel, string?> by) =>
        planned
            .Select(p => (Key: by(p), Of: p))
            .Where(p => p.Key is not null)
            .GroupBy(p => p.Key!)
            .Where(g => g.Select(p => p.Of.Device).Distinct().Count() == 1)
            .ToDictionary(g => g.Key, g => g.First().Of);
}

/// <summary>One channel as it should be set, with what stands there now.</summary>
/// <param name="Channel">Of the recorder.</param>
/// <param name="Name">That it should be called; null: it is.</param>
/// <param name="From">The channel whose device belongs here; null: the device stays.</param>
/// <param name="NameNow">As it is called.</param>
/// <param name="Carries">Whose picture arrives now; empty: nobody's that is known.</param>
/// <param name="Comes">Whose picture will arrive.</param>
public sealed record ProposedSetting(int Channel, string? Name, int? From, string NameNow, string Carries, string Comes)
{
    /// <summary>All that one writing to the recorder puts right. What it does not tell apart is left alone.</summary>
    public static ImmutableArray<ProposedSetting> Of(ChannelMap map)
    {
        var seats = map
            .Channels.Where(c => c.Carries is not null && c.Finding != ChannelFinding.Twice)
            .ToDictionary(c => c.Carries!.Id, c => c.Number);
        var result = ImmutableArray.CreateBuilder<ProposedSetting>();
        foreach (var c in map.Channels)
        {
            if (c is not { Planned: { } planned, Read: { } read })
                continue;
            var isSeated = seats.TryGetValue(planned.Id, out var seat);
            int? from = isSeated && seat != c.Number ? seat : null;
            // Who is not told apart is not called by a name that may be another's.
            var name = isSeated && (c.NameDiffers || read.Name.Length == 0) ? ChannelMap.NameOf(planned) : null;
            if (from is null && name is null)
                continue;
            var carries = c.Carries is { } now ? ChannelMap.NameOf(now) : "";
            result.Add(new(c.Number, name, from, read.Name, carries, from is null ? carries : ChannelMap.NameOf(planned)));
        }
        return result.ToImmutable();
    }

    /// <summary>Whether the chosen leave nobody without a channel: who moves in where somebody moves out needs the other's move,
    /// too.</summary>
    public static bool IsWhole(IReadOnlyCollection<ProposedSetting> chosen, IReadOnlyCollection<ProposedSetting> all)
    {
        var moves = chosen.Where(s => s.From is not null).Select(s => s.Channel).ToHashSet();
        var shouldMove = all.Where(s => s.From is not null).Select(s => s.Channel).ToHashSet();
        return chosen.All(s => s.From is not { } from || !shouldMove.Contains(from) || moves.Contains(from));
    }

    /// <summary>Those of which the recorder, read afterwards, does not say what was set.</summary>
    public static ImmutableArray<int> NotTaken(IEnumerable<ProposedSetting> set, ChannelMap after)
    {
        var now = after.Channels.ToDictionary(c => c.Number);
        return
        [
            .. set.Where(s =>
                    now.GetValueOrDefault(s.Channel) is not { Read: { } read } c
                    || s.Name is { } name && read.Name != name
                    || s.From is not null && c.Finding != ChannelFinding.AsPlanned
                )
                .Select(s => s.Channel),
        ];
    }
}
