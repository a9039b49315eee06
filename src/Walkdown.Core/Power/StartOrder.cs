using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;

namespace Walkdown.Core.Power;

/// <summary>
/// The order in which a site is switched on, from its topology and the job's school (CAPABILITIES C35): what feeds comes before what is
/// fed. Cabinets go by their uplinks from the head end outward.
/// </summary>
public static class StartOrder
{
    /// <param name="switchFirst">Network before recorder and monitor; else the recorder is up before the first camera reports to
    /// it.</param>
    /// <param name="cabinets">The cabinets.</param>
    /// <param name="devices">The devices.</param>
    /// <param name="catalogue">What it is judged by.</param>
    public static ImmutableArray<StartStage> Of(
        IReadOnlyCollection<StartCabinet> cabinets,
        IReadOnlyCollection<StartDevice> devices,
        bool switchFirst,
        Catalogue catalogue
    )
    {
        ILookup<string, StartDevice> byRole = devices.ToLookup(d => RoleOf(d, catalogue));
        var stages = ImmutableArray.CreateBuilder<StartStage>();
        var inOrder = ByUplink(cabinets);
        if (!switchFirst)
            Add(StartStageKind.Recorders, null, byRole["recorder"]);
        foreach (var cabinet in inOrder)
        {
            // By the one school the network comes up alone and cameras last; by the other each cabinet brings its cameras.
            var here = switchFirst ? [] : byRole["camera"].Where(d => d.Cabinet == cabinet.Id);
            Add(StartStageKind.Cabinet, cabinet.Label, here, even: switchFirst);
        }
        if (switchFirst)
        {
            Add(StartStageKind.Recorders, null, byRole["recorder"]);
            Add(StartStageKind.Monitors, null, byRole["monitor"]);
            Add(StartStageKind.Cameras, null, byRole["camera"]);
        }
        else
        {
            var known = inOrder.Select(c => c.Id).ToHashSet();
            Add(StartStageKind.Cameras, null, byRole["camera"].Where(d => d.Cabinet is not { } at || !known.Contains(at)));
            Add(StartStageKind.Monitors, null, byRole["monitor"]);
        }
        return stages.ToImmutable();

        void Add(StartStageKind kind, string? cabinet, IEnumerable<StartDevice> some, bool even = false)
        {
            ImmutableArray<StartedDevice> started =
            [
                .. some.OrderBy(d => d.Label, NaturalOrder.Instance).Select(d => TimingOf(d, catalogue)),
            ];
            if (started.IsEmpty && !even)
                return;
            stages.Add(
                new StartStage(
                    kind,
                    cabinet,
                    started.IsEmpty ? null : started.Min(d => d.LeastSeconds),
                    started.IsEmpty ? null : started.Max(d => d.MostSeconds),
                    started
                )
            );
        }
    }

    private static StartedDevice TimingOf(StartDevice d, Catalogue catalogue)
    {
        var (least, most) = PowerLimits.BootOf(catalogue, d.Model);
        return new(
            d.Id,
            d.Label,
            least,
            most,
            d.Seconds,
            d.Seconds is not { } s ? StartTiming.NotTimed
                : s < least ? StartTiming.TooEarly
                : Decision.AtMost(s, most) ? StartTiming.InTime
                : StartTiming.TooLate
        );
    }

    private static string RoleOf(StartDevice d, Catalogue catalogue)
    {
        var features = catalogue.FeaturesOf(d.Kind, []);
        return features.Contains("recorder") ? "recorder"
            : features.Contains("monitor") ? "monitor"
            : features.Contains("camera") ? "camera"
            : "";
    }

    /// <summary>Cabinets from the head end outward; of one depth in the order of their labels. A ring, which the register refuses, would
    /// end where it began.</summary>
    private static List<StartCabinet> ByUplink(IReadOnlyCollection<StartCabinet> cabinets)
    {
        var byId = cabinets.ToDictionary(c => c.Id);
        return [.. cabinets.OrderBy(c => Depth(c)).ThenBy(c => c.Label, NaturalOrder.Instance)];

        int Depth(StartCabinet cabinet)
        {
            var depth = 0;
            while (cabinet.FedFrom is { } up && byId.TryGetValue(up, out var next) && depth <= byId.Count)
                (cabinet, depth) = (next, depth + 1);
            return depth;
        }
    }
}
