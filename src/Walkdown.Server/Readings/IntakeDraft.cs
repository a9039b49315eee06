using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Readings;

/// <summary>Proposed readings that nobody has taken yet.</summary>
internal sealed class IntakeDraft(Guid jobId, IntakeOrigin origin, string name, List<IntakeEntry> entries)
{
    public Guid JobId => jobId;
    public IntakeOrigin Origin => origin;
    public string Name => name;
    public List<IntakeEntry> Entries => entries;
    public Dictionary<string, Guid?> Assigned { get; } = [];
    public Guid? Instrument { get; set; }

    /// <summary>Somebody saw which serial numbers are not in the Kit, and said what read them.</summary>
    public bool Said { get; set; }
    public bool Taken { get; set; }
    public DateTime At { get; } = DateTime.UtcNow;

    /// <summary>One at a time changes it, takes it, or reads it while it is whole.</summary>
    public SemaphoreSlim One { get; } = new(1, 1);
}
