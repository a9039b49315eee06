using System.Collections.Immutable;
using Walkdown.Core.Addressing;
using Walkdown.Core.Measures;

namespace Walkdown.Devices;

/// <summary>Which hardware addresses a switch has learned at which port (docs/formats.md, "Switch").</summary>
public sealed class SwitchTables(HttpClient http, TimeSpan patience)
{
    private sealed record Line(int Port, string Address);

    /// <summary>Asks one switch.</summary>
    /// <param name="cabinet">As the register names it.</param>
    /// <returns>What it has learned, or why there is nothing.</returns>
    public async Task<(ImmutableArray<LearnedAddress> Learned, Message? Trouble)> Ask(string cabinet, CancellationToken cancel)
    {
        var (lines, trouble) = await JsonTable.Get<Line>(http, $"switch/{Uri.EscapeDataString(cabinet)}/addresses", patience, cancel);
        if (lines.Any(l => l is not { Port: > 0 and < 100_000, Address.Length: > 0 and <= 40 }))
            (lines, trouble) = ([], TableTrouble.Nonsense);
        return (
            [.. lines.Select(l => new LearnedAddress(cabinet, l.Port, l.Address))],
            trouble switch
            {
                TableTrouble.None => null,
                TableTrouble.Unknown => new("ports.no-table", cabinet),
                TableTrouble.Silent => new("ports.silent", cabinet),
                _ => new("ports.nonsense", cabinet),
            }
        );
    }
}
