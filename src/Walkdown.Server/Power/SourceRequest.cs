using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Power;

namespace Walkdown.Server.Power;

/// <param name="Ports">Priority and role of ports that change.</param>
/// <param name="By">Who changes them; not needed for a trial.</param>
/// <param name="More">Cameras that are not on record and only tried; never kept.</param>
public sealed record SourceRequest(
    SourceFigures Figures,
    ImmutableArray<PortChange>? Ports = null,
    Guid? By = null,
    string? Why = null,
    ImmutableArray<MoreCamera>? More = null
) : Core.Entries.IAsked
{
    Guid Core.Entries.IAsked.By => By ?? Guid.Empty;
}

public sealed record PortChange(Guid PortId, PortPriority Priority, bool Uplink);
