using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Power;

namespace Walkdown.Server.Power;

/// <param name="Ports">Priority and role of ports that change.</param>
/// <param name="By">Who changes them; not needed for a trial.</param>
public sealed record SourceRequest(SourceFigures Figures, ImmutableArray<PortChange>? Ports = null, Guid? By = null, string? Why = null)
    : Core.Entries.IAsked
{
    Guid Core.Entries.IAsked.By => By ?? Guid.Empty;
}

public sealed record PortChange(Guid PortId, PortPriority Priority, bool Uplink);
