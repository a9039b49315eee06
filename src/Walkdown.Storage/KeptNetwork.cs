using System.Collections.Immutable;
using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Addressing;
using Walkdown.Core.Clocks;
using Walkdown.Core.Recording;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>What is kept of a job's network: its plan, and what the looks at it brought.</summary>
public static class KeptNetwork
{
    /// <summary>Keeps what a look brought, all or none.</summary>
    /// <param name="of">The way that was gone, or a recorder's label.</param>
    /// <param name="by">Who looked.</param>
    /// <param name="at">When the last answer was in.</param>
    public static Task<bool> KeepLooks(
        this Ledger ledger,
        Guid jobId,
        string of,
        string by,
        DateTimeOffset at,
        params (LookKind Kind, object Found)[] looks
    ) =>
        ledger.Change(
            jobId,
            "network",
            (db, _) =>
            {
                foreach (var (kind, found) in looks)
                    db.Add(
                        new NetworkLook
                        {
                            Id = Guid.CreateVersion7(),
                            JobId = jobId,
                            Kind = kind,
                            Of = of,
                            By = by.Length > 120 ? by[..120] : by,
                            At = at,
                            FoundJson = JsonSerializer.Serialize(found, found.GetType(), CoreJson.Options),
                        }
                    );
                return Task.FromResult((true, true));
            }
        );

    /// <summary>The plan of a job; null where nobody has made one.</summary>
    public static NetworkPlan? PlanOf(Job job) => Stored.Read<NetworkPlan>(job.NetworkJson);

    /// <summary>The devices of a look at the network; none where it is no such look or cannot be read.</summary>
    public static ImmutableArray<FoundDevice> Found(NetworkLook look) =>
        look.Kind == LookKind.Network ? Whole(Stored.Read<ImmutableArray<FoundDevice>?>(look.FoundJson)) : [];

    /// <summary>The lines of a recorder's list; none where it is no list or cannot be read.</summary>
    public static ImmutableArray<RegisteredDevice> Registered(NetworkLook look) =>
        look.Kind == LookKind.List ? Whole(Stored.Read<ImmutableArray<RegisteredDevice>?>(look.FoundJson)) : [];

    /// <summary>The addresses that were offered; none where it is no such look or cannot be read.</summary>
    public static ImmutableArray<LeaseOffer> Offers(NetworkLook look) =>
        look.Kind == LookKind.Leases ? Whole(Stored.Read<ImmutableArray<LeaseOffer>?>(look.FoundJson)) : [];

    /// <summary>What switches have learned; none where it is no such look or cannot be read.</summary>
    public static ImmutableArray<LearnedAddress> Learned(NetworkLook look) =>
        look.Kind == LookKind.Ports ? Whole(Stored.Read<ImmutableArray<LearnedAddress>?>(look.FoundJson)) : [];

    /// <summary>What a recorder said; null where it is no such look or cannot be read.</summary>
    public static RecorderReading? Recorder(NetworkLook look) =>
        look.Kind == LookKind.Recorder
        && Stored.Read<RecorderReading>(look.FoundJson) is { Disks.IsDefault: false, Channels.IsDefault: false } reading
            ? reading
            : null;

    /// <summary>Our clock against a server of time; null where it is no such look or cannot be read.</summary>
    public static ClockReference? Reference(NetworkLook look) =>
        look.Kind == LookKind.Clock ? Stored.Read<ClockReference>(look.FoundJson) : null;

    /// <summary>Events that were made; none where it is no such look or cannot be read.</summary>
    public static ImmutableArray<EventMade> Events(NetworkLook look) =>
        look.Kind == LookKind.Events ? Whole(Stored.Read<ImmutableArray<EventMade>?>(look.FoundJson)) : [];

    /// <summary>What clips prove; none where it is no such look or cannot be read.</summary>
    public static ImmutableArray<ProvenEvent> Proven(NetworkLook look) =>
        look.Kind == LookKind.Proofs ? Whole(Stored.Read<ImmutableArray<ProvenEvent>?>(look.FoundJson)) : [];

    private static ImmutableArray<T> Whole<T>(ImmutableArray<T>? read)
        where T : class => read is { IsDefault: false } list ? [.. list.Where(x => x is not null)] : [];
}
