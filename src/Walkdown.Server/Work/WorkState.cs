namespace Walkdown.Server.Work;

/// <summary>How long work stands; what waits for its turn is running.</summary>
public enum WorkState
{
    Running,
    Done,
    Failed,
    Cancelled,
}
