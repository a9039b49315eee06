using System.Net.Sockets;
using Walkdown.Core.Addressing;
using Walkdown.Devices.Field;

namespace Walkdown.Devices.Discovery;

/// <summary>Looks which addresses of a range take a connection: so many at once, each no longer than is waited for.</summary>
public sealed class RangeScan(FieldNetwork network)
{
    /// <summary>Addresses of one scan at most: a network of /20.</summary>
    public const int MostAddresses = 4096;

    /// <summary>Asks all of them.</summary>
    /// <param name="ports">Tried one after another until one is open.</param>
    /// <param name="atOnce">As many at once.</param>
    /// <param name="patience">For one address and port.</param>
    /// <param name="progress">How many were asked.</param>
    /// <returns>Those that are open, with the port.</returns>
    public async Task<IReadOnlyList<(Ipv4Address Address, int Port)>> Ask(
        IReadOnlyCollection<Ipv4Address> addresses,
        IReadOnlyList<int> ports,
        int atOnce,
        TimeSpan patience,
        Action<int>? progress,
        CancellationToken cancel
    )
    {
        if (addresses.Count > MostAddresses)
            throw new FieldTrouble("asked.range-too-wide", Core.Measures.Message.Number(MostAddresses, 0));
        var open = new System.Collections.Concurrent.ConcurrentBag<(Ipv4Address, int)>();
        var done = 0;
        await Parallel.ForEachAsync(
            addresses,
            new ParallelOptions { MaxDegreeOfParallelism = atOnce, CancellationToken = cancel },
            async (address, stop) =>
            {
                foreach (var port in ports)
                    if (await Takes(address, port, patience, stop))
                    {
                        open.Add((address, port));
                        break;
                    }
                progress?.Invoke(Interlocked.Increment(ref done));
            }
        );
        return [.. open.OrderBy(o => o.Item1)];
    }

    private async Task<bool> Takes(Ipv4Address address, int port, TimeSpan patience, CancellationToken cancel)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(patience);
        using var socket = new Socket(AddressFamily.InterNetwork, SocketType.Stream, ProtocolType.Tcp);
        try
        {
            await socket.ConnectAsync(network.EndpointOf(address, port), limit.Token);
            return true;
        }
        catch (SocketException)
        {
            return false;
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return false;
        }
    }
}
