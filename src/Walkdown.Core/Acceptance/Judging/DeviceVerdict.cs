using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>
/// The Verdict of one Card, by rule (docs/calculations.md, P). Precedence: Refused, Open, Accepted with note, Accepted. Nobody overrules
/// it.
/// </summary>
public static class DeviceVerdict
{
    /// <summary>What came of one check.</summary>
    public enum CheckOutcome
    {
        /// <summary>In.</summary>
        In,

        /// <summary>Too close to tell.</summary>
        TooClose,

        /// <summary>Out.</summary>
        Out,

        /// <summary>Not done.</summary>
        NotDone,

        /// <summary>Not applicable.</summary>
        NotApplicable,
    }

    /// <summary>How a Fault stands.</summary>
    public enum FaultStanding
    {
        /// <summary>Open.</summary>
        Open,

        /// <summary>Closed by a later reading.</summary>
        Closed,

        /// <summary>Conceded by a named person.</summary>
        Conceded,
    }

    /// <param name="Reason">Why it is not applicable.</param>
    /// <param name="CalibrationOk">False where the instrument was out of calibration on the day.</param>
    /// <param name="ConcededBy">Null: no concession; blank: a concession that names nobody, which does not count.</param>
    /// <param name="RefusesIfOut">An optional check that is out refuses all the same, by its definition.</param>
    /// <param name="Id">Its id.</param>
    /// <param name="Required">It must be in before the Card can be accepted.</param>
    /// <param name="Outcome">What came of it.</param>
    public readonly record struct CheckLine(
        string Id,
        bool Required,
        CheckOutcome Outcome,
        string? Reason = null,
        bool CalibrationOk = true,
        string? ConcededBy = null,
        bool RefusesIfOut = false
    );

    /// <summary>A Fault as the Verdict counts it.</summary>
    public readonly record struct FaultLine(string Id, Severity Severity, FaultStanding State, string? ConcededBy = null);

    /// <summary>The verdict with the lines it rests on, in input order, checks before faults.</summary>
    public sealed record Result(
        Verdict Verdict,
        ImmutableArray<string> Failing,
        ImmutableArray<string> Incomplete,
        ImmutableArray<string> Conceded,
        ImmutableArray<string> Remarks,
        ImmutableArray<string> Problems,
        int OpenCritical,
        int OpenMajor,
        int OpenMinor
    );

    /// <summary>Code for a Card of which nothing was tested.</summary>
    public const string NothingTested = "nothing_tested";

    /// <exception cref="BadInputException">An id twice.</exception>
    public static Result Derive(IReadOnlyCollection<CheckLine> checks, IReadOnlyCollection<FaultLine> faults)
    {
        Require.Consistent(checks.Select(c => c.Id).Distinct().Count() == checks.Count, "checks.id");
        Require.Consistent(faults.Select(f => f.Id).Distinct().Count() == faults.Count, "faults.id");
        return OfDifferent(checks, faults);
    }

    /// <summary>Of checks and Faults that are known to differ by their ids.</summary>
    internal static Result OfDifferent(IReadOnlyCollection<CheckLine> checks, IReadOnlyCollection<FaultLine> faults)
    {
        List<string> failing = [],
            incomplete = [],
            conceded = [],
            remarks = [],
            problems = [];
        foreach (var check in checks)
        {
            switch (check.Outcome)
            {
                case CheckOutcome.NotApplicable:
                    if (!string.IsNullOrWhiteSpace(check.Reason))
                        break;
                    (check.Required ? incomplete : remarks).Add(check.Id);
                    problems.Add(check.Id + ":not_applicable_without_reason");
                    break;
                case CheckOutcome.NotDone:
                    if (check.Required)
                        incomplete.Add(check.Id);
                    break;
                case var _ when !check.CalibrationOk:
                    (check.Required ? incomplete : remarks).Add(check.Id);
                    problems.Add(check.Id + ":calibration_not_valid");
                    break;
                case CheckOutcome.In:
                    break;
                case var _ when !string.IsNullOrWhiteSpace(check.ConcededBy):
                    conceded.Add(check.Id);
                    break;
                case var outcome:
                    if (check.ConcededBy is not null)
                        problems.Add(check.Id + ":concession_without_authoriser");
                    (
                        outcome == CheckOutcome.Out && (check.Required || check.RefusesIfOut) ? failing
                        : check.Required ? incomplete
                        : remarks
                    ).Add(check.Id);
                    break;
            }
        }
        var made = checks.Any(c => c.Outcome is CheckOutcome.In or CheckOutcome.Out or CheckOutcome.TooClose);
        var open = new int[3];
        foreach (var fault in faults)
        {
            if (fault.State == FaultStanding.Closed)
                continue;
            if (fault.State == FaultStanding.Conceded)
            {
                if (!string.IsNullOrWhiteSpace(fault.ConcededBy))
                {
                    conceded.Add(fault.Id);
                    continue;
                }
                problems.Add(fault.Id + ":concession_without_authoriser");
            }
            open[(int)fault.Severity]++;
            (fault.Severity == Severity.Minor ? remarks : failing).Add(fault.Id);
        }
        if (checks.Count == 0 || (!made && failing.Count == 0 && incomplete.Count == 0))
            incomplete.Add(NothingTested);
        var verdict =
            failing.Count > 0 ? Verdict.Refused
            : incomplete.Count > 0 ? Verdict.Open
            : conceded.Count > 0 || remarks.Count > 0 ? Verdict.AcceptedWithNote
            : Verdict.Accepted;
        return new Result(verdict, [.. failing], [.. incomplete], [.. conceded], [.. remarks], [.. problems], open[0], open[1], open[2]);
    }
}
