namespace Walkdown.StandIns.Cameras;

/// <summary>The motors that focus the heads of a site's cameras.</summary>
public interface ILensMotors
{
    /// <summary>Drives one to a share of its travel, or asks it.</summary>
    /// <param name="to">Share of its travel; null: it stays.</param>
    /// <returns>Where it stands, and whether it still moves; null: it has none.</returns>
    (double At, bool IsMoving)? Motor(string label, int head, double? to);

    /// <summary>It takes no place: it can only be told to run, and does not say where it stands.</summary>
    bool OnlyRuns(string label, int head);

    /// <summary>Lets it run.</summary>
    /// <param name="speed">-1 to 1 of its quickest; 0: it stops.</param>
    void Run(string label, int head, double speed);
}
